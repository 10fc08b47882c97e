"""Run the tests in parallel processes and close with the line that says how many passed: `python -m tests.run [--deep] [--stop] [part of a name ...]`.

A task is a test class: it has its own database, and what it sets up is shared by its tests. The longest kinds go first, so that the processes end together.
"""

from __future__ import annotations

import argparse
import gc
import importlib
import os
import re
import sys
import time
import unittest
import warnings
from collections.abc import Iterator
from concurrent.futures import as_completed
from dataclasses import dataclass, field
from tempfile import TemporaryDirectory
from unittest import mock

from tests.once import FOLDER
from tests.speed import slower
from uphill_spark.processes import pool

#: Kinds of tests by their folder, the longest first.
LONGEST = ("browser", "provision", "faults", "web", "store", "formats", "core")
#: Classes of more than half a minute on a slow machine, the longest first: begun first, so that none is left alone at the end.
LONG = (
    "Road",
    "FlatFour",
    "Described",
    "LastStations",
    "Backups",
    "AtTheCar",
    "Splitting",
    "WithALog",
    "Winter",
    "EachCheck",
    "Logs",
    "WholeKills",
    "Truck",
    "Rehearsed",
    "UnderTheDash",
    "FirstStations",
    "BrindleLimits",
    "Rests",
    "TernMoves",
    "Answers",
    "Steps",
    "Kills",
    "UnderTheCar",
    "Golden",
    "Worked",
    "OfTern",
    "GoldenOthers",
    "FuelInDepth",
    "Book",
    "Builds",
    "WorkedEngine",
    "EngineByDays",
    "Lanes",
    "Causes",
    "Alone",
    "Asked",
    "Together",
    "Editing",
)
#: Kinds that mostly wait: for a server to come up, a cluster to be made, somebody who was killed to be missed.
WAITING = ("provision", "faults")
#: A browser waits a good deal: one process more than there are cores keeps them busy.
gc.set_threshold(50_000, 20, 20)  # as the program's own processes have it: most of what is loaded stays
PROCESSES = int(os.environ.get("UPHILL_SPARK_TEST_PROCESSES", str((os.cpu_count() or 2) + 1)))


@dataclass
class Outcome:
    """How the tests of a class went: counts, and the text of each failure."""

    name: str
    passed: int = 0
    skipped: int = 0
    seconds: float = 0.0
    failures: list[tuple[str, str]] = field(default_factory=list)


class _Result(unittest.TestResult):
    """Counts what passed; a test with a failed part counts as failed once."""

    def __init__(self) -> None:
        super().__init__()
        self.passed = 0

    def addSuccess(self, test: unittest.TestCase) -> None:
        self.passed += 1
        super().addSuccess(test)


