"""Templates as they are sent: their lines are broken for whoever reads them, a page need not be."""

from __future__ import annotations

import re
from pathlib import PurePath

from django.template import Origin
from django.template.loaders import app_directories, filesystem

_KEPT = re.compile(r"<(pre|textarea)\b")
_SEAM = re.compile(r"[ \t]*\n\s*")


def joined(name: str, text: str) -> str:
    """Markup with a blank where a line was broken; mails and what keeps its lines stay as they are."""
    if PurePath(name).suffix not in (".html", ".svg") or _KEPT.search(text):
        return text
    return _SEAM.sub(" ", text)


class FolderLoader(filesystem.Loader):
    """Templates of a folder, their lines joined."""

    def get_contents(self, origin: Origin) -> str:
        return joined(origin.name, super().get_contents(origin))


class AppLoader(app_directories.Loader):
    """Templates of the apps, their lines joined."""

    def get_contents(self, origin: Origin) -> str:
        return joined(origin.name, super().get_contents(origin))
