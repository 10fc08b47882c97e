"""UNIT and GEAR: where the control unit sits, what it can be set to, its lock and its link; what it hears and drives of the gearbox; an output of its own under load."""

from __future__ import annotations

from collections.abc import Iterator

from ..circuit.branches import FIVE
from ..stages.wiring import ROUNDING
from ..worked import Worked
from . import owners
from .base import Finding, Say, check
from .wiring import DRAWN

#: Air about the unit [K] by where it sits: cabin and glove box, bulkhead, wing, near the exhaust (the zones of the harness).
PLACES = {"cabin": 313.15, "glove_box": 313.15, "bulkhead": 353.15, "wing": 353.15, "near_exhaust": 378.15}
WET = ("bulkhead", "wing")
BEARS = 358.15  # K, that a unit bears where its sheet tells nothing: electronics of the 85 C class
REVERSE_OPENS = 8 / 3.6  # m/s, over which a reverse lock has to hold
SPEED_OFF = 0.05  # share by which the pulses set in the unit may be off


@check(
    "UNIT-01",
    "/wiring/unit/mounted",
    "Where the control unit sits",
    source="zones of the car; electronics of the 85 C class; water runs down a wire",
    rests=("/wiring/unit",),
)
def mounted(w: Worked, say: Say) -> Iterator[Finding]:
    u = w.build.wiring.unit
    if u.mounted == "not_chosen":
        yield say("note", "Where the control unit sits is not entered.", settle="a place that is dry, cool and within reach")
        return
    place, told = u.mounted.replace("_", " "), False
    bears = u.bears.si if u.bears is not None else BEARS
    air = PLACES[u.mounted]
    if air > bears:
        told = True
        yield say("sort_out", f"{place.capitalize()}: air of {owners.temperature(w, air)} about a unit that bears {owners.temperature(w, bears)}.", "The cabin or the glove box, or behind a shield in moving air.")  # fmt: skip
    if u.mounted in WET and u.splash == "no":
        told = True
        yield say(
            "sort_out",
            f"{place.capitalize()} is wet, and it is not sealed against splash.",
            "Inside, or in a box that drains.",
            at="/wiring/unit/splash",
        )
    elif u.mounted in WET and u.splash == "not_looked_at":
        told = True
        yield say("unknown", f"{place.capitalize()} is wet; whether it is sealed against splash was not read.", "Its sheet.", at="/wiring/unit/splash", settle="the unit's sheet")  # fmt: skip
    if u.plugs == "up":
        told = True
        yield say(
            "sort_out",
            "Its plugs point up: what runs down a wire ends in the plug.",
            "Turn it, plugs down, with a drip loop before them.",
            at="/wiring/unit/plugs",
        )
    if u.reachable == "no":
        told = True
        yield say("watch", "Its fuses or its update lead cannot be reached: the first blown fuse takes the dash apart.", "Fuses and lead where a hand gets to them.", at="/wiring/unit/reachable")  # fmt: skip
    if not told:
        yield say("sound", f"{place.capitalize()}: {owners.temperature(w, air)} at most, and it bears {owners.temperature(w, bears)}.")


@check(
    "UNIT-02",
    "/wiring/unit/can_set",
    "What it can be set to",
    source="a unit that cannot be told of a part cannot run it",
    rests=("/sensors/trigger", "/ignition/timed_by_unit", "/ignition/letters", "/wiring/unit/numbers", "/wiring/extras"),
)
def settings(w: Worked, say: Say) -> Iterator[Finding]:
    asked = [row for row in w.wiring.settings if row.wanted]
    cannot, open_ = [row for row in asked if row.can == "no"], [row for row in asked if row.can is None]
    for row in cannot:
        yield say(
            "stop",
            f"It cannot be set to {row.label}, which this build asks for.",
            "Another unit, or a build that does without.",
            at=f"/wiring/unit/can_set/{row.key}",
        )
    if open_:
        begun = len(open_) < len(asked)
        yield say(
            "unknown" if begun else "note",
            f"Ask before it is bought whether it can be set to {', '.join(row.label for row in open_)}.",
            "Its sheet, or whoever sells it.",
            settle="the unit's sheet",
        )
    elif not cannot:
        yield say("sound", f"It can be set to all {len(asked)} that this build asks for.")


