"""Trigger: the wheel under its sensor, where number one is, what cranking does to the spark, and what was tested by hand."""

from __future__ import annotations

import math
from collections.abc import Callable

from ...circuit.states import FIVE_VOLT
from ...figures import Result, Spec
from ...given import Build
from ...given.trigger import Trigger
from ...reference import devices
from .cranking import crank, timing_error
from .reluctance import mean_gap, no_start_speed, strength
from .wheel import (
    SyncCase,
    cycle,
    degrees_per_tooth,
    gap_after,
    gives_phase,
    least_pitch_m,
    phase_allowed,
    pitch_m,
    same_places,
    sync_cases,
    teeth_of,
)

#: Gap [m] where the sheet tells none: least and most, by sensor.
USUAL_GAPS = {"hall": (0.5e-3, 1.5e-3), "variable_reluctance": (0.5e-3, 1.0e-3)}
#: Volts of a sound Hall output where its sheet tells none: over a tooth at most, in a gap at least this share of its supply.
LOW_MOST = 0.5
HIGH_SHARE = 0.8
COUNT_DOUBT = 0.25  # of a tooth


class ToothLevel(Result):
    """A tooth of the hand-turn test: number from 1, as it was read, and what is wrong with it."""

    tooth: int
    over_v: float
    between_v: float
    wrong: str


class HandTest(Result):
    """The hand-turn test so far: teeth expected and read, those that failed, and whether it passed; None while it goes on."""

    expected: int
    read: int
    rows: list[ToothLevel]
    passed: bool | None
    told: str


class GapLog(Result):
    """Gaps round the wheel [m]: mean, runout, the range they should lie in, and what a shim should add (less than 0: take out)."""

    mean_m: float
    runout_m: float | None
    least_m: float
    most_m: float
    shim_m: float


class TriggerResult(Result):
    """The wheel: its teeth on the engine, gap, signal, sync, the test by hand."""

    teeth: int
    missing: int
    pattern: str
    sensor: str
    clockwise: bool
    from_front: bool
    edges_deg: list[tuple[float, float]]
    cycle_deg: float
    gap_deg: tuple[float, float]
    tooth_angle_deg: float
    teeth_per_turn: int
    tooth_rate_limit_hz: float
    pitch_m: float | None
    least_pitch_m: float
    angle_deg: float | None
    angle_doubt_deg: float | None
    tooth_at_tdc: float | None
    top_off_deg: float | None
    counted_apart_deg: float | None
    light_offset_deg: float | None
    same_places: int
    gives_phase: bool
    shared_high_v: float | None
    sync: list[SyncCase]
    phase_allowed_deg: list[tuple[float, float]]
    gap: GapLog | None
    hand: HandTest | None
    low_most_v: float
    high_share: float
    cranking_error_deg: float | None
    cranking_swing: float | None
    no_start_rev_s: float | None
    volts_per_rev_s: float | None


#: What this stage reads of the build.
READS = ("engine.compression_ratio", "engine.cylinders", "engine.displacement", "engine.rev_limit", "sensors.trigger")


def work_out(build: Build) -> TriggerResult | None:
    """The trigger of a build; None without a wheel."""
    t = build.sensors.trigger
    if t is None:
        return None
    pitch, rows, whole = degrees_per_tooth(t), teeth_of(t), cycle(t)
    angle = trigger_angle(t)
    run = crank(build)
    late = timing_error(build, rows, whole, angle if angle is not None else 60.0)
    coil = t.sensor == "variable_reluctance"
    return TriggerResult(
        teeth=t.teeth, missing=t.missing, pattern=t.pattern, sensor=t.sensor, clockwise=t.turns == "clockwise", from_front=t.seen_from == "front",
        edges_deg=[(r.begins, r.ends) for r in rows], cycle_deg=whole, gap_deg=gap_after(t), tooth_angle_deg=pitch, teeth_per_turn=len(rows),
        tooth_rate_limit_hz=(len(rows) + (t.missing if t.pattern == "missing" else 0)) * build.engine.rev_limit.si * 360.0 / whole,
        pitch_m=pitch_m(t), least_pitch_m=least_pitch_m(t), angle_deg=angle, angle_doubt_deg=_doubt(t, angle, pitch),
        tooth_at_tdc=angle % whole / pitch if angle is not None else None, top_off_deg=_top_off(t), counted_apart_deg=_counted_apart(t),
        light_offset_deg=t.light_observed.si - t.light_commanded.si if t.light_observed and t.light_commanded else None,
        same_places=same_places(t), gives_phase=gives_phase(t), shared_high_v=_shared_high(t), sync=sync_cases(t, angle), phase_allowed_deg=phase_allowed(t, angle), gap=_gap_log(t), hand=_hand(t, len(rows)), low_most_v=low_most(t), high_share=HIGH_SHARE,
        cranking_error_deg=late.worst_at_fire if run.settled else None, cranking_swing=run.swing if run.settled else None, no_start_rev_s=no_start_speed(t) if coil else None,
        volts_per_rev_s=strength(t) if coil else None,
    )  # fmt: skip


