"""Injectors: flow at working pressure, duty at full power, pulse at idle, the window of rated flows that passes both ends."""

from __future__ import annotations

import math

import numpy as np

from ..build import Build
from ..build.injectors import Injectors, flow_si
from ..figures import Result, Spec
from .engine import EngineResult, fuel_data
from .fuel import FuelResult

#: Density [kg/m3] of the fluids that injectors are rated with at 20 C: SAE J1832 (n-heptane), EN 228 mid value.
RATING_DENSITY = {"n_heptane": 684.0, "petrol": 735.0}
#: Dead time assumed without data: seconds at 13.5 V and slope per volt, by driver.
ASSUMED_DEAD_TIME = {"saturated": (0.9e-3, -0.12e-3), "peak_and_hold": (0.7e-3, -0.08e-3)}
DEAD_TIME_VOLTS = (8.0, 10.0, 12.0, 13.8, 16.0)
DUTY_HARD_LIMIT = 0.85
#: Effective idle pulse [s]: enough, and the least that runs.
PULSE_SOUND, PULSE_LEAST = 1.5e-3, 1.0e-3


class InjectorsResult(Result):
    need_kg_s: float
    flow_rated_kg_s: float
    flow_nominal_kg_s: float
    flow_working_kg_s: float
    flow_idle_kg_s: float
    pulse_full_s: float
    dead_time_full_s: float
    period_full_s: float
    duty_full: float
    pulse_idle_s: float
    dead_time_assumed: bool
    dead_time: dict[str, float]
    window_low_kg_s: float
    window_high_kg_s: float
    window_watch_kg_s: float
    turn_down: float
    coil_current_a: float
    driver_current_a: float
    average_current_a: float
    rated_density_kg_m3: float


def dead_time(injectors: Injectors, volts: float) -> float:
    """Dead time [s] at a voltage: the person's table, straight between its rows and held at its ends, or the assumed line."""
    if injectors.dead_time:
        rows = sorted(injectors.dead_time, key=lambda p: p.voltage.si)
        return float(np.interp(volts, [p.voltage.si for p in rows], [p.time.si for p in rows]))
    at, slope = ASSUMED_DEAD_TIME[injectors.driver]
    return max(at + slope * (volts - 13.5), 0.2e-3)


def rated_density(build: Build) -> float:
    fluid = build.injectors.fluid
    return fuel_data(build.engine).density if fluid == "working_fuel" else RATING_DENSITY[fluid]


def work_out(build: Build, engine: EngineResult, fuel: FuelResult) -> InjectorsResult:
    """Both ends of the injector's range on this engine."""
    i = build.injectors
    data = fuel_data(build.engine)
    density = rated_density(build)
    kind, given = flow_si(i.flow)
    rated = given if kind == "mass flow" else given * density
    on_this_fuel = rated * math.sqrt(data.density / density)

    def flow(across_pa: float) -> float:
        return on_this_fuel * math.sqrt(max(across_pa, 1e3) / i.rated_at.si)

    nominal = flow(build.fuel.regulator.set_pressure.si)
    working = flow(fuel.points["full"].held_across_pa)
    at_idle = flow(fuel.points["idle"].held_across_pa)
    squirts = 1 if i.firing == "sequential" else 2
    period = 2 / build.engine.power_speed.si / squirts
    per_squirt = 2 / build.engine.power_speed.si / i.count / squirts * engine.fuel_mass_flow_kg_s
    idle_squirt = 2 / build.engine.idle_speed.si / i.count / squirts * engine.idle_fuel_mass_flow_kg_s
    dead = dead_time(i, 13.8)
    pulse = per_squirt / working
    idle_pulse = idle_squirt / at_idle
    per_coil = 13.8 / (i.resistance.si + i.ballast.si)
    open_share = min((pulse + dead) / period, 1.0)
    wanted = max(i.duty_limit.si * period - dead, 1e-5)
    return InjectorsResult(
        need_kg_s=engine.fuel_mass_flow_kg_s / (i.count * i.duty_limit.si),
        flow_rated_kg_s=rated,
        flow_nominal_kg_s=nominal,
        flow_working_kg_s=working,
        flow_idle_kg_s=at_idle,
        pulse_full_s=pulse,
        dead_time_full_s=dead,
        period_full_s=period,
        duty_full=(pulse + dead) / period,
        pulse_idle_s=idle_pulse,
        dead_time_assumed=not i.dead_time,
        dead_time={f"{v:g}": dead_time(i, v) for v in DEAD_TIME_VOLTS},
        window_low_kg_s=rated * pulse / wanted,
        window_high_kg_s=rated * idle_pulse / PULSE_SOUND,
        window_watch_kg_s=rated * idle_pulse / PULSE_LEAST,
        turn_down=pulse / idle_pulse,
        coil_current_a=per_coil,
        driver_current_a=per_coil * i.per_driver,
        average_current_a=i.count * per_coil * open_share,
        rated_density_kg_m3=density,
    )


