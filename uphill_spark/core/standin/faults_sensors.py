"""Faults of sensors, of what was typed into the unit, and of the engine itself."""

from __future__ import annotations

from .case import Case, Made, registry

FAULTS, _a = registry()
COLDEST, HOTTEST = -40.0, 145.0  # degC that an open and a shorted sender read
BY_GAUGE = 24.0  # K, of a gauge's current through the same sender
OTHER_CURVE = 20.0  # K
ADVANCED = 35.0  # deg
PETROL, ALCOHOL = 14.2, 9.8  # stoichiometric ratios


def _coolant(c: Case) -> None:
    c.needs(c.has("coolant_temperature"), "it has no coolant sensor")


def _manifold(c: Case) -> None:
    c.needs(c.has("manifold_pressure"), "it has no manifold pressure sensor")


def _throttle(c: Case) -> None:
    c.needs(c.has("throttle_position"), "it has no throttle sensor")


@_a
def coolant_open(c: Case) -> Made:
    """Full pull-up: the coldest."""
    _coolant(c)
    return c.off(coolant=COLDEST)


@_a
def coolant_short(c: Case) -> Made:
    """No volts: the hottest."""
    _coolant(c)
    return c.off(coolant=HOTTEST)


@_a
def coolant_curve(c: Case) -> Made:
    """Another sender's ohms."""
    _coolant(c)
    return c.off(sender=-OTHER_CURVE)


@_a
def sender_shared(c: Case) -> Made:
    """The gauge's current warms the reading."""
    _coolant(c)
    return c.off({"gauge_unplug": "jumps"}, sender=BY_GAUGE)


@_a
def map_hose_off(c: Case) -> Made:
    """It reads the air outside."""
    _manifold(c)
    return c.off(manifold=c.w.engine.ambient_pressure_pa / 1e3)


@_a
def map_tee(c: Case) -> Made:
    """The booster's draught swings it."""
    _manifold(c)
    c.needs(any(x.kind == "brake_booster" for x in c.b.air.consumers), "no brake booster hangs on its manifold")
    return c.off({"pinch_tee": "calms", "idle_hunts": "hunts"}, swings=7.0)


@_a
def map_range(c: Case) -> Made:
    """Another sensor's volts."""
    _manifold(c)
    return c.off(gain=1.3)


@_a
def throttle_reversed(c: Case) -> Made:
    """Shut reads as open: flood clear while it cranks."""
    _throttle(c)
    return c.off(reversed=True)


@_a
def throttle_supply(c: Case) -> Made:
    """It hardly moves."""
    _throttle(c)
    return c.off({"throttle_pins": "mixed"}, throttle=45.0)


@_a
def oxygen_leak(c: Case) -> Made:
    """Air is drawn in between two pulses."""
    return c.off({"soap": "blows"}, lamda=1.17)


@_a
def oxygen_cold(c: Case) -> Made:
    """Pinned."""
    return c.off({"heater_ohms": "dead"}, lamda_stuck=1.6)


@_a
def air_soaked(c: Case) -> Made:
    """It reads the manifold's heat after standing."""
    c.needs(c.has("intake_air_temperature"), "it has no air sensor")
    return c.off({"soak_look": "far", "hot": "lean"})


@_a
def injector_figure(c: Case) -> Made:
    """A quarter too small: pulses a third too long."""
    return c.off({"constants": "injector"}, typed=1 / 0.75)


@_a
def cylinders_typed(c: Case) -> Made:
    """Two less: each gets more."""
    n = c.cylinders
    c.needs(n > 2, "of so few cylinders none can be left out")
    return c.off({"constants": "cylinders"}, typed=n / (n - 2))


@_a
def dead_time_zero(c: Case) -> Made:
    """Every pulse too short by the same time."""
    return c.off({"constants": "dead_time"}, dead_s=c.w.injectors.dead_time["12"])


@_a
def order_typed(c: Case) -> Made:
    """Half of them lit in another's turn."""
    n = c.cylinders
    c.needs(c.b.ignition.kind in ("coil_per_plug", "wasted_spark") and n > 2, "one coil fires all of it: the rotor knows the order")
    good = n // 2 if n > 3 else 1
    return c.off({"constants": "order"}, lit=tuple(1.0 if k < good else 0.0 for k in range(n)), wrong=1 - good / n)


@_a
def cranking_low(c: Case) -> Made:
    """40 %."""
    return c.off(cranking=0.4)


@_a
def cranking_high(c: Case) -> Made:
    """Three times."""
    return c.off(cranking=3.0)


@_a
def idle_advance(c: Case) -> Made:
    """Too much for a slow engine: the valve shuts to hold it."""
    c.needs(c.b.ignition.timed_by_unit, "its unit does not time the spark")
    return c.off({"light_idle": 12.0 + ADVANCED - 14.0}, advance=ADVANCED)


@_a
def limit_low(c: Case) -> Made:
    """Fuel is cut under the idle speed."""
    return c.off({"limits": "low"}, limit=0.8 * c.b.engine.idle_speed.si)


@_a
def fuel_choice(c: Case) -> Made:
    """Mixture of the other fuel."""
    return c.off({"constants": "fuel"}, typed=ALCOHOL / PETROL if c.b.engine.fuel == "E85" else PETROL / ALCOHOL)


@_a
def base_pressure(c: Case) -> Made:
    """A bar too much typed: pulses too short by the root."""
    held = c.b.fuel.regulator.set_pressure.si
    return c.off({"constants": "pressure"}, typed=(held / (held + 1e5)) ** 0.5)


@_a
def half_written(c: Case) -> Made:
    """Nonsense in the filling table."""
    return c.off({"file_compare": "differs"}, typed=0.62)


@_a
def over_run_idle(c: Case) -> Made:
    """Fuel comes back only when it has all but stopped."""
    return c.off({"lift_slowly": "lives"}, resumes=250 / 60)


@_a
def valve_burnt(c: Case) -> Made:
    """One cylinder presses a third."""
    return c.off({"compression": 32.0}, air=c.one(0.6), lit=c.one(0.2))


@_a
def chain_jumped(c: Case) -> Made:
    """Valves late: less filling, more left in it."""
    return c.off({"cam_mark": "late", "load": "fades"}, filling=0.7, residual=0.07)


@_a
def tight_valves(c: Case) -> Made:
    """Valves that do not quite shut."""
    return c.off({"clearance": "none", "hot": "dies"}, filling=0.8, residual=0.05)
