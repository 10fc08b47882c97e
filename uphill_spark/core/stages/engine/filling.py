"""How an engine fills over its speed range: the shape of its torque, for tables and for a run."""

from __future__ import annotations

import numpy as np

from ...given import Build
from ...physics import air
from ...physics.air import Array

#: Best filling by cylinder head, middle of the usual range, and its ends (Heywood, ch. 6.2).
PEAK_FILLING = {"two_valve_pushrod": 0.83, "two_valve_overhead_cam": 0.895, "four_valve": 0.985}
FILLING_BAND = {"two_valve_pushrod": (0.78, 0.88), "two_valve_overhead_cam": (0.84, 0.95), "four_valve": (0.92, 1.05)}
TUNED_TRACTS = 1.06  # one throttle per cylinder, over a narrow band
#: Speed of best filling over speed of full power, filling at idle speed and at the limit over the best, by cam.
CAM_SHAPE = {"standard": (0.60, 0.85, 0.86), "touring": (0.65, 0.82, 0.87), "sport": (0.72, 0.78, 0.89), "competition": (0.80, 0.75, 0.90)}


#: Share of full-load filling that overlap costs at standstill and no load, by cam (Heywood, ch. 6.2).
OVERLAP_COSTS = {"standard": 0.0, "touring": 0.03, "sport": 0.08, "competition": 0.14}


def filling(build: Build, rev_s: Array, manifold_pa: Array, ambient_pa: float) -> Array:
    """Volumetric efficiency [-] against the charge in the manifold: full load, residual gas at part load, overlap at low speed and load."""
    e = build.engine
    residual = air.part_load_filling(ambient_pa / manifold_pa, e.compression_ratio.si)
    slow = np.clip(1 - rev_s / (0.5 * e.power_speed.si), 0, 1) * np.clip(1 - manifold_pa / ambient_pa, 0, 1)
    return np.asarray(full_load_filling(build, rev_s) * residual * (1 - OVERLAP_COSTS[e.cam] * slow), dtype=np.float64)


def full_load_filling(build: Build, rev_s: Array) -> Array:
    """Volumetric efficiency [-] at full load over speed [rev/s]: a parabola in log speed either side of its peak."""
    e = build.engine
    share, at_idle, at_limit = CAM_SHAPE[e.cam]
    peak = PEAK_FILLING[e.valve_train] * (TUNED_TRACTS if e.layout == "individual_throttles" else 1.0)
    best = max(share * e.power_speed.si, e.idle_speed.si * 1.2)
    x = np.log(rev_s / best)
    below = (1 - at_idle) * (x / np.log(e.idle_speed.si / best)) ** 2
    above = (1 - at_limit) * (x / np.log(max(e.rev_limit.si, best * 1.05) / best)) ** 2
    return np.asarray(peak * np.maximum(1 - np.where(x < 0, below, above), 0.3), dtype=np.float64)