@check(
    "UNIT-03",
    "/wiring/unit/theft_lock",
    "Lock, software and link",
    source="a locked donor unit starts and dies; software is renewed before anything is set",
    rests=("/wiring/unit",),
)
def link(w: Worked, say: Say) -> Iterator[Finding]:
    u, told = w.build.wiring.unit, False
    if u.from_donor == "yes" and u.theft_lock == "active":
        told = True
        yield say(
            "stop",
            "The donor's theft lock is still active: it starts and dies after a second or two.",
            "Have it taken out by whoever may do so, with the papers of the donor.",
        )
    elif u.from_donor == "yes" and u.theft_lock == "not_looked_at":
        told = True
        yield say("unknown", "It comes from another car, and nobody has looked whether its theft lock is still active.", "Ask whoever reads such units; on the bench it shows at once.", settle="the unit on the bench, with its key")  # fmt: skip
    if u.software == "as_delivered":
        told = True
        yield say("watch", "Its software is as delivered: what is set now may be lost or mean something else after it is renewed.", "Renew it first, on the bench, with a charger on the battery and the laptop on mains.", at="/wiring/unit/software")  # fmt: skip
    open_ = [
        word
        for word, missing in (
            ("its software is renewed", u.software == "not_looked_at"),
            ("its link to the computer works", u.link_proven is None),
        )
        if missing
    ]
    if open_:
        told = True
        yield say(
            "note",
            f"Not proven yet: that {' and that '.join(open_)}. Do it days before the first start.",
            at="/wiring/unit/link_proven",
            settle="the unit and the computer on a table",
        )
    if not told:
        yield say("sound", f"Software renewed, link proven on {u.link_proven}.")


def _pump_output(w: Worked, say: Say) -> Iterator[Finding]:
    pin = next((p for p in w.wiring.pins if p.kind == "pump_output"), None)
    u = w.build.wiring.unit
    if u.pump_output in ("high_side", "relay_inside") and w.build.fuel.pump.control != "control_unit":
        yield say(
            "watch",
            "The unit has a pump output, and the pump hangs on something else.",
            "Use it, or leave it unused, capped and written down; never both.",
        )
        return
    if pin is None or not pin.wires:
        return
    most = max(p.current_a for p in w.fuel.points.values())
    if most > pin.limit_a:
        yield say(
            "stop",
            f"The pump draws up to {most:.1f} A through an output that bears {pin.limit_a:g} A.",
            "Let the output pull a relay in, and the relay feed the pump.",
            limit=pin.limit_a,
        )
    else:
        yield say("sound", f"The pump draws up to {most:.1f} A, its output bears {pin.limit_a:g} A.", limit=pin.limit_a)


LARGEST_RELAY = 80.0  # A, of the relays that plug into a usual base
RELAY_INRUSH, RELAY_STEADY = (
    3.0,
    1.5,
)  # times its load that a relay's contact bears: of fans and pumps, which start at a multiple; of the rest
_FED_BY: dict[str, tuple[str, float]] = {
    "main": ("injector_supply", RELAY_STEADY),
    "pump": ("pump_supply", RELAY_INRUSH),
    "lift": ("lift_supply", RELAY_INRUSH),
    "coil": ("coil_supply", RELAY_STEADY),
    "oxygen": ("oxygen_supply", RELAY_STEADY),
    "fan": ("fan_supply", RELAY_INRUSH),
}


@check(
    "WIRE-06",
    "/wiring/unit/pump_output",
    "Relays and outputs under load",
    figure="fuel.pump.current.full",
    source="an output bears what its sheet says; a contact 1.5 times its load, three times that of a fan or a pump, which start at a multiple",
    rests=(
        *DRAWN,
        "/wiring/relays",
        "/wiring/unit/pump_limit",
        "/fuel/pump/control",
        "fuel.pump.current.prime",
        "fuel.pump.current.idle",
        "wiring.unit.volts.crank",
    ),
)
def under_load(w: Worked, say: Say) -> Iterator[Finding]:
    yield from _pump_output(w, say)
    yield from _outputs(w, say)
    yield from _relays(w, say)


