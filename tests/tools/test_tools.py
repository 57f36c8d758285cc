"""Setting up and serving: paths, ports, the lock, and what is said when it cannot be."""

import os
import socket
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from tools import runtime, serve
from tools.database import CannotStart, Database, _plain_path, free_port, memory_folder, tied_to_us


class Paths(unittest.TestCase):
    def test_a_plain_path_is_used_as_it_is(self) -> None:
        self.assertEqual(_plain_path(Path("/srv/olive/.runtime/mariadb")), Path("/srv/olive/.runtime/mariadb"))

    def test_spaces_accents_and_long_paths_get_a_link(self) -> None:
        with tempfile.TemporaryDirectory() as home:
            for name in ("a b", "küche", "x" * 120):
                folder = Path(home) / name
                folder.mkdir()
                link = _plain_path(folder)
                try:
                    self.assertRegex(str(link), r"^[\w./-]{1,90}$")
                    self.assertEqual(link.resolve(), folder.resolve())
                    self.assertEqual(_plain_path(folder), link, "the same folder has the same link")
                finally:
                    link.unlink()

    def test_somebody_elses_link_is_not_followed(self) -> None:
        with tempfile.TemporaryDirectory() as home:
            folder = Path(home) / "a b"
            folder.mkdir()
            link = _plain_path(folder)
            link.unlink()
            link.mkdir()
            try:
                other = _plain_path(folder)
                self.assertNotEqual(other, link)
                self.assertEqual(other.resolve(), folder.resolve())
            finally:
                link.rmdir()

    def test_memory_folder_is_ours_and_empty(self) -> None:
        folder = memory_folder("test-probe")
        self.assertEqual(list(folder.iterdir()), [])
        folder.rmdir()


class Ports(unittest.TestCase):
    def test_a_taken_port_is_not_offered(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            self.assertNotEqual(free_port(port), port)
        self.assertGreater(free_port(), 1023)

    def test_children_are_tied_to_us(self) -> None:
        done = subprocess.run(
            tied_to_us([sys.executable, "-c", "print(7)"]), capture_output=True, text=True, check=True
        )
        self.assertEqual(done.stdout, "7\n")


class Starting(unittest.TestCase):
    def test_options(self) -> None:
        query = serve.options(["--port", "8100", "--host", "0.0.0.0", "--fresh", "--no-demo"])
        self.assertEqual((query.port, query.host, query.fresh, query.no_demo), (8100, "0.0.0.0", True, True))
        self.assertEqual(serve.options([]).port, 8000)

    def test_only_one_a_folder(self) -> None:
        with tempfile.TemporaryDirectory() as home, mock.patch.object(runtime, "RUNTIME", Path(home)):
            held = runtime.own_the_runtime()
            with self.assertRaisesRegex(CannotStart, "already running"):
                runtime.own_the_runtime()
            held.close()  # type: ignore[attr-defined]
            runtime.own_the_runtime().close()  # type: ignore[attr-defined]

    def test_a_folder_that_cannot_be_written(self) -> None:
        with mock.patch.object(runtime, "RUNTIME", Path("/proc/olive")), self.assertRaisesRegex(CannotStart, "written"):
            runtime.own_the_runtime()

    def test_a_taken_port_names_another(self) -> None:
        with socket.socket() as taken, tempfile.TemporaryDirectory() as home:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = str(taken.getsockname()[1])
            with mock.patch.object(runtime, "RUNTIME", Path(home)), self.assertRaisesRegex(CannotStart, "--port"):
                serve.serve(serve.options(["--port", port]))

    def test_fresh_sets_the_old_database_aside(self) -> None:
        with tempfile.TemporaryDirectory() as home:
            old = Path(home) / "mariadb"
            old.mkdir()
            (old / "kept").write_text("yes")
            with mock.patch("builtins.print"):
                runtime.set_aside(old)
            self.assertFalse(old.exists())
            self.assertEqual([(p / "kept").read_text() for p in Path(home).iterdir()], ["yes"])

    def test_the_site_reaches_its_database_by_password_on_loopback(self) -> None:
        with tempfile.TemporaryDirectory() as home, mock.patch.object(runtime, "RUNTIME", Path(home)):
            database = Database(Path(home) / "mariadb", durable=True)
            database.folder.mkdir()
            (database.folder / "password").write_text("secret")
            database.port = 4321
            env = runtime.environment(database, host="0.0.0.0", demo=False)
            self.assertEqual((env["OLIVE_DB_HOST"], env["OLIVE_DB_PORT"]), ("127.0.0.1", "4321"))
            self.assertEqual((env["OLIVE_DEMO"], env["OPENBLAS_NUM_THREADS"]), ("0", "1"))
            self.assertEqual(os.stat(Path(home) / "secret").st_mode & 0o777, 0o600)
            self.assertEqual(runtime.environment(database)["OLIVE_SECRET_KEY"], env["OLIVE_SECRET_KEY"])

    def test_the_key_of_a_folder_that_is_not_there_yet(self) -> None:
        with tempfile.TemporaryDirectory() as home, mock.patch.object(runtime, "RUNTIME", Path(home) / "new" / "one"):
            (Path(home) / "password").write_text("secret")
            env = runtime.environment(Database(Path(home), durable=False))
            self.assertGreater(len(env["OLIVE_SECRET_KEY"]), 40)
            self.assertEqual([p.name for p in runtime.RUNTIME.iterdir()], ["secret"])

    def test_a_failing_command_says_its_last_words(self) -> None:
        with self.assertRaisesRegex(CannotStart, "no_such_command"):
            runtime.manage({**os.environ, "DJANGO_SETTINGS_MODULE": "studio.settings.test"}, "no_such_command")
