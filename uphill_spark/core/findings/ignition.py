"""IGN: can it give a speed signal, does the dwell fit, does it fire in order, who times it."""

from __future__ import annotations

from collections.abc import Iterator

from ..circuit.netlist import SINGLE_COIL
from ..circuit.states import CHARGING_V
from ..stages.ignition import TIP_SPARE
from ..worked import Worked
from .base import Finding, Say, Severity, above, check, grade

DWELL = (0.60, 0.80)  # of the time at the rev limit that charging may take: warm coil, hot coil
SPARE = 0.5e-3  # s left after the spark
TACH_OFF = 0.02  # share by which a rev counter may read otherwise


@check(
    "IGN-01",
    "/ignition/speed_signal",
    "Speed signal",
    source="contact bounce and coil flyback; supply to a ballasted coil",
    rests=("/ignition/kind", "/ignition/multi_spark", "/ignition/ballast"),
)
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


@check(
    "IGN-02",
    "/ignition/coil/kind",
    "Coil and its driver",
    source="a logic output cannot carry a coil's current; the edge decides when it charges",
    rests=("/ignition/coil", "/ignition/edge", "/ignition/igniter", "/ignition/timed_by_unit", "/wiring/unit/coil_stage"),
    gate=(),
)
def driver(w: Worked, say: Say) -> Iterator[Finding]:
    g = w.build.ignition
    if not g.timed_by_unit:
        return
    stage = w.build.wiring.unit.coil_stage
    if stage == "inside":
        if g.igniter is not None or g.coil.kind == "smart":
            inner = "The igniter" if g.igniter is not None else "A coil with a power stage of its own"
            yield say("stop", f"{inner} wants a logic signal and hangs on the unit's own power stage: it burns, or never fires.",
                      "A bare coil straight on the unit, or an output of the unit that is logic only.", at="/wiring/unit/coil_stage")  # fmt: skip
        else:
            yield say("sound", "The power stage sits in the unit and drives the bare coil.")
        return
    if g.coil.kind == "dumb" and g.igniter is None and stage == "not_read":
        yield say("unknown", "A bare coil is right on a unit with a power stage inside, and burns an output that is logic only; which of the two this is was not read.",
                  "The unit's own sheet, before the coil is plugged in.", at="/wiring/unit/coil_stage", settle="the unit's sheet")  # fmt: skip
        return
    if g.coil.kind == "dumb" and g.igniter is None:
        yield say("stop", "A coil without a power stage hangs on a logic output: the output burns, or there is no spark.",
                  "An igniter between them, on a heat sink, or coils with one inside.", at="/ignition/igniter")  # fmt: skip
        return
    fires = g.igniter.fires_on if g.igniter else g.coil.fires_on
    if fires != g.edge:
        yield say("stop", f"The unit fires as its signal goes {g.edge}, the {'igniter' if g.igniter else 'coil'} as it goes {fires}: the coil charges from key-on until it burns.",
                  "Set the edge before the coil's plug goes on. A coil cooked by it can burst: stand clear.", at="/ignition/edge")  # fmt: skip
    elif g.igniter and g.igniter.limit.si < g.coil.current.si:
        yield say(
            "stop",
            f"The igniter carries {g.igniter.limit}, the coil is charged to {g.coil.current}.",
            "A larger igniter, or less charge.",
            at="/ignition/igniter/limit",
        )
    elif g.igniter and not g.igniter.heat_sink:
        yield say(
            "sort_out",
            "The igniter has no heat sink: it dies on the first long hill.",
            "Bolt it to bare metal with paste, out of the exhaust's heat.",
            at="/ignition/igniter/heat_sink",
        )
    else:
        yield say("sound", f"Driver and coil agree: both fire as the signal goes {g.edge}.")


