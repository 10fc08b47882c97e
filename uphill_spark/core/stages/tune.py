"""Tune, the quick depth: tables good enough to start, idle and be driven gently on the first day, each with its doubt."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ..figures import Result, Spec
from ..given import Build
from ..physics import air
from .engine import EngineResult, boost_of, fuel_data
from .engine.filling import filling, full_load_filling
from .ignition import IgnitionResult
from .injectors import InjectorsResult

Array = air.Array
#: Full-load advance [deg before top] by chamber, middle of the usual range, and how far the quick table stays on the safe side.
FULL_ADVANCE = {"wedge": 36.0, "hemispherical": 34.0, "pent_roof": 27.0, "flat_head": 30.0}
SAFE_SIDE = 4.0
CUT_OVER = 15e3  # Pa over the boost, at which fuel is cut: the gate sticks or a hose is off
BACK_FOR_BOOST = 1 / 7e3  # degrees of advance taken back for each Pa over ambient
GAS_SPEED = 80.0  # m/s through a throttle at full power, used to size the plates of a throttle-angle table
#: Rows of a table by manifold pressure without a blower [kPa], denser where cars are driven.
LOADS = [20.0, 27.0, 34.0, 41.0, 48.0, 56.0, 64.0, 72.0, 80.0, 88.0, 96.0, 105.0]
COOLANT = [-20.0, 0.0, 20.0, 40.0, 60.0, 75.0]
WARM_UP = [1.60, 1.38, 1.20, 1.10, 1.04, 1.00]
CRANK_COOLANT = [-20.0, 0.0, 20.0, 40.0, 80.0]
CRANKING = [2.6, 1.8, 1.2, 0.9, 0.55]
ALCOHOL_COLD = [2.2, 1.6]  # factor on cold cranking fuel of E85 at -20 and 0 C


class Table(Result):
    """A table to type in: axes, values by row of load, unit and doubt. A curve has no load axis and one row."""

    key: str
    title: str
    unit: str
    x_label: str
    x: list[float]
    y_label: str | None
    y: list[float]
    rows: list[list[float]]
    doubt: str


class TuneResult(Result):
    """Tables and constants to type in."""

    full_cylinder_pulse_s: float
    fuel_per_cycle_kg: float
    load_signal: str
    tables: list[Table]
    table_fuel_full_kg_s: float
    table_duty_full: float
    fuel_cut_pa: float | None


def axis_speed(build: Build, n: int = 16) -> list[float]:
    """Engine speeds [rpm] of the tables: 0.6 of idle to 5 % past the limit, denser at low speed, on tens."""
    low, high = 0.6 * build.engine.idle_speed.si * 60, 1.05 * build.engine.rev_limit.si * 60
    raw = low * (high / low) ** (np.linspace(0, 1, n) ** 0.9)
    return [float(v) for v in np.unique(np.round(raw / 10) * 10)]


def manifold_by_throttle(build: Build, rev_s: Array, opening: Array, ambient_pa: float) -> Array:
    """Manifold pressure [Pa] behind one throttle per cylinder at each speed and opening: what passes the plate is what is swallowed.

    Plates are the car's own where they were measured, else of a size with usual gas speed.
    """
    e, fitted = build.engine, build.air.throttle
    per_cylinder = e.displacement.si / e.cylinders
    bore, each = float(np.sqrt(4 * per_cylinder * 2 * e.power_speed.si / GAS_SPEED / np.pi)), 1.0
    if fitted and fitted.bore and fitted.bores:  # the car's own plates
        bore, each = fitted.bore.si, fitted.bores / e.cylinders
    area = air.butterfly_area(bore, opening) * each + 2e-6
    low, high = np.full(area.shape, 0.05), np.ones(area.shape)
    swallow = full_load_filling(build, rev_s) * per_cylinder * rev_s / 2 / (air.R_AIR * 293.15)
    for _ in range(30):
        ratio = (low + high) / 2
        short = air.orifice_flow(area, ambient_pa, 293.15, ratio) < swallow * ratio * ambient_pa
        high, low = np.where(short, ratio, high), np.where(short, low, ratio)
    return np.asarray(np.maximum((low + high) / 2, 0.15) * ambient_pa, dtype=np.float64)


def load_axis(most_pa: float) -> list[float]:
    """Manifold pressures [kPa] of the tables: 20 to 5 % over the most, sea level at least, on whole kPa."""
    top = max(LOADS[-1], 1.05 * most_pa / 1e3)
    return (
        LOADS if top <= LOADS[-1] else [float(round(LOADS[0] + (x - LOADS[0]) * (top - LOADS[0]) / (LOADS[-1] - LOADS[0]))) for x in LOADS]
    )


def load_signal(build: Build) -> Literal["throttle", "manifold_pressure"]:
    """What tells the load: as it was chosen, else by the layout."""
    if build.tune.load != "by_layout":
        return build.tune.load
    return "throttle" if build.engine.layout == "individual_throttles" else "manifold_pressure"


#: What this stage reads of the build, and of the stages that it takes.
READS = ("engine", "injectors.count", "tune", "air.throttle")
LOOKS = {
    "engine": ("ambient_pressure_pa", "cylinder_volume_m3", "full_air_kg_s"),
    "injectors": ("dead_time", "dead_time_assumed", "dead_time_full_s", "flow_nominal_kg_s", "together_kg_s", "period_full_s"),
    "ignition": ("dwell",),
}


def work_out(build: Build, engine: EngineResult, injectors: InjectorsResult, ignition: IgnitionResult) -> TuneResult:
    """The quick tables and the numbers at their top."""
    e, data = build.engine, fuel_data(build.engine)
    ambient = engine.ambient_pressure_pa
    rpm = np.array(axis_speed(build))
    rev_s = (rpm / 60)[None, :]
    by_throttle = load_signal(build) == "throttle"
    if by_throttle:
        load = [0.0, 2.0, 4.0, 7.0, 11.0, 16.0, 23.0, 32.0, 45.0, 60.0, 80.0, 100.0]
        manifold = manifold_by_throttle(build, rev_s, np.array(load)[:, None] / 100, ambient)
    else:
        load = load_axis(ambient + boost_of(e))
        manifold = np.broadcast_to(np.array(load)[:, None] * 1e3, (len(load), len(rpm)))
    fills = filling(build, rev_s, manifold, ambient)
    share = manifold / ambient
    air_each = air.density(1e5, 293.15) * engine.cylinder_volume_m3
    per_cycle = air_each / data.stoich
    required = per_cycle / (injectors.flow_nominal_kg_s * build.injectors.count / e.cylinders)
    fuel_values = fills * share * ambient / 1e5 * 100 if by_throttle else fills * 100
    lamda = mixture(build, share, rev_s)
    advance = _advance(build, share, rev_s, ambient)
    y_label = "throttle, %" if by_throttle else "manifold pressure, kPa"
    first = "Fuel by throttle" if by_throttle else "Volumetric efficiency"

    def grid(key: str, title: str, unit: str, values: Array, digits: int, doubt: str) -> Table:
        rows = np.round(values, digits).tolist()
        return Table(
            key=key, title=title, unit=unit, x_label="rpm", x=[float(v) for v in rpm], y_label=y_label, y=load, rows=rows, doubt=doubt
        )

    full_fuel = engine.full_air_kg_s / (data.stoich * build.tune.full_lambda)
    pulse_share = full_fuel / injectors.together_kg_s
    return TuneResult(
        full_cylinder_pulse_s=required,
        fuel_per_cycle_kg=per_cycle,
        load_signal=load_signal(build),
        tables=[
            grid("ve", first, "%", fuel_values, 1, "± 10 %, ± 15 % below 1,500 rpm; the log on the road finishes it"),
            grid("lambda", "Lambda target", "lambda", lamda, 3, "a choice, not a measurement"),
            grid(
                "advance",
                "Ignition advance",
                "deg before top",
                advance,
                1,
                f"{SAFE_SIDE:g} degrees on the safe side of a usual full-load figure",
            ),
            *_curves(build, injectors, ignition),
        ],
        table_fuel_full_kg_s=full_fuel,
        table_duty_full=pulse_share + injectors.dead_time_full_s / injectors.period_full_s,
        fuel_cut_pa=ambient + boost_of(e) + CUT_OVER if boost_of(e) else None,
    )


def mixture(build: Build, share: Array, rev_s: Array) -> Array:
    """Lambda: idle corner, cruise, full load, blended between 70 and 95 % of ambient pressure."""
    t = build.tune
    up = np.clip((share - 0.70) / 0.25, 0, 1)
    smooth = up * up * (3 - 2 * up)
    slow = np.clip(1.6 - rev_s / build.engine.idle_speed.si, 0, 1) * (share < 0.7)
    cruise = t.cruise_lambda + (t.idle_lambda - t.cruise_lambda) * np.clip(slow / 0.4, 0, 1)
    return np.asarray(cruise + (t.full_lambda - cruise) * smooth, dtype=np.float64)


def _advance(build: Build, share: Array, rev_s: Array, ambient_pa: float) -> Array:
    """Advance: full load by chamber less the safe side, less at low speed, more at light load, a flat idle corner."""
    e = build.engine
    top = FULL_ADVANCE[e.chamber] - SAFE_SIDE - max(e.compression_ratio.si - 9.5, 0.0) * 1.5
    rise = np.clip((rev_s - e.idle_speed.si) / (3000 / 60 - e.idle_speed.si), 0, 1) if e.idle_speed.si < 50 else np.ones_like(rev_s)
    full = 10 + (top - 10) * rise
    light = 12 * np.clip((0.95 - share) / 0.5, 0, 1) * rise
    blown = np.maximum(share - 1, 0) * ambient_pa * BACK_FOR_BOOST
    return np.asarray(np.clip(full + light - blown, 5, 45), dtype=np.float64)


def _curves(build: Build, injectors: InjectorsResult, ignition: IgnitionResult) -> list[Table]:
    wet = 1.3 if build.engine.layout == "throttle_body" else 1.0
    warm = [round(1 + (w - 1) * wet, 3) for w in WARM_UP]
    cold = ALCOHOL_COLD if build.engine.fuel == "E85" else [1.0, 1.0]
    crank = [round(c * (cold[k] if k < 2 else 1.0), 2) for k, c in enumerate(CRANKING)]

    def curve(key: str, title: str, unit: str, x_label: str, x: list[float], values: list[float], doubt: str) -> Table:
        return Table(key=key, title=title, unit=unit, x_label=x_label, x=x, y_label=None, y=[], rows=[values], doubt=doubt)

    dwell = [row for row in ignition.dwell if row.dwell_s is not None]
    return [
        curve("cranking", "Cranking fuel, times the full-cylinder pulse", "1", "coolant, °C", CRANK_COOLANT, crank, "± 30 %; trim at the first cold starts"),
        curve("warm_up", "Warm-up fuel", "1", "coolant, °C", COOLANT, warm, "± 8 %"),
        curve("dwell", "Dwell", "ms", "volts", [r.volts for r in dwell], [round((r.dwell_s or 0) * 1e3, 3) for r in dwell], "from the coil's figures"),
        curve(
            "dead_time", "Injector dead time", "ms", "volts", [float(v) for v in injectors.dead_time], [round(t * 1e3, 3) for t in injectors.dead_time.values()],
            "assumed, ± 0.2 ms" if injectors.dead_time_assumed else "from the injector's table",
        ),
    ]  # fmt: skip


_PULSE = ("injectors.nominal", "/engine/displacement", "/engine/cylinders", "/engine/firing_order", "/injectors/count", "/engine/fuel")

FIGURES = (
    Spec("tune.full_cylinder_pulse", "ms", "Full-cylinder pulse: filling 1, 100 kPa, 20 °C, lambda 1", _PULSE, "ideal gas", lambda r: r.full_cylinder_pulse_s),
    Spec("tune.required_pulse", "ms", "The same by its old name, for one version more", _PULSE, "tune.full_cylinder_pulse", lambda r: r.full_cylinder_pulse_s, quiet=True),
    Spec("tune.table_fuel.full", "kg/h", "Fuel that the table asks for at full power", ("engine.air.full", "/engine/fuel", "/tune/full_lambda"),
         "filling times density", lambda r: r.table_fuel_full_kg_s),
    Spec("tune.table_duty.full", "1", "Injector duty that the table asks for at full power",
         ("tune.table_fuel.full", "injectors.duty.full"),
         "pulse and dead time over period", lambda r: r.table_duty_full, share=True),
    Spec("tune.fuel_cut", "kPa", "Fuel cut over a manifold pressure of, absolute", ("/engine/boost", "engine.ambient_pressure"), "boost and 15 kPa", lambda r: r.fuel_cut_pa),
)  # fmt: skip
