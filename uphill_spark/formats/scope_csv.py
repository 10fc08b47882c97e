"""Signals and sender tables as CSV, for a scope's screen beside it or for typing in."""

from __future__ import annotations

from ..core.asked.trigger import STEP, TriggerDepth
from ..core.stages.sensors.scaling import ThermistorCurve
from .cells import written


def write(depth: TriggerDepth) -> str:
    """Crank degrees after number one's top, and volts of each signal."""
    head = ["crank angle (deg)", *(f"{s.label} (V)" for s in depth.signals)]
    rows = ([f"{k * STEP:g}", *(f"{s.volts[k]:.4g}" for s in depth.signals)] for k in range(len(depth.signals[0].volts)))
    return written([head, *rows], "\n")


def adc_table(curve: ThermistorCurve) -> str:
    """Temperature, resistance, volts and kelvin to one step of the input."""
    head = ["temperature (degC)", "resistance (ohm)", "signal (V)", "resolution (K)"]
    rows = zip(curve.temperature_k, curve.resistance_ohm, curve.volts, curve.step_k, strict=True)
    return written([head, *([f"{t - 273.15:g}", f"{r:.5g}", f"{v:.4f}", f"{k:.3f}"] for t, r, v, k in rows)], "\n")
