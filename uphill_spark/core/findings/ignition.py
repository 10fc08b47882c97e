"""IGN: can it give a speed signal, does the dwell fit, does it fire in order, who times it."""

from __future__ import annotations

from collections.abc import Iterator

from ..stages.ignition import SINGLE_COIL
from ..worked import Worked
from .base import Finding, Say, Severity, check, grade


@check("IGN-01", "/ignition/speed_signal", "Speed signal", source="contact bounce and coil flyback; supply to a ballasted coil")
def speed_signal(w: Worked, say: Say) -> Iterator[Finding]:
    g = w.build.ignition
    if g.speed_signal == "trigger_wheel":
        yield say("sound", "Speed comes from the trigger wheel, apart from the ignition.")
    elif g.kind == "contact_points":
        yield say(
            "stop",
            "Contact points bounce and the coil rings: the unit counts sparks that are not there.",
            "Fit an electronic trigger in the distributor, or a crank wheel.",
        )
    elif g.ballast and g.speed_signal == "coil_negative":
        yield say("stop", "With a ballast or resistance wire in its feed the coil gives too weak a signal, and the unit shares that feed.",
                  "Take the ballast out and fit a coil for full volts, or take speed from a tach output or crank wheel.", at="/ignition/ballast")  # fmt: skip
    elif g.kind == "capacitive_discharge" and g.speed_signal == "coil_negative":
        yield say("stop", "A capacitive-discharge coil carries hundreds of volts: it destroys the input.", "Use the box's tach output.")
    elif g.multi_spark:
        yield say("stop", "Multi-spark mode fakes engine speed and floods the engine.", "Switch it off.", at="/ignition/multi_spark")
    else:
        yield say("sound", f"Speed comes from the {g.speed_signal.replace('_', ' ')}.")


@check("IGN-03", "/ignition/coil", "Dwell at the rev limit", figure="ignition.duty.limit", source="charge of an R-L circuit")
def dwell(w: Worked, say: Say) -> Iterator[Finding]:
    g, coil = w.ignition, w.build.ignition.coil
    if g.duty_limit is None or g.gap_limit_s is None:
        reached = next(row.reached_a for row in g.dwell if row.volts == 13.8)
        yield say(
            "sort_out",
            f"The coil never reaches {coil.current}: at 13.8 V it ends at {reached:.1f} A.",
            "Charge to less, or fit a coil of lower resistance.",
            limit=0.6,
        )
        return
    severity: Severity = "sort_out" if g.gap_limit_s < 0 else grade(g.duty_limit, 0.60, 0.80)
    if severity == "sound" and g.gap_limit_s < 0.5e-3:
        severity = "watch"
    spare = g.gap_limit_s * 1e3
    left = f"{spare:.1f} ms left after the spark" if spare >= 0 else f"{-spare:.1f} ms too long for charge and spark"
    why = f"Charging takes {g.duty_limit:.0%} of the time at the rev limit, {left}."
    do = (
        ""
        if severity == "sound"
        else "Fewer cylinders on one coil, a lower charge current or a lower rev limit. Coils run hot and carry high voltage: key off before touching."
    )
    yield say(severity, why, do, limit=0.8 if severity == "sort_out" else 0.6)


@check("IGN-04", "/ignition/outputs", "What each output fires", source="companions fire 360 crank degrees apart")
def order(w: Worked, say: Say) -> Iterator[Finding]:
    g = w.ignition
    wanted = ", ".join(f"{row.name}: {'+'.join(map(str, row.proposed))}" for row in g.outputs)
    if g.outputs_in_order is None:
        yield say(
            "unknown",
            "How the outputs are wired is not stated.",
            f"Wire and confirm {wanted}.",
            settle="the leads followed from output to plug",
        )
    elif g.outputs_in_order:
        yield say("sound", f"Outputs fire in order: {wanted}.")
    else:
        leads = w.build.ignition.kind in SINGLE_COIL
        thing = "plug leads around the cap, in the direction of rotation," if leads else "outputs"
        yield say(
            "stop",
            f"The {thing} do not follow the firing order: it cranks and coughs back but does not run.",
            f"Wire {wanted}. High voltage: key off, battery off.",
        )


@check("IGN-06", "/ignition/advance", "Who advances the spark", source="one advance, not two and not none")
def advance(w: Worked, say: Say) -> Iterator[Finding]:
    g = w.build.ignition
    if g.timed_by_unit and g.advance == "working":
        yield say(
            "stop",
            "The control unit and the distributor's weights both advance the spark: far too early at speed, and it knocks.",
            "Lock the distributor's weights and vacuum, or let it keep the timing alone.",
        )
    elif not g.timed_by_unit and g.advance != "working":
        yield say(
            "stop",
            "Neither the control unit nor the distributor advances the spark.",
            "Unlock the distributor's advance, or let the unit time the spark.",
        )
    else:
        yield say("sound", f"The spark is advanced by the {'control unit' if g.timed_by_unit else 'distributor'} alone.")
