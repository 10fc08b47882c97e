"""`spark standin`: a build's control unit, sensors and engine on a bus, alone; recorded, or played again from a record."""

from __future__ import annotations

import argparse
import contextlib
import json
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from ..core.errors import NoBus, SparkError
from ..formats import build_file
from .bus import GROUP, PORT, Where, opened, where
from .library import can
from .unit import ALONE, StandIn, say, stand

#: Endings of records: ASAM MDF 4, and two logs that the library writes.
RECORDS = (".mf4", ".blf", ".asc")
PRIMES, CRANKS = 3.0, 10.0  # s, of a start by itself


def main(arguments: list[str] | None = None) -> int:
    """Exit 0 when it ends, 2 on what cannot be taken."""
    parser = argparse.ArgumentParser(prog="spark standin", description="A build's control unit, sensors and engine on a bus.")
    parser.add_argument("file", help="a build file (JSON), or - for standard input")
    parser.add_argument("--fault", default="", help="a fault to hide in it, by its key")
    parser.add_argument("--speed", type=float, default=1.0, help="times as fast as the clock, 1 if not given")
    parser.add_argument("--seconds", type=float, help="of the car's time; without end if not given")
    parser.add_argument(
        "--bus",
        default=f"udp_multicast:{GROUP}:{PORT}",
        help="interface:channel[:port or bit rate], multicast on this machine if not given",
    )
    parser.add_argument("--start", action="store_true", help="turn the key and start it, as a person would")
    parser.add_argument("--tidy", action="store_true", help="take tables, harness and fuel system as in order")
    parser.add_argument("--warm", action="store_true", help="as if it had run before")
    parser.add_argument("--record", type=Path, help=f"write what it says to a file ({', '.join(RECORDS)})")
    parser.add_argument("--replay", type=Path, help="play a record again in place of a car")
    parser.add_argument("--alone", action="store_true", help=argparse.SUPPRESS)
    chosen = parser.parse_args(arguments)
    try:
        return _run(chosen)
    except SparkError as error:
        print(f"spark standin: {error}", file=sys.stderr)
        return 2
    except KeyboardInterrupt:
        return 0


def _run(chosen: argparse.Namespace) -> int:
    if not 0.05 <= chosen.speed <= 500:
        raise NoBus(f"--speed {chosen.speed:g}: between 0.05 and 500 times the clock.")
    for path in (chosen.record, chosen.replay):
        if path is not None and path.suffix.lower() not in RECORDS:
            raise NoBus(f"{path}: a record ends in {', '.join(RECORDS)}.")
    at = where(chosen.bus)
    if chosen.replay is not None:
        return _replay(chosen.replay, at, chosen.speed)
    try:
        data = sys.stdin.buffer.read() if chosen.file == "-" else Path(chosen.file).read_bytes()
    except OSError as error:
        raise NoBus(f"{chosen.file}: {error.strerror or 'cannot be read'}. Give the path of a build file.") from error
    document = build_file.read(data)[0]
    say("The engine is worked from its measures: some seconds." if not chosen.tidy else "Ready.")
    standin = StandIn(document, chosen.fault, tidy=chosen.tidy, warm=chosen.warm)
    bus = opened(at)
    say(f"On the bus {at}.")
    with _recorded(chosen.record, at):
        try:
            sent = stand(
                standin,
                bus,
                chosen.speed,
                chosen.seconds,
                alone=ALONE if chosen.alone else None,
                every=_by_itself() if chosen.start else _nothing,
            )
        finally:
            bus.shutdown()
    say(f"{sent} frames.")
    return 0


def _nothing(standin: StandIn, t: float) -> None:
    """Somebody else is at the key."""


def _by_itself() -> Callable[[StandIn, float], None]:
    """A hand that turns the key, starts, and lets go when it runs; a line each second."""
    told = [0.0]

    def act(standin: StandIn, t: float) -> None:
        runs = standin.runs
        standin.key = 1 if t < PRIMES or runs or t > PRIMES + CRANKS else 2
        if t - told[0] >= 1.0:
            told[0] = t
            shown = standin.shown
            say(
                f"{t:6.1f} s  {shown['speed']:5.0f} rpm  {shown['manifold']:5.1f} kPa  lambda {shown['lambda']:.2f}  rail {standin.rail_kpa:4.0f} kPa  {shown['volts']:4.1f} V  coolant {shown['coolant']:.0f} °C"
            )

    return act


@contextlib.contextmanager
def _recorded(path: Path | None, at: Where) -> Iterator[None]:
    """What is said on the bus, written to a file while it lasts."""
    if path is None:
        yield
        return
    ear = opened(at)
    try:
        log: Any = can.Logger(str(path))
    except Exception as error:  # each writer raises its own
        ear.shutdown()
        raise NoBus(f"{path} cannot be written: {error}") from error
    notifier = can.Notifier(ear, [log], timeout=0.1)
    try:
        yield
        time.sleep(0.2)
    finally:
        notifier.stop()
        ear.shutdown()


def _replay(path: Path, at: Where, speed: float) -> int:
    """A record played again, in its own time."""
    try:
        reader: Any = can.LogReader(str(path))
    except Exception as error:  # each reader raises its own
        raise NoBus(f"{path} cannot be read: {error}") from error
    bus = opened(at)
    first, begun, sent = None, time.monotonic(), 0
    try:
        for message in reader:
            if message.is_error_frame:
                continue
            first = message.timestamp if first is None else first
            wait = (message.timestamp - first) / speed - (time.monotonic() - begun)
            if wait > 0:
                time.sleep(min(wait, 60.0))
            bus.send(can.Message(arbitration_id=message.arbitration_id, data=message.data, is_extended_id=message.is_extended_id))
            sent += 1
    finally:
        bus.shutdown()
    say(f"{sent} frames.")
    return 0


def handed(document: dict[str, Any]) -> bytes:
    """A document as the command reads it on standard input."""
    return json.dumps(document).encode()


if __name__ == "__main__":
    sys.exit(main())
