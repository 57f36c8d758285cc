"""A restore that is broken off at any of its steps is carried through, or has changed nothing."""

from __future__ import annotations

import io
import json
import tarfile
import tempfile
import unittest
from contextlib import redirect_stdout
from pathlib import Path
from unittest import mock

from tools import put_back, runtime
from tools.backup import forget_old, notes_in


class Killed(BaseException):
    """The process is gone at this very step."""


class Steps(unittest.TestCase):
    def setUp(self) -> None:
        home = tempfile.TemporaryDirectory()
        self.addCleanup(home.cleanup)
        self.home = Path(home.name)
        patched = mock.patch.object(runtime, "RUNTIME", self.home)
        patched.start()
        self.addCleanup(patched.stop)

    def lay_out(self, *, media: bool) -> Path:
        for name in ("mariadb", "media")[: 1 + media]:
            (self.home / name).mkdir()
            (self.home / name / "is").write_text("before")
        whole = self.home / "restore-x" / "whole"
        for name in ("mariadb", "media"):
            (whole / name).mkdir(parents=True)
            (whole / name / "is").write_text("after")
        return whole

    def state(self) -> list[str]:
        return [(self.home / n / "is").read_text() for n in ("mariadb", "media") if (self.home / n).exists()]

    def broken_off(self, whole: Path, at: int) -> bool:
        """Whether it was killed before the rename of that number; else it went through."""
        done, real = 0, Path.rename

        def rename(path: Path, to: Path) -> Path:
            nonlocal done
            done += 1
            if done == at:
                raise Killed
            return real(path, to)

        try:
            with mock.patch.object(Path, "rename", rename), redirect_stdout(io.StringIO()):
                put_back._decide(whole, "kitchens 1")
                put_back.finish()
        except Killed:
            return True
        return False

    def test_at_every_rename(self) -> None:
        for media in (True, False):
            at, killed = 0, True
            while killed:
                at += 1
                with tempfile.TemporaryDirectory() as home, mock.patch.object(runtime, "RUNTIME", Path(home)):
                    self.home = Path(home)
                    killed = self.broken_off(self.lay_out(media=media), at)
                    said = io.StringIO()
                    with redirect_stdout(said):
                        put_back.tidy_up()
                    expected = ["before"] * (1 + media) if at == 1 else ["after"] * 2
                    self.assertEqual(self.state(), expected, f"killed at {at}")
                    if killed:
                        self.assertIn("as it was before" if at == 1 else "Restored kitchens 1", said.getvalue())
                    kept = sorted(p.name.split(".")[0] for p in Path(home).glob("*.before-*"))
                    self.assertEqual(kept, [] if at == 1 else ["mariadb", "media"][: 1 + media])
                    self.assertEqual(list(Path(home).glob("restore*")), [])
            self.assertEqual(at, 5 + media, "every rename was tried")

    def test_work_that_somebody_does_is_left_alone(self) -> None:
        with runtime.work_folder("backup") as mine, redirect_stdout(io.StringIO()):
            (self.home / "backup-left").mkdir()
            (self.home / "backup-left" / "olive.sql").write_text("secrets")
            put_back.tidy_up()
            self.assertEqual([p.name for p in self.home.iterdir()], [mine.name])
        self.assertEqual(list(self.home.iterdir()), [])


class Copies(unittest.TestCase):
    def test_the_fullest_copy_is_not_pushed_out(self) -> None:
        with tempfile.TemporaryDirectory() as text:
            folder = Path(text)
            for day in range(1, 21):
                about = json.dumps({"counts": {"notes": 900 if day == 3 else 2}}).encode()
                with tarfile.open(folder / f"2026-11-{day:02}.tar.gz", "w:gz") as tar:
                    info = tarfile.TarInfo("manifest.json")
                    info.size = len(about)
                    tar.addfile(info, io.BytesIO(about))
            forget_old(folder)
            left = sorted(int(p.name[8:10]) for p in folder.iterdir())
            self.assertEqual(left, [3, *range(14, 21)])
            (folder / "2026-11-03.tar.gz").write_bytes(b"spoilt")
            self.assertEqual(notes_in(folder / "2026-11-03.tar.gz"), -1)
