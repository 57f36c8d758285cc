"""What a browser is told, and how a server in earnest is set up."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from pathlib import Path

from django.conf import settings
from django.test import Client, TestCase, override_settings

from tests.studio.kitchens import PASSWORD, maker

CARRIED = {"OLIVE_SECRET_KEY": "w" * 20 + "0123456789abcdefghijklmnopqrstuvwxyz", "OLIVE_HOSTS": "kitchen.example"}


class Production(TestCase):
    def manage(self, **more: str) -> subprocess.CompletedProcess[str]:
        words = [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "INFO"]
        env = {**os.environ, "DJANGO_SETTINGS_MODULE": "studio.settings.production", **more}
        return subprocess.run(words, cwd=settings.ROOT, env=env, capture_output=True, text=True, check=False)

    def test_check_deploy_is_clean(self) -> None:
        for https in ("0", "1"):
            done = self.manage(**CARRIED, OLIVE_HTTPS=https)
            self.assertEqual((done.returncode, done.stderr), (0, ""), done.stdout)
        self.assertIn("OLIVE_SECRET_KEY", self.manage().stderr, "nobody is served with a known secret")


class Told(TestCase):
    def test_cookies(self) -> None:
        maker()
        for https in (False, True):
            with override_settings(SESSION_COOKIE_SECURE=https, CSRF_COOKIE_SECURE=https):
                client = Client()
                client.get("/log-in/")
                client.post("/log-in/", {"username": "maker@example.org", "password": PASSWORD})
                self.assertEqual(set(client.cookies), {"csrftoken", "sessionid"})
                for cookie in client.cookies.values():
                    self.assertTrue(cookie["httponly"], cookie.key)
                    self.assertEqual((cookie["samesite"], bool(cookie["secure"])), ("Lax", https), cookie.key)

    def test_a_new_log_in_is_a_new_visit(self) -> None:
        maker()
        client = Client()
        client.post(
            "/quick/keep/",
            {"what": "biscuit", "count": "6", "size": "small", "depth": "all", "colour": "plum", "white": "coating"},
        )
        client.cookies["sessionid"] = "chosen-by-somebody-else-0000000000"
        client.post("/log-in/", {"username": "maker@example.org", "password": PASSWORD})
        self.assertNotIn("chosen-by", client.cookies["sessionid"].value)

    def test_headers(self) -> None:
        _, _, client = maker()
        for address in ("/", "/bowls/", "/kitchen/", "/nowhere/", "/healthz"):
            headers = client.get(address).headers
            self.assertIn("default-src 'none'", headers["Content-Security-Policy"], address)
            self.assertNotIn("unsafe", headers["Content-Security-Policy"], address)
            self.assertEqual(headers["X-Frame-Options"], "DENY", address)
            self.assertEqual(headers["X-Content-Type-Options"], "nosniff", address)
            self.assertEqual(headers["Referrer-Policy"], "same-origin", address)
            self.assertEqual(headers["Cross-Origin-Opener-Policy"], "same-origin", address)
        self.assertIn("private", client.get("/bowls/").headers["Cache-Control"])

    @override_settings(SECURE_SSL_REDIRECT=True, SECURE_HSTS_SECONDS=60)
    def test_https_when_it_is_on(self) -> None:
        self.assertEqual(self.client.get("/").url, "https://testserver/")
        self.assertIn("max-age=60", self.client.get("/", secure=True).headers["Strict-Transport-Security"])


class Pinned(TestCase):
    def test_every_dependency_is_pinned_with_hashes(self) -> None:
        for name in ("requirements.txt", "requirements-dev.txt"):
            text = (Path(settings.ROOT) / name).read_text().replace("\\\n", " ")
            lines = [line for line in text.splitlines() if line.strip() and not line.startswith("#")]
            self.assertGreater(len(lines), 10)
            for line in lines:
                self.assertRegex(line, r"^[\w.\[\]-]+==[\w.]+.*--hash=sha256:[0-9a-f]{64}", name)
        wanted = (Path(settings.ROOT) / "requirements.in").read_text().split()
        pinned = (Path(settings.ROOT) / "requirements.txt").read_text().lower()
        for line in wanted:
            self.assertRegex(pinned, rf"(?m)^{re.split('[=<>]', line.lower())[0]}==", line)
