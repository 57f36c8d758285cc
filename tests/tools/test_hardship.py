"""Web worker, database, planner and supervisor killed in the middle of bench runs: nothing acknowledged is lost."""

import subprocess
import sys
import unittest

from tools.database import ROOT
from tools.hardship import VICTIMS


class Killed(unittest.TestCase):
    def test_each_once_amid_notes_and_taps(self) -> None:
        words = [sys.executable, "-m", "tools.hardship", str(len(VICTIMS)), "1"]
        done = subprocess.run(words, cwd=ROOT, capture_output=True, text=True, timeout=600, check=False)
        self.assertEqual(done.returncode, 0, done.stdout[-2000:] + done.stderr[-2000:])
        self.assertRegex(done.stdout, r"[1-9]\d* notes acknowledged")
        self.assertIn(" 0 lost, 0 doubled", done.stdout)
        self.assertIn("; 0 days not planned", done.stdout)
