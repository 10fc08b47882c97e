"""One car on which faults are tried: what it has, what is off with a fault, and what a look then finds. A fault that it cannot have says why not."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from ..carried import edited
from ..circuit.faults import Fault
from ..circuit.states import KeyState
from ..errors import BuildError, NotConverged, PatchError
from ..given.edit import Patch
from ..worked import Worked, resting_on, work_out
from .ails import Ails
from .volts import Harness, Wrong, faults_in

TIDY_CRANK_V, TIDY_RUN_V = 9.8, 13.6  # V at the unit of a car that is in order
TURNS_AT = 3.0  # rev/s at which a sound starter turns a cold engine, about
OPEN = math.inf


class Impossible(Exception):
    """This build cannot have that fault; the message says why, in words."""


@dataclass(frozen=True, slots=True)
class Made:
    """A car with a fault in it: what ails it, what a look finds that no model tells (a word or a figure, by look), what is read on the harness [V]; what is wrong in the harness itself."""

    ails: Ails
    finds: dict[str, str | float] = field(default_factory=dict)
    volts: dict[str, float] = field(default_factory=dict)
    wrong: Wrong = ()


class Case:
    """A build, ready for faults to be made in it."""

    def __init__(self, w: Worked, document: dict[str, Any]) -> None:
        self.w, self.document, self.b = w, document, w.build
        self.harness = Harness(w)

    @property
    def cylinders(self) -> int:
        """How many cylinders."""
        return self.b.engine.cylinders

    @cached_property
    def sound(self) -> Made:
        """The same car with nothing wrong."""
        return self.wired(())

    def off(self, finds: dict[str, str | float] | None = None, /, **ails: Any) -> Made:
        """What is off in engine, unit and sensors, the harness being sound."""
        made = self.sound
        return Made(replace(made.ails, **ails), finds or {}, made.volts)

    def wired(self, wrong: Wrong, finds: dict[str, str | float] | None = None, /, **ails: Any) -> Made:
        """What faults of the harness do. Raises Impossible where it does not settle with them."""
        h = self.harness
        try:
            run, prime, crank, idle, full = (h.read(wrong, s) for s in ("run", "prime", "crank", "idle", "full"))
        except NotConverged as error:
            raise Impossible("the harness finds no balance with it") from error
        s_crank, s_idle, s_full = (h.read((), s) for s in ("crank", "idle", "full"))
        shares = {
            "crank_pa": h.held("crank", crank.get("pump", 0.0), s_crank.get("pump", 0.0)), "idle_pa": h.held("idle", idle.get("pump", 0.0), s_idle.get("pump", 0.0)),
            "full_pa": h.held("full", full.get("pump", 0.0), s_full.get("pump", 0.0)),
        }  # fmt: skip
        energy = _squared(idle, s_idle, "coils"), _squared(crank, s_crank, "coils")
        fed = crank.get("injector_feed", 12.0) > 5.0 and idle.get("injector_feed", 12.0) > 5.0
        off: dict[str, Any] = {
            "crank_v": TIDY_CRANK_V * _share(crank, s_crank, "unit"), "run_v": TIDY_RUN_V * _share(idle, s_idle, "unit"), "wakes": crank.get("ignition", 12.0) > 5.0, "starter": _share(crank, s_crank, "starter"),
            "charges": idle["charging"] > 12.6 or s_idle["charging"] <= 12.6, "energy": energy[0], "energy_crank": energy[1], "flow": 1.0 if fed else 0.0, **shares,
        }  # fmt: skip
        if prime.get("pump", 12.0) < 3.0:
            off["pump"] = "silent"
        volts = {
            "feed_drop": crank["feed_drop"], "ground_pin": idle["ground_pin"], "block_volts": abs(crank.get("block_volts", 0.0)), "ignition_crank": crank.get("ignition", 0.0),
            "pump_volts": prime.get("pump", 0.0), "injector_feed": run.get("injector_feed", 12.0), "coil_plus": idle.get("coil_plus", 12.0), "five_volts": run.get("five_volts", 5.0), "charging": idle["charging"],
        }  # fmt: skip
        return Made(Ails(**(off | ails)), finds or {}, volts, wrong)

    def fault(self, key: str, joint: str | None, ohms: float = OPEN, between: tuple[str, str] | None = None) -> Fault:
        """A fault of the harness by the joint that it changes. Raises Impossible where this harness has no such joint."""
        if joint is not None and joint not in self.joints:
            raise Impossible("this harness has no such wire or joint")
        return Fault(key, key, key, None, joint, ohms, between)

    @cached_property
    def joints(self) -> set[str]:
        """Every wire and joint of the harness by name."""
        return {key for key, _ in self.harness.electric.branches} | set(self.harness.electric.made)

    def has(self, sensor: str) -> bool:
        """Whether a sensor is there: fitted, or not decided against."""
        return any(row.kind == sensor and row.state != "struck" for row in self.w.sensors.rows)

    def needs(self, there: bool, why: str) -> None:
        """Raises Impossible with `why` where something is not there."""
        if not there:
            raise Impossible(why)

    def one(self, share: float, others: float = 1.0, which: int = 1, many: int = 1) -> tuple[float, ...]:
        """A share [1] for one cylinder (or `many` in a row), another for the rest."""
        n = self.cylinders
        bad = {(which + k) % n for k in range(many)}
        return tuple(share if c in bad else others for c in range(n))

    def pressures(self, patch: Patch) -> dict[str, float]:
        """Pressures of the fuel system after a change of the build [share of what they were]. Raises Impossible where it would not be one."""
        try:
            after = work_out(edited(self.document, patch, self.b)[2], self.w, only=_FOR_FUEL).fuel.points
        except (BuildError, NotConverged, PatchError) as error:
            raise Impossible("the fuel system finds no balance with it") from error
        before = self.w.fuel.points
        return {
            f"{key}_pa": after[key].across_pa / before[key].across_pa if before[key].across_pa > 0 else 1.0
            for key in ("crank", "idle", "full")
        }

    def meter(self, made: Made, red: str, black: str, state: KeyState) -> float:
        """What a meter shows [V] with a fault in the harness. Raises KeyError for a terminal that is not there, NotConverged where it does not settle."""
        live, changes = self.harness.with_faults(faults_in(made.wrong, state), state)
        return live.volts(red, black, changes)


Makes = Callable[[Case], Made]


def registry() -> tuple[dict[str, Makes], Callable[[Makes], Makes]]:
    """An empty table of faults by their key, and what puts a function into it under its own name."""
    faults: dict[str, Makes] = {}

    def put(make: Makes) -> Makes:
        faults[make.__name__] = make
        return make

    return faults, put


def _share(now: dict[str, float], sound: dict[str, float], key: str) -> float:
    whole = sound.get(key, 0.0)
    return max(now.get(key, 0.0), 0.0) / whole if whole > 0 else 1.0


def _squared(now: dict[str, float], sound: dict[str, float], key: str) -> float:
    return min(_share(now, sound, key), 1.0) ** 2


_FOR_FUEL = resting_on("fuel")