def _cases(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
    for test in suite:
        if isinstance(test, unittest.TestSuite):
            yield from _cases(test)
        else:
            yield test


def _task(case: unittest.TestCase) -> str:
    """The class of a test; a module that cannot be loaded is a task of its own."""
    return case.id().rpartition(".")[0] if "_FailedTest" not in case.id() else case.id()


def found(parts: list[str]) -> dict[str, list[str]]:
    """Ids of the tests whose name holds one of `parts`, by task, the longest kinds first."""
    tasks: dict[str, list[str]] = {}
    for case in _cases(unittest.defaultTestLoader.discover("tests", top_level_dir=".")):
        if not parts or any(part in case.id() for part in parts):
            tasks.setdefault(_task(case), []).append(case.id())
    kind = {k: i for i, k in enumerate(LONGEST)}
    long = {name: i for i, name in enumerate(LONG)}
    ordered = sorted(tasks, key=lambda t: (long.get(t.rpartition(".")[2], len(LONG)), kind.get(_kind(t), 0)))
    return {t: tasks[t] for t in _mixed([t for t in ordered if _kind(t) not in WAITING], [t for t in ordered if _kind(t) in WAITING])}


def _kind(task: str) -> str:
    return task.split(".")[1] if "." in task else ""


def _mixed(busy: list[str], waiting: list[str]) -> list[str]:
    """Two that work and one that waits, as long as there are both: the cores have something to do all the time."""
    found: list[str] = []
    while busy or waiting:
        found += busy[:2] + waiting[:1]
        busy, waiting = busy[2:], waiting[1:]
    return found


def load() -> None:
    """Load what most tests ask for."""
    importlib.import_module("tests.browser.served")


def run(task: str, ids: list[str], stop: bool = False) -> Outcome:
    """Run the tests of one class in this process; with `stop`, up to the first that fails."""
    warnings.simplefilter("error")
    warnings.filterwarnings("ignore", category=DeprecationWarning, module=r"(?!uphill_spark|tests)")
    since = time.monotonic()
    result = _Result()
    result.failfast = stop
    if "_FailedTest" in task:
        suite = unittest.TestSuite(_cases(unittest.defaultTestLoader.discover("tests", top_level_dir=".")))
        suite = unittest.TestSuite(case for case in suite if isinstance(case, unittest.TestCase) and case.id() == task)
    else:
        suite = unittest.defaultTestLoader.loadTestsFromNames(ids)
    suite.run(result)
    told = [(str(test), text) for test, text in (*result.failures, *result.errors)]
    told += [(str(test), "passed, though it is expected to fail") for test in result.unexpectedSuccesses]
    return Outcome(task, result.passed, len(result.skipped), time.monotonic() - since, told)


def _in_short(text: str) -> str:
    """Where in the tests a failure was, and what it said first: enough to go on where only the end of a run is kept."""
    lines = [line.strip() for line in text.splitlines()]
    at = [line for line in lines if line.startswith("File ") and "/tests/" in line]
    said = next((line for line in lines if re.match(r"[\w.]*(Error|Exception|Warning|Exit)\b", line)), "")
    return f"{at[-1].rpartition('/')[2].replace(chr(34), '') if at else ''}: {said}"[:400]


def main(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="tests.run")
    parser.add_argument("--deep", action="store_true", help="the large random profile, and what takes long")
    parser.add_argument("--stop", action="store_true", help="end at the first test that fails")
    parser.add_argument("parts", nargs="*")
    chosen = parser.parse_args(arguments)
    if chosen.deep:
        os.environ["UPHILL_SPARK_DEEP"] = "1"
    before = slower()
    since = time.monotonic()
    passed = skipped = 0
    failures: list[tuple[str, str]] = []
    with TemporaryDirectory() as folder, mock.patch.dict(os.environ, {FOLDER: folder}), pool(PROCESSES) as processes:
        # One of those that run them looks for the tests and has them loaded then; the others load meanwhile what most tests ask for.
        looking = processes.submit(found, chosen.parts)
        if not chosen.parts:
            for _ in range(PROCESSES - 1):
                processes.submit(load)
        tasks = looking.result()
        waiting = [processes.submit(run, task, ids, chosen.stop) for task, ids in tasks.items()]
        for done in as_completed(waiting):
            outcome = done.result()
            passed, skipped = passed + outcome.passed, skipped + outcome.skipped
            failures += outcome.failures
            failed = f", {len(outcome.failures)} FAILED" if outcome.failures else ""
            print(f"  {outcome.name.removeprefix('tests.')}: {outcome.passed} in {outcome.seconds:.1f} s{failed}", flush=True)
            for name, text in outcome.failures:  # at once: a run that is cut short has told them
                print(f"{'=' * 70}\n{name}\n{'-' * 70}\n{text}", flush=True)
            if failures and chosen.stop:
                processes.shutdown(wait=False, cancel_futures=True)
                break
    if failures:
        print("\n".join(("  FAILED:", *(f"  {name}: {_in_short(text)}" for name, text in failures))), flush=True)
    took = time.monotonic() - since
    pace = (before + slower()) / 2
    print(
        f"  {took:.0f} s in all, {took / pace:.0f} s at the speed of the machine that goals were set on{f'; {skipped} skipped' if skipped else ''}"
    )
    failed_tests = len({name.split(" [")[0].split(" (")[0] + name.partition("(")[2].partition(")")[0] for name, _ in failures})
    print(f"{passed} passed, {failed_tests} failed", flush=True)
    return 1 if failures or not passed else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
