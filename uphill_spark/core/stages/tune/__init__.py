"""Tune, the quick depth: tables good enough to start, idle and be driven gently on the first day, each with its doubt."""

from __future__ import annotations

import numpy as np

from ...figures import Result, Spec
from ...given import Build
from ...physics import air
from ..engine import EngineResult, fuel_data
from ..engine.filling import filling
from ..ignition import IgnitionResult
from ..injectors import InjectorsResult
from .axes import Axes, Load, axes_of, axis_speed, load_axis, load_signal, manifold_by_throttle
from .curves import Constant, constants, curves, fuel_cut
from .landmarks import Landmark, landmarks
from .tables import Table, grid

__all__ = [
    "BACK_FOR_BOOST", "FULL_ADVANCE", "SAFE_SIDE", "Axes", "Constant", "Landmark", "Load", "Table", "TuneResult", "axes_of", "axis_speed", "load_axis", "load_signal", "manifold_by_throttle", "mixture", "safe_side",
]  # fmt: skip
Array = air.Array
#: Full-load advance [deg before top] by chamber, middle of the usual range, and how far the quick table stays on the safe side.
FULL_ADVANCE = {"wedge": 36.0, "hemispherical": 34.0, "pent_roof": 27.0, "flat_head": 30.0}
SAFE_SIDE = 4.0
LATER_SIDE = 2.0  # the same once ear, gauge and plugs have said so
BACK_FOR_BOOST = 1 / 7e3  # degrees of advance taken back for each Pa over ambient
KEEPS = "The distributor keeps the advance: what it does is set by its weights and vacuum, and this table stays off."


class TuneResult(Result):
    """Tables and constants to type in."""

    full_cylinder_pulse_s: float
    fuel_per_cycle_kg: float
    load_signal: Load
    tables: list[Table]
    constants: list[Constant]
    landmarks: list[Landmark]
    fuel_cut_pa: float | None


#: What this stage reads of the build, and of the stages that it takes.
READS = (
    "engine", "injectors.count", "injectors.enters", "ignition.timed_by_unit", "tune.idle_lambda", "tune.cruise_lambda", "tune.full_lambda", "tune.load", "tune.step", "air.throttle", "sensors.pressure",
)  # fmt: skip
LOOKS = {
    "engine": ("ambient_pressure_pa", "cylinder_volume_m3", "idle_manifold_pressure_pa"),
    "injectors": ("dead_time", "dead_time_assumed", "flow_nominal_kg_s"),
    "ignition": ("dwell",),
}


def work_out(build: Build, engine: EngineResult, injectors: InjectorsResult, ignition: IgnitionResult) -> TuneResult:
    """The quick tables and the numbers at their top."""
    e, data = build.engine, fuel_data(build.engine)
    ambient, axes = engine.ambient_pressure_pa, axes_of(build, engine)
    fills = filling(build, axes.rev_s, axes.manifold_pa, ambient)
    share = axes.manifold_pa / ambient
    air_each = air.density(1e5, 293.15) * engine.cylinder_volume_m3
    per_cycle = air_each / data.stoich
    fuel_values = fills * share * ambient / 1e5 * 100 if axes.by == "throttle" else fills * 100
    keeps = "" if build.ignition.timed_by_unit else KEEPS
    x = [float(v) for v in axes.rpm]
    safe = f"{safe_side(build):g} degrees on the safe side of a usual full-load figure"
    return TuneResult(
        full_cylinder_pulse_s=per_cycle / (injectors.flow_nominal_kg_s * build.injectors.count / e.cylinders),
        fuel_per_cycle_kg=per_cycle,
        load_signal=axes.by,
        tables=[
            grid("ve", axes.by, x, axes.load, fuel_values.tolist(), "± 10 %, ± 15 % below 1,500 rpm; the log on the road finishes it"),
            grid("lambda", axes.by, x, axes.load, mixture(build, share, axes.rev_s).tolist(), "a choice, not a measurement"),
            grid("advance", axes.by, x, axes.load, _advance(build, share, axes.rev_s, ambient).tolist(), safe, keeps),
            *curves(build, axes.by, injectors, ignition, keeps),
        ],
        constants=constants(build, engine),
        landmarks=landmarks(build, engine, axes.by),
        fuel_cut_pa=fuel_cut(build, engine),
    )


def safe_side(build: Build) -> float:
    """How far the quick table's advance stays on the safe side [deg]: further on the first day."""
    return SAFE_SIDE if build.tune.step == "day_one" else LATER_SIDE


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
    top = FULL_ADVANCE[e.chamber] - safe_side(build) - max(e.compression_ratio.si - 9.5, 0.0) * 1.5
    rise = np.clip((rev_s - e.idle_speed.si) / (3000 / 60 - e.idle_speed.si), 0, 1) if e.idle_speed.si < 50 else np.ones_like(rev_s)
    full = 10 + (top - 10) * rise
    light = 12 * np.clip((0.95 - share) / 0.5, 0, 1) * rise
    blown = np.maximum(share - 1, 0) * ambient_pa * BACK_FOR_BOOST
    return np.asarray(np.clip(full + light - blown, 5, 45), dtype=np.float64)


_PULSE = ("injectors.nominal", "/engine/displacement", "/engine/cylinders", "/engine/firing_order", "/injectors/count", "/engine/fuel")

FIGURES = (
    Spec("tune.full_cylinder_pulse", "ms", "Full-cylinder pulse: filling 1, 100 kPa, 20 °C, lambda 1", _PULSE, "ideal gas", lambda r: r.full_cylinder_pulse_s),
    Spec("tune.required_pulse", "ms", "The same by its old name, for one version more", _PULSE, "tune.full_cylinder_pulse", lambda r: r.full_cylinder_pulse_s, quiet=True),
    Spec("tune.fuel_cut", "kPa", "Fuel cut over a manifold pressure of, absolute", ("/engine/boost", "engine.ambient_pressure"), "boost and 15 kPa", lambda r: r.fuel_cut_pa),
)  # fmt: skip
