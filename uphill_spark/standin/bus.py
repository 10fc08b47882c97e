"""Which bus: told in one line, opened through the library; and what comes over it, kept as samples by a reader that neither a flood nor silence upsets."""

from __future__ import annotations

import threading
import time
import uuid
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ..core.errors import NoBus
from ..core.live import WINDOW, Quantity, Sample, stale
from .frames import Frames
from .library import can

GROUP, PORT, PORTS = "239.74.163.21", 41000, 20000
EVERY = 0.05  # s between two samples that are kept
FLOOD = 4000  # frames a second, over which most are let go
READS = 0.2  # s that the reader waits for a frame


@dataclass(frozen=True, slots=True)
class Where:
    """A bus: the library's interface, its channel, a port for multicast, a bit rate where the interface asks for one."""

    interface: str
    channel: str
    port: int | None = None
    bitrate: int | None = None

    def __str__(self) -> str:
        tail = self.port if self.port is not None else self.bitrate
        return ":".join(str(x) for x in (self.interface, self.channel, tail) if x is not None)


def where(text: str) -> Where:
    """A bus as it is told: interface:channel, with a port behind multicast, a bit rate behind others. Raises NoBus."""
    parts = text.strip().split(":")
    if len(parts) not in (2, 3) or not all(parts):
        raise NoBus(
            f"{text!r} is no bus. Interface and channel will do, as socketcan:can0, slcan:/dev/ttyACM0:500000 or udp_multicast:{GROUP}:{PORT}."
        )
    tail = None
    if len(parts) == 3:
        if not parts[2].isdigit():
            raise NoBus(f"{parts[2]!r} is no number: behind the channel stands a port, or a bit rate.")
        tail = int(parts[2])
    cast = parts[0] == "udp_multicast"
    return Where(parts[0], parts[1], tail if cast else None, None if cast else tail)


def of_build(build: uuid.UUID) -> Where:
    """The bus on this machine on which a build's stand-in speaks: every build has its own."""
    return Where("udp_multicast", GROUP, PORT + build.int % PORTS)


def opened(at: Where) -> can.BusABC:
    """A bus. Multicast does not leave the machine. Raises NoBus, in words."""
    more: dict[str, Any] = {}
    if at.interface == "udp_multicast":
        more = {"port": at.port or PORT, "hop_limit": 0}
    elif at.bitrate is not None:
        more = {"bitrate": at.bitrate}
    try:
        return can.Bus(interface=at.interface, channel=at.channel, **more)
    except Exception as error:  # each interface raises its own
        said = str(error).split("\n")[0][:160]
        raise NoBus(f"The bus {at} cannot be opened: {said or type(error).__name__}. Is it plugged in, is its name right?") from error


#: What a stand-in says of the hand at its key, also while its unit sleeps.
_OF_THE_HAND: frozenset[Quantity] = frozenset({"key"})


@dataclass(frozen=True, slots=True)
class Seen:
    """What a reader has: the last value of each quantity, which of them are old, samples of the last while, and how old the last word of the unit is [s] (None: there was none)."""

    now: dict[Quantity, float]
    old: frozenset[Quantity]
    samples: list[Sample]
    age: float | None


class Reader:
    """Reads a bus by a DBC file into samples. `clock` tells the time [s]; frames are placed by when they arrived, so that a sender's clock may jump as it likes."""

    def __init__(self, bus: can.BusABC, frames: Frames, clock: Callable[[], float] = time.monotonic) -> None:
        self._bus, self._frames, self._clock = bus, frames, clock
        self._lock = threading.Lock()
        self._now: dict[Quantity, float] = {}
        self._samples: deque[Sample] = deque(maxlen=int(WINDOW / EVERY) + 20)
        self._at: dict[Quantity, float] = {}
        self._heard: float | None = None
        self._second, self._in_second, self.let_go = 0, 0, 0
        self._ends = threading.Event()
        self._thread: threading.Thread | None = None

    def begin(self) -> Reader:
        """Read in a thread until closed."""
        self._thread = threading.Thread(target=self._run, daemon=True, name="bus reader")
        self._thread.start()
        return self

    def _run(self) -> None:
        while not self._ends.is_set():
            try:
                message = self._bus.recv(READS)
            except (can.CanError, OSError, ValueError):
                time.sleep(READS)
                continue
            if message is not None:
                self.took(message)

    def took(self, message: can.Message) -> None:
        """Take a frame. In a flood most of a second's frames are let go, and counted."""
        now = self._clock()
        second = int(now)
        if second != self._second:
            self._second, self._in_second = second, 0
        self._in_second += 1
        if self._in_second > FLOOD:
            self.let_go += 1
            return
        found = self._frames.quantities(self._frames.decoded(message))
        if not found:
            return
        with self._lock:
            self._now.update(found)
            self._at.update(dict.fromkeys(found, now))
            if set(found) - _OF_THE_HAND:
                self._heard = now
            fresh = {key: value for key, value in self._now.items() if not stale(now - self._at[key])}
            if not self._samples or now - self._samples[-1][0] >= EVERY:
                self._samples.append((now, fresh))
            else:
                self._samples[-1] = (self._samples[-1][0], fresh)

    def seen(self) -> Seen:
        """What is shown now."""
        with self._lock:
            now = self._clock()
            age = None if self._heard is None else max(now - self._heard, 0.0)
            old = frozenset(key for key, at in self._at.items() if stale(now - at))
            return Seen(dict(self._now), old, [s for s in self._samples if now - s[0] <= WINDOW], age)

    def close(self) -> None:
        """Stop reading, and let the bus go."""
        self._ends.set()
        if self._thread is not None:
            self._thread.join(2 * READS + 0.5)
        self._bus.shutdown()
