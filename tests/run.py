"""Run the tests and close with the line that says how many passed: `python -m tests.run [part of a name ...]`."""

from __future__ import annotations

import sys
import time
import unittest
import warnings


class _Result(unittest.TextTestResult):
    """Counts, and prints how long each test module took."""

    def __init__(self, *arguments: object, **more: object) -> None:
        super().__init__(*arguments, **more)  # type: ignore[arg-type]
        self.passed = 0
        self._module = ""
        self._since = time.monotonic()

    def startTest(self, test: unittest.TestCase) -> None:
        if type(test).__module__ != self._module:
            self.closing()
            self._module, self._since = type(test).__module__, time.monotonic()
        super().startTest(test)

    def closing(self) -> None:
        if self._module:
            print(f"  {self._module}: {time.monotonic() - self._since:.1f} s", flush=True)

    def addSuccess(self, test: unittest.TestCase) -> None:
        self.passed += 1
        super().addSuccess(test)


def _wanted(suite: unittest.TestSuite, parts: list[str]) -> unittest.TestSuite:
    chosen = unittest.TestSuite()
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            chosen.addTest(_wanted(test, parts))
        elif not parts or any(part in test.id() for part in parts):
            chosen.addTest(test)
    return chosen


def main(parts: list[str]) -> int:
    warnings.simplefilter("error")
    warnings.filterwarnings("ignore", category=DeprecationWarning, module=r"(?!uphill_spark|tests)")
    suite = _wanted(unittest.defaultTestLoader.discover("tests", top_level_dir="."), parts)
    result = unittest.TextTestRunner(verbosity=0, resultclass=_Result, warnings="error").run(suite)
    assert isinstance(result, _Result)
    result.closing()
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    print(f"{result.passed} passed, {failed} failed", flush=True)
    return 1 if failed or not result.passed else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
