"""Ears on buses: one reader a bus in this process, shared by all who watch, let go a while after the last has left; and the hand that speaks back to a stand-in."""

from __future__ import annotations

import subprocess
import sys
import threading
import time
import uuid
from dataclasses import dataclass, field

from ..standin.__main__ import handed
from ..standin.bus import Reader, Where, opened
from ..standin.frames import HAND, Frames, own

LINGERS = 20.0  # s that a reader stays after the last who watched has gone
WATCHERS = 12  # at once, in one process: each holds a thread of the server


@dataclass(slots=True)
class _Ear:
    reader: Reader
    watched: int = 0
    left: float = field(default_factory=time.monotonic)


class Ears:
    """Readers by bus and by what they take its signals for."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._ears: dict[tuple[str, str], _Ear] = {}
        self._standins: dict[uuid.UUID, subprocess.Popen[bytes]] = {}
        self._serial = 0

    def on(self, at: Where, frames: Frames, watches: bool = True) -> Reader | None:
        """The reader of a bus; None where as many as can be watch already. Raises NoBus."""
        with self._lock:
            self._swept()
            if watches and sum(e.watched for e in self._ears.values()) >= WATCHERS:
                return None
            key = (str(at), repr(frames.taken))
            if key not in self._ears:
                self._ears[key] = _Ear(Reader(opened(at), frames).begin())
            ear = self._ears[key]
            ear.left = time.monotonic()
            ear.watched += watches
            return ear.reader

    def off(self, at: Where, frames: Frames) -> None:
        """Somebody has stopped to watch."""
        with self._lock:
            ear = self._ears.get((str(at), repr(frames.taken)))
            if ear is not None:
                ear.watched, ear.left = ear.watched - 1, time.monotonic()

    def _swept(self) -> None:
        for key, ear in list(self._ears.items()):
            if ear.watched <= 0 and time.monotonic() - ear.left > LINGERS:
                ear.reader.close()
                del self._ears[key]
        for build, process in list(self._standins.items()):
            if process.poll() is not None:
                del self._standins[build]

    def begin(self, build: uuid.UUID, at: Where, document: dict[str, object], fault: str, *, tidy: bool, warm: bool) -> None:
        """A stand-in of a build, as a process of its own on its bus, in place of the one that this process began before."""
        command = [
            sys.executable,
            "-m",
            "uphill_spark.standin",
            "-",
            "--alone",
            "--bus",
            str(at),
            *(["--tidy"] if tidy else []),
            *(["--warm"] if warm else []),
            *(["--fault", fault] if fault else []),
        ]
        with self._lock:
            self._end(build)
            process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
            self._standins[build] = process
        if process.stdin is not None:
            process.stdin.write(handed(document))
            process.stdin.close()

    def end(self, build: uuid.UUID, at: Where) -> None:
        """End the stand-in of a build, whoever began it."""
        self.speak(at, {"Key": ENDS})
        with self._lock:
            self._end(build)

    def _end(self, build: uuid.UUID) -> None:
        before = self._standins.pop(build, None)
        if before is not None and before.poll() is None:
            before.terminate()
            before.wait(5)

    def speak(self, at: Where, signals: dict[str, float]) -> None:
        """A frame of the hand. Raises NoBus."""
        self._serial = (self._serial + 1) % 65536
        bus = opened(at)
        try:
            bus.send(own().encoded(HAND, {**signals, "Serial": self._serial}))
        finally:
            bus.shutdown()


ENDS = 3.0  # of the key: the stand-in ends
