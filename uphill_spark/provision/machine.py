"""Debian packages and the Python environment."""

from __future__ import annotations

import hashlib
import os
import shutil
import subprocess
import sys
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from .say import Trouble, run

#: What is needed, by the Debian package that brings it, and how to see that it is there.
SERVER_PACKAGES = ("postgresql", "libpango-1.0-0", "libpangoft2-1.0-0", "libharfbuzz-subset0", "fontconfig", "fonts-dejavu-core")
#: Chromium without its windows, a quarter less to wait for; a circuit simulator to hold the harness against.
TEST_PACKAGES = ("chromium-headless-shell", "poppler-utils", "ngspice")
#: The distribution's own interpreter. It is compiled after profiles of its use, which one compiled by hand mostly is not: a plan takes a seventh less time.
PYTHON = Path("/usr/bin/python3")


class Places:
    """Where things are: the checkout, and the folder that holds all that is made and kept."""

    def __init__(self, root: Path, data: Path | None = None) -> None:
        self.root = root
        self.data = data or Path(os.environ.get("UPHILL_SPARK_DATA", root / ".spark"))
        self.venv = self.data / "venv"
        self.python = self.venv / "bin" / "python"
        self.log = self.data / "log" / "setup.log"
        self.page = root / "frontend" / "dist"

    def stamp(self, name: str) -> Path:
        """File that tells that a step of the set-up is done."""
        return self.data / "stamps" / name


def fingerprint(*paths: Path) -> str:
    """A sum of the contents of files and folders."""
    digest = hashlib.sha256()
    for path in paths:
        for file in sorted(p for p in ([path] if path.is_file() else path.rglob("*")) if p.is_file()):
            digest.update(str(file.relative_to(path.parent)).encode())
            digest.update(file.read_bytes())
    return digest.hexdigest()


def done(stamp: Path, mark: str) -> bool:
    """Whether a step was done with these very inputs."""
    return stamp.is_file() and stamp.read_text() == mark


def mark_done(stamp: Path, mark: str) -> None:
    """Note that a step was done with these inputs."""
    stamp.parent.mkdir(parents=True, exist_ok=True)
    stamp.write_text(mark)


def as_root(command: list[str]) -> list[str]:
    """The command as it runs with the rights of root."""
    return command if os.geteuid() == 0 else ["sudo", "-n", *command]


#: The distribution's installer lets one in at a time.
_INSTALLER = threading.Lock()


def packages(places: Places, wanted: tuple[str, ...]) -> None:
    """Install the Debian packages that are missing."""
    with _INSTALLER:
        _packages(places, wanted)


def _packages(places: Places, wanted: tuple[str, ...]) -> None:
    if shutil.which("dpkg-query") is None:
        raise Trouble("This is not a Debian system. Install by hand: " + " ".join(wanted) + ".")
    shown = subprocess.run(["dpkg-query", "-W", "-f", "${Package} ${db:Status-Status}\n", *wanted], capture_output=True, text=True).stdout
    present = {line.split()[0].split(":")[0] for line in shown.splitlines() if line.endswith(" installed")}
    missing = [p for p in wanted if p not in present]
    if not missing:
        return
    if os.geteuid() != 0 and shutil.which("sudo") is None:
        raise Trouble(f"Packages are missing and there is no sudo. As root: apt-get install {' '.join(missing)}")
    env = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    mend = "Check the network and the package sources, then run this again."
    run(as_root(["apt-get", "update", "-q"]), "Reading the package lists", mend, log=places.log, env=env)
    run(
        as_root(["apt-get", "install", "-y", "-q", "--no-install-recommends", *missing]),
        f"Installing {', '.join(missing)}",
        mend,
        log=places.log,
        env=env,
    )


def interpreter() -> str:
    """The Python that the environment is made with: the distribution's own where it is new enough, else the one that runs this."""
    new_enough = "import sys; sys.exit(sys.version_info < (3, 11))"
    return str(PYTHON) if PYTHON.is_file() and subprocess.run([str(PYTHON), "-c", new_enough]).returncode == 0 else sys.executable