@check(
    "IGN-03",
    "/ignition/coil",
    "Dwell at the rev limit",
    figure="ignition.duty.limit",
    source="charge of an R-L circuit",
    rests=("/ignition/timed_by_unit",),
)
def dwell(w: Worked, say: Say) -> Iterator[Finding]:
    g, coil = w.ignition, w.build.ignition.coil
    if not g.driven:
        return  # its own module charges it
    if g.duty_limit is None or g.gap_limit_s is None:
        reached = next(row.reached_a for row in g.dwell if row.volts == CHARGING_V)
        yield say(
            "sort_out",
            f"The coil never reaches {coil.current}: at {CHARGING_V:g} V it ends at {reached:.1f} A.",
            "Charge to less, or fit a coil of lower resistance.",
            limit=DWELL[0],
        )
        return
    severity: Severity = "sort_out" if g.gap_limit_s < 0 else grade(g.duty_limit, *DWELL)
    if severity == "sound" and g.gap_limit_s < SPARE:
        severity = "watch"
    spare = g.gap_limit_s * 1e3
    left = f"{spare:.1f} ms left after the spark" if spare >= 0 else f"{-spare:.1f} ms too long for charge and spark"
    why = f"Charging takes {g.duty_limit * 100:.0f} % of the time at the rev limit, {left}."
    do = (
        ""
        if severity == "sound"
        else "Fewer cylinders on one coil, a lower charge current or a lower rev limit. Coils run hot and carry high voltage: key off before touching."
    )
    yield say(severity, why, do, limit=above(severity, *DWELL))


@check(
    "IGN-04",
    "/ignition/outputs",
    "What each output fires",
    source="companions fire 360 crank degrees apart",
    rests=("/ignition/letters", "/ignition/kind", "/engine/firing_order", "/engine/cylinders", "/wiring/unit/numbers"),
    gate=("/ignition/outputs", "/ignition/letters", "/engine/firing_order"),
)
def order(w: Worked, say: Say) -> Iterator[Finding]:
    g = w.ignition
    wanted = ", ".join(f"{row.name}: {'+'.join(map(str, row.proposed))}" for row in g.outputs)
    stated = all(row.wired for row in g.outputs)
    if g.outputs_in_order is None and stated:
        way, other = ("cylinder", "place in the firing order") if g.numbers == "by_cylinder" else ("place in the firing order", "cylinder")
        yield say(
            "unknown",
            f"As wired ({wanted}) it fires in order on a unit that numbers its outputs by {way}, and is wrong on one that numbers them by {other}.",
            "Look it up in the unit's own sheet before a wire is moved.",
            at="/wiring/unit/numbers",
            settle="the unit's sheet",
        )
    elif g.outputs_in_order is None:
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
        typed = (
            f", or, where the unit lets its outputs be listed, type them in the order in which they fire as wired: {', '.join(g.typed_order)}"
            if g.typed_order
            else ""
        )
        thing = "plug leads around the cap, in the direction of rotation," if leads else "outputs"
        yield say(
            "stop",
            f"The {thing} do not follow the firing order{f': {g.order_fault}' if g.order_fault else ''}. "
            f"{g.cylinders_on_time} of {w.build.engine.cylinders} cylinders get their spark on time: it cranks and coughs back but does not run.",
            f"Wire {wanted}{typed}. High voltage: key off, battery off.",
        )


@check(
    "IGN-05",
    "/ignition/distributor",
    "Rotor under its post",
    figure="ignition.rotor.span",
    source="half of the advance that is used, and three degrees to spare",
    rests=("/sensors/trigger/on",),
)
def rotor(w: Worked, say: Say) -> Iterator[Finding]:
    r, d = w.ignition.rotor, w.build.ignition.distributor
    g = w.build.ignition
    if g.kind != "timed_distributor" or not g.timed_by_unit:
        return
    if r is None or d is None or r.half_tip_deg is None or d.meets is None:
        yield say("unknown", "The unit sweeps the advance under a rotor that stands still; where the tip faces the post is not known.",
                  "Enter the width of the tip, and at which crank angle it faces number one's post.", settle="a cap with a window cut in it, and the light")  # fmt: skip
        return
    limit = round(2 * r.half_tip_deg - TIP_SPARE, 6)
    if r.covered:
        yield say("sound", f"The tip covers the sweep, {d.advance_least} to {d.advance_most} before top.", limit=limit)
    else:
        wide = w.ignition.rotor_span_deg or 0.0
        do = (
            f"A wider tip, or less advance: {wide + TIP_SPARE:.1f}° of tip are wanted."
            if wide > limit
            else f"Let it face the post at {r.best_meets_deg:.1f}° before top: "
            + (
                "the housing turns trigger and rotor together, so move the rotor on its shaft, or the pick-up in its housing."
                if _pick_up_inside(w)
                else "turn the rotor."
            )
        )
        yield say("sort_out", f"At {'least' if abs(r.least_deg) > abs(r.most_deg) else 'most'} advance the spark leaves the tip by {max(abs(r.least_deg), abs(r.most_deg)) - r.half_tip_deg:+.1f}° of the cap: it jumps to the next post.", f"{do} High voltage: key off, battery off.", limit=limit)  # fmt: skip


