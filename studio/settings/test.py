"""For tests: cheap hashes, plain static files, mail in memory."""

import atexit
import shutil
import tempfile
from pathlib import Path

from studio.settings.base import *  # noqa: F403
from studio.settings.base import ROOT

TEST_RUNNER = "tests.runner.HouseRunner"
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
STATIC_ROOT = ROOT / ".runtime" / "test-static"
LIVE_PER_SECOND = 100000
PLANNING_S = (4.0, 8.0)
DEMO_OFFERED = True
RUNTIME = Path(tempfile.mkdtemp(prefix="olive-test-"))
MEDIA_ROOT = RUNTIME / "media"
atexit.register(shutil.rmtree, RUNTIME, ignore_errors=True)
