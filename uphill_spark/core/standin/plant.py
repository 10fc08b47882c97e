"""A car on the stand-in made from its build: engine, control unit with the tables in use, fuel system, plates."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

import numpy as np

from ..physics import arith as m
from ..physics.air import Array, orifice_flow
from ..stages.engine import fuel_data
from ..stages.engine.measures import HEATING
from ..stages.ignition.charge import dwell
from ..stages.tune.curves import TIP_IN_COOLANT, TIP_IN_SHARE, TIP_IN_TIME
from ..stages.tune.in_use import tables_in_use
from ..worked import Worked
from .ails import Ails
from .engine import Car, Filled
from .running import Plant
from .unit import Unit

Itself = Callable[[Array, Array], Filled]
USUAL_PLATE = 0.9  # of the bore's area, of a plate that is wide open
#: Residual (share) of an engine at a fifth of the outside pressure and at all of it; best spark [deg before top] at full load and idle speed, and what a thin charge and each 1,000 rpm ask more (Heywood, ch. 6.4, 9.4).
LEFT = (0.34, 0.07)
BEST = (16.0, 20.0, 5.0)
ROOM_K = 293.15
RESTED_V = 12.6  # of a battery that nobody measured


def plant_of(w: Worked, filled: Itself, scaled: Mapping[str, Array] | None = None, *, tidy: bool = False) -> Plant:
    """The plant of a build; `filled` what its engine does by itself, `scaled` what is tried of its tables, lane by lane."""
    tables = {t.key: t for t in tables_in_use(w.tune.tables, w.in_use)}
    unit = Unit(tables, w.tune.fuel_per_cycle_kg, w.build.engine.cylinders, scaled or {})
    i, e = w.injectors, w.engine
    throttled = w.tune.load_signal == "throttle"
    return Plant(
        car=_car(w, 1.0 if tidy else in_turn(w)), unit=unit, filled=filled, flow_kg_s=i.flow_nominal_kg_s * w.build.injectors.count, across_pa=w.fuel.points["prime"].held_across_pa,
        full_kg_s=e.fuel_mass_flow_kg_s, plates_m2=_plates(w), opened=next(m.load for m in w.tune.landmarks if m.key == "idle") if throttled else 0.0,
        follows=w.build.fuel.regulator.reference == "manifold", throttled=throttled, tidy=tidy,
    )  # fmt: skip


def _car(w: Worked, fires: float) -> Car:
    e, fuel = w.build.engine, fuel_data(w.build.engine)
    held, ambient = w.engine.idle_manifold_pressure_pa, w.engine.ambient_pressure_pa
    swallowed = w.engine.idle_fuel_mass_flow_kg_s * fuel.stoich * w.build.tune.idle_lambda
    each = float(orifice_flow(np.array([1.0]), ambient, ROOM_K, np.array([held / ambient]))[0])
    enters = w.build.injectors.enters
    return Car(
        displacement=e.displacement.si, ambient_pa=ambient, heating=HEATING[e.fuel], stoich=fuel.stoich, fires=fires, idle_m2=swallowed / each, wets=np.array(TIP_IN_SHARE[enters]),
        dries_s=np.array(TIP_IN_TIME[enters]), wall_at=np.array(TIP_IN_COOLANT),
    )  # fmt: skip


def in_turn(w: Worked) -> float:
    """How many cylinders fire in their turn [share], by the order that was typed into the unit."""
    typed, order = w.build.tune.typed.firing_order, w.build.engine.firing_order
    if typed is None:
        return 1.0
    return max(sum(a == b for a, b in zip(typed, order[k:] + order[:k], strict=False)) for k in range(len(order))) / len(order)


def pressed(w: Worked) -> tuple[float, float, float]:
    """Pressure across an injector while it cranks, idles and at full power, as the system holds it, over what it is set to [share]."""
    points = w.fuel.points
    nominal = points["prime"].held_across_pa
    if nominal <= 0:
        return 0.0, 0.0, 0.0
    return tuple(max(points[k].across_pa, 0.0) / nominal for k in ("crank", "idle", "full"))  # type: ignore[return-value]


def as_built(w: Worked) -> Ails:
    """What ails a build as it stands: volts as they were measured, else as its harness is solved; pressures of its own fuel system; sparks by its outputs, its edge, its trigger and its limit as they are told."""
    crank, idle, full = pressed(w)
    rest, g = w.build.wiring.battery.rest, w.build.ignition
    volts = w.wiring.crank_v if w.wiring.crank_v is not None else w.circuit.across("unit", "crank")
    on_time = w.ignition.cylinders_on_time
    n = w.build.engine.cylinders
    lit = () if on_time is None or on_time >= n else (1.0,) * on_time + (0.0,) * (n - on_time)
    wrong_edge = g.timed_by_unit and (g.igniter.fires_on if g.igniter else g.coil.fires_on) != g.edge
    limit = w.build.tune.typed.rev_limit or w.build.engine.rev_limit
    return Ails(
        rested_v=rest.si if rest else RESTED_V, crank_v=volts, run_v=w.circuit.across("unit", "idle"), crank_pa=crank, idle_pa=idle, full_pa=full, lit=lit, wrong=(n - len([x for x in lit if x])) / n if lit else 0.0,
        early_s=(dwell(w.build, volts) or 0.0) if wrong_edge else 0.0, angle=(w.trigger.light_offset_deg or 0.0) if w.trigger is not None else 0.0, limit=limit.si,
    )  # fmt: skip


def _plates(w: Worked) -> float:
    """Opening of the throttle plates, wide open [m2]: as told, else so that full power loses a usual part of the pressure."""
    t = w.build.air.throttle
    if t is not None and t.bore is not None:
        return (t.bores or 1) * math.pi / 4 * t.bore.si**2 * USUAL_PLATE
    ambient = w.engine.ambient_pressure_pa
    return w.engine.full_air_kg_s / float(orifice_flow(np.array([1.0]), ambient, ROOM_K, np.array([0.97]))[0])


def quick(w: Worked) -> Itself:
    """What the engine does by itself, from its quick figures: filling straight from idle to full load."""
    e = w.engine
    low, high, ambient = e.idle_manifold_pressure_pa, e.ambient_pressure_pa, e.ambient_pressure_pa

    def filled(rev_s: Array, manifold_pa: Array) -> Filled:
        share = m.within((manifold_pa - low) / (high - low), -0.3, 1.0)
        load = m.within(manifold_pa / ambient, 0.2, 1.0)
        best = BEST[0] + BEST[1] * (1 - load) + BEST[2] * rev_s * 60 / 1000
        left = LEFT[0] + (LEFT[1] - LEFT[0]) * (load - 0.2) / 0.8
        return Filled(e.idle_filling + (e.full_filling - e.idle_filling) * share, left, best)

    return filled
