"""What a scope would show: crank and phase signals over two turns, and the engine's speed while the starter turns it. For drawings and to compare by."""

from __future__ import annotations

import numpy as np

from ..circuit.states import FIVE_VOLT
from ..figures import Result
from ..given import Build
from ..given.trigger import SensorType, Trigger
from ..physics.air import Array
from ..stages.trigger import trigger_angle
from ..stages.trigger.cranking import crank, timing_error
from ..stages.trigger.reluctance import mean_gap, peak
from ..stages.trigger.wheel import cycle, least_pitch_m, phase_starts, pitch_m, teeth_of

STEP = 0.5  # crank degrees
#: Wheels that can be had or cut: teeth and missing.
WHEELS = ((12, 1), (24, 1), (36, 1), (36, 2), (60, 2))
LOW = 0.2  # V, a Hall output drawn down
VR_SPEEDS = (60.0, 120.0, 200.0, 300.0, 600.0, 1000.0)  # rpm
VR_GAPS = (0.3e-3, 0.5e-3, 0.8e-3, 1.0e-3, 1.5e-3, 2.0e-3)


class Signal(Result):
    """A signal over 720 crank degrees, every half degree from number one's compression top dead centre [V]."""

    key: str
    label: str
    volts: list[float]


class CrankTrace(Result):
    """Cranking: crank degrees, speed [rpm], and the miss of a spark that is wanted there [deg, positive late]."""

    angle_deg: list[float]
    speed_rpm: list[float]
    error_deg: list[float]
    worst_deg: float


class VrRow(Result):
    """Peak volts of a bare coil at a gap [m], by speed."""

    gap_m: float
    volts: list[float]


class WheelOption(Result):
    """A wheel that could be made: its pitch on this diameter [m], whether the sensor tells it, teeth a second at the limit, the miss of a spark wanted at the worst angle [deg]."""

    teeth: int
    missing: int
    mine: bool
    pitch_m: float | None
    least_pitch_m: float
    fits: bool | None
    rate_hz: float
    rate_fits: bool | None
    miss_deg: float | None


class TriggerDepth(Result):
    """All of it; signals are empty until the trigger angle is known; cranking is None where it did not settle."""

    signals: list[Signal]
    cranking: CrankTrace | None
    vr_speeds_rpm: list[float]
    vr: list[VrRow]
    wheels: list[WheelOption]


def look_deeper(build: Build) -> TriggerDepth | None:
    """The trigger of a build on the scope; None without a wheel."""
    t = build.sensors.trigger
    if t is None:
        return None
    angle = trigger_angle(t)
    run = crank(build)
    late = timing_error(build, teeth_of(t), cycle(t), angle if angle is not None else 60.0)
    coil = t.sensor == "variable_reluctance"
    settled = run.settled
    return TriggerDepth(
        wheels=[_option(build, t, n, m, settled) for n, m in sorted({*WHEELS, *([(t.teeth, t.missing)] if t.pattern == "missing" else [])})],
        signals=signals(t, angle) if angle is not None else [],
        cranking=CrankTrace(
            angle_deg=late.angle.tolist(), speed_rpm=np.round(np.interp(late.angle, run.angle, run.speed) * 60, 3).tolist(),
            error_deg=np.round(late.error, 4).tolist(), worst_deg=late.worst,
        ) if run.settled else None,
        vr_speeds_rpm=list(VR_SPEEDS) if coil else [],
        vr=[VrRow(gap_m=gap, volts=[peak(t, rpm / 60, gap) for rpm in VR_SPEEDS]) for gap in VR_GAPS] if coil else [],
    )  # fmt: skip


def _option(build: Build, t: Trigger, teeth: int, missing: int, settled: bool) -> WheelOption:
    """A wheel of so many teeth in the place of the one that is there."""
    other = t.model_copy(update={"pattern": "missing", "teeth": teeth, "missing": missing, "on": "crank"})
    pitch, least, rate = pitch_m(other), least_pitch_m(other), teeth * build.engine.rev_limit.si
    angle = trigger_angle(t)
    late = timing_error(build, teeth_of(other), 360.0, angle if angle is not None else 60.0)
    return WheelOption(
        teeth=teeth, missing=missing, mine=t.pattern == "missing" and (t.teeth, t.missing) == (teeth, missing), pitch_m=pitch, least_pitch_m=least,
        fits=None if pitch is None else pitch >= least, rate_hz=rate, rate_fits=None if t.input_rate is None else rate <= t.input_rate.si,
        miss_deg=late.worst if settled else None,
    )  # fmt: skip


def signals(t: Trigger, angle: float) -> list[Signal]:
    """Crank (or distributor) and phase signals, with the polarity as it stands, at cranking speed. `angle` is the trigger angle [deg of the crank]; times in s, volts in V."""
    at = np.arange(0.0, 720.0, STEP)
    whole = cycle(t)
    teeth = [((k * whole + r.begins - angle) % 720.0, r.ends - r.begins) for k in range(round(720 / whole)) for r in teeth_of(t)]
    amplitude = peak(t, t.cranking.si, mean_gap(t)) * (-1 if t.polarity == "swapped" else 1)
    label = "distributor" if t.on == "distributor" else "crank"
    found = [Signal(key="crank", label=label, volts=_drawn(t.sensor, at, teeth, amplitude))]
    if t.phase is not None:
        found.append(
            Signal(
                key="phase", label="phase", volts=_drawn(t.phase.sensor, at, [(start, t.phase.width.si) for start in phase_starts(t)], 1.0)
            )
        )
    return found


def _drawn(sensor: SensorType, at: Array, teeth: list[tuple[float, float]], amplitude: float) -> list[float]:
    """A Hall output is drawn low over a tooth; a coil swings up as it comes and down as it goes, crossing at its middle."""
    if sensor == "hall":
        low = np.zeros(at.shape, dtype=bool)
        for begins, width in teeth:
            low |= (at - begins) % 720.0 < width
        return [float(v) for v in np.where(low, LOW, FIVE_VOLT)]
    volts = np.zeros(at.shape)
    for begins, width in teeth:
        wide = max(width, 1.0) / 2
        from_middle = (at - begins - width / 2 + 360.0) % 720.0 - 360.0
        x = from_middle / wide
        volts += -amplitude * x * np.exp(0.5 * (1 - x**2))
    return [float(v) for v in np.round(volts, 4)]