def python_environment(places: Places, *, tests: bool) -> None:
    """A virtual environment with the locked packages."""
    tests = tests or places.stamp("python-dev").is_file()
    locks = [places.root / "requirements.txt", *([places.root / "requirements-dev.txt"] if tests else [])]
    stamp = places.stamp("python-dev" if tests else "python")
    made = places.venv / "pyvenv.cfg"  # says which Python it was made with, whichever runs this
    if places.python.exists() and done(stamp, fingerprint(made, *locks)):
        return
    if not places.python.exists():
        python = interpreter()
        if subprocess.run([python, "-c", "import ensurepip, venv"], capture_output=True).returncode != 0:
            packages(places, ("python3-venv",))
        run(
            [python, "-m", "venv", "--clear", str(places.venv)],
            "Making a Python environment",
            "Install python3-venv.",
            log=places.log,
        )
    _install(places, locks)
    mark_done(stamp, fingerprint(made, *locks))


def _install(places: Places, locks: list[Path]) -> None:
    """The locked packages into the environment: by uv, which takes a tenth of the time that pip takes, and by pip where uv cannot be had or cannot reach what only pip is told of."""
    lists = [item for lock in locks for item in ("-r", str(lock))]
    pip = [str(places.python), "-m", "pip", "install", "-q", "--disable-pip-version-check", "--no-input"]
    doing, mend = "Installing Python packages", "Check the network, then run this again."
    quick = places.root / "requirements-installer.txt"  # no package of the program: where it cannot be had the others still can
    if quick.is_file():
        try:
            run([*pip, "-r", str(quick)], "Fetching the installer", mend, log=places.log)
            mirror = _mirror(places.python)
            index = ["--default-index", mirror] if mirror else []
            run(
                [str(places.python), "-m", "uv", "pip", "install", "--python", str(places.python), "-q", *index, *lists],
                doing,
                mend,
                log=places.log,
            )
            return
        except Trouble:
            doing = f"{doing}, the slow way"
    run([*pip, *lists], doing, mend, log=places.log)


def _mirror(python: Path) -> str:
    """The index that pip is told to take packages from, empty for the usual one: uv does not read what pip is told."""
    told = subprocess.run([str(python), "-m", "pip", "config", "list"], capture_output=True, text=True).stdout
    said = {key: value.strip("'") for key, _, value in (line.partition("=") for line in told.splitlines())}
    return next((said[key] for key in (":env:.index-url", "install.index-url", "global.index-url") if key in said), "")


def page(places: Places) -> None:
    """The page, built from its sources when they changed."""
    front = places.root / "frontend"
    log = places.log.with_name("page.log")  # its own: it is made beside other things
    if shutil.which("npm") is None:
        packages(places, ("nodejs", "npm"))
    lock = fingerprint(front / "package-lock.json", front / "package.json")
    if not done(places.stamp("npm"), lock) or not (front / "node_modules").is_dir():
        run(
            ["npm", "ci", "--no-audit", "--no-fund", "--loglevel=error"],
            "Installing the page's packages",
            "Check the network and that Node is 20 or newer.",
            log=log,
            cwd=front,
        )
        mark_done(places.stamp("npm"), lock)
    sources = fingerprint(
        *(front / name for name in ("src", "scripts", "public", "index.html", "vite.config.ts", "tsconfig.json", "package-lock.json"))
    )
    if not done(places.stamp("page"), sources) or not (places.page / "index.html").is_file():
        run(
            ["npm", "run", "--silent", "build"],
            "Building the page",
            "Look at the output for the file that does not compile.",
            log=log,
            cwd=front,
        )
        mark_done(places.stamp("page"), sources)


def side_by_side(*works: Callable[[], object]) -> None:
    """Do at once what does not need each other. Raises Trouble with all that did not work, once everything has ended."""
    troubles: list[str] = []
    with ThreadPoolExecutor(len(works)) as beside:
        for doing in [beside.submit(work) for work in works]:
            try:
                doing.result()
            except Trouble as trouble:
                troubles.append(str(trouble))
    if troubles:
        raise Trouble(" ".join(troubles))


def everything(places: Places, wanted: tuple[str, ...], *, tests: bool) -> None:
    """All that the program needs: Debian's packages, then the Python environment and the page."""
    if wanted:
        packages(places, wanted)
    side_by_side(lambda: python_environment(places, tests=tests), lambda: page(places))
