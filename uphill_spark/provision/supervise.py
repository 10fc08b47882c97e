"""Keeping the application up: the web server and the database are started again when they die, a backup is made each day, low disk is said beforehand."""

from __future__ import annotations

import datetime as dt
import fcntl
import json
import os
import shutil
import subprocess
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from . import backup
from .cluster import Cluster
from .machine import Places
from .say import Trouble, step

LOOK = 0.5  # s between two looks
DISK_LOOK = 30.0  # s
LOW_DISK = 500_000_000  # bytes left, below which it is said
STEADY = 20.0  # s after which a server that ran counts as steady: its next fall is a first one
WAIT_MOST = 30.0  # s between two attempts
QUICK = 3.0  # s in which a server that cannot start has failed


class InUse:
    """Who has a store in use: many servers may, or one command that replaces it. Held as long as the process, and those it started, live."""

    def __init__(self, places: Places, *, alone: bool) -> None:
        """Raises Trouble if somebody else has it."""
        places.data.mkdir(parents=True, exist_ok=True)
        self._file = (places.data / "in-use").open("a")
        try:
            fcntl.flock(self._file, (fcntl.LOCK_EX if alone else fcntl.LOCK_SH) | fcntl.LOCK_NB)
        except OSError as error:
            self._file.close()
            who = (
                "The application runs on this store. Stop it"
                if alone
                else "A backup is being put back into this store. Wait until it is done"
            )
            raise Trouble(f"{who}, then try again. The store is in {places.data}.") from error

    @property
    def handed(self) -> int:
        """The descriptor to hand to a process that is started."""
        return self._file.fileno()

    def close(self) -> None:
        """Let go."""
        self._file.close()


@dataclass
class Again:
    """When something that has died is started again: at once, then after longer and longer."""

    now: Callable[[], float] = time.monotonic
    falls: int = 0
    since: float = -WAIT_MOST
    due: float = 0.0

    def fallen(self) -> float:
        """It has died: seconds until it is to be started again."""
        self.falls = 1 if self.now() - self.since > STEADY else self.falls + 1
        wait = 0.0 if self.falls == 1 else min(2.0 ** (self.falls - 2), WAIT_MOST)
        self.due = self.now() + wait
        return wait

    def started(self) -> None:
        """It was started."""
        self.since = self.now()


@dataclass
class Supervisor:
    """The start command's watch. `serve` starts the web server."""

    cluster: Cluster
    serve: Callable[[], subprocess.Popen[bytes]]
    stopping: threading.Event = field(default_factory=threading.Event)
    _web: Again = field(default_factory=Again)
    _store: Again = field(default_factory=Again)
    _address: str = ""

    def run(self) -> int:
        """Watch until told to stop; the exit code. A server that fails at once is not tried for ever."""
        process = self.serve()
        self._address = self.cluster.url()
        self._web.started()
        born = time.monotonic()
        keeper = threading.Thread(target=self._keep, daemon=True)
        keeper.start()
        store_down = web_down = False
        while not self.stopping.wait(LOOK):
            code = process.poll()
            if code is not None and not web_down:
                if time.monotonic() - born < QUICK and self._web.falls == 0:
                    self.stopping.set()
                    return code
                wait = self._web.fallen()
                web_down = True
                step(f"The web server has died (code {code}); it is started again{f' in {wait:.0f} s' if wait else ''}")
            if web_down and time.monotonic() >= self._web.due:
                process = self.serve()
                self._web.started()
                web_down = False
            if not self.cluster.alive and not store_down:
                wait = self._store.fallen()
                store_down = True
                step(f"The database has died; it is started again{f' in {wait:.0f} s' if wait else ''}")
            if store_down and time.monotonic() >= self._store.due:
                store_down = not self._start_store()
                if not store_down and self.cluster.url() != self._address:  # its port was taken meanwhile: the web server has to be told
                    self._address = self.cluster.url()
                    process.terminate()
        process.terminate()
        try:
            process.wait(10)
        except subprocess.TimeoutExpired:
            process.kill()
        keeper.join(5)
        return 0

    def _start_store(self) -> bool:
        try:
            self.cluster.start()
        except Trouble as trouble:
            wait = self._store.fallen()
            step(f"{trouble} It is tried again in {wait:.0f} s")
            return False
        self._store.started()
        return True

    def _keep(self) -> None:
        """Disk and daily backup, beside the watch: a backup may take a while."""
        while not self.stopping.is_set():
            notices(self.cluster.places)
            if self.cluster.alive:
                try:
                    backup.daily(self.cluster, dt.datetime.now(dt.UTC))
                    notices(self.cluster.places)
                except (Trouble, OSError) as trouble:
                    notices(self.cluster.places, str(trouble))
            self.stopping.wait(DISK_LOOK)


def notices(places: Places, trouble: str = "") -> dict[str, Any]:
    """What the page should know of the store's place, written to a file that the web server reads: disk left, and the last backup."""
    last = backup.newest(places)
    told = {
        "low_disk": shutil.disk_usage(places.data).free < LOW_DISK,
        "backup": None if last is None else dt.datetime.fromtimestamp(last.stat().st_mtime, dt.UTC).isoformat(timespec="seconds"),
        "backup_trouble": trouble,
    }
    file = notices_file(places)
    file.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    part = file.with_suffix(".part")
    part.write_text(json.dumps(told))
    os.replace(part, file)
    return told


def notices_file(places: Places) -> Path:
    """Where they stand."""
    return places.data / "store" / "notices.json"
