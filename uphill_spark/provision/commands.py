"""The one command: start, test, plan, shots, bench, check. Thin: gets the machine ready, then calls the package."""

from __future__ import annotations

import argparse
import contextlib
import json
import os
import secrets
import signal
import socket
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from ..words import new_word
from . import backup
from .cluster import Cluster, private
from .machine import SERVER_PACKAGES, TEST_PACKAGES, Places, everything, packages, python_environment, side_by_side
from .say import Trouble, step
from .supervise import InUse, Supervisor, notices_file, speaks

ROOT = Path(__file__).resolve().parents[2]


def main(arguments: list[str] | None = None) -> int:
    """Run one command; its exit code. Trouble is one line with the mend."""
    given = sys.argv[1:] if arguments is None else arguments
    if given[:1] and given[0] in _ON_A_FILE:
        return _safely(lambda: _on_a_file(given))
    parser = argparse.ArgumentParser(prog="spark", description="Uphill Spark: plan, wire, tune and start a fuel-injection conversion.")
    commands = parser.add_subparsers(dest="command", required=True, metavar="command")
    start = commands.add_parser("start", help="get the machine ready and serve the application on this machine")
    start.add_argument("--port", type=int, default=int(os.environ.get("UPHILL_SPARK_PORT", "8077")), help="port, 8077 if not given")
    start.add_argument(
        "--door", action="store_true", help="ask every browser for a word, which is printed; scripts send the key in the data folder"
    )
    start.add_argument(
        "--listen", nargs="?", const="", metavar="ADDRESS",
        help="let phones of this network in, each paired once by a word that is printed; this machine's address is found if not given",
    )  # fmt: skip
    start.add_argument("--data", type=Path, help="folder for the database and all that is made, .spark if not given")
    test = commands.add_parser("test", help="every test: core, store, web, formats, real browser")
    test.add_argument("only", nargs="*", help="parts of test names to run, all if none")
    test.add_argument("--deep", action="store_true", help="many more random examples, others each time")
    for name, words in _ON_A_FILE.items():
        commands.add_parser(name, help=words)
    shots = commands.add_parser("shots", help="retake docs/screenshots from the demo cars")
    shots.add_argument("only", nargs="*", help="names of pictures to retake")
    bench = commands.add_parser(
        "bench", help="measure, and print a table; bench mutants: how many small changes of a constant the tests notice"
    )
    bench.add_argument("what", nargs="*", help="mutants [how many] [seed]")
    commands.add_parser("check", help="format, lint and types")
    for name, words in (
        ("backup", "write the whole store to a file, and say what is in it"),
        ("restore", "put a file written by backup back, in place of what is there, which is kept aside"),
    ):
        one = commands.add_parser(name, help=words)
        one.add_argument("file", type=Path)
        one.add_argument("--data", type=Path, help="folder of the store that is meant, as given to start; .spark if not given")
        if name == "backup":
            one.add_argument("--empty", action="store_true", help="write a store with nothing in it all the same")
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


#: Commands on a build file alone: no database, no server.
_ON_A_FILE = {
    "plan": "work a build file out: plan FILE [--json]",
    "meter": "volts, ohms or amps between two terminals: meter FILE --red unit.A1 --black battery.minus [--state crank] [--ohms | --amps] [--unplugged]",
    "harness": "the solved harness as a circuit file for a simulator: harness FILE [--state full]",
    "standin": "a build's control unit, sensors and engine on a bus: standin FILE [--start] [--fault KEY] [--speed 1] [--bus INTERFACE:CHANNEL] [--record FILE | --replay FILE]",
}


def _on_a_file(arguments: list[str]) -> int:
    places = Places(ROOT)
    with _talking_to_stderr():
        python_environment(places, tests=False)
    module, rest = ("uphill_spark.standin", arguments[1:]) if arguments[0] == "standin" else ("uphill_spark.cli", arguments)
    return subprocess.run([str(places.python), "-m", module, *rest], env=_env(places)).returncode


class _talking_to_stderr:
    """Set-up talk goes to standard error, so that standard output holds the plan alone."""

    def __enter__(self) -> None:
        self._out, sys.stdout = sys.stdout, sys.stderr

    def __exit__(self, *_: object) -> None:
        sys.stdout = self._out


def _env(places: Places, **more: str) -> dict[str, str]:
    # Modules are compiled once, not anew by each process that is started: a fifth of the time until the web server answers.
    inherited = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    # A harness is a matrix of a hundred rows: a second thread for it waits busily and takes a fifth of the other core from who else works there.
    return {"OPENBLAS_NUM_THREADS": "1", **inherited, "PYTHONPATH": str(places.root), "UPHILL_SPARK_PAGE": str(places.page), **more}


