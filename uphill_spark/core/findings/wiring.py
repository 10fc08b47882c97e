"""WIRE: feed, drop, fuses, pins."""

from __future__ import annotations

from collections.abc import Iterator

from ..circuit.netlist import PLUS
from ..circuit.states import NOT_TURNED
from ..stages.fuel.demand import STATES
from ..stages.wiring import ROUNDING
from ..worked import Worked
from . import owners
from .base import Finding, Say, check

FUSE_DISTANCE = 0.2  # m of wire that may lie unfused between battery post and first fuse
RESETS, CRANK = 9.0, 10.0  # V below which control units reset, and that leave something over it
RUN = 12.0  # V at a feed with the key at run
OFF = 0.5  # V that may be left with the key off
DROP_TWICE = 2.0  # times the allowed drop from which on it is to be sorted out
LOADED = 0.75  # of a fuse's rating that it carries hot (ISO 8820)

#: What currents, drops and fuses hang on: wires, routes, and what draws.
DRAWN = (
    "/wiring/fitted", "/wiring/branches", "/wiring/profile", "/wiring/extras", "/wiring/insulation", "injectors.current.average", "ignition.current.average",
    *(f"fuel.pump.current.{state}" for state in STATES),
)  # fmt: skip
#: What the control unit drives besides the engine, and how each is done without one of its pins.
FREES = {
    "fan relay coil": "a thermostat switch in the radiator drives the fan's relay",
    "tachometer": "the rev counter goes on the ignition",
    "warning lamp": "the lamp goes on the oil switch and the old sender",
    "idle valve": "idle air goes by a screw",
    "vehicle speed": "the speedometer keeps a sender of its own",
    "reverse lock": "a speed switch of its own holds it",
    "air meter signal": "manifold pressure tells the load",
    "narrowband oxygen signal": "the wideband tells more",
    "narrowband oxygen, second bank signal": "one behind the join",
    "fuel composition signal": "the blend is typed in at each fill",
}
_PLACES = {
    "fuse_box": "the fuse box",
    "alternator": "the alternator",
    "ignition_switch": "the ignition switch",
    "battery": "the battery",
    "starter_stud": "the starter's stud",
    "fuse_block": "a fused block",
}


@check(
    "WIRE-01",
    "/wiring/feed/taken_from",
    "Battery feed",
    source="a fuse protects only what lies behind it: within 200 mm of the battery",
    rests=("/wiring/feed/fuse_distance", "/wiring/links"),
)
def feed(w: Worked, say: Say) -> Iterator[Finding]:
    f = w.build.wiring.feed
    made = f.taken_from in ("starter_stud", "fuse_block")  # as made looms do it: what it loses on the way is judged with the other drops
    bare = w.wiring.bare_feed_m
    if made and bare <= FUSE_DISTANCE:
        yield say("sound", f"Fed from {_PLACES[f.taken_from]}, with {owners.length(w, bare)} of lead before its link or fuse.")
    elif made:
        yield say(
            "stop",
            f"Fed from {_PLACES[f.taken_from]} with {owners.length(w, bare)} of lead before its link or fuse: it can set the car on fire.",
            f"A link or fuse within {owners.length(w, FUSE_DISTANCE)} of where the lead begins. Battery disconnected while you do.",
            at="/wiring/feed/fuse_distance",
        )
    elif f.taken_from != "battery":
        yield say(
            "stop",
            f"Power is taken from {_PLACES[f.taken_from]}: volts there move with lamps, fan and charging.",
            "Run the permanent feed from the battery's plus post through a fuse of its own.",
        )
    elif f.fuse_distance.si > FUSE_DISTANCE:
        yield say("stop", f"The first fuse sits {owners.typed(w, f.fuse_distance)} from the battery: the wire before it can set the car on fire.", f"Move the fuse to within {owners.length(w, FUSE_DISTANCE)} of the post. Battery disconnected while you do.",
                  at="/wiring/feed/fuse_distance")  # fmt: skip
    else:
        yield say("sound", f"Fed from the battery, first fuse after {owners.typed(w, f.fuse_distance)}.")


