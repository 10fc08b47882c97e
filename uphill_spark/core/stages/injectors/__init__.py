"""Injectors: flow at working pressure, duty at full power, pulse at idle, the window of rated flows that passes both ends.

`box` ranks what could be fitted instead, `bench` reads the flow bench.
"""

from __future__ import annotations

import math

from ...circuit.electric import RESTS_ON, Electric
from ...circuit.states import CHARGING_V, SYSTEM_VOLTS, KeyState
from ...figures import Result, Spec
from ...given import Build
from ...given.injectors import PeakAndHold
from ..engine import EngineResult
from ..fuel import FuelResult
from .bench import BenchResult, tested
from .box import Candidate, ranked
from .opening import LEAST_ACROSS, opening

DEAD_TIME_VOLTS = (8.0, 10.0, 12.0, CHARGING_V, 16.0)
DUTY_HARD_LIMIT = 0.85
CHANGEOVER_DUTY = 0.80  # of a first, small set, where a second joins in
#: Effective idle pulse [s]: enough, and the least that runs.
PULSE_SOUND, PULSE_LEAST = 1.5e-3, 1.0e-3


class InjectorsResult(Result):
    """Both ends of the injector's range, driver, bench."""

    need_kg_s: float
    flow_rated_kg_s: float
    flow_nominal_kg_s: float
    flow_working_kg_s: float
    together_kg_s: float
    flow_idle_kg_s: float
    pulse_full_s: float
    dead_time_full_s: float
    period_full_s: float
    duty_full: float
    volts_full: float
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
    across_change: float
    across_left: float
    changeover: float | None
    box: list[Candidate]
    bench: BenchResult


#: What this stage reads of the build, and of the stages that it takes.
READS = (
    "injectors", "engine.banks", "engine.cylinders", "engine.firing_order", "engine.fuel", "engine.idle_speed", "engine.layout", "engine.power_speed",
    "engine.boost", "fuel.regulator",
)  # fmt: skip
LOOKS = {
    "engine": ("ambient_pressure_pa", "fuel_mass_flow_kg_s", "idle_fuel_mass_flow_kg_s", "idle_manifold_pressure_pa"),
    "fuel": ("points",),
}


def lowest_volts(circuit: Electric, state: KeyState) -> float:
    """Volts [V] across the injector that gets least of them."""
    return min(circuit.across(load.key, state) for load in circuit.netlist.loads if load.kind == "injector")


def work_out(build: Build, engine: EngineResult, fuel: FuelResult, circuit: Electric) -> InjectorsResult:
    """Both ends of the injector's range on this engine, the box held against them, and the flow bench."""
    i = build.injectors
    own = opening(build)
    at_full, at_idle_point = fuel.points["full"], fuel.points["idle"]
    across_full, across_idle = at_full.held_across_pa, at_idle_point.held_across_pa
    change = math.sqrt(max(across_idle, LEAST_ACROSS) / max(across_full, LEAST_ACROSS)) - 1
    working, at_idle = own.flow(i, across_full), own.flow(i, across_idle)
    period = own.period(build.engine.power_speed.si)
    squirt_full = period * engine.fuel_mass_flow_kg_s
    squirt_idle = own.period(build.engine.idle_speed.si) * engine.idle_fuel_mass_flow_kg_s
    volts = lowest_volts(circuit, "full")
    dead = own.dead(volts)
    first = i.count * working
    pulse, idle_pulse = squirt_full / own.together(across_full), squirt_idle / (i.count * at_idle)
    per_coil = SYSTEM_VOLTS / (i.resistance.si + i.ballast.si)
    if i.driver == "peak_and_hold":
        per_coil = min(per_coil, (i.peak_hold or PeakAndHold()).peak.si)
    wanted = max(i.duty_limit.si * period - dead, 1e-5)
    rated = own.rated(i)
    return InjectorsResult(
        need_kg_s=engine.fuel_mass_flow_kg_s / (i.count * i.duty_limit.si),
        flow_rated_kg_s=rated,
        flow_nominal_kg_s=own.flow(i, build.fuel.regulator.set_pressure.si),
        flow_working_kg_s=working,
        together_kg_s=own.together(across_full),
        flow_idle_kg_s=at_idle,
        pulse_full_s=pulse,
        dead_time_full_s=dead,
        period_full_s=period,
        duty_full=(pulse + dead) / period,
        volts_full=volts,
        pulse_idle_s=idle_pulse,
        dead_time_assumed=not i.dead_times,
        dead_time={f"{v:g}": own.dead(v) for v in DEAD_TIME_VOLTS},
        window_low_kg_s=rated * (squirt_full / first) / wanted,
        window_high_kg_s=rated * idle_pulse / PULSE_SOUND,
        window_watch_kg_s=rated * idle_pulse / PULSE_LEAST,
        turn_down=pulse / idle_pulse,
        coil_current_a=per_coil,
        driver_current_a=per_coil * i.per_driver,
        average_current_a=sum(circuit.drawn(load.key, "full") for load in circuit.netlist.loads if load.kind == "injector"),
        rated_density_kg_m3=own.density_of[i.fluid],
        across_change=change,
        across_left=_left_by_unit(change, build, engine, fuel) if i.unit_compensates else change,
        changeover=(CHANGEOVER_DUTY * period - dead) * first / squirt_full if i.second else None,
        box=ranked(build, squirt_full / i.count, squirt_idle / i.count, period, (across_full, across_idle), own.density_of, volts),
        bench=tested(build, own.density_of[i.fluid], own.density_of[i.bench_fluid]),
    )


