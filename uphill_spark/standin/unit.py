"""The stand-in as it stands on a bus: engine and control unit of a build, run by the clock; it answers to the hand at key and pedal, and tells what its unit would tell."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from dataclasses import fields, replace
from typing import Any

import numpy as np

from ..core.asked.rehearsal import itself
from ..core.errors import SparkError
from ..core.given import parse
from ..core.plan import evaluated
from ..core.standin.ails import Ails, lanes_of
from ..core.standin.case import Case, Impossible
from ..core.standin.engine import STEP
from ..core.standin.plant import as_built, plant_of, quick
from ..core.standin.running import START, Running
from ..core.standin.script import WARM_C, makes
from .frames import HAND, Frames, own
from .library import can

EVERY = 0.02  # s between two rounds of frames
COLD_C = 15.0
BEHIND = 0.5  # s that it may lag before it lets the time go
ALONE = 90.0  # s without a hand at the key, after which one that was begun from the page ends


class CannotStand(SparkError):
    """A stand-in that cannot be begun; the message says why."""


def with_fault(case: Case, key: str, base: Ails) -> Ails:
    """The same with a fault: what it changes against a car in order is changed here too. Raises CannotStand."""
    try:
        made, sound = makes(case, key).ails, case.sound.ails
    except Impossible as error:
        raise CannotStand(f"{key!r} cannot be hidden in this car: {error}.") from error
    changed: dict[str, Any] = {}
    for f in fields(Ails):
        then, now = getattr(sound, f.name), getattr(made, f.name)
        if now != then and not (now != now and then != then):
            both = isinstance(now, float) and isinstance(then, float) and then > 0 and f.name.endswith(("_v", "_pa"))
            changed[f.name] = getattr(base, f.name) * now / then if both else now
    return replace(base, **changed)


class StandIn:
    """A build on the stand-in. `tidy` takes its tables, harness and fuel system as in order, `fault` hides something in it, `warm` has it run before. Raises CannotStand, BuildError, NoEngine."""

    def __init__(self, document: dict[str, Any], fault: str = "", *, tidy: bool = False, warm: bool = False) -> None:
        w = evaluated(parse(document)).worked
        case = Case(w, document)
        base = case.sound.ails if tidy else as_built(w)
        ails = with_fault(case, fault, base) if fault else base
        plant = plant_of(w, quick(w), tidy=True) if tidy else plant_of(w, itself(w))
        self.car = Running.alone(plant, lanes_of([ails], w.build.engine.cylinders), WARM_C if warm else COLD_C, COLD_C)
        self.teeth = float(w.trigger.teeth_per_turn) if w.trigger is not None else 0.0
        self.key, self.pedal, self.injectors = 0, 0.0, True
        self._count, self._step_pump = 0, False
        self.heard, self.ends = 0.0, False

    def hand(self, signals: dict[str, float], now: float) -> None:
        """Take what the hand at key and pedal does."""
        self.key = int(signals.get("Key", 0))
        self.ends = self.key > START
        self.pedal = min(max(signals.get("Pedal", 0.0) / 100, 0.0), 1.0)
        self.injectors = signals.get("InjectorsOff", 0.0) < 0.5
        self.heard = now

    def step(self) -> None:
        """One step on."""
        key, pedal = (self.key, self.pedal) if self.car.plain else (np.array([self.key]), np.array([self.pedal]))
        self.car.step(key, pedal, injectors=self.injectors)  # type: ignore[arg-type]

    @property
    def runs(self) -> bool:
        """Whether its engine runs by itself."""
        return bool(_one(self.car.running))

    @property
    def shown(self) -> dict[str, float]:
        """What its unit knows now."""
        return {k: _one(v) for k, v in self.car.shown.items()}

    @property
    def rail_kpa(self) -> float:
        """Gauge pressure at its rail [kPa]."""
        return _one(self.car.rail()) / 1e3

    def told(self) -> dict[str, dict[str, float]]:
        """Signals by message."""
        car, shown = self.car, self.shown
        alive = shown.get("awake", 0.0) > 0
        self._count = (self._count + 1) % 256
        unit = car.plant.unit
        pulse = shown.get("meant", 0.0) * unit.cylinders / car.plant.flow_kg_s * 1e3
        spiky = _one(car.ails["spikes"]) > 0 and shown.get("speed", 0.0) > 0 and self._count % 7 == 0
        turning = {
            "EngineSpeed": shown.get("speed", 0.0) * (1.9 if spiky else 1.0), "SparkAdvance": shown.get("advance", 0.0), "TeethInTurn": self.teeth if shown.get("speed", 0.0) > 0 else 0.0, "InStep": float(shown.get("speed", 0.0) > 0),
            "EngineRuns": _one(car.running), "StarterOn": float(_one(car.lanes.starter) > 0), "PumpOn": _one(car.pumps), "Counter": float(self._count),
        }  # fmt: skip
        hand = {"KeyAt": float(self.key), "PedalAt": self.pedal * 100, "InjectorsAreOff": float(not self.injectors)}
        awake = {
            "Turning": turning if alive else {"Counter": float(self._count)},
            "Breathing": {"ManifoldPressure": shown["manifold"], "ThrottleOpening": shown["throttle"] - car.plant.opened, "CoolantTemperature": shown["coolant"], "AirTemperature": shown["air"]},
            "Fuelling": {"Lambda": shown["lambda"], "InjectorPulse": pulse, "RailPressure": self.rail_kpa, "IdleValve": shown["valve"]},
            "Feeding": {"UnitVolts": shown["volts"], "OilPressure": _one(car.oil_pa) / 1e3, "SecondsOn": _one(car.on_for), "Resets": _one(car.resets)},
            "Heating": {"ExhaustTemperature": _one(car.exhaust_c), "KnocksCounted": _one(car.knocks) % 256},
        } if alive else {}  # fmt: skip
        return {**awake, "StandIn": hand}


def _one(value: Any) -> float:
    """The number of a car by itself, plain or in an array of one."""
    return float(value) if isinstance(value, (float, bool, int)) else float(value[0])


def stand(
    standin: StandIn, bus: can.BusABC, speed: float = 1.0, lasts: float | None = None, *, alone: float | None = None, frames: Frames | None = None, every: Callable[[StandIn, float], None] = lambda *_: None
) -> int:  # fmt: skip
    """Run by the clock, `speed` times as fast, until `lasts` [s of the car], the hand has been away for `alone` [s], or it is interrupted. Returns how many frames were sent."""
    frames = frames or own()
    begun = standin.heard = time.monotonic()
    sent, steps, next_round = 0, 0, 0.0
    hand_id = frames.database.get_message_by_name(HAND).frame_id
    while lasts is None or steps * STEP < lasts:
        now = time.monotonic()
        if standin.ends or (alone is not None and now - standin.heard > alone):
            break
        while (message := bus.recv(0.0)) is not None:
            if message.arbitration_id == hand_id:
                standin.hand(frames.decoded(message), now)
        due = (now - begun) * speed / STEP
        if due - steps > BEHIND / STEP * max(speed, 1.0):
            begun += (due - steps) * STEP / speed  # it cannot keep up: the time goes, the car does not jump
            continue
        if steps >= due:
            time.sleep(min(STEP / speed, 0.01))
            continue
        standin.step()
        steps += 1
        every(standin, steps * STEP)
        if steps * STEP >= next_round:
            next_round = steps * STEP + EVERY * max(speed, 1.0)
            for name, signals in standin.told().items():
                bus.send(frames.encoded(name, signals))
                sent += 1
    return sent


def say(text: str) -> None:
    """A line for whoever began it."""
    print(text, file=sys.stderr, flush=True)
