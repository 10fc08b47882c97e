"""A car on the stand-in as it runs: key, starter, control unit, engine, step by step, many lanes side by side; and what its control unit and its gauges show."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, fields, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..physics import arith as m
from ..physics.air import R_AIR, Array
from ..stages.tune.curves import IDLE_AIR
from . import engine
from .ails import AilsOf
from .engine import STEP, Car, Filled, Lanes
from .unit import CRANKS_UNDER, WAKES, Unit

OFF, RUN, START = 0, 1, 2  # of the key
BASE = 0.45  # of the opening of a warm idle, what passes the plates themselves
HOT_VALVE = IDLE_AIR[-1] / 100  # of its stroke, at which the valve passes the rest
IN_STEP = 2.0  # turns of the crank before the unit is in step, and gives fuel
FIRES_AFTER = 1.5  # turns from the first fuel to the first charge that is drawn in, pressed and lit
PRIMES_S = 2.0  # that the pump runs at key on
PLATE_DEG = 82.0  # that a plate turns from shut to open
CLEARS = 80.0  # % of the throttle over which a unit that cranks gives no fuel
OVER_RUN = 2000 / 60  # rev/s over which a shut throttle is the over-run
SHUT = 1.5  # % of the throttle, under which it is shut
#: Share of a whole spark that lights a charge: in a thin idle, at full load (Heywood, ch. 9.5: what a gap asks for rises with pressure).
ASKS_IDLE, ASKS_FULL, ASKS_OVER = 0.10, 0.55, 0.10
SENSOR_S = 0.12  # of an oxygen sensor's own lag
PIPE = 0.6  # of the displacement, the pipe up to it
UNBURNT = 0.8  # of the oxygen of a charge that did not burn, the sensor counts as lean
BLOCKED_FILLS, BLOCKED_LEFT = 0.35, 0.16  # less filling, more residual, of an exhaust that is shut
HEATS, HOLDS_KJ = 0.25, 22.0  # share of the fuel's heat that warms the coolant; kJ/K for each litre of engine
THERMOSTAT = 88.0  # degC
OIL_PA, OIL_RPM, OIL_S = 4.2e5, 500.0, 1.5  # of an oil pump: highest, speed at which it makes two thirds, s until it is there
EXHAUST_IDLE, EXHAUST_FULL = 330.0, 830.0  # degC of the gas in the pipe, by how much of the full fuel burns (Heywood, ch. 6.5)
EXHAUST_S, COOLS_S = 10.0, 90.0  # s in which it gets two thirds of the way, running and standing
KNOCK_OVER, KNOCK_LOAD = (
    8.0,
    0.8,
)  # deg earlier than the best spark, share of the outside pressure: from there on a charge knocks (Heywood, ch. 9.6)
RESTED_LESS = 0.3  # V less at the posts with the key on
STANDS = 0.3  # rev/s, under which an engine stands


@dataclass(frozen=True, slots=True)
class Plant:
    """What stays the same: the car, its control unit, what the engine does by itself over speed [rev/s] and manifold [Pa]; flow of all injectors [kg/s] and the pressure [Pa] across them; fuel [kg/s] at full power;
    opening of the plates [m2] and how far they stand open at idle [%]; whether the regulator follows the manifold, whether fuel goes by throttle. `tidy` takes the filling table as right:
    the unit knows the air that its own sensors tell of. `wets_told`: it makes up for fuel on the wall by its own tables."""

    car: Car
    unit: Unit
    filled: Callable[[Array, Array], Filled]
    flow_kg_s: float
    across_pa: float
    full_kg_s: float
    plates_m2: float
    opened: float
    follows: bool
    throttled: bool
    tidy: bool = False
    wets_told: bool = False


class Running:
    """Lanes of a plant with what ails them. Begins with the engine still and the key off, unless `turning` [rev/s] is told."""

    def __init__(self, plant: Plant, ails: AilsOf, coolant: Array, air_c: Array | None = None, turning: Array | None = None) -> None:
        n = len(coolant)
        self.plant, self.ails, self.many = plant, ails, n
        nought = np.zeros(n)
        going = nought if turning is None else turning
        self.lanes = Lanes(going.copy(), m.where(going > 0, 0.45, 1.0) * plant.car.ambient_pa, nought.copy(), coolant.astype(np.float64), ails["rested_v"].copy(), nought.copy(), np.full(n, 5.0), nought.copy())  # fmt: skip
        self.air_c = coolant.copy() if air_c is None else air_c
        self.t = 0.0
        self.turned = going * 4.0
        self.since = m.where(going > 0, 60.0, 0.0)
        self.on_for, self.line, self.fuel_kg_s = nought.copy(), m.where(going > 0, 1.0, 0.0), nought.copy()
        self.over_run = np.zeros(n, dtype=bool)
        self.lamda_seen, self.oil_pa, self.coughs, self.resets = np.full(n, 1.0), nought.copy(), nought.copy(), nought.copy()
        self.running, self.over, self.pressed = going > 0, nought.copy(), self.line.copy()
        self.pumps = np.zeros(n, dtype=bool)
        self.exhaust_c, self.knocks = self.air_c.astype(np.float64), nought.copy()
        self.shown: dict[str, Array] = {}
        self.plain = False
        #: What the road asks (see `engine.step`), the charge's own temperature [K] where the sensor does not tell it, fuel that the unit takes to be on the wall of a cylinder [kg].
        self.road: tuple[Array | float, Array | float] = (0.0, 0.0)
        self.charge_k: Array | None = None
        self.film_told = nought.copy()

    @classmethod
    def alone(cls, plant: Plant, ails: AilsOf, coolant: float, air_c: float) -> Running:
        """One car by itself, in plain numbers: coolant and air [degC]. Where cylinders differ it is a lane of one."""
        found = cls(plant, ails, np.array([coolant]), np.array([air_c]))
        if ails.each is None:
            found._plain()
        return found

    def _plain(self) -> None:
        """Every array of one as the number that it holds."""
        self.ails = replace(self.ails, of={key: _first(value) for key, value in self.ails.of.items()})
        for held in (self, self.lanes):
            names = vars(self) if held is self else [f.name for f in fields(Lanes)]
            for name in list(names):
                value = getattr(held, name)
                if isinstance(value, np.ndarray):
                    setattr(held, name, _first(value))
        self.plain = True

    def step(self, key: Array, pedal: Array, *, injectors: bool = True) -> None:
        """One step of STEP seconds. `key` OFF, RUN or START; `pedal` how far it is pressed (share)."""
        p, a, x = self.plant, self.ails, self.lanes
        unit, rev = p.unit, x.rev_s
        turning = rev > STANDS
        x.starter = m.where((key == START) & m.no(self.running), a["starter"], 0.0)
        on = (key >= RUN) | ((a["runs_on"] > 0) & turning)
        cranking = x.starter > 0
        charging = (a["charges"] > 0) & (rev > CRANKS_UNDER) & self.running
        volts = m.where(cranking, a["crank_v"], m.where(charging, a["run_v"], m.minimum(a["rested_v"] - RESTED_LESS, a["run_v"])))
        awake = on & (volts >= WAKES) & m.no((key == START) & (a["wakes"] <= 0))
        self.resets += m.where(on & m.no(awake) & (self.on_for > 0), 1.0, 0.0)
        self.on_for = m.where(awake, self.on_for + STEP, 0.0)
        seen = awake & turning & (rev >= a["seen_from"]) & (rev <= a["seen_to"])
        self.turned = m.where(seen, self.turned + rev * STEP, 0.0)
        in_step = self.turned >= IN_STEP
        cranks = rev < CRANKS_UNDER
        plates = m.within(pedal + a["held"], 0.0, 1.0)
        shown = self._sensors(plates)
        valve = unit.idle_valve(rev, shown["coolant"], cranks)
        passes = m.where(m.isnan(a["valve"]), valve, a["valve"])
        known = p.car.idle_m2 * (BASE + (1 - BASE) * passes / HOT_VALVE) + p.plates_m2 * (1 - m.cos(math.radians(PLATE_DEG) * plates))
        opening = known + a["leak_m2"]
        fuel, meant = self._fuel(in_step, cranks, shown, awake, (known, opening), injectors=injectors)
        spark, told = self._spark(cranks, shown)
        lit = self._lit(cranks, self.turned >= IN_STEP + FIRES_AFTER)
        itself = p.filled(rev, x.manifold_pa)
        itself = Filled(
            itself.filling * a["filling"] * (1 - BLOCKED_FILLS * a["back"]),
            itself.residual + a["residual"] + BLOCKED_LEFT * a["back"],
            itself.best_deg,
        )
        charge_k = self.air_c + 273.15 if self.charge_k is None else self.charge_k
        engine.step(p.car, x, itself, opening, fuel, spark, charge_k, a.each, lit, self.road, calm=p.wets_told)
        self._after(fuel, lit, in_step)
        knocks = (spark - itself.best_deg > KNOCK_OVER) & (x.manifold_pa > KNOCK_LOAD * p.car.ambient_pa) & (fuel > 0) & self.running
        self.knocks += m.where(knocks, lit * rev / 2 * p.unit.cylinders * STEP, 0.0)
        self.t += STEP
        self.shown = shown | {
            "speed": m.where(in_step, x.rev_s, 0.0) * 60, "volts": m.where(awake, volts, 0.0), "advance": m.where(in_step, told, 0.0), "valve": valve * 100, "meant": m.where(in_step, meant, 0.0),
            "lambda": m.where(m.isnan(a["lamda_stuck"]), self.lamda_seen * a["lamda"], a["lamda_stuck"]), "awake": m.num(awake), "posts": volts,
        }  # fmt: skip

    def _sensors(self, plates: Array) -> dict[str, Array]:
        """What the unit reads: coolant and air [degC], manifold [kPa], throttle [%]."""
        a, x = self.ails, self.lanes
        manifold = x.manifold_pa / 1e3 * a["gain"] + a["swings"] * math.sin(2 * math.pi * self.t) * self.running
        throttle = self.plant.opened + 100 * plates * (1 - self.plant.opened / 100) + a["throttle_off"]
        throttle = m.where(a["reversed"] > 0, 100 - throttle, throttle)
        return {
            "coolant": m.where(m.isnan(a["coolant"]), x.coolant + a["sender"], a["coolant"]),
            "air": self.air_c,
            "manifold": m.where(m.isnan(a["manifold"]), manifold, a["manifold"]),
            "throttle": m.where(m.isnan(a["throttle"]), throttle, a["throttle"]),
        }

    def _fuel(self, in_step: NDArray[np.bool_], cranks: NDArray[np.bool_], shown: dict[str, Array], awake: NDArray[np.bool_], opening: tuple[Array, Array], *, injectors: bool) -> tuple[Array, Array]:  # fmt: skip
        """Fuel that comes, a cycle and all cylinders [kg]; what the unit means to give one cylinder [kg]."""
        p, a, x = self.plant, self.ails, self.lanes
        pumps = awake & ((self.on_for < PRIMES_S) | (self.turned > 0)) | (a["pump_on"] > 0) & awake
        pumps = m.where(a["pump_silent"] > 0, False, m.where(a["pump_stays"] > 0, m.no(awake), pumps))
        self.pumps = pumps
        self.line = m.within(self.line + m.where(pumps, STEP / a["fills_s"], -STEP / a["empties_s"]), 0.0, 1.0)
        load = m.within(self.fuel_kg_s / p.full_kg_s, 0.0, 1.0)
        share = m.where(x.starter > 0, a["crank_pa"], a["idle_pa"] + (a["full_pa"] - a["idle_pa"]) * load)
        share = share * (1 + a["open_air"] * (p.car.ambient_pa - x.manifold_pa) / p.across_pa)
        share = share * (1 - a["sags"] * m.within((load - a["sags_from"]) / (1 - a["sags_from"]), 0.0, 1.0))
        self.pressed = share * m.within((self.line - 0.8) / 0.2, 0.0, 1.0)
        filled = self._known(shown, opening) if p.tidy else None
        meant = p.unit.sprays(x.rev_s, shown["manifold"] * 1e3, shown["throttle"], shown["coolant"], self.air_c, self.since, cranks, filled)
        shut = shown["throttle"] - p.opened < SHUT
        self.over_run = m.where(shut & (x.rev_s > OVER_RUN), True, self.over_run & shut & (x.rev_s > a["resumes"]))
        none = (cranks & (shown["throttle"] > CLEARS)) | self.over_run | (x.rev_s > a["limit"]) | (self.since > a["dies_s"])
        gives = in_step & m.no(none) & injectors
        more = a["typed"] * m.where(cranks, a["cranking"], 1.0)
        if p.wets_told:
            meant = self._for_the_wall(meant, shown["coolant"], gives & m.no(cranks))
        came = meant * p.unit.cylinders * more * a["flow"] * m.sqrt(self.pressed) - a["dead_s"] * p.flow_kg_s
        fuel = m.where(gives, m.maximum(came, 0.0), 0.0)
        self.fuel_kg_s = fuel * x.rev_s / 2
        return fuel, m.where(gives, meant * more, 0.0)

    def _for_the_wall(self, meant: Array, coolant: Array, gives: NDArray[np.bool_]) -> Array:
        """What is sprayed [kg, a cylinder and cycle] so that `meant` goes in, by the unit's own tables of what wets the wall and how fast it dries (Aquino, SAE 810494, turned round)."""
        unit, turns = self.plant.unit, m.maximum(self.lanes.rev_s * STEP / 2, 1e-6)
        wets, dries = m.within(unit.over("tip_in_share", coolant), 0.0, 0.9), unit.over("tip_in_time", coolant)
        off = self.film_told * m.within(STEP / dries, 0.0, 1.0)
        sprayed = m.where(gives, m.minimum(m.maximum((meant - off / turns) / (1 - wets), 0.3 * meant), 3.0 * meant), meant)
        self.film_told = m.where(gives, self.film_told - off + wets * sprayed * turns, self.film_told - off)
        return m.num(sprayed)

    def _known(self, shown: dict[str, Array], opening: tuple[Array, Array]) -> Array:
        """Fuel [share of what fills a cylinder] for the air that the unit knows of, with a table that is right: by the manifold as it reads it, or by what passes the plates and not what leaks in beside them."""
        p, x = self.plant, self.lanes
        seen = x.manifold_pa * opening[0] / opening[1] if p.throttled else shown["manifold"] * 1e3
        air_kg = p.filled(x.rev_s, m.within(seen, 8e3, None)).filling * seen / (R_AIR * (self.air_c + 273.15)) * p.car.displacement
        return m.num(air_kg / (p.car.stoich * p.unit.cylinders * p.unit.full_kg))

    def _spark(self, cranks: NDArray[np.bool_], shown: dict[str, Array]) -> tuple[Array, Array]:
        """When the spark comes, and when the unit means it to [deg before top]."""
        a, rev = self.ails, self.lanes.rev_s
        told = self.plant.unit.spark(rev, shown["manifold"] * 1e3, shown["throttle"], shown["coolant"], cranks)
        told = m.where(m.isnan(a["advance"]) | cranks | (rev > OVER_RUN), told, a["advance"])
        return told + a["angle"] + a["drift"] * rev * 60 / 1000 + a["early_s"] * rev * 360, told

    def _lit(self, cranks: NDArray[np.bool_], in_step: NDArray[np.bool_]) -> Array:
        """Share of sparks that light a charge: more pressure asks for more of a spark."""
        a = self.ails
        strong = m.where(cranks, a["energy_crank"], a["energy"])
        asks = ASKS_IDLE + (ASKS_FULL - ASKS_IDLE) * m.where(cranks, 0.2, self.lanes.manifold_pa / self.plant.car.ambient_pa)
        return m.num(m.where(in_step, m.within((strong - asks) / ASKS_OVER + 0.5, 0.0, 1.0) * a["fires"], 0.0))

    def _after(self, fuel: Array, lit: Array, in_step: NDArray[np.bool_]) -> None:
        """What follows from a step: whether it runs, what the oxygen sensor says, warmth, oil, coughs."""
        p, a, x = self.plant, self.ails, self.lanes
        caught = x.rev_s > CAUGHT
        self.over = m.where(caught, self.over + STEP, 0.0)
        self.running = m.where(x.rev_s < STANDS, False, self.running | (self.over >= HELD))
        self.since = m.where(self.running, self.since + STEP, 0.0)
        fired = (x.burned if isinstance(x.burned, float) or x.burned.ndim == 1 else x.burned.mean(axis=0)) * lit
        flow = m.maximum(x.rev_s / 2 * p.car.displacement * x.manifold_pa / p.car.ambient_pa, 1e-5)  # m3/s, about
        lag = SENSOR_S + PIPE * p.car.displacement / flow
        seen = m.within(x.lamda, 0.4, 3.0) / (1 - UNBURNT * m.within(1 - fired, 0.0, 1.0) * (fuel > 0))
        self.lamda_seen += (m.within(seen, 0.4, 3.0) - self.lamda_seen) * m.within(STEP / lag, 0.0, 1.0)
        heat = self.fuel_kg_s * p.car.heating * HEATS / (HOLDS_KJ * 1e3 * p.car.displacement * 1e3)
        x.coolant = x.coolant + m.where(x.coolant < THERMOSTAT, heat, 0.0) * STEP
        self.oil_pa += (OIL_PA * (1 - m.exp(-x.rev_s * 60 / OIL_RPM)) - self.oil_pa) * STEP / OIL_S
        burning = EXHAUST_IDLE + (EXHAUST_FULL - EXHAUST_IDLE) * m.within(self.fuel_kg_s / p.full_kg_s, 0.0, 1.0)
        self.exhaust_c += m.where(self.running, (burning - self.exhaust_c) / EXHAUST_S, (self.air_c - self.exhaust_c) / COOLS_S) * STEP
        burnable = (x.lamda > engine.RICH[1]) & (x.lamda < engine.LEAN[1]) & (fuel > 0)
        lean = (x.lamda > engine.LEAN[0]) & (x.lamda < engine.LEAN[1]) & m.no(self.running) & (lit > 0)
        self.coughs += m.where(burnable & in_step & (a["wrong"] > 0) | lean, x.rev_s / 2 * STEP, 0.0)

    def rail(self, manifold_pa: Array | None = None) -> Array:
        """Gauge pressure at the rail [Pa]."""
        p, x = self.plant, self.lanes
        follows = m.where(p.follows, (x.manifold_pa if manifold_pa is None else manifold_pa) - p.car.ambient_pa, 0.0)
        return m.num(m.maximum(self.pressed * p.across_pa + m.where(self.pressed > 0.05, follows, 0.0), 0.0))


def _first(value: Any) -> Any:
    one = value[0]
    return bool(one) if value.dtype == np.bool_ else float(one)


CAUGHT, HELD = 450.0 / 60, 0.4  # rev/s over which it has caught, s for which it has to stay there