_FLOW = ("/injectors/flow", "/injectors/rated_at", "/injectors/fluid", "/engine/fuel")
_FULL = (
    "injectors.flow.working",
    "engine.fuel_mass_flow",
    "/injectors/count",
    "/injectors/firing",
    "/engine/power_speed",
    "/injectors/dead_time",
    "/injectors/driver",
)
_IDLE = (*_FLOW, "fuel.injector.pressure.idle", "engine.idle_fuel_mass_flow", "engine.idle_manifold_pressure", "engine.ambient_pressure",
         "/injectors/count", "/injectors/firing", "/engine/idle_speed")  # fmt: skip
FIGURES = (
    Spec("injectors.need", "g/min", "Flow needed, each", ("engine.fuel_mass_flow", "/injectors/count", "/injectors/duty_limit"),
         "fuel over count and duty", lambda r: r.need_kg_s),
    Spec("injectors.flow.working", "g/min", "Flow at working pressure, each", (*_FLOW, "fuel.injector.pressure.full"),
         "orifice: square root of pressure and density", lambda r: r.flow_working_kg_s),
    Spec("injectors.nominal", "g/min", "Figure to type into the control unit", (*_FLOW, "/fuel/regulator/set_pressure"),
         "orifice: square root of pressure and density", lambda r: r.flow_nominal_kg_s),
    Spec("injectors.duty.full", "1", "Open share at full power", _FULL, "pulse and dead time over period", lambda r: r.duty_full, share=True),
    Spec("injectors.pulse.full", "ms", "Effective pulse at full power", _FULL, "fuel per squirt over flow", lambda r: r.pulse_full_s),
    Spec("injectors.pulse.idle", "ms", "Effective pulse at idle", _IDLE, "fuel per squirt over flow", lambda r: r.pulse_idle_s),
    Spec("injectors.turn_down", "1", "Turn-down asked, full power over idle", ("injectors.pulse.full", "injectors.pulse.idle"), "ratio of effective pulses", lambda r: r.turn_down),
    Spec("injectors.window.low", "g/min", "Smallest rated flow that passes at full power", (*_FULL, "/injectors/duty_limit"), "duty wanted", lambda r: r.window_low_kg_s),
    Spec("injectors.window.high", "g/min", "Largest rated flow that idles well", _IDLE, "1.5 ms effective", lambda r: r.window_high_kg_s),
    Spec("injectors.current.average", "A", "Average current of all injectors at full power",
         ("injectors.duty.full", "/injectors/resistance", "/injectors/ballast", "/injectors/count"), "V/R times duty", lambda r: r.average_current_a),
    Spec("injectors.current.driver", "A", "Current of one driver, on", ("/injectors/resistance", "/injectors/ballast", "/injectors/per_driver"),
         "V/R of those in parallel", lambda r: r.driver_current_a),
)  # fmt: skip
