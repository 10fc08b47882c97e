"""The live bus at the first start: what a control unit says, as server-sent events; the stand-in begun, its key turned; a person's own bus told."""

from __future__ import annotations

import time
from collections.abc import Iterator
from typing import Literal, cast

from flask import Response, current_app

from .. import store
from ..core.asked.faults import FaultTable
from ..core.asked.practice import hide
from ..core.errors import BuildError, NoBus, Problem
from ..core.given.readings_start import ReadingKey
from ..core.live import HOLDS, QUANTITIES, Live, SignalTaken, readings, stale, turning
from ..core.stages.start import SheetStep, live
from ..core.standin.case import Case, Impossible
from ..core.standin.script import makes
from ..core.units import printed
from ..standin.bus import Seen, Where, of_build, where
from ..standin.frames import Frames, own, read
from ..store import buses, practices
from ..store.tables import BusRow
from .door import database, json_answer, opened
from .interface import Interface
from .listening import Ears
from .live_models import (
    Begun,
    BusAnswer,
    BusRequest,
    BusSignal,
    Gauge,
    HandRequest,
    LiveQuery,
    LiveReading,
    LiveTold,
    StandInRequest,
)
from .models import BuildPath
from .practice import table_of

api = Interface("live", __name__, "/api/builds/<uuid:build_id>/live")
LASTS = 50.0  # s of one stream: the browser comes again by itself, so that no thread is held by somebody who is gone
EVERY = 0.05  # s between two looks at the bus
QUIET = 1.0  # s after which something is said though nothing is new
KEYS: dict[Literal["off", "run", "start"], float] = {"off": 0.0, "run": 1.0, "start": 2.0}
#: Gauges in the order in which they stand, with their digits.
SHOWN = {"speed": 0, "manifold": 1, "lambda": 2, "rail": 0, "volts": 1, "coolant": 0, "air": 0, "throttle": 0, "advance": 0, "pulse": 1, "valve": 0, "oil": 0, "exhaust": 0, "knock": 0}  # fmt: skip


def ears() -> Ears:
    """The ears of this process."""
    found: Ears = current_app.extensions["ears"]
    return found


def _heard(path: BuildPath) -> tuple[Where, Frames, BusRow | None]:
    """The bus that is listened to for a build, how it is read, and what was told of it (none: it is the stand-in's). Raises NoBus, FormatError."""
    with database().work() as session:
        told = buses.bus_of(session, path.build_id)
    if told is None:
        return of_build(path.build_id), own(), None
    return where(told.place), read(told.dbc, [SignalTaken.model_validate(row) for row in told.taken]), told


@api.get("/bus", responses={200: BusAnswer}, summary="What is listened to, and how")
def bus(path: BuildPath) -> Response:
    at, frames, told = _heard(path)
    return json_answer(_bus(at, frames, told.name if told else "", is_own=told is None).model_dump_json())


def _bus(at: Where, frames: Frames, name: str, *, is_own: bool) -> BusAnswer:
    signals = [BusSignal(name=n, unit=u) for n, u in frames.signals]
    return BusAnswer(own=is_own, place=str(at), name=name, signals=signals, taken=list(frames.taken), quantities=list(QUANTITIES.values()))


@api.put("/bus", responses={200: BusAnswer}, summary="A person's own control unit: its bus, its DBC file, its signals")
def tell_bus(path: BuildPath, body: BusRequest) -> Response:
    try:
        at = where(body.place)
    except NoBus as error:
        raise BuildError("That bus cannot be taken.", (Problem("/place", body.place, str(error)),)) from error
    frames = read(body.dbc, None if body.taken is None else [SignalTaken(**t.model_dump()) for t in body.taken])
    known = {name for name, _ in frames.signals}
    for k, t in enumerate(frames.taken):
        if t.signal not in known:
            raise BuildError("That signal is not in the file.", (Problem(f"/taken/{k}/signal", t.signal, "a signal of the DBC file"),))
    if not any(t.quantity == "speed" for t in frames.taken):
        raise BuildError(
            "Nothing of it is the engine's speed.", (Problem("/taken", "no speed", "the signal that is the engine's speed, first of all"),)
        )
    with database().work() as session:
        buses.tell(session, path.build_id, str(at), body.name, body.dbc, [t.model_dump() for t in frames.taken])
    return json_answer(_bus(at, frames, body.name, is_own=False).model_dump_json())


@api.delete("/bus", responses={200: BusAnswer}, summary="Listen to the stand-in again")
def forget_bus(path: BuildPath) -> Response:
    with database().work() as session:
        buses.forget(session, path.build_id)
    return json_answer(_bus(of_build(path.build_id), own(), "", is_own=True).model_dump_json())


