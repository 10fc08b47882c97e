"""Coils as they charge: dwell at a voltage, how often each coil is charged, the share of its time that it takes."""

from __future__ import annotations

import numpy as np

from ...given import Build
from ...physics.air import Array
from ...physics.electric import dwell_time


def coil_period(build: Build, rev_s: float) -> float:
    """Time [s] between two charges of one coil at a speed [rev/s]: every turn for a pair, every other for a coil of its own, n in two turns for one coil."""
    g, n = build.ignition, build.engine.cylinders
    turns = {"wasted_spark": 1.0, "coil_per_plug": 2.0}.get(g.kind, 2 / n)
    return turns / rev_s


def dwell(build: Build, volts: float) -> float | None:
    """Time [s] that the coil takes to its current at a voltage; None when it never gets there."""
    coil = build.ignition.coil
    return dwell_time(volts, coil.resistance.si, coil.inductance.si, coil.current.si)


def charging_shares(build: Build, volts: Array, rev_s: Array) -> tuple[Array, Array]:
    """Share of its time for which a coil is charged at voltages and speeds, 1 at most, and its slope [1/V]; 1 for one that never gets to its current."""
    coil = build.ignition.coil
    drop, tau = coil.current.si * coil.resistance.si, coil.inductance.si / coil.resistance.si
    enough = volts > drop
    above = np.where(enough, volts, 2 * drop)
    periods = coil_period(build, 1.0) / np.maximum(rev_s, 1e-9)
    share = -tau * np.log1p(-drop / above) / periods
    slope = -tau * drop / (above * (above - drop)) / periods
    full = ~enough | (share >= 1.0)
    return np.where(full, 1.0, share), np.where(full, 0.0, slope)
