"""TRIG: the gap, the test by hand, teeth and sensor, supply and input, the angle, the phase, polarity."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from ..given.trigger import Trigger
from ..stages.sensors import wants_phase
from ..stages.trigger import TriggerResult
from ..stages.trigger.wheel import cycle, least_pitch_m, phase_starts
from ..worked import Worked
from . import owners
from .base import Body, Finding, Say, Severity, check, grade

RUNOUT = (0.25, 0.50)  # mm
DRIFT = (0.3, 1.0)  # degrees in 1,000 rpm: a filter's delay; more is polarity
DRIFT_A_MICROSECOND = 0.006  # degrees in 1,000 rpm: 360 degrees x 1,000/60 turns a second x 1 us
#: Degrees by which light and locked angle, or counted tooth and typed angle, may be apart: watched, stopped.
ANGLES_APART = (2.0, 6.0)


def _with_wheel(judge: Callable[[Worked, TriggerResult, Trigger, Say], Iterator[Finding]]) -> Body:
    """A check of the wheel that is there; nothing is said where there is none."""

    def body(w: Worked, say: Say) -> Iterator[Finding]:
        r, t = w.trigger, w.build.sensors.trigger
        if r is not None and t is not None:
            yield from judge(w, r, t, say)

    return body


FIVE_MOST = 5.5  # V that a 5 V part or input bears (its supply and a tenth)
TWELVE_LEAST = 8.0  # V under which a 12 V part may not switch
OVERLAP_LEAST = 0.5  # of the tip's width that has to face the teeth

#: What says which wheel it is.
_WHEEL = (
    "/sensors/trigger/teeth",
    "/sensors/trigger/missing",
    "/sensors/trigger/pattern",
    "/sensors/trigger/windows",
    "/sensors/trigger/on",
)


@check(
    "TRIG-01",
    "/sensors/trigger/gaps",
    "Gap and runout",
    figure="trigger.gap.runout",
    source="feeler gauge at four places; the sensor's own range",
    rests=(
        "/sensors/trigger/gap_least",
        "/sensors/trigger/gap_most",
        "/sensors/trigger/sensor",
        "/sensors/trigger/cranking",
        "/sensors/trigger/threshold",
        "/sensors/trigger/spin",
        "/sensors/trigger/teeth",
        "/sensors/trigger/shims",
        "/sensors/trigger/travel",
        "/sensors/trigger/overlap",
        "/sensors/trigger/tip",
        "/sensors/trigger/hand_turn",
    ),
)
@_with_wheel
def gap(w: Worked, r: TriggerResult, t: Trigger, say: Say) -> Iterator[Finding]:
    crank = t.cranking.si * 60
    if r.no_start_rev_s is not None and r.no_start_rev_s * 60 > crank:
        yield say("sort_out", f"The coil's signal switches the input above {r.no_start_rev_s * 60:.0f} rpm only; the starter turns {crank:.0f}. It will not start.",
                  "Bring the sensor closer, or a larger wheel, or an input that switches at less.", figure="trigger.vr.no_start", limit=round(crank, 6))  # fmt: skip
    tip = least_pitch_m(t) / 2
    if t.overlap is not None and t.overlap.si < OVERLAP_LEAST * tip:
        yield say("sort_out", f"Only {owners.gap(w, t.overlap.si)} of its tip, {owners.gap(w, tip)} wide, faces the teeth: the signal is weak and the gap that it wants smaller.",
                  "Shim wheel or bracket along the axle until the whole tip faces the teeth. Key out, battery off.", at="/sensors/trigger/overlap")  # fmt: skip
    if r.gap is None:
        yield say("unknown", "The gap is not measured; too wide it will not start, too close it touches when hot.",
                  "A feeler gauge at four places, a quarter turn apart. Key out, battery off.", settle="feeler gauge")  # fmt: skip
        return
    g = r.gap
    runout = None if g.runout_m is None else g.runout_m * 1e3
    severity: Severity = "unknown" if runout is None else grade(runout, *RUNOUT)
    shim = _moved(w, t, g.shim_m)
    tested = g.shim_m < 0 and r.hand is not None and r.hand.passed is True
    if g.shim_m and severity != "sort_out":
        severity = "watch" if tested and severity != "unknown" else "sort_out"
    known = f"{owners.gap(w, g.runout_m)} runout" if g.runout_m is not None else "read at one place, so the runout is not known"
    between = owners.span(w, "gap", g.least_m, g.most_m)
    average = "on average, " if g.runout_m is not None else ""
    why = f"Gap {owners.gap(w, g.mean_m)} {average}{known}; {between} is its range." + (
        " Every tooth showed in the hand-turn test all the same." if tested else ""
    )
    true = "True the wheel or its seat." if runout is not None and runout > RUNOUT[0] else ""
    more = "Read it at four places, a quarter turn apart. Key out, battery off." if runout is None else ""
    yield say(
        severity,
        why,
        " ".join(x for x in (shim, true, more) if x),
        limit=RUNOUT[runout is not None and runout > RUNOUT[1]],
        settle="feeler gauge" if more else None,
    )


def _moved(w: Worked, t: Trigger, shim_m: float) -> str:
    """How a gap is brought into its range with what there is: shims [m] to add (less than nought: to take out), and what the bracket can still move."""
    if not shim_m:
        return ""
    far = owners.gap(w, abs(shim_m))
    if shim_m > 0:
        return f"Add {far} of shim."
    out, travel = t.shims.si if t.shims is not None else None, t.travel.si if t.travel is not None else None
    if out is None and travel is None:
        return f"Bring it in by {far}: take out shims, or move the bracket; say how much of either there is."
    if out is not None and out >= -shim_m:
        return f"Take out {far} of shim."
    if travel is not None and travel >= -shim_m:
        return f"Move the bracket in by {far}."
    have = (out or 0.0) + (travel or 0.0)
    if have >= -shim_m:
        return f"Take out the {owners.gap(w, out or 0.0)} of shim and move the bracket in by {owners.gap(w, -shim_m - (out or 0.0))}."
    return f"It would have to come in by {far}; shims and travel give {owners.gap(w, have)}: slot the bracket, a longer sensor, or a larger wheel."


@check(
    "TRIG-02",
    "/sensors/trigger/hand_turn",
    "Hand-turn test",
    source="low over each tooth, near the supply between, as many as the wheel has",
    rests=(
        *_WHEEL,
        "/sensors/trigger/sensor",
        "/sensors/trigger/spin",
        "/sensors/trigger/wants",
        "/sensors/trigger/low_most",
        "/sensors/trigger/mount",
    ),
)
@_with_wheel
def hand_turn(w: Worked, r: TriggerResult, t: Trigger, say: Say) -> Iterator[Finding]:
    if r.sensor != "hall":
        spun = t.spin
        if spun is None or spun.coil is None or spun.volts is None or spun.speed is None:
            yield say("unknown", "The coil was not tested on the bench.", "Its ohms, and alternating millivolts when the wheel is spun.", at="/sensors/trigger/spin", settle="a meter and a drill")  # fmt: skip
        else:
            yield say("sound", f"The coil has {spun.coil} and gives {spun.volts} at {spun.speed}.")
        return
    supply = t.hand_turn.supply if t.hand_turn else None
    if supply is not None and t.wants == "5 V" and supply.si > FIVE_MOST:
        yield say("stop", f"{supply} on a part that wants 5 V: it is killed, perhaps already.", "Test it on 5 V; a part that had more wants a new test, or a new part.", at="/sensors/trigger/hand_turn/supply")  # fmt: skip
    elif supply is not None and t.wants == "12 V" and supply.si < TWELVE_LEAST:
        yield say("sort_out", f"{supply} on a part that wants 12 V: it may not switch, and the test proves nothing.", "Test it on a battery.", at="/sensors/trigger/hand_turn/supply")  # fmt: skip
    if r.hand is None and t.mount == "behind_pulley":
        yield say("sort_out", "Behind the pulley the sensor cannot be reached again with the engine in, and it was not tested by hand.",
                  "Test it before the pulley goes on: a meter and a battery, every tooth.", settle="the hand-turn test")  # fmt: skip
    elif r.hand is None:
        yield say("unknown", "The sensor was not tested by hand; found wrong with the engine back in, it costs a day.",
                  "A meter and a battery: turn the wheel by hand and read every tooth.", settle="the hand-turn test")  # fmt: skip
    elif r.hand.passed is None:
        yield say(
            "unknown", f"The hand-turn test is not finished: {r.hand.told}", "Go on where you stopped.", settle="the rest of the turn"
        )
    elif r.hand.passed:
        yield say("sound", r.hand.told)
    else:
        yield say("stop", r.hand.told, "Gap, supply, pull-up, then the sensor. Plugs out, key out, gear in neutral while you turn it.")


@check(
    "TRIG-03",
    "/sensors/trigger/teeth",
    "Teeth and sensor",
    figure="trigger.rate.limit",
    source="least tooth that the sensor tells; the input's highest rate",
    rests=(
        *_WHEEL,
        "/sensors/trigger/diameter",
        "/sensors/trigger/tip",
        "/sensors/trigger/sensor",
        "/sensors/trigger/input_rate",
        "/sensors/trigger/phase",
        "/ignition/kind",
        "/engine/cylinders",
        "/engine/firing_order",
    ),
)
@_with_wheel
def teeth(w: Worked, r: TriggerResult, t: Trigger, say: Say) -> Iterator[Finding]:
    told = False
    if r.pitch_m is not None and r.pitch_m < r.least_pitch_m:
        told = True
        yield say("sort_out", f"Teeth stand {owners.pitch(w, r.pitch_m)} apart; this sensor tells {owners.pitch(w, r.least_pitch_m)} or more.",
                  "Fewer teeth, a larger wheel, or a sensor with a smaller tip.", at="/sensors/trigger/diameter")  # fmt: skip
    if t.input_rate is not None and r.tooth_rate_limit_hz > t.input_rate.si:
        told = True
        yield say("sort_out", f"{r.tooth_rate_limit_hz:,.0f} teeth a second at the rev limit; the input takes {t.input_rate}.",
                  "Fewer teeth or a faster input.", at="/sensors/trigger/input_rate", limit=round(t.input_rate.si, 6))  # fmt: skip
    by_rotor = t.on == "distributor" and w.build.ignition.kind == "timed_distributor" and r.same_places == w.build.engine.cylinders
    if r.same_places > 1 and t.phase is None and not by_rotor:
        told = True
        yield say("sort_out", f"The wheel looks the same from {r.same_places} places: the unit cannot tell which is number one's.",
                  "A missing or added tooth, one window of another width, or a phase signal.")  # fmt: skip
    if not told:
        wide = f", {owners.pitch(w, r.pitch_m)} apart" if r.pitch_m else ""
        yield say("sound", f"{r.teeth_per_turn} teeth{wide}, {r.tooth_rate_limit_hz:,.0f} a second at the limit.")


@check(
    "TRIG-04",
    "/sensors/trigger/given",
    "Supply and input of the sensor",
    source="a Hall cell draws its output down and wants a pull-up; a coil wants no supply",
    rests=(
        "/sensors/trigger/wants",
        "/sensors/trigger/input",
        "/sensors/trigger/sensor",
        "/sensors/trigger/shared",
    ),
)
def supply(w: Worked, say: Say) -> Iterator[Finding]:
    t = w.build.sensors.trigger
    if t is None:
        return
    wrong: list[tuple[str, str, str]] = []
    hall = t.sensor == "hall"
    if hall and t.wants in ("5 V", "12 V") and t.given in ("5 V", "12 V", "none") and t.given != t.wants:
        what = "kills it" if (t.wants, t.given) == ("5 V", "12 V") else "may not switch it"
        wrong.append(
            (
                f"The sensor wants {t.wants} and gets {t.given.replace('none', 'nothing')}, which {what}.",
                f"Give it {t.wants}, by its own sheet.",
                "given",
            )
        )
    if not hall and t.given in ("5 V", "12 V"):
        wrong.append(
            (
                f"A bare coil gets {t.given}: it makes its own volts, and the supply upsets or burns the input.",
                "Two wires to the input, twisted and shielded, no supply.",
                "given",
            )
        )
    if hall and t.input == "zero_crossing":
        wrong.append(("The input is made for a bare coil; a Hall output never crosses zero.", "A logic input with a pull-up.", "input"))
    if hall and t.input == "logic_bare":
        wrong.append(
            (
                "The Hall output can only draw down, and nothing pulls it up.",
                "A pull-up of about 2 kΩ to 5 V, or switch the unit's on.",
                "input",
            )
        )
    if not hall and t.input in ("logic_pull_up", "logic_bare"):
        wrong.append(("A logic input does not read a bare coil at cranking speed.", "An input for a coil, or a converter.", "input"))
    high = w.trigger.shared_high_v if w.trigger else None
    if t.shared is not None and high is not None and high > FIVE_MOST:
        wrong.append(
            (
                f"Shared with {t.shared.name}, whose pull-up goes to {t.shared.supply}, the signal stands at {high:.1f} V: more than a 5 V input bears.",
                "One pull-up only: switch the unit's own off and set its input for the other's volts, or put a buffer between them.",
                "shared",
            )
        )
    for why, do, key in wrong:
        yield say("stop", why, do, at=f"/sensors/trigger/{key}")
    if t.shared is not None and t.shared.powers != "unit":
        fed = (
            f"{t.shared.name} feeds the sensor: with that off no speed comes."
            if t.shared.powers == "other"
            else "Which of the two feeds the sensor is not noted: with that one off no speed comes."
        )
        yield say("watch" if t.shared.powers == "other" else "unknown", fed, "Both behind one key contact, and read it from the one that feeds it.", at="/sensors/trigger/shared/powers", settle="the wire on its supply pin, followed")  # fmt: skip
    if not wrong:
        open_ = [word for word, value in (("supply", t.wants if hall else "none"), ("input", t.input)) if value == "not_read"]
        if open_:
            yield say("unknown", f"Not read from its sheet: {' and '.join(open_)}. Never guess: 12 V kill a 5 V part.", "Read both sheets before the plug goes on.", settle="the sensor's and the unit's sheets")  # fmt: skip
        else:
            yield say("sound", "Supply and input are as the sensor wants them.")


@check(
    "TRIG-06",
    "/sensors/trigger/phase",
    "Phase signal",
    source="an event clear of the crank's long gap, different on the two turns",
    rests=(
        *_WHEEL,
        "/sensors/trigger/angle",
        "/sensors/trigger/tooth_at_top",
        "/sensors/trigger/stop_before",
        "/sensors/trigger/stop_after",
        "/injectors/firing",
        "/ignition/kind",
        "/sensors/decisions",
    ),
)
@_with_wheel
def phase(w: Worked, r: TriggerResult, t: Trigger, say: Say) -> Iterator[Finding]:
    wanted = wants_phase(w.build)
    if t.phase is None:
        if r.gives_phase:
            yield say("sound", "The wheel turns at half speed and looks the same from one place only: it gives the phase itself.")
        elif wanted and t.on == "distributor":
            yield say(
                "sort_out",
                f"Sequence is wanted, and the wheel looks the same from {r.same_places} places: it gives speed and no phase.",
                "A wheel with one window that differs or one more, a phase sensor, or paired injection and the rotor: little is lost.",
            )
        elif wanted:
            sure = next((row.state for row in w.sensors.rows if row.kind == "cam"), "proposed")
            if sure == "struck":
                yield say(
                    "sort_out",
                    "Sequence is wanted and there is no phase signal.",
                    "A phase sensor, or wasted spark and paired injection: little is lost.",
                )
            else:
                yield say(
                    "note",
                    "When the phase event comes is not entered; the unit wants to know.",
                    settle="a scope, or the rotor's edge at a known crank angle",
                )
        return
    if t.phase.at is None:
        yield say(
            "unknown",
            "When the phase event comes is not entered.",
            "A scope, or the rotor's edge at a known crank angle.",
            at="/sensors/trigger/phase/at",
            settle="a scope",
        )
        return
    if r.angle_deg is None:
        yield say(
            "unknown",
            "Where the phase falls cannot be told before the trigger angle is set.",
            "Set the trigger angle.",
            settle="teeth from the gap at top dead centre",
        )
        return
    ends = [edge % 720 for start in phase_starts(t) for edge in (start, start + t.phase.width.si)]
    clear = [any((end - a) % 720 <= ((b - a) % 720 or 720) for a, b in r.phase_allowed_deg) for end in ends]
    if not all(clear):
        bands = " or ".join(f"{a:.0f} to {b:.0f}" for a, b in r.phase_allowed_deg)
        yield say("sort_out", f"The phase event {'begins' if not all(clear[::2]) else 'ends'} in the crank's long gap: whether it is seen before or after is chance.",
                  f"Move it to {bands} degrees after number one's top.")  # fmt: skip
    elif any(case.alike > 1 for case in r.sync):
        yield say("sort_out", "On both turns as many phase events come: the turns cannot be told apart.", "One event in a turn of the cam, or an odd number.")  # fmt: skip
    else:
        yield say("sound", f"The phase event at {t.phase.at} is clear of the gap and differs on the two turns.")


@check(
    "TRIG-07",
    "/sensors/trigger/polarity",
    "Polarity",
    figure="ignition.drift",
    source="the wrong edge moves with speed; a delay drifts by 0.006 degrees a microsecond in 1,000 rpm",
    rests=("/sensors/trigger/sensor",),
)
@_with_wheel
def polarity(w: Worked, r: TriggerResult, t: Trigger, say: Say) -> Iterator[Finding]:
    drift = w.ignition.drift_deg
    if t.polarity == "swapped":
        yield say(
            "sort_out",
            "The coil's two wires are swapped: the edge that is timed moves with speed, and sync is lost at some speed.",
            "Swap them at the plug, then set the angle afresh.",
        )
    elif drift is not None and abs(drift) > DRIFT[1]:
        yield say(
            "sort_out",
            f"The light moves {drift:+.2f} degrees in 1,000 rpm: more than a filter's delay.",
            "Swap the coil's wires, or the edge in the unit; then look at the belt.",
            limit=DRIFT[1],
        )
    elif drift is not None and abs(drift) > DRIFT[0]:
        yield say(
            "watch",
            f"The light moves {drift:+.2f} degrees in 1,000 rpm, as a delay of {abs(drift) / DRIFT_A_MICROSECOND:.0f} microseconds would.",
            "Enter the delay in the unit if it has a place for it.",
            limit=DRIFT[0],
        )
    elif r.sensor == "variable_reluctance" and t.polarity == "not_checked" and drift is None:
        yield say("watch", "Which way round the coil's two wires go was not looked at.", "On a scope: up as the tooth comes, down as it goes; or see whether the light stays put to 3,000 rpm.", settle="a scope or a timing log")  # fmt: skip
    else:
        yield say(
            "sound",
            "Timing stays with speed." if drift is not None else "The edge that is timed is the one that is meant.",
            limit=DRIFT[0] if drift is not None else None,
        )


@check(
    "TRIG-08",
    "/sensors/trigger/reach",
    "Room for a wheel on the crank",
    source="a wheel and a stiff bracket want room at the front of the crank",
    rests=("/sensors/trigger/on",),
)
@_with_wheel
def room(w: Worked, r: TriggerResult, t: Trigger, say: Say) -> Iterator[Finding]:
    if t.on != "crank" or t.reach == "not_looked_at":
        return
    if t.reach == "out_of_reach":
        yield say(
            "sort_out",
            "The wheel is meant for the crank, and the front of the crank is out of reach.",
            "A wheel in the distributor with one window that differs, or on the flywheel's end while the engine is out.",
        )
    else:
        yield say("sound", "The front of the crank is within reach.")


@check(
    "TRIG-05",
    "/sensors/trigger/angle",
    "Trigger angle",
    figure="trigger.tooth_at_top",
    source="teeth counted at top dead centre; timing light",
    rests=(
        *_WHEEL,
        "/sensors/trigger/tooth_at_top",
        "/sensors/trigger/stroke",
        "/sensors/trigger/light_commanded",
        "/sensors/trigger/light_observed",
        "/sensors/trigger/stop_before",
        "/sensors/trigger/stop_after",
        "/sensors/trigger/top_by",
        "/sensors/trigger/face",
        "/sensors/trigger/index_shift",
        "/sensors/trigger/figure_from",
        "/ignition/kind",
        "/ignition/timed_by_unit",
    ),
    gate=(),
)
def angle(w: Worked, say: Say) -> Iterator[Finding]:
    t = w.build.sensors.trigger
    if t is None:
        if w.build.ignition.timed_by_unit:
            yield say(
                "unknown",
                "The control unit times the spark, but no trigger wheel is described.",
                "Enter teeth, missing teeth and angle.",
                at="/sensors/trigger",
                settle="trigger wheel",
            )
        return
    inside = t.on == "distributor"
    count = (
        "The distributor's maker gives the phasing: crank degrees from the edge that is read to the post. The housing sets trigger and rotor together; then the light corrects it."
        if inside
        else "Turn to top dead centre of number one on compression, both valves shut and slack, and count teeth from the gap to the sensor in the direction of rotation."
    )
    caution = " Keep out of line with the fan and clear of hot parts."
    if t.stroke == "exhaust":
        yield say("stop", "Set on number one's exhaust stroke: every spark comes a turn late.", count, at="/sensors/trigger/stroke")
        return
    if w.trigger is None or w.trigger.angle_deg is None:
        yield say(
            "unknown",
            "The trigger angle is not set: the unit would fire at any angle.",
            count,
            settle="the maker's phasing figure" if inside else "teeth from the gap at top dead centre",
        )
        return
    told = False
    shift = t.index_shift.si if t.index_shift is not None else 0.0
    if t.angle is not None and t.figure_from == "maker" and (t.face == "turned_over" or shift):
        told = True
        turned = (
            "turned over, so that its teeth come in the other order"
            if t.face == "turned_over"
            else f"on another hole, {shift:+g} degrees round"
        )
        yield say(
            "stop" if t.face == "turned_over" else "sort_out",
            f"The figure typed is the maker's, and the wheel is {turned}: it does not hold here.",
            "Count from the gap on this car."
            if t.face == "turned_over"
            else f"Type {(t.angle.si + shift) % cycle(t):g} degrees, or count from the gap on this car.",
        )
    apart = w.trigger.counted_apart_deg
    if apart is not None and abs(apart) > ANGLES_APART[0]:
        told = True
        yield say(
            "stop" if abs(apart) > ANGLES_APART[1] else "watch",
            f"The tooth counted at top means {w.trigger.angle_deg + apart:.1f} degrees, {w.trigger.angle_deg:.1f} are typed: one of the two is wrong by {abs(apart):.1f}.",
            count,
            limit=None,
        )
    off = w.trigger.light_offset_deg
    if off is not None and abs(off) > ANGLES_APART[0]:
        told = True
        yield say(
            "stop" if abs(off) > ANGLES_APART[1] else "watch",
            f"The light shows {off:+.1f} degrees against the locked angle.",
            f"Correct the trigger angle by {off:+.1f} degrees and look again.{caution}",
            at="/sensors/trigger/light_observed",
        )
    if t.stroke == "not_checked" and w.build.ignition.kind == "coil_per_plug":
        told = True
        yield say(
            "unknown",
            "The stroke was not checked; on the exhaust stroke every spark comes a turn late.",
            count,
            at="/sensors/trigger/stroke",
            settle="both valves shut at that mark",
        )
    if off is None:
        yield say(
            "watch",
            f"Set to {w.trigger.angle_deg:.1f} degrees and not yet confirmed with a light.",
            f"Lock timing at 10 degrees, crank with the injectors off and look.{caution}",
            settle="timing light while cranking",
        )
    elif t.top_by not in ("positive_stop", "dial_gauge"):
        yield say(
            "watch",
            f"The light agrees within {abs(off):.1f} degrees with a mark that nobody has checked: it proves the unit against the mark, not the mark.",
            "Find top with a positive stop from both sides, plugs out, by hand, and see where the mark stands.",
            at="/sensors/trigger/top_by",
            settle="a positive stop or a dial gauge",
        )
    elif not told:
        yield say("sound", f"The light agrees within {abs(off):.1f} degrees with a mark that was checked.")
