"""WIRE-08, WIRE-13: ground paths, and what charges against what is drawn."""

from __future__ import annotations

from collections.abc import Iterator

from ..circuit.states import STATES
from ..given.harness import GroundKey
from ..worked import Worked
from .base import Finding, Say, check

OHMS = 0.005  # ohm of a ground's way to battery minus
RISE = 0.050  # V that a ground may rise while cranking; the block carries the starter
RISE_BLOCK = 0.3  # V of the block itself: 180 A through a sound strap and its eyes make 0.15 V
WORDS: dict[GroundKey, str] = {
    "block_strap": "strap from battery to block",
    "body_strap": "strap from block to body",
    "unit": "control unit's ground",
    "coils": "coils' ground",
    "pump": "pump's ground",
    "fan": "fan's ground",
    "sensors": "sensor ground",
}
_ASKED: tuple[GroundKey, ...] = ("block_strap", "unit", "sensors")
#: What charging hangs on besides the harness in balance.
_BALANCE = ("wiring.balance.idle", "wiring.balance.full", "/wiring/battery/master")


@check(
    "WIRE-08",
    "/wiring/grounds",
    "Ground paths",
    figure="wiring.block.rise.crank",
    source="Ohm's law: a starter's 180 A through 5 milliohm lift what hangs there by 0.9 V",
    rests=("/ignition/coil/kind",),
)
def grounds(w: Worked, say: Say) -> Iterator[Finding]:
    g, told = w.build.wiring.grounds, False
    for key, ground in g.items():
        at, word = f"/wiring/grounds/{key}", WORDS[key]
        if ground.surface == "paint":
            told = True
            yield say("sort_out", f"The {word} lies on paint: it holds until it warms or rusts.", "Bare metal, star washer, tight, grease after. Battery disconnected.", at=f"{at}/surface")  # fmt: skip
        if ground.ohms is not None and ground.ohms.si > OHMS:
            told = True
            yield say("sort_out", f"The {word} has {ground.ohms.si * 1e3:.3g} mΩ to battery minus; {OHMS * 1e3:g} mΩ is the most.", "Clean its eyes and land it nearer the post, or a thicker strap.", at=f"{at}/ohms")  # fmt: skip
        most = RISE_BLOCK if key in ("block_strap", "body_strap") else RISE
        if ground.rise is not None and ground.rise.si > most:
            told = True
            yield say("sort_out", f"The {word} rises by {ground.rise.si * 1e3:.0f} mV while cranking; {most * 1e3:.0f} mV is the most.", "The starter's current takes that way: mend the strap to the block first.", at=f"{at}/rise")  # fmt: skip
        if ground.lands == "sheet_metal":
            told = True
            yield say("sort_out", f"The {word} lands on sheet metal: spot welds and rust are in its way.", "Battery minus, the head, or a cleaned boss of the frame.", at=f"{at}/lands")  # fmt: skip
    more = [*_unit(w, say), *_sensors(w, say)]
    told = told or bool(more)
    yield from more
    rise = w.wiring.states[_CRANK].rise_v
    measured = g.get("block_strap") is not None and (g["block_strap"].ohms is not None or g["block_strap"].rise is not None)
    if rise > RISE_BLOCK and not any(x.ohms is not None and x.ohms.si > OHMS for k, x in g.items() if k == "block_strap"):
        told = True
        yield say("sort_out", f"The block sits {rise * 1e3:.0f} mV above battery minus while cranking.", "A thicker strap, clean eyes.", at="/wiring/grounds/block_strap", limit=RISE_BLOCK * 1e3)  # fmt: skip
    open_ = [WORDS[key] for key in _ASKED if key not in g or (g[key].lands == "not_noted" and key != "block_strap")]
    if not measured and "strap from battery to block" not in open_:
        open_.insert(0, "strap from battery to block")
    if open_:
        yield say("unknown", f"Not looked at or measured yet: {', '.join(open_)}.", "Meter from each to battery minus while a helper cranks, coil unplugged. Neutral, hand brake on.", settle="millivolts to battery minus while cranking", limit=RISE_BLOCK * 1e3)  # fmt: skip
    elif not told:
        yield say("sound", f"Grounds land where they should; the block sits {rise * 1e3:.0f} mV up while cranking.", limit=RISE_BLOCK * 1e3)