#: Pins of the control unit that have to bear what hangs on them; injector and coil outputs are judged where those are chosen.
OUTPUTS = ("low_side", "twelve_volt", "heater")


def _outputs(w: Worked, say: Say) -> Iterator[Finding]:
    amps = {r.key: (r.label, r.current_a) for r in w.wiring.wires}
    for pin in w.wiring.pins:
        on = [amps[key] for key in pin.wires if key in amps]
        if pin.kind in OUTPUTS and sum(a for _, a in on) > pin.limit_a * ROUNDING:
            label, drawn = max(on, key=lambda row: row[1])
            yield say(
                "sort_out",
                f"{label.capitalize()} draws {drawn:.1f} A through pin {pin.pin}, which bears {pin.limit_a:g} A.",
                "A relay between them: its coil draws a tenth of that.",
                at="/wiring/unit/pins",
            )


def _relays(w: Worked, say: Say) -> Iterator[Finding]:
    wires = {r.key: r for r in w.wiring.wires}
    bears = {str(key): amps for key, amps in w.build.wiring.relays.items()}
    told, open_ = False, []
    for key, (wire, times) in _FED_BY.items():
        if wire not in wires:
            continue
        load, rated = wires[wire].current_a, bears.get(key)
        if rated is None:
            open_.append((key, load * times))
        elif load * times > rated:
            told = True
            yield say(
                "sort_out",
                f"The {key} relay bears {rated:g} A, and {load:.1f} A run through it, {load * times:.0f} A {'at the start' if times == RELAY_INRUSH else 'with a margin'}: its contacts burn.",
                f"One of {load * times:.0f} A or more." if load * times <= LARGEST_RELAY else "Split what it feeds between two.",
                at=f"/wiring/relays/{key}",
            )  # fmt: skip
    for row in w.wiring.states:
        if FIVE in row.let_go:
            told = True
            yield say("stop", f"The control unit goes to sleep, {row.word}: {row.unit_v or 0.0:.1f} V reach it.", "Its feed and its ground: a thicker wire, fewer contacts, a battery that holds.", at="/wiring/relays")  # fmt: skip
        for joint in row.let_go:
            if joint.endswith(".contact") and FIVE not in row.let_go:
                told = True
                yield say("stop", f"The {joint.removesuffix('.contact').replace('_', ' ')} lets go, {row.word}: its coil does not get the volts.", "Its feed and its ground: a thicker wire, fewer contacts, a battery that holds.", at="/wiring/relays")  # fmt: skip
    if told:
        return
    if open_:
        key, most = max(open_, key=lambda x: x[1])
        yield say(
            "note",
            f"What the relays bear is not entered; the {key} relay wants {most:.0f} A.",
            at="/wiring/relays",
            settle="the print on the relay",
        )
    else:
        yield say("sound", "Every relay bears its load and its start, and its coil gets its volts.", at="/wiring/relays")


