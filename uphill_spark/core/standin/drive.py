"""A drive of the stand-in: a set cycle over town, hills and two pulls, with errors put in that nobody is told, and what its control unit would log of it.

On the cycle the road holds the engine at a speed while the foot finds a load, as hills do; in a pull the car's own mass holds it back. Errors are put into the car, never into the control unit: the unit runs the
person's own tables and figures.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ..circuit.states import CHARGING_V
from ..physics import arith as m
from ..physics.air import Array
from ..stages.engine.run import AIR_DENSITY, ROLLING, ROTATING, G
from ..stages.tune import Table
from ..stages.tune.axes import OPENINGS, manifold_by_throttle
from ..stages.tune.in_use import by_throttle
from ..worked import Worked
from .ails import Ails, lanes_of
from .engine import STEP, Filled
from .plant import plant_of, quick
from .running import RUN, START, Running
from .unit import Grid

EVERY = 5  # steps between two rows: twenty a second
WARM_C, OUTSIDE_C = 86.0, 14.0
#: Of a car that nothing is told of: kg for each litre of engine and besides, gears, final drive, rolling radius [m], drag area [m2].
USUAL_CAR = (190.0, 640.0, (3.54, 2.12, 1.36, 1.0), 3.9, 0.31, 0.85)
SETTLES_S, PUSHED_AFTER_S = 2.5, 8.0  # s to come to a speed; of the starter, after which it is pushed
FOOT = 0.9  # of the load that is missing, by how much of the pedal the foot answers in a second
SOAKS_C, AIRFLOW_C, SOAKS_S = (
    40.0,
    8.0,
    30.0,
)  # K over outside at the air sensor standing and driving, s in which it gets two thirds of the way
NOISE = {"lambda": 0.008, "manifold": 0.25, "throttle": 0.08, "speed": 4.0, "volts": 0.04, "rail": 1.0, "road_speed": 0.15}
PEGS = (0.65, 1.36)  # that the sensor's controller says at most
HEATS_S = 22.0  # until the sensor's element is hot: it says its leanest till then
DELAY = 6  # rows that a lag may have at most on top of the sensor's own


@dataclass(frozen=True, slots=True)
class Truth:
    """What is really so and not as the unit has it: flow of an injector over the figure typed in [share]; dead time longer by [s]; how far the regulator sees the outside [share]; charge denser for each 100 K that the air sensor
    reads over 20 degC [share]; pressure that is gone at full flow [share]; fuel that wets the wall more than told [share of a squirt]; leaner second bank [share]; filling off by bumps [share] of a seed; noise over usual;
    lag of the sensor on top of its own [s]; its drift over the drive [share]."""

    flow: float = 1.0
    dead_s: float = 0.0
    open_air: float = 0.0
    air: float = 0.0
    sags: float = 0.0
    tip: float = 0.0
    bank: float = 0.0
    bumps: float = 0.0
    seed: int = 1
    noise: float = 1.0
    delay_s: float = 0.0
    drift: float = 0.0


@dataclass(frozen=True, slots=True)
class Leg:
    """A stretch: what is done, for how long [s], at which share of the speed between idle and full power, at which share of the pressure outside, in which gear."""

    do: str
    seconds: float
    rpm: float = 0.0
    load: float = 0.0
    gear: int = 3


@dataclass(frozen=True, slots=True)
class Driven:
    """The car on its wheels: mass [kg], gears, final drive, rolling radius [m], drag area [m2], and whether that was told."""

    mass: float
    gears: tuple[float, ...]
    final: float
    tyre: float
    drag_area: float
    told: bool

    def whole(self, gear: int) -> float:
        """Turns of the engine for one of the wheels [1], in a gear from 1; in the highest for one that it has not."""
        return self.gears[min(gear, len(self.gears)) - 1] * self.final

    def speed(self, rev_s: Array, gear: int) -> Array:
        """Speed [m/s] at a speed of the engine [rev/s]."""
        return rev_s * 2 * math.pi * self.tyre / self.whole(gear)

    def at(self, rev_s: float, gear: int) -> float:
        """The same of one speed [rev/s] in m/s [m/s]."""
        return rev_s * 2 * math.pi * self.tyre / self.whole(gear)

    def road(self, rev_s: Array, gear: int) -> tuple[Array, float]:
        """Torque [N m] that the level road takes at the crank, and inertia [kg m2] of the car there."""
        v, whole = self.speed(rev_s, gear), self.whole(gear)
        force = 0.5 * AIR_DENSITY * self.drag_area * v**2 + ROLLING * self.mass * G
        factor = ROTATING[0] - 1 + ROTATING[1] * whole**2
        return force * self.tyre / whole, self.mass * (1 + factor) * (self.tyre / whole) ** 2


def driven(w: Worked) -> Driven:
    """The car of a build: as its run tells it, else as usual for the size of its engine."""
    e, run = w.build.engine, w.build.engine.run
    litre, besides, gears, final, tyre, drag = USUAL_CAR
    if run is None or not run.gears:
        mass = run.mass.si if run else besides + litre * e.displacement.si * 1e3
        return Driven(mass, gears, final, tyre, run.drag_area.si if run else drag, False)
    return Driven(run.mass.si, tuple(float(g) for g in run.gears), run.final_drive.si, run.tyre.si, run.drag_area.si, True)


def set_cycle(seed: int = 0, *, cold: bool = True) -> list[Leg]:
    """The legs of a drive. With `cold` it begins at the key on a cold engine, else warm and running."""
    draw = np.random.default_rng(seed)
    legs = [Leg("off", 3), Leg("start", 12), Leg("idle", 35)] if cold else [Leg("idle", 6)]
    if cold:
        legs += [Leg("warm", 14, 0.16 + 0.05 * (k % 4), 0.42 + 0.07 * (k % 3), 2 + k % 3) for k in range(40)]
    speeds, loads = (0.14, 0.22, 0.31, 0.41, 0.52, 0.64, 0.78), (0.36, 0.46, 0.57, 0.68, 0.80, 0.92)
    places = [(r, x) for r in speeds for x in loads if not (x > 0.85 and r < 0.2) and not (x < 0.4 and r > 0.6)]
    order = draw.permutation(len(places))
    for k, at in enumerate(order):
        r, x = places[int(at)]
        legs.append(
            Leg(
                "hold",
                5.5,
                r + 0.02 * float(draw.uniform(-1, 1)),
                x + 0.02 * float(draw.uniform(-1, 1)),
                2 if r > 0.6 else 3 if r > 0.3 else 4,
            )
        )
        if k % 9 == 4:
            legs += [Leg("lift", 3.0, 0.25, 0.0, 3), Leg("idle", 14)]
        if k % 4 == 2:
            legs += [Leg("hold", 3.0, 0.22 + 0.05 * (k % 3), 0.42, 3), Leg("tip", 2.6, 0.0, 0.86, 3)]
    return [*legs, Leg("idle", 40), Leg("hold", 6, 0.25, 0.5, 3), Leg("hold", 6, 0.4, 0.6, 3), Leg("pull", 14, 0.18, 1.0, 3), Leg("lift", 3, 0.3, 0.0, 3),
            Leg("pull", 14, 0.18, 1.0, 3), Leg("hold", 6, 0.3, 0.5, 4), Leg("idle", 25)]  # fmt: skip


def bumped(table: Table, size: float, seed: int) -> list[list[float]]:
    """By what the cells of a table are multiplied: a hill and a hollow, smooth, so large [share] at most, placed by a seed."""
    draw = np.random.default_rng(seed)
    x = np.log(np.array(table.x))
    x, y = (x - x[0]) / (x[-1] - x[0]), np.array(table.y) / table.y[-1]
    field = np.zeros((len(y), len(x)))
    for sign in (1, -1):
        u, v = draw.uniform(0.25, 0.85), draw.uniform(0.35, 0.95)
        field += sign * np.exp(-(((x[None, :] - u) / 0.22) ** 2) - ((y[:, None] - v) / 0.25) ** 2)
    return [list(row) for row in 1 + size * field / max(float(np.abs(field).max()), 1e-9)]


class Drive:
    """Lanes of one cycle, each with its own truth. `fillings` are the tables of what each engine really breathes; None for the unit's own with the bumps of each truth."""

    def __init__(
        self, w: Worked, truths: Sequence[Truth], legs: Sequence[Leg], *, seed: int = 0, fillings: Sequence[Table] | None = None
    ) -> None:
        self.w, self.truths, self.legs = w, list(truths), list(legs)
        self.car_on_road = driven(w)
        self._noise = np.random.default_rng([seed, 17])
        n = len(self.truths)
        self.squirts = w.build.injectors.squirts_in_two_turns
        volts, limit = w.circuit.across("unit", "idle"), w.build.tune.typed.rev_limit or w.build.engine.rev_limit
        ails = [
            Ails(
                flow=t.flow, dead_s=t.dead_s * self.squirts, open_air=t.open_air, sags=t.sags, run_v=max(volts, 12.5), limit=limit.si * 1.02
            )
            for t in self.truths
        ]
        plant = plant_of(w, quick(w), tidy=True)
        self.throttled = plant.throttled
        own = plant.unit.tables["ve"]
        tables = fillings or [own.model_copy(update={"rows": _times(own, t)}) for t in self.truths]
        self._tables = [Grid.of(t) for t in tables]
        self._by_throttle = by_throttle(tables[0])
        warm = self.legs[0].do != "off"
        more = np.array([t.tip for t in self.truths])
        alone = n == 1 and not warm
        car = replace(plant.car, fires=1.0, wets_more=float(more[0]) if alone else more)
        cylinders, ambient = w.build.engine.cylinders, w.engine.ambient_pressure_pa
        rpm = np.array(plant.unit.tables["ve"].x)
        behind = manifold_by_throttle(w.build, (rpm / 60)[None, :], np.array(OPENINGS)[:, None] / 100, ambient)
        #: Manifold pressure [Pa] over speed and throttle, where that tells the load: fuel goes by the throttle there, and what stands behind it has to fit.
        self._behind = Grid(rpm, np.array(OPENINGS), behind) if self._by_throttle else None
        plant = replace(plant, car=car, tidy=False, wets_told=True, filled=self._filled)
        start = WARM_C if warm else OUTSIDE_C
        lanes = lanes_of(ails, cylinders)
        idle = w.build.engine.idle_speed.si
        self.running = (
            Running.alone(plant, lanes, start, OUTSIDE_C)
            if alone
            else Running(plant, lanes, np.full(n, start), np.full(n, OUTSIDE_C), np.full(n, idle) if warm else None)
        )
        self._plain = self.running.plain
        self._shown_throttle: Any = 0.0
        #: How much denser cold air is, as the tables have it that the car was begun with: what the unit makes up for by its own.
        air = next(t for t in w.tune.tables if t.key == "air_temperature")
        self._air_table = (air.x, air.rows[0])
        self._air = np.array([t.air for t in self.truths])
        self._soaked = OUTSIDE_C + AIRFLOW_C
        self.rows: list[dict[str, Any]] = []

    def _filled(self, rev_s: Array, manifold_pa: Array) -> Filled:
        """What the engine itself breathes: as its own table says, whoever runs the unit."""
        kpa = m.maximum(manifold_pa / 1e3, 5.0)
        load = self._shown_throttle if self._by_throttle else kpa
        if self._plain:
            share = self._tables[0].at(rev_s * 60, float(load))  # type: ignore[arg-type]
        else:
            one = np.asarray(rev_s) * 60
            at = np.broadcast_to(np.asarray(load, dtype=np.float64), one.shape)
            share = (
                np.array([float(t.at(one[k : k + 1], at[k : k + 1])[0]) for k, t in enumerate(self._tables)])
                if len(self._tables) <= 4
                else _each(self._tables, one, at)
            )
        filling = share / 100 * (100.0 / kpa if self._by_throttle else 1.0)
        usual = quick(self.w)(rev_s, manifold_pa)
        return Filled(m.num(filling), usual.residual, usual.best_deg)

    # The cycle
    def run(self, told: Callable[[float], None] = lambda _: None) -> list[dict[str, Array]]:
        """Drive it. Returns the columns of each lane's log, in the units of the quantities; `told` hears how far it is [0 to 1], and may raise to end it."""
        e = self.w.build.engine
        idle, top = e.idle_speed.si, e.power_speed.si
        whole, done = sum(leg.seconds for leg in self.legs), 0.0
        rev = idle
        pedal: Any = 0.0
        k = 0
        for leg in self.legs:
            if leg.do == "warm" and float(np.mean(self.running.lanes.coolant)) > WARM_C - 12:
                done += leg.seconds
                continue
            wanted, since = idle + leg.rpm * (top - idle), 0.0
            came_from = rev
            if leg.do == "pull":
                self._hold(idle + leg.rpm * (top - idle))
            while since < leg.seconds:
                pedal = self._foot(leg, pedal, since)
                held = self._held(leg, came_from, wanted, since)
                self._step(leg, pedal, held)
                rev = float(np.mean(self.running.lanes.rev_s))
                since += STEP
                if leg.do == "pull" and rev > top * 1.03:
                    break
                if k % EVERY == 0:
                    self._log(leg, since, held)
                if k % 500 == 0:
                    told(min((done + since) / whole, 1.0))
                k += 1
            done += leg.seconds
            pedal = 0.0 if leg.do in ("lift", "pull") else pedal
        return self._columns()

    def _hold(self, rev_s: float) -> None:
        x = self.running.lanes
        x.rev_s = rev_s if self._plain else np.full(len(self.truths), rev_s)  # type: ignore[assignment]

    def _held(self, leg: Leg, came_from: float, wanted: float, since: float) -> float | None:
        """Speed of the engine [rev/s] that the road holds it to; None where it turns by itself."""
        if leg.do == "start" and since > PUSHED_AFTER_S and not bool(np.all(self.running.running)):
            return self.w.build.engine.idle_speed.si * 0.8  # it would not start by itself: pushed
        if leg.do not in ("hold", "warm", "lift", "tip"):
            return None
        if leg.do == "tip":
            return came_from * (1 + 0.035 * since)
        share = min(since / SETTLES_S, 1.0)
        share = share * share * (3 - 2 * share)
        return came_from + (wanted - came_from) * share

    def _foot(self, leg: Leg, pedal: Any, since: float) -> Any:
        """How far the pedal is pressed (share)."""
        x, car = self.running.lanes, self.running.plant.car
        if leg.do in ("off", "start", "idle", "lift"):
            return pedal * 0.0 if since < 0.3 else 0.0 * pedal
        if leg.do == "pull":
            return pedal * 0 + 1.0
        if leg.do == "tip":
            return m.within(pedal + STEP * (2.5 if since < 0.25 else 0.0), 0.0, 1.0)
        missing = leg.load - x.manifold_pa / car.ambient_pa
        settled = 0.25 if since > SETTLES_S + 0.6 else 1.0
        return m.within(pedal + FOOT * missing * STEP * settled, 0.0, 1.0)

    def _step(self, leg: Leg, pedal: Any, held: float | None) -> None:
        r = self.running
        standing = leg.do in ("off", "start", "idle")
        aims = OUTSIDE_C + (SOAKS_C if standing and self._warm() else AIRFLOW_C if not standing else 0.0)
        self._soaked += (aims - self._soaked) * STEP / SOAKS_S
        r.air_c = self._soaked if self._plain else np.full(len(self.truths), self._soaked)  # type: ignore[assignment]
        denser = 1 + (float(self._air[0]) if self._plain else self._air) * (self._soaked - 20.0) / 100
        r.charge_k = m.num(293.15 / (float(np.interp(self._soaked, *self._air_table)) * denser))
        r.road = self.car_on_road.road(r.lanes.rev_s, leg.gear) if leg.do == "pull" else (0.0, 0.0)
        foot = float(np.mean(pedal)) if self._plain else np.broadcast_to(np.asarray(pedal, dtype=np.float64), len(self.truths)).copy()
        key: Any = 0 if leg.do == "off" and len(self.rows) < 10 else START if leg.do == "start" and not bool(np.all(r.running)) else RUN
        self._shown_throttle = r.plant.opened + 100 * foot * (1 - r.plant.opened / 100)
        if not self._plain:
            key = np.full(len(self.truths), key)
        r.step(key, foot)  # type: ignore[arg-type]
        if held is not None:
            self._hold(held)
        if self._behind is not None and float(np.mean(r.lanes.rev_s)) > 5.0:
            x = r.lanes
            x.manifold_pa = x.manifold_pa + (self._behind.at(x.rev_s * 60, m.num(self._shown_throttle)) - x.manifold_pa) * 0.15

    def _warm(self) -> bool:
        return float(np.mean(self.running.lanes.coolant)) > 60.0

    def _log(self, leg: Leg, since: float, held: float | None) -> None:
        """A row of the log, as the unit knows it."""
        r = self.running
        shown = r.shown
        unit = r.plant.unit
        rpm, volts = shown["speed"], shown["volts"]
        load = shown["throttle"] if self._by_throttle_unit else shown["manifold"]
        turns = np.asarray(rpm) > 0
        pulse = np.asarray(shown["meant"]) * unit.cylinders / r.plant.flow_kg_s / self.squirts * 1e3
        dead = np.asarray(unit.over("dead_time", m.num(volts)))
        gear = leg.gear if leg.do in ("hold", "warm", "pull", "lift", "tip") else 0
        speed = self.car_on_road.speed(np.asarray(r.lanes.rev_s), gear) * 3.6 if gear else np.zeros(1)
        self.rows.append({
            "time": r.t, "speed": rpm, "manifold": shown["manifold"], "throttle": np.asarray(shown["throttle"]) - r.plant.opened, "coolant": shown["coolant"], "air": shown["air"],
            "lambda": np.clip(np.asarray(shown["lambda"]), 0.3, 3.0), "target": np.asarray(unit.grid("lambda", m.num(rpm), m.num(load))) * np.ones(1), "pulse": np.where(pulse > 0, pulse + dead, 0.0) * turns, "rail": np.asarray(r.rail()) / 1e3,
            "volts": volts, "advance": shown["advance"], "road_speed": speed, "knock": np.floor(np.asarray(r.knocks)) % 256,
        })  # fmt: skip

    @property
    def _by_throttle_unit(self) -> bool:
        return by_throttle(self.running.plant.unit.tables["lambda"])

    def _columns(self) -> list[dict[str, Array]]:
        """Columns of each lane, with the noise and the lag of what measures."""
        n, rows = len(self.truths), len(self.rows)
        both = {
            key: np.array([np.broadcast_to(np.asarray(row[key], dtype=np.float64).ravel(), n) for row in self.rows])
            for key in self.rows[0]
            if key != "time"
        }
        time = np.array([row["time"] for row in self.rows])
        found = []
        for k, truth in enumerate(self.truths):
            own = {"time": time - time[0]} | {key: both[key][:, k].copy() for key in both}
            late = min(round(truth.delay_s / (STEP * EVERY)), DELAY)
            lamda = own["lambda"]
            if late:
                lamda = np.concatenate([np.full(late, lamda[0]), lamda[:-late]])
            lamda = lamda * (1 + truth.drift * own["time"] / max(own["time"][-1], 1.0))
            if (self.w.build.engine.cylinders and len(self.w.build.engine.banks or []) > 1) or truth.bank:
                own["lambda_2"] = lamda * (1 + truth.bank)
            own["lambda"] = lamda
            running = own["speed"] > 450
            for key, size in NOISE.items():
                hit = own[key] > 0
                own[key] = own[key] + self._noise.normal(0, 1, rows) * size * truth.noise * hit * (own[key] if key == "lambda" else 1.0)
            if "lambda_2" in own:
                own["lambda_2"] = own["lambda_2"] * (1 + self._noise.normal(0, NOISE["lambda"], rows) * truth.noise)
            cold = self.legs[0].do == "off"
            for key in ("lambda", "lambda_2"):
                if key in own:
                    silent = own["time"] < HEATS_S if cold else ~np.ones(rows, dtype=bool)
                    own[key] = np.round(np.clip(np.where(silent, PEGS[1], own[key]), *PEGS), 3)
            own["speed"] = np.where(running | (own["speed"] > 0), np.maximum(np.round(own["speed"]), 0), 0.0)
            digits = {
                "time": 2,
                "manifold": 1,
                "throttle": 1,
                "coolant": 1,
                "air": 1,
                "target": 3,
                "pulse": 3,
                "rail": 1,
                "volts": 2,
                "advance": 1,
                "road_speed": 1,
                "knock": 0,
            }
            found.append(
                {key: np.asarray(np.round(value, digits[key]) if key in digits else value, dtype=np.float64) for key, value in own.items()}
            )
        return found