def _pick_up_inside(w: Worked) -> bool:
    """Whether the trigger is read in the distributor."""
    t = w.build.sensors.trigger
    return t is not None and t.on == "distributor"


@check(
    "IGN-06", "/ignition/advance", "Who advances the spark", source="one advance, not two and not none", rests=("/ignition/timed_by_unit",)
)
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


@check(
    "IGN-07",
    "/ignition/resistor_plugs",
    "Plugs and leads",
    source="spark noise upsets a control unit; CISPR 12",
    rests=("/ignition/suppressed_leads", "/ignition/kind"),
)
def suppressed(w: Worked, say: Say) -> Iterator[Finding]:
    g = w.build.ignition
    leads = g.kind != "coil_per_plug"
    bare = [
        word
        for word, seen in (("plugs without a resistor", g.resistor_plugs), ("bare leads", g.suppressed_leads if leads else "yes"))
        if seen == "no"
    ]
    unseen = [
        word for word, seen in (("plugs", g.resistor_plugs), ("leads", g.suppressed_leads if leads else "yes")) if seen == "not_looked_at"
    ]
    if bare:
        yield say("sort_out", f"{' and '.join(bare).capitalize()} make noise that the control unit takes for signals.",
                  "Resistor plugs, leads of some kilohms a metre.", at="/ignition/suppressed_leads" if g.resistor_plugs != "no" else None)  # fmt: skip
    elif unseen:
        yield say(
            "note",
            f"Whether {' and '.join(unseen)} are suppressed was not looked at.",
            settle="the letter R in the plug's number; an ohmmeter on a lead",
        )
    else:
        yield say("sound", "Plugs and leads are suppressed." if leads else "The plugs have their resistor.")


@check(
    "IGN-08",
    "/ignition/tach",
    "Rev counter",
    figure="ignition.tach.pulses",
    source="half the cylinders in a turn; coil spikes of a distributor's single coil",
    rests=("/ignition/kind", "/ignition/speed_signal", "/engine/cylinders"),
)
def tach(w: Worked, say: Say) -> Iterator[Finding]:
    g, t = w.build.ignition, w.build.ignition.tach
    if t is None or t.hangs_on == "none":
        return
    told = []
    if t.hangs_on == "coil_negative" and g.kind in ("wasted_spark", "coil_per_plug"):
        told.append(("It hangs on one coil of several and reads a fraction.", "The unit's output, through an adapter if it wants a spike."))
    if t.hangs_on == "coil_negative" and g.kind == "capacitive_discharge":
        told.append(("A capacitive-discharge coil carries hundreds of volts: it kills the rev counter.", "The box's tach output."))
    if t.terminal == "shared_with_unit" or (t.hangs_on == "coil_negative" and g.speed_signal == "coil_negative"):
        told.append(
            (
                "Dial and control unit hang on one terminal: each loads the other's signal, and a fault in one stops both.",
                "A wire of its own for the unit, as near the source as there is a place; look whether the speed stays steady with the dial unplugged.",
            )
        )
    if t.hangs_on == "unit_output" and t.wants == "spike":
        told.append(("It wants a coil's tall spike and gets a 12 V square wave.", "An adapter that makes a spike."))
    reads = w.ignition.tach_reads
    if reads is not None and abs(reads - 1) > TACH_OFF:
        told.append(
            (
                f"Set for {t.set_for} cylinders, it shows {3000 * reads:,.0f} at 3,000 rpm.",
                f"Set it for {w.build.engine.cylinders}, or set the output to {t.set_for / 2 if t.set_for else 0:g} pulses a turn.",
            )
        )
    for why, do in told:
        yield say("watch", why, do)
    if not told:
        yield say("sound", f"{w.ignition.tach_pulses:g} pulses in a turn, as it is set.")