@check(
    "WIRE-02",
    "/wiring/feed/crank",
    "Ignition feed while cranking",
    figure="wiring.feed.crank",
    source="control units reset below 9 V",
    rests=("/wiring/feed/off", "/wiring/feed/run"),
    gate=("/wiring/feed/crank", "/wiring/feed/run", "/wiring/feed/off"),
)
def crank(w: Worked, say: Say) -> Iterator[Finding]:
    r = w.wiring
    missing = [name for name, v in (("off", r.off_v), ("run", r.run_v), ("crank", r.crank_v)) if v is None]
    if missing or r.crank_v is None or r.run_v is None or r.off_v is None:
        yield say("unknown", f"Volts at the chosen wire with the key at {', '.join(missing)} are not measured: a feed that dies while cranking is the commonest fault.",
                  "Meter on the wire and ground: key off, run, and while a helper cranks with the coil unplugged. Neutral, hand brake on.", settle="volts while cranking", limit=CRANK)  # fmt: skip
        return
    told = False
    if r.crank_v >= r.run_v - NOT_TURNED and r.crank_v >= RESETS:
        told = True
        yield say(
            "unknown",
            f"{r.crank_v:.1f} V while cranking against {r.run_v:.1f} V at run: the starter did not turn.",
            "Measure again while a helper cranks and the engine turns, coil unplugged. Neutral, hand brake on.",
            settle="volts while the starter turns",
            limit=CRANK,
        )
    elif r.crank_v < CRANK:
        told = True
        resets = r.crank_v < RESETS
        yield say(
            "stop" if resets else "watch",
            f"{r.crank_v:.1f} V while cranking: the control unit resets just when it is needed."
            if resets
            else f"{r.crank_v:.1f} V while cranking leaves little over {RESETS:g} V.",
            "Choose a wire that is live in run and start, or feed a relay from the battery."
            if resets
            else "Charge the battery, clean its posts and the engine strap, measure again.",
            limit=RESETS if resets else CRANK,
        )
    if r.run_v < RUN:
        told = True
        yield say(
            "sort_out",
            f"{r.run_v:.1f} V with the key at run: something in that feed drops volts.",
            "Choose another wire, or feed a relay from the battery.",
            at="/wiring/feed/run",
            limit=RUN,
        )
    if r.off_v > OFF:
        told = True
        yield say(
            "sort_out",
            f"{r.off_v:.1f} V with the key off: the engine may not stop and the battery runs down.",
            "Choose a wire that is dead with the key off.",
            at="/wiring/feed/off",
            limit=OFF,
        )
    if not told:
        yield say("sound", f"{r.crank_v:.1f} V while cranking, {r.run_v:.1f} V at run, {r.off_v:.1f} V off.", limit=CRANK)


@check(
    "WIRE-03",
    "/wiring/fitted",
    "Drop in each circuit",
    source="IEC 60028; pump and unit 3 %, coils and injectors 2 %, others 5 %",
    rests=DRAWN,
)
def drop(w: Worked, say: Say) -> Iterator[Finding]:
    over = [c for c in w.wiring.circuits if c.drop_v > c.allowed_v * ROUNDING]
    for c in over:
        wires = [x for x in w.wiring.wires if x.circuit == c.key]
        thin = max(wires, key=lambda x: (x.proposed_area_m2 > x.area_m2, x.drop_v))
        if thin.proposed_area_m2 > thin.area_m2:
            do = f"Make {thin.label} {thin.proposed_area_m2 * 1e6:g} mm² in place of {thin.area_m2 * 1e6:.3g} mm²."
        else:
            do = f"Its wires are thick enough: look at the contacts of {thin.label}, fuse holder, relay and crimps."
        yield say("sort_out" if c.drop_v > DROP_TWICE * c.allowed_v else "watch",
                  f"{c.label.capitalize()} loses {c.drop_v:.2f} V out and back; {c.allowed_v:.2f} V is allowed.", do, at=f"/wiring/fitted/{thin.key}/size")  # fmt: skip
    if not over:
        worst = max(w.wiring.circuits, key=lambda c: c.drop_v / c.allowed_v)
        yield say(
            "sound",
            f"All {len(w.wiring.circuits)} circuits are within their drop; closest is {worst.label}, {worst.drop_v:.2f} of {worst.allowed_v:.2f} V.",
        )