@check(
    "WIRE-14",
    "/wiring/charging/exciter",
    "Exciter and sense wire of the alternator",
    source="an exciter without a resistance never starts it or feeds back; a sense wire reads the battery itself",
    rests=("/wiring/charging",),
)
def charging(w: Worked, say: Say) -> Iterator[Finding]:
    c, told = w.build.wiring.charging, False
    if c.exciter == "bare":
        told = True
        yield say(
            "sort_out",
            "The exciter has neither lamp nor resistor: with the key off it feeds back, and the engine does not stop.",
            "A lamp of some watts, or 200 to 560 Ω, in its wire.",
        )
    elif c.exciter == "both":
        told = True
        yield say(
            "sort_out",
            "The loom has a resistance inside and another was added: the two in a row may be too much to start charging.",
            "One of the two: take the added one out.",
        )
    if c.sense == "battery_bare":
        told = True
        yield say(
            "sort_out", "The sense wire goes to battery plus without a fuse.", "A small fuse at the battery.", at="/wiring/charging/sense"
        )
    elif c.sense == "alternator":
        told = True
        yield say(
            "watch",
            "The sense wire reads the alternator's own post: the battery stays some tenths of a volt short.",
            "Straight to battery plus, fused.",
            at="/wiring/charging/sense",
        )
    open_ = [word for word, said in (("exciter", c.exciter), ("sense wire", c.sense)) if said == "not_looked_at"]
    if open_:
        yield say("note", f"Not looked at: {' and '.join(open_)} of the alternator.", settle="its thin wires, followed")
    elif not told:
        yield say("sound", "The exciter has its resistance, and the sense wire is in order.")


@check(
    "GEAR-01",
    "/wiring/gearbox",
    "Speed from the gearbox",
    source="pulses a turn, axle ratio and tyre give pulses a kilometre",
    rests=("/wiring/gearbox",),
)
def speed(w: Worked, say: Say) -> Iterator[Finding]:
    g, right = w.build.wiring.gearbox, w.wiring.pulses_per_km
    if g is None:
        return
    if right is None:
        if g.reverse_lock == "by_unit":
            yield say("unknown", "The unit opens the reverse lock by a speed that is not set: pulses, axle ratio and tyre are not entered.", "Count the pulses of one turn, read the ratio, measure the tyre.", settle="a chalk mark on the tyre and a meter")  # fmt: skip
        return
    typed = g.typed_pulses
    if typed is None:
        yield say("note", f"{right:,.0f} pulses a kilometre are to be typed into the unit.", settle="the unit's screen")
        return
    off = typed / right - 1
    locked = g.reverse_lock == "by_unit"
    if abs(off) > SPEED_OFF:
        yield say(
            "stop" if locked and off > 0 else "sort_out",
            f"{typed:,.0f} pulses a kilometre are set in the unit, {right:,.0f} come: it reads {(abs(1 / (1 + off) - 1)) * 100:.0f} % too {'slow' if off > 0 else 'fast'}"
            + (f", and the reverse lock opens at {REVERSE_OPENS * 3.6 * (1 + off):.0f} km/h." if locked and off > 0 else "."),
            f"Type {right:,.0f}.",
            at="/wiring/gearbox/typed_pulses",
            bars="move",
        )
    elif g.calibrated is None:
        yield say(
            "watch",
            "The speed was not yet checked on the road.",
            "After the first drive: a known distance against the unit's own.",
            at="/wiring/gearbox/calibrated",
            settle="a measured kilometre",
        )
    else:
        yield say("sound", f"{typed:,.0f} pulses a kilometre, checked on the road on {g.calibrated}.")


@check(
    "GEAR-02",
    "/wiring/gearbox/reverse_lock",
    "Reverse lock and neutral switch",
    source="it cranks only out of gear; reverse stays shut while the car rolls",
    rests=("/wiring/gearbox",),
)
def locks(w: Worked, say: Say) -> Iterator[Finding]:
    g = w.build.wiring.gearbox
    if g is None:
        return
    told = False
    if g.neutral_switch == "none":
        told = True
        yield say("watch", "Nothing keeps the starter from turning in gear: the car jumps.", "A switch for neutral or clutch in the wire of the starter's relay. Until then: neutral, hand brake, wheels chocked.", at="/wiring/gearbox/neutral_switch")  # fmt: skip
    open_ = [word for word, said in (("reverse lock", g.reverse_lock), ("neutral switch", g.neutral_switch)) if said == "not_noted"]
    if open_:
        told = True
        yield say("note", f"Not noted: {' and '.join(open_)}.", settle="the wires at the gearbox, followed")
    if not told:
        yield say(
            "sound", "It cranks out of gear only." if g.reverse_lock == "none" else "It cranks out of gear only, and reverse has its lock."
        )
