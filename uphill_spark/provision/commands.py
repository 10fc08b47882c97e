"""The one command: start, test, plan, shots, bench, check. Thin: gets the machine ready, then calls the package."""

from __future__ import annotations

import argparse
import contextlib
import os
import signal
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

from .cluster import Cluster
from .machine import SERVER_PACKAGES, TEST_PACKAGES, Places, packages, page, python_environment
from .say import Trouble, step

ROOT = Path(__file__).resolve().parents[2]


def main(arguments: list[str] | None = None) -> int:
    """Run one command; its exit code. Trouble is one line with the mend."""
    given = sys.argv[1:] if arguments is None else arguments
    if given[:1] == ["plan"]:
        return _safely(lambda: _plan(given[1:]))
    parser = argparse.ArgumentParser(prog="spark", description="Uphill Spark: plan, wire, tune and start a fuel-injection conversion.")
    commands = parser.add_subparsers(dest="command", required=True, metavar="command")
    start = commands.add_parser("start", help="get the machine ready and serve the application on this machine")
    start.add_argument("--port", type=int, default=int(os.environ.get("UPHILL_SPARK_PORT", "8077")), help="port, 8077 if not given")
    start.add_argument("--data", type=Path, help="folder for the database and all that is made, .spark if not given")
    test = commands.add_parser("test", help="every test: core, store, web, formats, real browser")
    test.add_argument("only", nargs="*", help="parts of test names to run, all if none")
    test.add_argument("--deep", action="store_true", help="many more random examples, others each time")
    commands.add_parser("plan", help="work a build file out: plan FILE [--json]")
    shots = commands.add_parser("shots", help="retake docs/screenshots from the demo cars")
    shots.add_argument("only", nargs="*", help="names of pictures to retake")
    bench = commands.add_parser(
        "bench", help="measure, and print a table; bench mutants: how many small changes of a constant the tests notice"
    )
    bench.add_argument("what", nargs="*", help="mutants [how many] [seed]")
    commands.add_parser("check", help="format, lint and types")
    for name, words in (
        ("backup", "write the whole store to a file"),
        ("restore", "put a file written by backup back, in place of what is there"),
    ):
        commands.add_parser(name, help=words).add_argument("file", type=Path)
    commands.add_parser("generate", help="rewrite what is generated: schema, figures, page types, what is said of the seven cars")
    chosen = parser.parse_args(given)
    return _safely(lambda: _COMMANDS[chosen.command](chosen))


