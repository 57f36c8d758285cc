"""A Django command against the database of a running ./start: `.venv/bin/python -m tools.manage reset_link ADDRESS`."""

from __future__ import annotations

import subprocess
import sys

from tools.database import ROOT, Database
from tools.runtime import RUNTIME, environment


def main() -> int:
    """Run one of the site's own commands against its database; the exit code."""
    database = Database(RUNTIME / "mariadb", durable=True)
    remembered = database.folder / "port"
    if not remembered.exists():
        print("There is no database yet: run ./start first.", file=sys.stderr)
        return 1
    database.port = int(remembered.read_text())
    command = [sys.executable, "manage.py", *sys.argv[1:]]
    return subprocess.run(command, cwd=ROOT, env=environment(database), check=False).returncode


if __name__ == "__main__":
    sys.exit(main())
