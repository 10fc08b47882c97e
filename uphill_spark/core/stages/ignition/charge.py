"""Coils as they charge: dwell at a voltage, how often each coil is charged, the share of its time that it takes."""

from __future__ import annotations

import numpy as np

from ...given import Build
from ...given.ignition import Coil
from ...physics.air import Array
from ...physics.electric import ALPHA_COPPER, T_20C, dwell_time

STAGE_DROP = 1.5  # V left over a power stage that is on (makers' usual figure for ignition transistors)
HOT_COIL = 353.15  # K, a coil that has worked for a while


def hot(coil: Coil) -> float:
    """Resistance [ohm] of a coil's primary when it is hot."""
    return coil.resistance.si * (1 + ALPHA_COPPER * (HOT_COIL - T_20C))


def coil_period(build: Build, rev_s: float) -> float:
    """Time [s] between two charges of one coil at a speed [rev/s]: every turn for a pair, every other for a coil of its own, n in two turns for one coil."""
    g, n = build.ignition, build.engine.cylinders
    turns = {"wasted_spark": 1.0, "coil_per_plug": 2.0}.get(g.kind, 2 / n)
    return turns / rev_s


def dwell(build: Build, volts: float) -> float | None:
    """Time [s] that the coil takes to its current at a voltage; None when it never gets there."""
    coil = build.ignition.coil
    return dwell_time(volts - STAGE_DROP, hot(coil), coil.inductance.si, coil.current.si)


def charging_shares(build: Build, volts: Array, rev_s: Array) -> tuple[Array, Array]:
    """Share of its time for which a coil is charged at voltages and speeds, 1 at most, and its slope [1/V]; 1 for one that never gets to its current."""
    coil = build.ignition.coil
    ohms = hot(coil)
    volts = np.maximum(volts - STAGE_DROP, 0.0)
    drop, tau = coil.current.si * ohms, coil.inductance.si / ohms
    enough = volts > drop
    above = np.where(enough, volts, 2 * drop)
    periods = coil_period(build, 1.0) / np.maximum(rev_s, 1e-9)
    share = -tau * np.log1p(-drop / above) / periods
    slope = -tau * drop / (above * (above - drop)) / periods
    full = ~enough | (share >= 1.0)
    return np.where(full, 1.0, share), np.where(full, 0.0, slope)
