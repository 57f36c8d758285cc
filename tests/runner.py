"""Django's runner with closing lines that count, and name what took longest."""

from __future__ import annotations

import time
import unittest
from typing import Any

from django.test.runner import DiscoverRunner

SLOWEST, WORTH_S = 10, 5.0


class TimedResult(unittest.TextTestResult):
    """Remembers how long each test took, s."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.took: dict[str, float] = {}

    def startTest(self, test: unittest.TestCase) -> None:
        self.begun = time.monotonic()
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        self.took[test.id()] = time.monotonic() - self.begun
        super().stopTest(test)


class HouseRunner(DiscoverRunner):
    def get_resultclass(self) -> type[unittest.TextTestResult]:
        return super().get_resultclass() or TimedResult

    def suite_result(self, suite: unittest.TestSuite, result: unittest.TestResult, **kwargs: Any) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped = len(result.skipped)
        passed = max(0, result.testsRun - failed - skipped)
        slow = sorted(getattr(result, "took", {}).items(), key=lambda pair: -pair[1])[:SLOWEST]
        lines = [f"{seconds:5.0f} s  {name}" for name, seconds in slow if seconds >= WORTH_S]
        self.closing = "\n".join([*lines, f"{passed} passed, {failed} failed, {skipped} skipped"])
        return super().suite_result(suite, result, **kwargs)

    def run_tests(self, *args: Any, **kwargs: Any) -> int:
        failures = super().run_tests(*args, **kwargs)
        print(getattr(self, "closing", "0 passed, 1 failed, 0 skipped"), flush=True)
        return failures
