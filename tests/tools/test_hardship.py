"""Each part killed in the middle of bench runs, backups and restores: nothing acknowledged is lost."""

import re
import subprocess
import sys
import unittest

from tools.database import ROOT
from tools.hardship import VICTIMS


class Killed(unittest.TestCase):
    def run_tool(self, *words: str) -> str:
        done = subprocess.run(
            [sys.executable, "-m", *words], cwd=ROOT, capture_output=True, text=True, timeout=600, check=False
        )
        self.assertEqual(done.returncode, 0, done.stdout[-2000:] + done.stderr[-2000:])
        return done.stdout

    def test_each_once_amid_notes_and_taps(self) -> None:
        said = self.run_tool("tools.hardship", str(len(VICTIMS)), "1")
        self.assertEqual(len(re.findall(r"killed, back in", said)), len(VICTIMS))
        self.assertRegex(said, r"[1-9]\d* notes acknowledged")
        self.assertIn(" 0 lost, 0 doubled", said)
        self.assertIn("; 0 days not planned", said)

    def test_backups_and_restores_that_are_broken_off(self) -> None:
        self.assertRegex(self.run_tool("tools.hardship_keeping", "4.2"), r"[1-9]\d* as the backup, 0 otherwise")