def _start(given: argparse.Namespace) -> int:
    places = Places(ROOT, given.data)
    _free(given.port)
    everything(places, SERVER_PACKAGES, tests=False)
    cluster = Cluster(places)
    in_use = InUse(places, alone=False)
    cluster.start()
    try:
        backup.mend_halfway(cluster)
        cluster.ensure_database()
        step("Starting the application")
        door = _door(places) if given.door else {}
        listens = _listen(given.listen, given.port, places) if given.listen is not None else {}

        def serve() -> subprocess.Popen[bytes]:
            # Asked for afresh each time: a database that was started again may be at another port.
            env = _env(
                places,
                UPHILL_SPARK_DATABASE=cluster.url(),
                UPHILL_SPARK_PORT=str(given.port),
                UPHILL_SPARK_NOTICES=str(notices_file(places)),
                **door,
                **listens,
            )
            return subprocess.Popen([str(places.python), "-m", "uphill_spark.web"], env=env, pass_fds=(in_use.handed,))

        def work() -> subprocess.Popen[bytes]:
            env = _env(places, UPHILL_SPARK_DATABASE=cluster.url())
            return subprocess.Popen([str(places.python), "-m", "uphill_spark.jobs"], env=env, pass_fds=(in_use.handed,))

        watch = Supervisor(cluster, serve, lambda: speaks(given.port), work)
        for told in (signal.SIGTERM, signal.SIGINT):
            signal.signal(told, lambda *_: watch.stopping.set())
        return watch.run()
    finally:
        cluster.stop()
        in_use.close()


def _door(places: Places) -> dict[str, str]:
    """A word for this start, told to who starts it, and the key that scripts send: kept in the data folder for its owner alone."""
    key = private(places.data / "store" / "key")
    if not key.read_text():
        key.write_text(secrets.token_urlsafe(32) + "\n")
    word = new_word()
    step(f"The door asks for this word: {word}")
    step(f"Scripts send the key in {key}: Authorization: Bearer KEY")
    return {"UPHILL_SPARK_DOOR": word, "UPHILL_SPARK_KEY": key.read_text().strip()}


def _listen(address: str, port: int, places: Places) -> dict[str, str]:
    """An address for phones of this network, and the word that pairs the first: printed, also as a picture to be photographed. Raises Trouble for an address that is not this machine's."""
    host = address or _own_address()
    with socket.socket() as probe:
        try:
            probe.bind((host, 0))
        except OSError as error:
            raise Trouble(f"{host} is no address of this machine ({error}). Give the one that it has in your network: ./spark start --listen ADDRESS.") from error  # fmt: skip
    home = f"http://{host}:{port}"
    word = new_word()
    drawn = subprocess.run(
        [str(places.python), "-m", "uphill_spark.web.pairing", home, word], env=_env(places), capture_output=True, text=True, check=True
    ).stdout
    print(drawn)
    step(f"Phones of this network: {home}/pair  with the word {word}  (one phone, within the hour; more at Phones in the garage)")
    step("Whoever is on this network can knock. It is not encrypted: a network at home, not one in a cafe.")
    return {"UPHILL_SPARK_HOSTS": host, "UPHILL_SPARK_LISTENS": home, "UPHILL_SPARK_PAIR": word}


def _own_address() -> str:
    """This machine's address in its network: the one from which it would speak to another. Nothing is sent. Raises Trouble where it has none."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))  # an address kept free for examples (RFC 5737)
            return str(probe.getsockname()[0])
        except OSError as error:
            raise Trouble("This machine is in no network. Join one, or give its address: ./spark start --listen ADDRESS.") from error


def _free(port: int) -> None:
    """Raises Trouble if a port is taken, before anything is started."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except (OSError, OverflowError) as error:
            raise Trouble(f"Port {port} cannot be used ({error}). Does the application run already? Else give another: ./spark start --port {8078 if port == 8077 else 8077}.") from error  # fmt: skip


def _with_everything(command: list[str]) -> int:
    """Run a module with packages, page, browser and a running cluster."""
    places = Places(ROOT)
    everything(places, SERVER_PACKAGES + TEST_PACKAGES, tests=True)
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
    with _running_cluster(given.data) as cluster:
        found = backup.write(cluster, given.file, empty=given.empty)
        backup.prove(cluster, given.file)
    step(f"Written and read back: {given.file} holds {found.words}, from {cluster.places.data}")
    return 0