def _left_by_unit(change: float, build: Build, engine: EngineResult, fuel: FuelResult) -> float:
    """What is left of a change of flow [-] once a control unit has scaled the pulse by rail less manifold pressure: nothing where the injectors
    see the manifold; above the plates it scales by a pressure that they do not see."""
    if build.injectors.enters == "below_plates":
        return 0.0
    boost = build.engine.boost.si if build.engine.boost else 0.0
    taken = {"full": boost, "idle": engine.idle_manifold_pressure_pa - engine.ambient_pressure_pa}
    held = {s: p.held_across_pa + p.rail_pressure_pa - p.across_pa for s, p in fuel.points.items()}  # rail, from a pump that keeps up
    full, idle = (held[s] - taken[s] for s in ("full", "idle"))
    return (1 + change) / math.sqrt(max(idle, LEAST_ACROSS) / max(full, LEAST_ACROSS)) - 1


_FLOW = (
    "/injectors/flow",
    "/injectors/altered",
    "/injectors/bench",
    "/injectors/bench_fluid",
    "/injectors/rated_at",
    "/injectors/fluid",
    "/engine/fuel",
)
_VOLTS = (*RESTS_ON, "/injectors/resistance", "/injectors/ballast", "/engine/rev_limit", "/engine/cylinders", "/engine/firing_order")
_FULL = (
    *_VOLTS,
    "injectors.flow.working",
    "engine.fuel_mass_flow",
    "/injectors/count",
    "/injectors/firing",
    "/engine/power_speed",
    "/injectors/dead_time",
    "/injectors/driver",
    "/injectors/squirts",
    "/injectors/second",
    "fuel.injector.pressure.full",
    "/engine/fuel",
)
_IDLE = (*_FLOW, "fuel.injector.pressure.idle", "engine.idle_fuel_mass_flow", "engine.idle_manifold_pressure", "engine.ambient_pressure",
         "/injectors/count", "/injectors/firing", "/injectors/squirts", "/engine/idle_speed")  # fmt: skip
_BENCH = ("/injectors/bench", "/injectors/bench_fluid", "/injectors/rated_at", "/injectors/fluid", "/injectors/count", "/engine/fuel", "/engine/banks", "/engine/cylinders", "/engine/layout",
          "/engine/firing_order")  # fmt: skip
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
    Spec("injectors.turndown", "1", "Turn-down asked, full power over idle", ("injectors.pulse.full", "injectors.pulse.idle"), "ratio of effective pulses", lambda r: r.turn_down),
    Spec("injectors.window.low", "g/min", "Smallest rated flow that passes at full power", (*_FULL, "/injectors/duty_limit"), "duty wanted", lambda r: r.window_low_kg_s),
    Spec("injectors.window.high", "g/min", "Largest rated flow that idles well", _IDLE, "1.5 ms effective", lambda r: r.window_high_kg_s),
    Spec("injectors.spread", "1", "Spread of the set to fit, (largest - smallest) / mean", _BENCH, "flow bench, at rated pressure", lambda r: r.bench.spread, share=True),
    Spec("injectors.imbalance.bank", "1", "Difference between the banks, over the mean", _BENCH, "flow bench, best order", lambda r: r.bench.bank_imbalance, share=True),
    Spec("injectors.changeover", "1", "Share of full-power fuel at which the second set joins", _FULL, "first set at 80 % duty", lambda r: r.changeover, share=True),
    Spec("injectors.across.change", "1", "Flow at idle against full power, by the pressure across", ("fuel.injector.pressure.full", "fuel.injector.pressure.idle"),
         "square root of pressure", lambda r: r.across_change, share=True),
    Spec("injectors.across.left", "1", "What the control unit leaves of that", ("injectors.across.change", "/injectors/unit_compensates", "/injectors/enters", "/engine/boost", "engine.idle_manifold_pressure", "engine.ambient_pressure"),
         "square root of the pressure that it takes for it", lambda r: r.across_left, share=True),
    Spec("injectors.current.average", "A", "Average current of all injectors at full power",
         ("injectors.duty.full", "/injectors/resistance", "/injectors/ballast", "/injectors/count", "/injectors/driver", "/injectors/peak_hold"), "V/R times duty; peak, then hold", lambda r: r.average_current_a),
    Spec("injectors.current.driver", "A", "Current of one driver, on", ("/injectors/resistance", "/injectors/ballast", "/injectors/per_driver", "/injectors/driver", "/injectors/peak_hold"),
         "V/R of those in parallel, or their peak", lambda r: r.driver_current_a),
)  # fmt: skip