def absolute(w: Worked, base: Worked, truth: Truth) -> tuple[Truth, Table]:
    """What is so in a car that was `base` when its errors were put in, against the build as it stands now: a figure that has been put right is off no more. Returns the truth as it is now, and the table of what its engine breathes."""
    unit, then = plant_of(w, quick(w), tidy=True).unit, plant_of(base, quick(base), tidy=True).unit
    volts = m.num(CHARGING_V)
    dead = (float(then.over("dead_time", volts)) - float(unit.over("dead_time", volts))) / 1e3
    flow = base.injectors.flow_nominal_kg_s / w.injectors.flow_nominal_kg_s
    filled = then.tables["ve"]
    seen = w.build.fuel.regulator.reference == "open_air" and w.build.injectors.unit_compensates
    return replace(
        truth, flow=truth.flow * flow, dead_s=truth.dead_s + dead, open_air=0.0 if seen else truth.open_air, bumps=0.0
    ), filled.model_copy(update={"rows": _times(filled, truth)})


def _times(table: Table, truth: Truth) -> list[list[float]]:
    if not truth.bumps:
        return table.rows
    return [
        [cell * by for cell, by in zip(row, line, strict=True)]
        for row, line in zip(table.rows, bumped(table, truth.bumps, truth.seed), strict=True)
    ]


def _each(tables: Sequence[Grid], x: Array, y: Array) -> Array:
    """A table of each lane read at its own place: all have one pair of axes."""
    first = tables[0]
    rows = np.array([t.rows for t in tables])
    x, y = np.clip(x, first.x[0], first.x[-1]), np.clip(y, first.y[0], first.y[-1])
    j = np.clip(np.searchsorted(first.x, x) - 1, 0, len(first.x) - 2)
    i = np.clip(np.searchsorted(first.y, y) - 1, 0, len(first.y) - 2)
    u, v = (x - first.x[j]) / (first.x[j + 1] - first.x[j]), (y - first.y[i]) / (first.y[i + 1] - first.y[i])
    k = np.arange(len(tables))
    low = rows[k, i, j] * (1 - u) + rows[k, i, j + 1] * u
    high = rows[k, i + 1, j] * (1 - u) + rows[k, i + 1, j + 1] * u
    return m.num(low * (1 - v) + high * v)