def _restore(given: argparse.Namespace) -> int:
    if not given.file.is_file():
        raise Trouble(f"{given.file}: no such file. Give one that ./spark backup wrote.")
    places = Places(ROOT, given.data)
    in_use = InUse(places, alone=True)
    try:
        python_environment(places, tests=False)
        with _running_cluster(given.data) as cluster:

            def migrate(url: str) -> None:
                done = subprocess.run([str(places.python), "-m", "uphill_spark.store.prove"], env=_env(places, UPHILL_SPARK_DATABASE=url), cwd=ROOT, capture_output=True, text=True)  # fmt: skip
                if done.returncode != 0:
                    told = (done.stdout + done.stderr).strip().splitlines()
                    raise Trouble(
                        f"{given.file} cannot be taken by this version: {told[-1] if told else 'no reason given'} Nothing was touched."
                    )

            found, kept = backup.put_back(cluster, given.file, migrate)
    finally:
        in_use.close()
    if kept is not None:
        step(f"What stood there before is kept in {kept}")
    step(f"Put back into {places.data}: {found.words}")
    return 0


@contextlib.contextmanager
def _running_cluster(data: Path | None) -> Iterator[Cluster]:
    """The store that is meant, running. Raises Trouble where there is none: nobody means to back up or replace a store that was never made."""
    places = Places(ROOT, data)
    cluster = Cluster(places)
    if not cluster.made:
        raise Trouble(f"There is no store in {places.data}. Name the folder that was given to start: --data FOLDER.")
    packages(places, SERVER_PACKAGES)
    cluster.start()
    try:
        backup.mend_halfway(cluster)
        yield cluster
    finally:
        cluster.stop()


def _generate(given: argparse.Namespace) -> int:
    places = Places(ROOT)
    everything(places, (), tests=True)
    for module in (["uphill_spark.generated", "write"], ["tests.golden"]):
        done = subprocess.run([str(places.python), "-m", *module], env=_env(places), cwd=ROOT).returncode
        if done:
            return done
    return subprocess.run(["npm", "run", "--silent", "types"], cwd=ROOT / "frontend").returncode


def _audit(places: Places) -> None:
    """What is known of holes in the libraries that are shipped, where an index can be asked; quiet where not. It tells, and fails nothing: a hole is found on any day."""

    def answered(command: list[str], where: Path) -> Any:
        with contextlib.suppress(OSError, ValueError, subprocess.TimeoutExpired):
            return json.loads(subprocess.run(command, cwd=where, capture_output=True, text=True, timeout=60).stdout)
        return {}

    page = answered(["npm", "audit", "--omit=dev", "--json"], ROOT / "frontend")
    found = [(name, str(hole.get("severity", "of unknown weight"))) for name, hole in page.get("vulnerabilities", {}).items()]
    lock = str(ROOT / "requirements.txt")
    server = answered(
        [str(places.python), "-m", "pip_audit", "-r", lock, "--no-deps", "--disable-pip", "-f", "json", "--progress-spinner", "off"], ROOT
    )
    found += [(package["name"], hole["id"]) for package in server.get("dependencies", []) for hole in package.get("vulns", [])]
    for name, weight in sorted(found):
        step(f"audit: {name} has a known hole, {weight}")


def _check(given: argparse.Namespace) -> int:
    places = Places(ROOT)
    everything(places, SERVER_PACKAGES, tests=True)
    tool, front = [str(places.python), "-m"], ROOT / "frontend"
    of_python = (
        ("lint", [*tool, "ruff", "check", "."], ROOT),
        ("format", [*tool, "ruff", "format", "--check", "."], ROOT),
        ("types of the core", [*tool, "mypy"], ROOT),
        ("generated files", [*tool, "uphill_spark.generated", "check"], ROOT),
    )
    of_the_page = (
        ("page: lint", ["npm", "run", "--silent", "lint"], front),
        ("page: format", ["npm", "run", "--silent", "format:check"], front),
        ("page: types", ["npm", "run", "--silent", "typecheck"], front),
    )
    failed: list[str] = []

    def clean(steps: tuple[tuple[str, list[str], Path], ...]) -> None:
        for name, command, where in steps:
            done = subprocess.run(command, cwd=where, env=_env(places), stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
            step(f"{name}\n{done.stdout}".rstrip())
            if done.returncode != 0:
                failed.append(name)

    side_by_side(lambda: clean(of_python), lambda: clean(of_the_page))
    _audit(places)
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
