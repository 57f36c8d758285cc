"""A headless Chromium with an exact viewport, for browser tests and screenshots."""

from __future__ import annotations

import shutil
import tempfile

from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service

FLAGS = (
    *("--headless=new", "--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--disable-quic"),
    *("--no-first-run", "--no-default-browser-check", "--disable-background-networking"),
    *("--disable-component-update", "--disable-sync", "--disable-extensions"),
    *("--force-device-scale-factor=1", "--force-color-profile=srgb", "--hide-scrollbars"),
)
SIZES = {"desk": (1280, 800), "tablet": (820, 1180), "phone": (390, 844)}


class Chrome(webdriver.Chrome):
    """Starts with a fresh profile; `quit` removes it."""

    def __init__(self) -> None:
        self.profile = tempfile.mkdtemp(prefix="olive-chrome-")
        options = Options()
        options.binary_location = shutil.which("chromium") or "/usr/bin/chromium"
        for flag in (*FLAGS, f"--user-data-dir={self.profile}"):
            options.add_argument(flag)
        options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
        super().__init__(options=options, service=Service(shutil.which("chromedriver") or "/usr/bin/chromedriver"))

    def resize(self, size: str) -> None:
        """desk, tablet or phone; the last with touch."""
        width, height = SIZES[size]
        mobile = size == "phone"
        metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": mobile}
        self.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
        self.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": mobile})

    def complaints(self) -> list[str]:
        """Console errors and policy violations since last asked."""
        return [e["message"] for e in self.get_log("browser") if e["level"] in ("SEVERE", "WARNING")]

    def quit(self) -> None:
        super().quit()
        shutil.rmtree(self.profile, ignore_errors=True)
