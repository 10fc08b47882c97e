"""Causes in words: what was found, what to do about it, and what would part two that look alike."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ..given.road import Lookout, RoadCause
from ..worked import Worked

NAMES: dict[RoadCause, str] = {
    "scale": "Injector figure", "dead_time": "Dead time", "reference": "Regulator's reference", "air": "Air temperature", "high_flow": "Lean at high flow", "bank": "One bank", "tip_in": "Fuel on the wall",
}  # fmt: skip
REST = "The table itself"
LOOKOUTS: dict[Lookout, str] = {
    "knock": "knock", "heat": "heat", "volts": "low volts", "lean": "a lean full load", "rail": "a rail that sags", "oil": "low oil pressure",
}  # fmt: skip
_SPEED = 4.0  # of the margin at full power, over which a pump has no cause to fall behind


def size_words(w: Worked, key: RoadCause, size: float, doubt: float, leans: int = 2) -> str:
    """A size with its doubt [its own unit, see `CauseRead`], twice the standard deviation told, in words."""
    off, share = 2 * doubt, abs(math.expm1(size))
    if key == "scale":
        flow = math.exp(-size)
        return f"Everywhere {share * 100:.1f} % too {'lean' if size > 0 else 'rich'}: the injectors give {flow:.3f} ± {off:.3f} of the figure typed in"
    if key == "dead_time":
        return f"Dead time is {abs(size):.2f} ± {off:.2f} ms {'longer' if size > 0 else 'shorter'} than typed in"
    if key == "reference":
        return f"The regulator sees {size * 100:.0f} % ± {off * 100:.0f} % of the air outside where it should see the manifold"
    if key == "air":
        return (
            f"{abs(size) * 30:.1f} % ± {off * 30:.1f} % too {'lean' if size > 0 else 'rich'} for every 30 K that the air sensor is hotter"
        )
    if key == "high_flow":
        return f"At full flow {share * 100:.1f} % ± {off * 100:.1f} % too {'lean' if size > 0 else 'rich'}, and not below"
    if key == "bank":
        return f"Bank {leans} is {share * 100:.1f} % ± {off * 100:.1f} % leaner than the other"
    return f"{abs(size):.2f} ± {off:.2f} of a squirt {'more' if size > 0 else 'less'} wets the wall than the unit is told"


def deed_short(w: Worked, key: RoadCause, size: float) -> str:
    """The deed for a size [its own unit] in the fewest words, for what is put right by typing."""
    if key == "scale":
        now = w.injectors.flow_nominal_kg_s * 6e4
        return f"Fix the injector figure: {now:.1f} to {now * math.exp(-size):.1f} g/min"
    if key == "dead_time":
        return f"Fix the dead time: {size:+.2f} ms at every voltage".replace("-", "−")
    if key == "air":
        return "Fix the air-temperature table"
    if key == "reference":
        return "Tell the build that the regulator is open to the air"
    return "Fix the share of fuel that wets the wall"


def besides_words(w: Worked, key: RoadCause) -> str:
    """What has to be known beside a deed that is done by typing; nothing for what a spanner puts right."""
    if key == "scale":
        return f"If the rail's gauge does not show {w.build.fuel.regulator.set_pressure}, fix the pressure instead; then displacement and fuel."
    if key == "dead_time":
        return "Not one cell."
    if key == "reference":
        return "Put the regulator's hose on the manifold, behind the plates, and look for a split in it. Only if it is to stay open: tell the build so."
    if key == "air":
        return "Move the sensor out of the heat if it soaks."
    return "The time in which it dries stays as it is." if key == "tip_in" else ""


def deed_words(w: Worked, key: RoadCause, size: float, leans: int = 2) -> str:
    """What to do about a cause of a size [its own unit] on this car."""
    if key == "high_flow":
        margin = w.fuel.margin_full
        if margin < 1.1:
            return f"The solved margin at full power is {margin:.2f}: it is the pump, or its volts. Do not drive it at full load till then."
        return f"The solved margin at full power is {margin:.2f}, so the pump should hold: read the rail at full load, then filter, pick-up and the pump's volts. Foot off there till then."
    if key == "bank":
        return f"Look for a leak at bank {leans}, in the exhaust before its sensor and at its manifold; swap the two sensors: if it goes along, it is the sensor."
    if key == "reference":  # the hose first, and only then the build
        return besides_words(w, key)
    return f"{deed_short(w, key, size)}. {besides_words(w, key)}"


def day_words(looked: Sequence[Lookout], *, snags: bool) -> str:
    """What could have been seen of the day, and what not; with `snags`, which are told by themselves, only what not."""
    seen, unseen = ([word for key, word in LOOKOUTS.items() if (key in looked) is so] for so in (True, False))
    told = [] if snags or not seen else [f"Looked for, and not there: {', '.join(seen)}."]
    if unseen:
        told.append(f"Not to be seen in this log: {', '.join(unseen)}.")
    return " ".join(told)


#: What parts two causes: how they are told, and the drive or the measurement.
_APART: dict[frozenset[str], str] = {
    frozenset(("scale", "dead_time")): "Idle warm for a minute, and hold 3,000 rpm at three quarters: short and long pulses in one log. Or lights and fan on at idle: volts move dead time alone.",
    frozenset(("scale", "reference")): "Read the rail's gauge at idle with the hose off and on: it should move by the manifold's vacuum.",
    frozenset(("dead_time", "reference")): "Lights and fan on at idle: volts move dead time alone. Then the rail's gauge with the hose off and on.",
    frozenset(("scale", "high_flow")): "Hold half load at low speed for half a minute: there no pump falls behind. Or read the rail at full load.",
    frozenset(("scale", "air")): "Stand five minutes hot, then drive off: the air sensor has to move by 20 K in one log.",
    frozenset(("air", "high_flow")): "A pull with a cool air sensor and one after standing hot.",
    frozenset(("reference", "high_flow")): "Read the rail against the manifold at full load and at idle.",
    frozenset(("dead_time", "air")): "Lights and fan on at idle, air sensor steady.",
}  # fmt: skip


def parts_words(one: RoadCause, other: RoadCause) -> tuple[str, str]:
    """That two causes cannot be told apart, and what would part them."""
    a, b = NAMES[one].lower(), NAMES[other].lower()
    return f"{a} from {b}: over what was driven both look alike", _APART.get(
        frozenset((one, other)),
        "Drive where the one acts and the other does not: short pulses against long, hot air against cool, high flow against low.",
    )
