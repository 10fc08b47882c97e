"""Keeping the application up: the web server, the worker and the database are started again when they die, a backup is made each day, low disk is said beforehand."""

from __future__ import annotations

import datetime as dt
import fcntl
import http.client
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
ASKED = 3.0  # s between two times that the web server is asked whether it is there
SILENT = 30.0  # s without an answer, after which a web server that lives counts as hung
STARTS = 120.0  # s that a web server which was started has for its first answer: an old machine with much to do takes a minute
LEAVES = 10.0  # s that a process has to go by itself


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
    """The start command's watch. `serve` starts the web server, `speaks` asks it for any answer at all, `work` starts what works beside it."""

    cluster: Cluster
    serve: Callable[[], subprocess.Popen[bytes]]
    speaks: Callable[[], bool] = lambda: True
    work: Callable[[], subprocess.Popen[bytes]] | None = None
    stopping: threading.Event = field(default_factory=threading.Event)
    _web: Again = field(default_factory=Again)
    _store: Again = field(default_factory=Again)
    _address: str = ""
    _asked: float = 0.0
    _spoke: float = 0.0

    def run(self) -> int:
        """Watch until told to stop; the exit code. A server that fails at once is not tried for ever."""
        process = self.serve()
        self._address = self.cluster.url()
        self._web.started()
        born = time.monotonic()
        keeper = threading.Thread(target=self._keep, daemon=True)
        keeper.start()
        beside = threading.Thread(target=self._beside, daemon=True)
        beside.start()
        store_down = web_down = sent_away = False
        while not self.stopping.wait(LOOK):
            code = process.poll()
            if code is not None and not web_down:
                if time.monotonic() - born < QUICK and self._web.falls == 0:
                    self.stopping.set()
                    return code
                if sent_away:  # by the watch itself: no fall of its own
                    process, sent_away = self._serve_again(), False
                    continue
                wait = self._web.fallen()
                web_down = True
                step(f"The web server has died (code {code}); it is started again{f' in {wait:.0f} s' if wait else ''}")
            if code is None and self._hangs():
                step("The web server lives and does not answer; it is stopped")
                _stop(process)
            if web_down and time.monotonic() >= self._web.due:
                process, web_down = self._serve_again(), False
            if not self.cluster.alive and not store_down:
                wait = self._store.fallen()
                store_down = True
                step(f"The database has died; it is started again{f' in {wait:.0f} s' if wait else ''}")
            if store_down and time.monotonic() >= self._store.due:
                store_down = not self._start_store()
                if not store_down and self.cluster.url() != self._address:  # its port was taken meanwhile: the web server has to be told
                    self._address = self.cluster.url()
                    sent_away = not web_down
                    process.terminate()
        _stop(process)
        beside.join(LEAVES)
        keeper.join(5)
        return 0

    def _beside(self) -> None:
        """The worker, kept up: it dies with its database, and is started again when that is there."""
        if self.work is None:
            return
        again, process, address, down = Again(), self.work(), self.cluster.url(), False
        again.started()
        while not self.stopping.wait(LOOK):
            code = process.poll()
            if not down and code is not None:
                wait, down = again.fallen(), True
                step(f"The worker has died (code {code}); it is started again{f' in {wait:.0f} s' if wait else ''}")
            elif not down and self.cluster.alive and self.cluster.url() != address:
                _stop(process)  # it holds on to where the database was
            if down and self.cluster.alive and time.monotonic() >= again.due:
                process, address, down = self.work(), self.cluster.url(), False
                again.started()
        _stop(process)

    def _hangs(self) -> bool:
        """Whether the web server has said nothing for too long."""
        now = time.monotonic()
        if now - self._asked < ASKED:
            return False
        self._asked = now
        if self.speaks():
            self._spoke = now
        started = self._web.since
        return now - started > STARTS if self._spoke < started else now - self._spoke > SILENT

    def _serve_again(self) -> subprocess.Popen[bytes]:
        process = self.serve()
        self._web.started()
        return process

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


def _stop(process: subprocess.Popen[bytes]) -> None:
    if process.poll() is not None:
        return
    process.terminate()
    try:
        process.wait(LEAVES)
    except subprocess.TimeoutExpired:
        process.kill()


def speaks(port: int) -> bool:
    """Whether a web server on loopback answers anything at all, also that it is out of order."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=2.0)
    try:
        connection.request("GET", "/api/health")
        connection.getresponse()
    except (OSError, http.client.HTTPException):
        return False
    finally:
        connection.close()
    return True


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