def _safely(work: object) -> int:
    try:
        return int(work())  # type: ignore[operator]
    except Trouble as trouble:
        print(f"spark: {trouble}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130


def _plan(arguments: list[str]) -> int:
    places = Places(ROOT)
    with _talking_to_stderr():
        python_environment(places, tests=False)
    return subprocess.run([str(places.python), "-m", "uphill_spark.cli", *arguments], env=_env(places)).returncode


class _talking_to_stderr:
    """Set-up talk goes to standard error, so that standard output holds the plan alone."""

    def __enter__(self) -> None:
        self._out, sys.stdout = sys.stdout, sys.stderr

    def __exit__(self, *_: object) -> None:
        sys.stdout = self._out


def _env(places: Places, **more: str) -> dict[str, str]:
    return {**os.environ, "PYTHONPATH": str(places.root), "PYTHONDONTWRITEBYTECODE": "1", "UPHILL_SPARK_PAGE": str(places.page), **more}


def _start(given: argparse.Namespace) -> int:
    places = Places(ROOT, given.data)
    packages(places, SERVER_PACKAGES)
    python_environment(places, tests=False)
    page(places)
    cluster = Cluster(places)
    cluster.start()
    try:
        cluster.ensure_database()
        env = _env(places, UPHILL_SPARK_DATABASE=cluster.url(), UPHILL_SPARK_PORT=str(given.port))
        step("Starting the application")
        process = subprocess.Popen([str(places.python), "-m", "uphill_spark.web.serve"], env=env)
        signal.signal(signal.SIGTERM, lambda *_: process.terminate())
        try:
            return process.wait()
        except KeyboardInterrupt:
            process.terminate()
            process.wait()
            return 0
    finally:
        cluster.stop()


def _with_everything(command: list[str]) -> int:
    """Run a module with packages, page, browser and a running cluster."""
    places = Places(ROOT)
    packages(places, SERVER_PACKAGES + TEST_PACKAGES)
    python_environment(places, tests=True)
    page(places)
    cluster = Cluster(places)
    cluster.start()
    try:
        return subprocess.run(
            [str(places.python), *command], env=_env(places, UPHILL_SPARK_CLUSTER=cluster.url("postgres")), cwd=ROOT
        ).returncode
    finally:
        cluster.stop()


def _test(given: argparse.Namespace) -> int:
    return _with_everything(["-m", "tests.run", *(["--deep"] if given.deep else []), *given.only])


def _shots(given: argparse.Namespace) -> int:
    return _with_everything(["-m", "tests.shots", *given.only])


def _bench(given: argparse.Namespace) -> int:
    if given.what[:1] == ["mutants"]:
        return _with_everything(["-m", "bench.mutants", *given.what[1:]])
    if given.what:
        raise Trouble(f"There is no bench {given.what[0]!r}. Give none, or: mutants [how many] [seed].")
    return _with_everything(["-m", "bench.run"])


def _backup(given: argparse.Namespace) -> int:
    with _running_cluster() as cluster:
        cluster.dump(given.file)
    step(f"Written: {given.file}")
    return 0


def _restore(given: argparse.Namespace) -> int:
    if not given.file.is_file():
        raise Trouble(f"{given.file}: no such file. Give one that ./spark backup wrote.")
    with _running_cluster() as cluster:
        cluster.load(given.file)
    step("Put back. Start the application again if it runs.")
    return 0


@contextlib.contextmanager
def _running_cluster() -> Iterator[Cluster]:
    places = Places(ROOT)
    packages(places, SERVER_PACKAGES)
    cluster = Cluster(places)
    cluster.start()
    try:
        cluster.ensure_database()
        yield cluster
    finally:
        cluster.stop()


def _generate(given: argparse.Namespace) -> int:
    places = Places(ROOT)
    python_environment(places, tests=True)
    page(places)
    for module in (["uphill_spark.generated", "write"], ["tests.golden"]):
        done = subprocess.run([str(places.python), "-m", *module], env=_env(places), cwd=ROOT).returncode
        if done:
            return done
    return subprocess.run(["npm", "run", "--silent", "types"], cwd=ROOT / "frontend").returncode


def _check(given: argparse.Namespace) -> int:
    places = Places(ROOT)
    packages(places, SERVER_PACKAGES)
    python_environment(places, tests=True)
    page(places)
    tool = [str(places.python), "-m"]
    steps = (
        ("lint", [*tool, "ruff", "check", "."], ROOT),
        ("format", [*tool, "ruff", "format", "--check", "."], ROOT),
        ("types of the core", [*tool, "mypy"], ROOT),
        ("generated files", [*tool, "uphill_spark.generated", "check"], ROOT),
        ("page: lint", ["npm", "run", "--silent", "lint"], ROOT / "frontend"),
        ("page: format", ["npm", "run", "--silent", "format:check"], ROOT / "frontend"),
        ("page: types", ["npm", "run", "--silent", "typecheck"], ROOT / "frontend"),
    )
    failed = []
    for name, command, where in steps:
        step(name)
        if subprocess.run(command, cwd=where, env=_env(places)).returncode != 0:
            failed.append(name)
    if failed:
        raise Trouble(f"not clean: {', '.join(failed)}. Mend what is named above.")
    step("all clean")
    return 0


_COMMANDS = {
    "backup": _backup,
    "restore": _restore,
    "start": _start,
    "test": _test,
    "shots": _shots,
    "bench": _bench,
    "check": _check,
    "generate": _generate,
}
