"""Django's runner with a closing line that counts."""

from __future__ import annotations

import unittest
from typing import Any

from django.test.runner import DiscoverRunner


class HouseRunner(DiscoverRunner):
    def suite_result(self, suite: unittest.TestSuite, result: unittest.TestResult, **kwargs: Any) -> int:
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped = len(result.skipped)
        passed = max(0, result.testsRun - failed - skipped)
        self.closing = f"{passed} passed, {failed} failed, {skipped} skipped"
        return super().suite_result(suite, result, **kwargs)

    def run_tests(self, *args: Any, **kwargs: Any) -> int:
        failures = super().run_tests(*args, **kwargs)
        print(getattr(self, "closing", "0 passed, 1 failed, 0 skipped"), flush=True)
        return failures