@check(
    "WIRE-05",
    "/wiring/fuses",
    "Fuses",
    source="load at most 75 % of the fuse, fuse at most what the wire carries; ISO 8820",
    rests=(*DRAWN, "/wiring/added"),
)
def fuses(w: Worked, say: Say) -> Iterator[Finding]:
    bad = False
    for key, wire in w.build.wiring.added.items():
        if PLUS in (wire.start, wire.end) and not wire.fused:
            bad = True
            yield say("stop", f"{wire.label} leads to battery plus without a fuse: it can set the car on fire.", "A fuse of its own at the battery. Battery disconnected while you do.", at=f"/wiring/added/{key}/fused")  # fmt: skip
    for f in w.wiring.fuses:
        at = f"/wiring/fuses/{f.key}"
        fitted = f.fitted_a
        if fitted is None:
            bad = True
            thin = f.thinnest.replace("_", " ")
            if f.wanted_a is None:
                yield say(
                    "sort_out",
                    f"The {f.key} circuit draws {f.load_a:.1f} A, more than one 40 A blade fuse should carry.",
                    "Split the circuit.",
                    at=at,
                )
            else:
                yield say(
                    "sort_out",
                    f"{f.load_a:.1f} A on the {f.key} circuit want a fuse of {f.wanted_a:g} A, and its thinnest wire, {thin}, carries {f.wire_limit_a:.1f} A: no fuse suits both.",
                    f"Make {thin} {f.wanted_area_m2 * 1e6:g} mm², then fit {f.wanted_a:g} A.",
                    at=f"/wiring/fitted/{f.thinnest}/size",
                )
        elif fitted > f.wire_limit_a * ROUNDING:
            bad = True
            yield say("stop", f"{fitted:g} A on the {f.key} circuit is more than its thinnest wire, {f.thinnest.replace('_', ' ')}, carries: {f.wire_limit_a:.1f} A. The wire burns before the fuse goes.",
                      f"Fit {f.proposed_a:g} A." if f.proposed_a else f"Make that wire {f.wanted_area_m2 * 1e6:g} mm².", at=at)  # fmt: skip
        elif f.load_a > LOADED * fitted * ROUNDING:
            bad = True
            yield say(
                "sort_out",
                f"{fitted:g} A on the {f.key} circuit is too small for {f.load_a:.1f} A running: it goes when hot.",
                f"Fit {f.proposed_a:g} A."
                if f.proposed_a
                else f"Make its thinnest wire {f.wanted_area_m2 * 1e6:g} mm² and fit {f.wanted_a:g} A."
                if f.wanted_a
                else "Split the circuit.",
                at=at,
            )
    if not bad:
        yield say("sound", f"All {len(w.wiring.fuses)} fuses suit load and wire.")


@check(
    "WIRE-07",
    "/wiring/profile",
    "Pins on the control unit",
    figure="wiring.pins_short",
    source="signals matched to pins by kind",
    rests=("/wiring/unit/chosen", "/wiring/unit/pins"),
)
def pins(w: Worked, say: Say) -> Iterator[Finding]:
    borrowed = [p.pin for p in w.wiring.pins if p.borrowed]
    optional = [label for label in w.wiring.pins_short if label in FREES]
    needed = [label for label in w.wiring.pins_short if label not in FREES]
    if needed:
        yield say(
            "stop",
            f"No pin is left for {', '.join(needed)}.",
            "Choose a larger control unit, put more injectors on a driver, or drop an extra.",
            limit=0,
        )
    if optional:
        yield say(
            "sort_out",
            f"No pin is left for {', '.join(optional)}, which the engine runs without.",
            f"Free one: {FREES[optional[0]]}; or a larger control unit.",
            at="/wiring/extras",
            limit=0,
        )
    on = {wire: p.pin for p in w.wiring.pins for wire in p.wires}
    for wire, pin in w.build.wiring.unit.chosen.items():
        if wire in on and on[wire] != pin:
            yield say("sort_out", f"{wire.replace('_', ' ').capitalize()} is put on pin {pin} by hand, which is of another kind or taken; it is planned on {on[wire]}.", "Another pin, or none chosen.", at=f"/wiring/unit/chosen/{wire}", limit=0)  # fmt: skip
    if w.wiring.pins_short:
        return
    if borrowed:
        yield say(
            "watch",
            f"Pins {', '.join(borrowed)} are borrowed from another kind.",
            "Check in the unit's own sheet that they may be set so.",
            limit=0,
        )
    else:
        yield say("sound", "Every signal has a pin of its kind.", limit=0)
