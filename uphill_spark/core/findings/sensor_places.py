"""SENS, each sensor for itself: where it sits, how it is grounded, who else reads it, whether its line is its own, and what the screen shows with the key on."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from ..given.sensors import AirSender, CoolantSender
from ..stages.sensors.places import AIR_SOAKED, COOLANT_WRONG
from ..stages.sensors.scaling import ThermistorCurve
from ..worked import Worked
from .base import Finding, Say, check, grade
from .owners import length, manifold, own, span, temperature

BODY_MOST = 1.0  # ohm, body to block of a one-wire sender
SHARE = (0.5, 2.0)  # K
PEDAL = 0.95
TWO_BANKS = ("vee", "flat")
INPUT_MOST = 5.2  # V on an input that is made for 5
HOSE = 1.0  # m, a pressure hose longer than this lags behind the manifold
LINE_OFF = 2e3  # Pa by which the line typed in may differ from the sensor's own
SPAN_LEAST = 1.0  # V of a throttle sensor from shut to open
PULSING = ("brake_booster", "crankcase_valve", "distributor_advance", "canister_purge")


def _fitted(w: Worked, kind: str) -> bool:
    """Whether a sensor is part of the set and not struck."""
    return any(row.kind == kind and row.state != "struck" for row in w.sensors.rows)


@check(
    "SENS-02",
    "/sensors/oxygen",
    "Place of the oxygen sensor",
    source="after the merge, cooled by 600 mm of pipe, clear of bends, 10 to 80 degrees above level, 450 mm of pipe after it; the part's own sheet wins",
    rests=("/sensors/decisions", "/fuel/tank/leaded", "/engine/arrangement"),
)
def oxygen(w: Worked, say: Say) -> Iterator[Finding]:
    o, x = w.build.sensors.oxygen, w.sensors.exhaust
    if not _fitted(w, "wideband_oxygen"):
        return
    if w.build.fuel.tank.leaded:
        yield say(
            "sort_out",
            "Leaded fuel or an old additive poisons an oxygen sensor within hours.",
            "Unleaded fuel, or leave the sensor out of the pipe.",
            at="/fuel/tank/leaded",
        )
    if o is not None and o.leak == "leaks":
        yield say("sort_out", "Its boss leaks: outside air is drawn in between pulses, and it reads lean.", "A new gasket, or weld it. Exhaust cold.", at="/sensors/oxygen/leak")  # fmt: skip
    elif o is not None and o.boss == "clamped" and o.leak == "not_looked_at":
        yield say("unknown", "A boss that is clamped on over a hole leaks sooner than one that is welded; nobody has looked.", "Soapy water round it on a cold start.", at="/sensors/oxygen/leak", settle="soapy water on a cold start")  # fmt: skip
    if o is None or x is None or not x.pieces or x.distance_m is None or x.clock_deg is None:
        yield say(
            "note",
            "Where the oxygen sensor sits in the exhaust is not entered.",
            "List the exhaust from the ports back, then mark the sensor.",
            settle="a tape along the pipe, exhaust cold",
        )
        return
    if o.banks == "one_only":
        yield say("watch", "It sits in the pipe of one bank: the other is not seen.", "Where all banks have joined, or a sensor for each.", at="/sensors/oxygen/banks")  # fmt: skip
    if o.banks == "not_noted" and w.build.engine.arrangement in TWO_BANKS:
        yield say("unknown", "Whether both banks have joined before it is not noted: it may see one bank only.", "Look where the pipes join.", at="/sensors/oxygen/banks", settle="a look under the car, exhaust cold")  # fmt: skip
    elif not x.wrong and o.banks != "one_only":
        yield say("sound", f"{length(w, x.distance_m or 0.0)} along the pipe, {x.clock_deg:.0f}° above level.")
    if not x.wrong:
        return
    bands = " or ".join(span(w, "length", a, b) for a, b in x.allowed_m) or "nowhere on this pipe; a longer straight is wanted"
    severe = len(x.wrong) > 1 or any(word in x.wrong[0].says for word in ("below", "cylinder", "catalyst", "beyond"))
    why = "; ".join(place.told(partial(length, w)) for place in x.wrong)
    sheet = ", by its own sheet" if x.limits.by_sheet else ""
    yield say(
        "sort_out" if severe else "watch",
        f"{why[0].upper()}{why[1:]}.",
        f"Allowed: {bands} from the ports, {x.limits.lowest_deg:.0f} to {x.limits.highest_deg:.0f}° above level{sheet}. {'Drill and clamp' if o.boss == 'clamped' else 'Weld'} with the sensor out, exhaust cold.",
    )


@check(
    "SENS-03",
    "/sensors/coolant/place",
    "Place of the coolant sensor",
    source="moving coolant on the engine's side of the thermostat; air-cooled: metal of the head",
    rests=("/engine/cooling",),
)
def coolant_place(w: Worked, say: Say) -> Iterator[Finding]:
    c = w.build.sensors.coolant
    if c is None:
        yield say("note", "The coolant sensor is not described.", at="/sensors/coolant", settle="its place and three points")
        return
    wrong = COOLANT_WRONG.get(c.place)
    if w.build.engine.cooling == "air" and c.place not in ("head", "not_chosen"):
        yield say(
            "sort_out",
            "The engine is cooled by air: there is no coolant where this sensor is said to sit.",
            "A sensor in the metal of the head, out of the fan's draught: its temperature is what the unit goes by.",
        )
    elif wrong:
        yield say(
            "sort_out",
            f"{wrong}: too much fuel, hot or cold.",
            "The engine's side of the thermostat, in moving coolant; air-cooled: in the head. System cold and open before it comes out.",
        )
    elif c.place == "not_chosen":
        yield say("note", "Where the coolant sensor sits is not entered.", settle="a look at the thermostat housing")
    else:
        yield say("sound", "It sits in moving coolant, engine side." if c.place == "before_thermostat" else "It sits in the head.")


@check("SENS-04", "/sensors/coolant/wires", "Ground of a one-wire sender", source="the body is the other wire: under one ohm to the block")
def body_ground(w: Worked, say: Say) -> Iterator[Finding]:
    c = w.build.sensors.coolant
    if c is None or c.wires == 2:
        return
    if c.seal == "thread_tape":
        yield say(
            "stop",
            "Tape on the thread insulates a sender that grounds through its body: open circuit, and the unit believes deep winter.",
            "Clean the thread; a washer, or a sender with two wires.",
            at="/sensors/coolant/seal",
        )
    elif c.body is not None and c.body.si > BODY_MOST:
        yield say(
            "stop",
            f"{c.body} from body to block: the sender's ground is open or poor.",
            "Bare metal under it, under 1 Ω; or a sender with two wires.",
            at="/sensors/coolant/body",
        )
    elif c.body is None:
        yield say(
            "watch",
            "Body to block was not measured; a one-wire sender grounds through it.",
            "Ohms from its body to the block, key out: under 1 Ω.",
            at="/sensors/coolant/body",
            settle="an ohmmeter",
        )
    else:
        yield say("sound", f"{c.body} from body to block.")


@check(
    "SENS-05",
    "/sensors/air/place",
    "Place of the air sensor",
    source="heat soak of a metal plenum; hot restart goes lean",
    rests=("/engine/boost",),
)
def air_place(w: Worked, say: Say) -> Iterator[Finding]:
    a = w.build.sensors.air
    if a is None:
        yield say("note", "The air sensor is not described.", at="/sensors/air", settle="its place and three points")
        return
    boosted = bool(w.build.engine.boost and w.build.engine.boost.si)
    if a.place in AIR_SOAKED:
        yield say("watch", f"In the {a.place.replace('_', ' ')} heat soaks it: after a stop it reads hot air that is not there, and the restart is lean." if a.place != "near_exhaust" else "Near the exhaust it reads radiated heat.",
                  "In moving air after the filter, an open element; a metal plenum only with a blower.")  # fmt: skip
    elif boosted and a.place == "after_filter":
        yield say("watch", "Before the blower it does not see the air that the blower has heated.", "After the blower, in moving air.")
    elif a.place == "not_chosen":
        yield say("note", "Where the air sensor sits is not entered.", settle="a look at filter and plenum")
    else:
        yield say("sound", f"It sits {a.place.replace('_', ' ')}.")


def _shared(
    w: Worked, say: Say, sender: CoolantSender | AirSender | None, curve: ThermistorCurve | None, name: str, at: str
) -> Iterator[Finding]:
    if sender is None or sender.shared is None or curve is None or curve.share_error_k is None or curve.share_error_at_k is None:
        return
    severity = grade(abs(curve.share_error_k), *SHARE)
    over = (
        f" It drives the input to {curve.share_volts:.1f} V, which is made for 5."
        if curve.share_volts and curve.share_volts > INPUT_MOST
        else ""
    )
    why = f"The {sender.shared.name} reads the same sender: the unit is {curve.share_error_k:+.0f} K wrong at {temperature(w, curve.share_error_at_k)}, and the {sender.shared.name} is wrong too.{over}"
    yield say(
        severity,
        why,
        "" if severity == "sound" else "A sender for each; the old gauge keeps its own.",
        at=f"{at}/shared",
        figure=f"sensors.share_error.{name}",
    )


@check(
    "SENS-06",
    "/sensors/coolant/shared",
    "Shared sender",
    figure="sensors.share_error.coolant_temperature",
    source="each reader's pull-up feeds the sender of the other",
)
def shared(w: Worked, say: Say) -> Iterator[Finding]:
    s = w.build.sensors
    found = [
        *_shared(w, say, s.coolant, w.sensors.coolant, "coolant_temperature", "/sensors/coolant"),
        *_shared(w, say, s.air, w.sensors.air, "intake_air_temperature", "/sensors/air"),
    ]
    yield from found


@check(
    "SENS-07",
    "/sensors/pressure/points",
    "Range and line of the manifold sensor",
    figure="sensors.pressure.most",
    source="highest absolute pressure and a tenth more; the line on its own sheet",
    rests=("/engine/boost", "/sensors/pressure"),
)
def pressure_range(w: Worked, say: Say) -> Iterator[Finding]:
    p = w.sensors.pressure
    if p is None:
        yield say(
            "note", "The line of the manifold pressure sensor is not entered.", at="/sensors/pressure", settle="two points from its sheet"
        )
        return
    must = round(p.must_read_pa / 1e3, 6)
    if p.line.high < p.must_read_pa:
        yield say(
            "sort_out",
            f"It reads up to {manifold(w, p.line.high)}, {manifold(w, p.must_read_pa)} are wanted: past that the unit does not see the load.",
            "A sensor of a larger range, and its line in the unit.",
            limit=must,
        )
    elif p.typed_off_pa is not None and abs(p.typed_off_pa) > LINE_OFF:
        yield say(
            "sort_out",
            f"The line chosen in the unit is not this sensor's: at full load it tells {manifold(w, abs(p.typed_off_pa))} too {'much' if p.typed_off_pa > 0 else 'little'}.",
            "Enter the sensor's own line.",
            at="/sensors/pressure/typed",
            limit=must,
        )
    else:
        yield say("sound", f"It reads up to {manifold(w, p.line.high)}.", limit=must)


@check(
    "SENS-08",
    "/sensors/pressure/hose",
    "Hose of the manifold sensor",
    source="a port and hose of its own, short, rising to the sensor",
    rests=("/air/consumers", "/sensors/pressure"),
)
def pressure_hose(w: Worked, say: Say) -> Iterator[Finding]:
    p, b = w.sensors.pressure, w.build.sensors.pressure
    if p is None or b is None:
        yield say("note", "The hose of the manifold pressure sensor is not described.", at="/sensors/pressure", settle="a look")
        return
    pulsing = [k for k in p.shared_with if k in PULSING]
    if pulsing:
        yield say(
            "sort_out",
            f"It shares its port with the {pulsing[0].replace('_', ' ')}, which pulses: the load jumps with it.",
            "A port of its own, from the plenum.",
            at="/air/consumers",
        )
    elif b.hose_length is not None and b.hose_length.si > HOSE:
        yield say("watch", f"Its hose is {length(w, b.hose_length.si)} long: the unit sees the load late.", f"{length(w, HOSE)} at most, or a sensor of its own near the plenum.", at="/sensors/pressure/hose_length")  # fmt: skip
    elif b.hose == "sags":
        yield say("watch", "Its hose sags: fuel and water collect in it and it reads late or nothing.", "Short, and rising to the sensor.")
    elif b.hose == "not_looked_at":
        yield say("note", "Which way its hose runs was not looked at.", settle="a look")
    else:
        yield say("sound", "A port of its own, and the hose does not sag.")


@check(
    "SENS-09",
    "/sensors/throttle",
    "Throttle sensor",
    figure="sensors.throttle.pedal",
    source="share of the body's own stop that the pedal reaches; zeroed after the stop screw moved",
)
def throttle(w: Worked, say: Say) -> Iterator[Finding]:
    t, b = w.sensors.throttle, w.build.sensors.throttle
    if w.build.air.by_wire is not None:
        return  # its tracks are judged where they are entered
    if t is None or b is None:
        yield say("note", "The throttle sensor's volts were not read.", settle="key on, engine off: shut, open, pedal")
        return
    if t.span_v < SPAN_LEAST:
        yield say(
            "sort_out",
            f"Only {t.span_v:.2f} V from shut to open: 5 V, ground and signal are mixed up, or it slips on the spindle.",
            "Ground to one outer pin, 5 V to the other, signal from the middle.",
        )
    if t.screen_reached is False and b.screen is not None:
        wants = b.screen_least or f"{(t.screen_least or 0) * 100:.0f} %"
        yield say(
            "sort_out",
            f"With the pedal down the unit's own scale shows {b.screen}, and it takes no less than {wants} for wide open: full-load fuel and flood clear never come.",
            "Teach the unit its two ends afresh; where the plate itself falls short, the linkage first.",
            at="/sensors/throttle/screen",
        )
    elif b.screen is not None and t.screen_reached is None:
        yield say("unknown", f"The unit shows {b.screen} with the pedal down; from which volts on it counts as wide open was not read.", "The unit's own sheet.", at="/sensors/throttle/screen_least", settle="the unit's sheet")  # fmt: skip
    if t.zero_again:
        yield say(
            "sort_out",
            f"The stop screw was turned on {b.stop_turned}, the sensor zeroed {f'on {b.zeroed}' if b.zeroed else 'never'}: idle and tip-in go by a throttle that is not shut.",
            "Zero it: foot off, key on, engine off.",
            at="/sensors/throttle/zeroed",
        )
    if t.pedal_share is None:
        yield say(
            "watch",
            "What the pedal reaches was not read.",
            "Key on, engine off: pedal to the floor, read the volts.",
            at="/sensors/throttle/pedal",
            settle="a foot and the unit's screen",
        )
    elif t.pedal_share < PEDAL:
        yield say(
            "sort_out",
            f"The pedal opens it to {t.pedal_share * 100:.0f} % of its own stop: the linkage falls short.",
            "Linkage at the Air station: lever, ratio, slack.",
            limit=PEDAL,
        )
    elif t.span_v >= SPAN_LEAST and not t.zero_again and t.screen_reached is not False:
        yield say(
            "sound",
            f"The pedal opens it to {t.pedal_share * 100:.0f} %{', signal falling as it opens: set reversed in the unit' if t.backwards else ''}.",
            limit=PEDAL,
        )


@check(
    "SENS-10",
    "/sensors/key_on",
    "Key on, engine off and cold",
    source="all at ambient; ISO 2533 for the altitude; rested battery",
    rests=("/engine/altitude",),
)
def key_on(w: Worked, say: Say) -> Iterator[Finding]:
    rows = w.sensors.key_on
    if w.build.sensors.key_on is None:
        yield say("note", "What the screen shows with the key on is not entered.", settle="the unit's screen, engine cold")
        return
    for row in rows:
        if not row.right:
            shows, sense = (
                (own(w, row.kind, row.si[0]), span(w, row.kind, *row.si[1:])) if row.kind and row.si else (row.shown, row.expected)
            )
            do = {
                "throttle": "Zero it.", "battery": "Charge it before anything is written to the unit.", "manifold pressure": "Its line in the unit, its hose, the altitude.",
            }.get(row.what, "The right curve in the unit; plug, ground; a sender that is shared.")  # fmt: skip
            yield say(
                "sort_out",
                f"{row.what.capitalize()} shows {shows}; {sense} make sense here.",
                do,
            )
    if rows and all(row.right for row in rows):
        yield say("sound", f"{len(rows)} readings make sense.")
    elif not rows:
        yield say(
            "unknown",
            "No reading is entered that can be held against anything.",
            "Read coolant, air, manifold pressure and battery; a thermometer beside the car.",
            settle="the unit's screen",
        )


@check(
    "SENS-11",
    "/sensors/fuel_pressure/sits",
    "Place of the fuel pressure sensor",
    source="pressure side, after the filter, before the regulator",
)
def fuel_pressure(w: Worked, say: Say) -> Iterator[Finding]:
    p = w.build.sensors.fuel_pressure
    if p is None or not _fitted(w, "fuel_pressure"):
        return
    if p.sits == "return":
        yield say(
            "sort_out",
            "In the return it reads next to nothing and tells no fault of the pump.",
            "Between filter and regulator. Depressurise first; fuel on hot parts burns.",
        )
    elif p.sits == "before_filter":
        yield say("watch", "Before the filter it does not see a filter that is blocked.", "Between filter and regulator.")
    elif p.sits == "not_chosen":
        yield say("note", "Where the fuel pressure sensor sits is not entered.", settle="a look")
    else:
        yield say("sound", "It sits between filter and regulator.")