@api.post("", responses={200: Begun}, summary="Begin a stand-in for this car on its own bus")
def begin(path: BuildPath, body: StandInRequest) -> Response:
    fault, revision = body.fault, None
    if body.practice is not None:
        with database().work() as session:
            row = practices.practice(session, path.build_id, body.practice)
        revision = row.revision
    found = opened(path.build_id, revision)
    if body.practice is not None:
        table = table_of(found)
        if not isinstance(table, FaultTable):
            raise BuildError(
                "What each fault looks like is still worked out.", (Problem("/practice", "not ready", "a moment of patience"),)
            )
        fault = hide(table, row.level, row.seed, row.before).key
    if fault:
        try:
            makes(Case(found.standing.worked, found.revision.document), fault)
        except Impossible as error:
            raise BuildError("That fault cannot be hidden in this car.", (Problem("/fault", fault, str(error)),)) from error
    found.standing  # noqa: B018  # a build that cannot be worked out is told before anything is begun
    at = of_build(path.build_id)
    ears().begin(path.build_id, at, found.revision.document, fault, tidy=body.practice is not None, warm=body.warm)
    return json_answer(Begun(place=str(at), heard=False).model_dump_json())


@api.delete("", responses={200: Begun}, summary="End the stand-in of this car")
def end(path: BuildPath) -> Response:
    with database().work() as session:
        store.get(session, path.build_id)
    at = of_build(path.build_id)
    ears().end(path.build_id, at)
    return json_answer(Begun(place=str(at), heard=False).model_dump_json())


@api.post("/hand", responses={200: Begun}, summary="Key and pedal of the stand-in")
def hand(path: BuildPath, body: HandRequest) -> Response:
    with database().work() as session:
        store.get(session, path.build_id)
    at = of_build(path.build_id)
    ears().speak(at, {"Key": KEYS[body.key], "Pedal": body.pedal, "InjectorsOff": float(body.injectors_off)})
    return json_answer(Begun(place=str(at), heard=True).model_dump_json())


@api.get(
    "/stream", responses={200: LiveTold}, summary="What the bus says, as server-sent events; it ends after a while, and is asked for again"
)
def stream(path: BuildPath, query: LiveQuery) -> Response:
    at, frames, _ = _heard(path)
    step = opened(path.build_id).standing.plan.stages.start.steps[query.step]
    theirs = ears()
    reader = theirs.on(at, frames)
    if reader is None:
        raise store.Busy("As many watch the bus already as can be. Close another page, or wait a minute.")

    def told() -> Iterator[str]:
        ends, held, said, newest = time.monotonic() + LASTS, dict[str, float](), 0.0, -1.0
        try:
            yield "retry: 500\n\n"
            while time.monotonic() < ends:
                seen = reader.seen()
                fresh = seen.samples[-1][0] if seen.samples else -1.0
                t = time.monotonic()
                if fresh != newest or t - said >= QUIET:
                    newest, said = fresh, t
                    yield f"data: {_told(step, seen, held, t, reader.let_go).model_dump_json()}\n\n"
                time.sleep(EVERY)
        finally:
            theirs.off(at, frames)

    return Response(told(), mimetype="text/event-stream", headers={"Cache-Control": "no-store"})


def _told(step: SheetStep, seen: Seen, held: dict[str, float], t: float, flood: int) -> LiveTold:
    """What is said at a moment; `held` keeps since when each reading lies in its band."""
    is_stale, now = stale(seen.age), seen.now
    gauges = [
        Gauge(key=info.key, word=info.word, shown=f"{now[info.key]:.{SHOWN[info.key]}f}".replace("-", "−"), unit=printed(info.unit).replace("deg", "°") if info.unit else "", old=info.key in seen.old)
        for info in QUANTITIES.values()
        if info.key in now and info.key in SHOWN
    ]  # fmt: skip
    came = {} if is_stale else readings(seen.samples)
    rows = live(step, {key: value.typed for key, value in came.items()})
    told = []
    for row in rows:
        key = cast(ReadingKey, row.key)
        if key not in came or row.verdict != "in":
            held.pop(key, None)
        if key not in came:
            continue
        since = held.setdefault(key, t) if row.verdict == "in" else None
        told.append(_reading(key, came[key], row.verdict, row.off, 0.0 if since is None else t - since))
    good = {r.key for r in told if r.held >= HOLDS}
    wanted = [row for row in rows if row.key and row.band is not None]
    holds = bool(good) and all(row.key in good or (row.key not in came and row.verdict == "in") for row in wanted)
    return LiveTold(
        stale=is_stale,
        turning="still" if is_stale else turning(now),
        age=None if seen.age is None else round(seen.age, 1),
        gauges=gauges,
        readings=told,
        holds=holds,
        flood=flood,
        key=_key(seen),
    )


def _key(seen: Seen) -> Literal["off", "run", "start"] | None:
    """Where the stand-in's key is; none where no stand-in speaks."""
    at = None if "key" in seen.old else seen.now.get("key")
    return None if at is None or at > KEYS["start"] else next(word for word, value in KEYS.items() if value == round(at))


def _reading(key: str, came: Live, verdict: str, off: str, held: float) -> LiveReading:
    return LiveReading.model_validate(
        {"key": key, "typed": came.typed, "shown": came.typed, "verdict": verdict, "off": off, "held": round(held, 1)}
    )
