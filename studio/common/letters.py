"""Letters lie in a folder, since there is no mail server; nobody but the owner of the machine's account reads them."""

from __future__ import annotations

import os
from typing import Any

from django.core.mail.backends.filebased import EmailBackend


class Letters(EmailBackend):
    """Files of mode 600 in a folder of mode 700."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        os.chmod(self.file_path, 0o700)

    def open(self) -> bool:
        if self.stream is not None:
            return False
        self.stream = open(self._get_filename(), "ab", opener=_own)  # noqa: SIM115 (closed by `close`)
        return True


def _own(path: str, flags: int) -> int:
    return os.open(path, flags, 0o600)
