"""WIRE-15 to WIRE-17, WIRE-19: what is left of the old car's wiring, how joints are made, ends left loose, the bus."""

from __future__ import annotations

from collections.abc import Iterator

from ..circuit.netlist import old_relay_feeds
from ..worked import Worked
from . import owners
from .base import Finding, Say, check

AGED = 0.3  # ohm end to end, from which on an old feed is not fed from: 3 V at 10 A
POOR = {"twist_tape": "twisted and taped", "tap": "tapped with a clip that cuts in"}
NO_FEED = (
    "accessory",
    "ignition_dies",
    "starter_only",
    "dead",
    "fed_back",
    "permanent",
    "ballast",
)  # kinds of wire that a control unit's key pin is not fed from
TWO, OHM_LOW, OHM_HIGH = 2, 50.0, 75.0  # terminators of a pair, and what an ohmmeter shows of 120 in parallel with 120 (ISO 11898-2)


def _word(what: str) -> str:
    return "wire that nobody knows" if what == "not_known" else what.replace("_", " ")


@check(
    "WIRE-15",
    "/wiring/old",
    "Old relays and feeds still in circuit",
    source="two sources on one wire: each holds up what the other means to cut",
    rests=("/fuel/pump/control", "/ignition/kind"),
)
def backfeed(w: Worked, say: Say) -> Iterator[Finding]:
    rows, kinds, told = w.build.wiring.old, w.wiring.met, False
    for i, row in enumerate(rows):
        at, word = f"/wiring/old/{i}", f"{_word(row.what)}{f', {row.label},' if row.label else ''}"
        if row.what == "pump_relay" and old_relay_feeds(w.build):
            told = True
            yield say("sort_out", f"The old {word} is still in circuit: it feeds back, and the pump does not stop when the unit says so.", "Take it out of its socket and cap its wires.", at=f"{at}/do")  # fmt: skip
        elif row.what == "ballast" and w.build.ignition.coil.kind == "smart" and row.stays:
            told = True
            yield say("sort_out", f"The old {word} is in the feed of coils that want the whole of the battery.", "Feed them from the relay; take the resistance out of that feed.", at=f"{at}/do")  # fmt: skip
        elif row.what == "ignition_feed" and row.do == "feed_from" and kinds[i].kind in NO_FEED:
            told = True
            yield say("sort_out", f"The old {word} is to be fed from, and is {kinds[i].says}.", "Another wire: live at run and while cranking, dead with the key off.", at=f"{at}/volts/crank")  # fmt: skip
        elif row.do == "feed_from" and row.ohms is not None and row.ohms.si > AGED:
            told = True
            yield say("sort_out", f"The old {word} has {row.ohms.si:.2g} Ω end to end: it loses {row.ohms.si * 10:.1f} V at 10 A.", "A new wire; the old one pulls a relay in at most.", at=f"{at}/ohms")  # fmt: skip
        elif row.do == "feed_from" and row.ohms is None:
            told = True
            yield say("unknown", f"The old {word} is to be fed from, and was not measured.", "A 21 W lamp at its end: volts lost over 1.8 A. A buzzer proves nothing here.", at=f"{at}/ohms", settle="volts with a lamp as load")  # fmt: skip
        elif row.do == "not_decided":
            told = True
            known = "" if kinds[i].kind == "not_told" else f"; it is {kinds[i].says}"
            yield say(
                "watch", f"What becomes of the old {word} is not decided{known}.", "Keep it, feed from it, or take it out.", at=f"{at}/do"
            )
    if rows and not told:
        yield say("sound", f"All {len(rows)} old wires that are met are decided and done.")


@check(
    "WIRE-16",
    "/wiring/joint_method",
    "How joints are made",
    source="gas-tight by pressure or by solder under a sleeve with support; nothing else lasts",
    rests=("/wiring/fitted",),
)
def joints(w: Worked, say: Say) -> Iterator[Finding]:
    v, told = w.build.wiring, False
    if v.joint_method in POOR:
        told = True
        yield say("sort_out", f"Joints are {POOR[v.joint_method]}: they let go warm, wet or in the dark.", "Crimp with the tool for that terminal, or solder under a sleeve with support; then tug.")  # fmt: skip
    for key, fitted in v.fitted.items():
        if fitted.method in POOR:
            told = True
            yield say("sort_out", f"{key.replace('_', ' ').capitalize()} is {POOR[fitted.method]}.", "Cut it out and crimp, with the tool for that terminal; then tug.", at=f"/wiring/fitted/{key}/method")  # fmt: skip
    if v.joint_method == "not_noted":
        yield say("note", "How the joints are made is not noted.", settle="the tool that lies there")
    elif not told:
        yield say("sound", {"crimp": "Crimped with the tool for the terminal.", "crimp_solder": "Crimped and soldered, with support.", "solder_sleeve": "Soldered under a sleeve, with support."}[v.joint_method])  # fmt: skip


@check("WIRE-17", "/wiring/loose", "Ends left loose", source="an end that is live and bare finds metal")
def loose(w: Worked, say: Say) -> Iterator[Finding]:
    rows, told = w.build.wiring.loose, False
    for i, row in enumerate(rows):
        if row.end in ("open", "taped"):
            told = True
            live = row.live == "yes"
            yield say(
                "sort_out" if live else "watch",
                f"{row.label} ends {'bare' if row.end == 'open' else 'under tape'}{', and is live' if live else ''}.",
                f"{'Battery disconnected: c' if live else 'C'}ap it, label it, tie it back.",
                at=f"/wiring/loose/{i}/end",
            )
        elif row.end == "cut":
            told = True
            yield say(
                "watch",
                f"{row.label} was cut off: whoever needs it next splices.",
                "Write down where it ends.",
                at=f"/wiring/loose/{i}/end",
            )
    if rows and not told:
        yield say("sound", f"All {len(rows)} loose ends are capped and written down.")


@check("WIRE-19", "/wiring/bus", "The bus pair", source="ISO 11898-2: a twisted pair with 120 ohm at both ends")
def bus(w: Worked, say: Say) -> Iterator[Finding]:
    b = w.build.wiring.bus
    if b is None:
        return
    told = False
    if b.terminators != TWO:
        told = True
        yield say("sort_out", f"{b.terminators or 'No'} terminator{'' if b.terminators == 1 else 's'} on the pair; it wants two, one at each end.", "120 Ω at both ends, none between.", at="/wiring/bus/terminators")  # fmt: skip
    if b.ohms is not None and not OHM_LOW <= b.ohms.si <= OHM_HIGH:
        told = True
        yield say("sort_out", f"{owners.typed(w, b.ohms)} between its wires; two terminators make 60 Ω.", "About 120 Ω: one is missing. About 40 Ω: one too many. Next to nothing: the wires touch.", at="/wiring/bus/ohms")  # fmt: skip
    if b.twisted == "no":
        told = True
        yield say(
            "sort_out", "The pair is not twisted.", "Twist it, a full turn to a finger's width, up to the plugs.", at="/wiring/bus/twisted"
        )
    if b.twisted == "not_looked_at" or b.ohms is None:
        yield say("unknown", "The pair was not looked at and measured yet.", "Ohmmeter between its wires, key off, all units on.", at="/wiring/bus/ohms", settle="ohms between its wires")  # fmt: skip
    elif not told:
        yield say("sound", f"Two terminators, twisted, {owners.typed(w, b.ohms)} between its wires.")