def trigger_angle(t: Trigger) -> float | None:
    """Crank degrees [deg] from the first tooth after the gap to number one's top: as told, else from the tooth that was counted there."""
    if t.angle is not None:
        return t.angle.si
    if t.tooth_at_top is None:
        return None
    return t.tooth_at_top * degrees_per_tooth(t) + (_top_off(t) or 0.0)


def _counted_apart(t: Trigger) -> float | None:
    """By how much the tooth that was counted at top speaks against the angle that was typed [deg], the shorter way round; None where not both are there."""
    if t.angle is None or t.tooth_at_top is None:
        return None
    counted = t.tooth_at_top * degrees_per_tooth(t) + (_top_off(t) or 0.0)
    return (counted - t.angle.si + 180.0) % 360.0 - 180.0


def _top_off(t: Trigger) -> float | None:
    """How far after the mark true top lies [deg], by a positive stop from both sides: half way between where the piston stops before the mark and after it."""
    if t.stop_before is None or t.stop_after is None:
        return None
    return (abs(t.stop_after.si) - abs(t.stop_before.si)) / 2


def _doubt(t: Trigger, angle: float | None, pitch: float) -> float | None:
    if angle is None:
        return None
    return t.doubt.si if t.doubt is not None else COUNT_DOUBT * pitch if t.angle is None else 1.0


def _gap_log(t: Trigger) -> GapLog | None:
    read = t.gaps_read
    if not read:
        return None
    least, most = USUAL_GAPS[t.sensor]
    least, most = t.gap_least.si if t.gap_least else least, t.gap_most.si if t.gap_most else most
    mean, middle = mean_gap(t), (least + most) / 2
    inside = least <= min(read) and max(read) <= most
    runout = max(read) - min(read) if len(read) > 1 else None
    return GapLog(mean_m=mean, runout_m=runout, least_m=least, most_m=most, shim_m=0.0 if inside else middle - mean)


def low_most(t: Trigger) -> float:
    """Volts [V] over a tooth at most: the part's own, or usual."""
    return t.low_most.si if t.low_most is not None else LOW_MOST


def _shared_high(t: Trigger) -> float | None:
    """Volts [V] of a shared signal between the teeth: two pull-ups to two supplies, the sensor letting go; None where it is not shared."""
    if t.shared is None:
        return None
    own = devices().input["crank_input"].up or math.inf
    ways = ((FIVE_VOLT, own), (t.shared.supply.si, t.shared.pull_up.si))
    return sum(volts / ohms for volts, ohms in ways) / sum(1 / ohms for _, ohms in ways)


def _silent(t: Trigger) -> bool:
    """Whether an output that can only draw down showed nothing but low: without a pull-up it reads nought for ever."""
    h = t.hand_turn
    return h is not None and h.pull_up != "in_sensor" and bool(h.levels) and all(x.between.si <= low_most(t) for x in h.levels)