_CRANK = list(STATES).index("crank")


def _unit(w: Worked, say: Say) -> Iterator[Finding]:
    g = w.build.wiring.grounds
    unit, coils = g.get("unit"), g.get("coils")
    at = "/wiring/grounds/unit/lands"
    if unit is not None and unit.lands == "minus_and_head":
        yield say("sort_out", "The control unit is grounded at battery minus and at the head: the starter's current takes its wires as well.", "One of the two, as its sheet says; never both.", at=at)  # fmt: skip
    if unit is not None and unit.lands == "head" and w.build.ignition.coil.kind == "smart" and coils is not None and coils.lands == "head":
        yield say("note", "Control unit and coils are both on the head: on bolts of their own, not on one.", at=at)


def _sensors(w: Worked, say: Say) -> Iterator[Finding]:
    sensors = w.build.wiring.grounds.get("sensors")
    if sensors is not None and sensors.lands not in ("control_unit", "not_noted"):
        loop = sensors.lands == "unit_and_body"
        yield say(
            "sort_out",
            "The sensor ground is tied to the body as well: a loop, and readings wander with every load."
            if loop
            else "Sensors are grounded away from the control unit: they read wrong by what lies between.",
            "To the control unit's own sensor ground only; shields at one end.",
            at="/wiring/grounds/sensors/lands",
        )


@check(
    "WIRE-13",
    "/wiring/charging/output_idle",
    "What charges against what is drawn",
    figure="wiring.balance.idle",
    source="sum of currents at the battery's plus post",
    rests=(*_BALANCE, "/wiring/extras"),
)
def charging(w: Worked, say: Say) -> Iterator[Finding]:
    states = {r.key: r for r in w.wiring.states}
    idle, full = states["idle"], states["full"]
    fan, told = " with the fan on" if "fan" in w.build.wiring.extras else "", False
    if full.balance_a is not None and full.balance_a < 0:
        told = True
        yield say("sort_out", f"On the road {full.drawn_a:.0f} A are drawn, and the alternator gives {full.charges_a:.0f} A: the battery runs down while driving.", "A larger alternator, or less at once.", at="/wiring/charging/output_full", figure="wiring.balance.full", limit=0)  # fmt: skip
    if idle.balance_a is not None and idle.balance_a < 0:
        told = True
        yield say("watch", f"At idle{fan} {idle.drawn_a:.0f} A are drawn, and the alternator gives {idle.charges_a:.0f} A: the battery runs down in traffic.", "A smaller pulley, a larger alternator, a fan by a variable-speed module; or mind it in traffic.", limit=0)  # fmt: skip
    if w.build.wiring.battery.master == "feed_only":
        told = True
        yield say("sort_out", "The master switch cuts the feed and leaves the alternator on the harness without its battery: volts run away and take the unit along.", "A switch with a second contact that cuts the charging lead or the exciter too.", at="/wiring/battery/master")  # fmt: skip
    open_ = [word for word, row in (("at idle", idle), ("on the road", full)) if row.balance_a is None]
    if open_:
        yield say("unknown", f"What the alternator gives {' and '.join(open_)} is not entered; {idle.drawn_a:.0f} A are drawn at idle{fan}, {full.drawn_a:.0f} A on the road.", "Its sheet, or a clamp meter on its lead, hot.", settle="the alternator's amps, hot", limit=0)  # fmt: skip
    elif not told:
        yield say("sound", f"{idle.balance_a:.0f} A are left over at idle{fan}, {full.balance_a:.0f} A on the road.", limit=0)
