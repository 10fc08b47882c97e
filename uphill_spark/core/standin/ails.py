"""What is off in a lane: the physical state of a car with something wrong, in figures that engine, control unit and harness of the stand-in take. Whatever is not named is as it should be."""

from __future__ import annotations

from dataclasses import dataclass, field, fields
from typing import Literal

import numpy as np

from ..physics.air import Array
from .engine import Each

#: A figure that is not there: the sensor reads what it should.
READS = float("nan")
NEVER = 1e9


@dataclass(frozen=True, slots=True)
class Ails:
    """One lane. Volts [V], shares (1 is as it should be), pressures as shares of what they should be, openings [m2], angles [deg before top], speeds [rev/s], times [s]."""

    # Battery and harness
    rested_v: float = 12.6
    starter: float = 1.0  # of the volts that it should get
    crank_v: float = 9.8  # at the unit, while the starter turns
    run_v: float = 13.5  # at the unit, running
    wakes: bool = True  # its ignition pin is alive while the starter turns
    charges: bool = True
    runs_on: bool = False  # something feeds the ignition after the key
    # Trigger
    seen_from: float = 0.0  # rev/s, under which no tooth is seen
    seen_to: float = NEVER  # rev/s, over which it falls out of step
    angle: float = 0.0  # earlier than the unit means
    drift: float = 0.0  # deg for each 1,000 rpm
    early_s: float = 0.0  # the spark comes so long before it is meant
    # Spark
    energy: float = 1.0  # of a whole spark, running and cranking
    energy_crank: float = 1.0
    fires: float = 1.0  # share of sparks that come, in all cylinders
    lit: tuple[float, ...] = ()  # by cylinder
    wrong: float = 0.0  # share of sparks that come in another's turn
    # Fuel
    crank_pa: float = 1.0  # pressure across an injector, of what it should be
    idle_pa: float = 1.0
    full_pa: float = 1.0
    fills_s: float = 0.5  # until the line is full
    empties_s: float = NEVER  # until it is empty again, standing
    pump: Literal["primes", "silent", "on", "stays"] = "primes"
    open_air: float = 0.0  # how far the regulator sees the outside in place of the manifold
    sags: float = 0.0  # share of the pressure that is gone at full flow
    sags_from: float = 0.6  # of full flow, from where on it goes
    flow: float = 1.0  # of an injector
    dead_s: float = 0.0  # by which the unit counts too little dead time
    fuel: tuple[float, ...] = ()  # by cylinder
    typed: float = 1.0  # of the fuel that the unit should give, by what was typed into it
    cranking: float = 1.0  # the same of cranking fuel
    # Air
    leak_m2: float = 0.0
    held: float = 0.0  # share of the throttle's travel that it is held open
    valve: float = READS  # share at which the idle valve is stuck
    filling: float = 1.0
    residual: float = 0.0  # more of it
    air: tuple[float, ...] = ()  # by cylinder
    back: float = 0.0  # how far the exhaust is blocked
    # Sensors
    coolant: float = READS  # degC that it reads, whatever the coolant is
    sender: float = 0.0  # K too much
    manifold: float = READS  # kPa that it reads
    gain: float = 1.0  # of the manifold's pressure
    swings: float = 0.0  # kPa to and fro, once a second
    throttle: float = READS  # % that it reads
    throttle_off: float = 0.0  # % too much
    reversed: bool = False  # it reads 100 less what it should
    lamda: float = 1.0  # reads leaner by
    lamda_stuck: float = READS
    # Unit
    limit: float = NEVER  # rev/s
    advance: float = READS  # deg at idle, in place of the table's
    dies_s: float = NEVER  # after which it cuts fuel
    resumes: float = 1500 / 60  # rev/s, at which fuel comes back on the over-run
    spikes: bool = False  # its speed shows spikes


@dataclass(frozen=True, slots=True)
class AilsOf:
    """Many lanes: the same figures as arrays, and cylinder by cylinder where any differ."""

    each: Each | None
    of: dict[str, Array] = field(repr=False)

    def __getitem__(self, key: str) -> Array:
        return self.of[key]


_BY_CYLINDER = ("lit", "fuel", "air")


def lanes_of(ails: list[Ails], cylinders: int) -> AilsOf:
    """Lanes side by side. Raises ValueError where a lane names another number of cylinders."""
    of = {
        f.name: np.array([getattr(a, f.name) for a in ails], dtype=np.float64)
        for f in fields(Ails)
        if f.name not in (*_BY_CYLINDER, "pump")
    }
    for word in ("silent", "on", "stays"):
        of[f"pump_{word}"] = np.array([a.pump == word for a in ails], dtype=np.float64)
    if not any(getattr(a, key) for a in ails for key in _BY_CYLINDER):
        return AilsOf(None, of)
    rows = {}
    for key in _BY_CYLINDER:
        shares = [getattr(a, key) or (1.0,) * cylinders for a in ails]
        if any(len(row) != cylinders for row in shares):
            raise ValueError(f"{key} of a lane is not told for {cylinders} cylinders")
        rows[key] = np.array(shares, dtype=np.float64).T
    return AilsOf(Each(rows["air"], rows["fuel"], rows["lit"]), of)