def _hand(t: Trigger, expected: int) -> HandTest | None:
    h = t.hand_turn
    if h is None:
        return None
    if _silent(t) and h.pull_up != "for_the_test":
        told = f"{h.levels[0].between} between the teeth as over them: an output that can only draw down wants 1 to 5 kΩ to plus for this test."
        levels = [ToothLevel(tooth=i + 1, over_v=x.over.si, between_v=x.between.si, wrong="") for i, x in enumerate(h.levels)]
        return HandTest(expected=expected, read=len(levels), rows=levels, passed=None, told=told)
    most = low_most(t)
    rows = []
    for i, level in enumerate(h.levels):
        wrong = ""
        if level.over.si > most:
            wrong = f"stays at {level.over} over the tooth, {most:g} V at most"
        elif h.supply is not None and level.between.si < HIGH_SHARE * h.supply.si:
            wrong = f"comes only to {level.between} in the gap, {HIGH_SHARE * h.supply.si:.1f} V at least"
        rows.append(ToothLevel(tooth=i + 1, over_v=level.over.si, between_v=level.between.si, wrong=wrong))
    bad = [r for r in rows if r.wrong]
    if len(rows) > expected:
        return HandTest(
            expected=expected, read=len(rows), rows=rows, passed=False, told=f"{len(rows)} teeth were counted, the wheel has {expected}."
        )
    if bad:
        told = f"Tooth {bad[0].tooth} {bad[0].wrong}." + (f" {len(bad) - 1} more like it." if len(bad) > 1 else "")
        return HandTest(expected=expected, read=len(rows), rows=rows, passed=False, told=told)
    if not h.finished or h.supply is None:
        return HandTest(
            expected=expected,
            read=len(rows),
            rows=rows,
            passed=None,
            told=f"{len(rows)} of {expected} teeth so far." if h.supply else "the supply at the sensor was not read.",
        )
    if len(rows) < expected:
        told = f"Back at the gap after {len(rows)} teeth, {expected} were to show."
        return HandTest(expected=expected, read=len(rows), rows=rows, passed=False, told=told)
    return HandTest(
        expected=expected, read=len(rows), rows=rows, passed=True, told=f"All {expected} teeth show, low over each and high between."
    )


_WHEEL = ("/sensors/trigger",)
_CRANK = (*_WHEEL, "/engine/displacement", "/engine/cylinders", "/engine/firing_order", "/engine/compression_ratio")


def _take(name: str) -> Callable[[TriggerResult | None], float | None]:
    def taken(r: TriggerResult | None) -> float | None:
        value: float | None = None if r is None else getattr(r, name)
        return value

    return taken


FIGURES = (
    Spec("trigger.degrees_per_tooth", "deg", "Crank degrees from tooth to tooth", _WHEEL, "360 / N", _take("tooth_angle_deg")),
    Spec("trigger.rate.limit", "Hz", "Teeth a second at the rev limit", (*_WHEEL, "/engine/rev_limit"), "N times revolutions a second", _take("tooth_rate_limit_hz")),
    Spec("trigger.angle", "deg", "Trigger angle", _WHEEL, "teeth from the gap to the sensor at top, times degrees a tooth", _take("angle_deg")),
    Spec("trigger.angle.doubt", "deg", "Trigger angle, sure to within", _WHEEL, "a quarter tooth where it was counted", _take("angle_doubt_deg")),
    Spec("trigger.tooth_at_top", "1", "Tooth under the sensor at top dead centre, counted from the gap", _WHEEL, "angle over degrees a tooth", _take("tooth_at_tdc")),
    Spec("trigger.gap.mean", "mm", "Gap, mean round the wheel", _WHEEL, "feeler gauge, four places", lambda r: r.gap.mean_m if r and r.gap else None),
    Spec("trigger.gap.runout", "mm", "Gap, widest less narrowest", _WHEEL, "feeler gauge, four places", lambda r: r.gap.runout_m if r and r.gap else None),
    Spec("trigger.error.cranking", "deg", "A spark misses its angle while cranking by at most", _CRANK, "gas torque, starter and inertia; reckoned ahead from the last tooth", _take("cranking_error_deg")),
    Spec("trigger.swing.cranking", "1", "Speed swings while cranking by", _CRANK, "gas torque, starter and inertia", _take("cranking_swing"), share=True),
    Spec("trigger.vr.no_start", "rpm", "Below this the coil's signal is too weak to start on", _WHEEL, "volts go with speed and fall with the gap", _take("no_start_rev_s")),
)  # fmt: skip
