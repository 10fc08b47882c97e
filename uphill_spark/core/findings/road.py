"""LEARN: what the road said, one finding a cause; whether it may be believed, what is still to be driven, and whether the last correction worked."""

from __future__ import annotations

from collections.abc import Iterator

from ..given.road import Drive, Lookout, RoadCause
from ..road.words import day_words, deed_words, parts_words, size_words
from ..worked import Worked
from . import owners
from .base import Finding, Say, Severity, check

_AT = "/road/drives"
#: By cause: from where on it is to be watched, and to be sorted out, in its own unit.
LIMITS: dict[RoadCause, tuple[float, float]] = {
    "scale": (0.008, 0.03), "dead_time": (0.02, 0.06), "reference": (0.25, 0.5), "air": (0.03, 0.10), "high_flow": (0.02, 0.05), "bank": (0.01, 0.03), "tip_in": (0.03, 0.08),
}  # fmt: skip
REST_SORT_OUT = 0.03
COVERED, COVERED_LEAST = 0.6, 0.25
POWER_OFF = 0.05  # of the aim, besides the doubt of both
TOLD_APART = 1.5  # of the limit to watch, that a doubt has to lie under for a cause to count as looked for and not there
HAS_TO_BE_SEEN: frozenset[Lookout] = frozenset(("heat", "lean"))  # before a day without snags counts as sound
WORKED_BETTER = 0.8  # of the error before, that is left at most once a correction worked


def _newest(w: Worked) -> Drive | None:
    drives = w.build.road.drives
    return drives[-1] if drives else None


def _cause(w: Worked, say: Say, key: RoadCause) -> Iterator[Finding]:
    """A finding for one cause: named, looked for and not there, or nothing said where the drive could not tell."""
    d = _newest(w)
    found = d.causes.get(key) if d else None
    if d is None or found is None:
        return
    watch, sort_out = LIMITS[key]
    if not found.named:
        if found.doubt < watch * TOLD_APART:
            yield say("sound", f"Looked for in {d.name}, and not there: {size_words(w, key, found.size, found.doubt, d.leans)}.")
        return
    severity: Severity = "sort_out" if abs(found.size) > sort_out else "watch"
    if w.road.changed:
        yield say(
            "note",
            f"In {d.name}: {size_words(w, key, found.size, found.doubt, d.leans)}. What the unit runs on has changed since.",
            "Drive and log again: the next log says whether it worked.",
        )
        return
    yield say(
        severity,
        f"{size_words(w, key, found.size, found.doubt, d.leans)}: {found.share * 100:.0f} % of the error in {d.name}.",
        deed_words(w, key, found.size, d.leans),
    )


@check(
    "LEARN-01",
    _AT,
    "Injector figure",
    figure="road.scale",
    source="the same everywhere is one constant, not two hundred cells",
    rests=("/injectors", "/tune", "/fuel", "/engine"),
)
def scale(w: Worked, say: Say) -> Iterator[Finding]:
    yield from _cause(w, say, "scale")


@check(
    "LEARN-02",
    _AT,
    "Dead time",
    figure="road.dead_time",
    source="what grows as pulses shrink, one over the pulse, is time that nothing flows",
    rests=("/injectors", "/tune", "/fuel", "/engine"),
)
def dead_time(w: Worked, say: Say) -> Iterator[Finding]:
    yield from _cause(w, say, "dead_time")


@check(
    "LEARN-03",
    _AT,
    "Regulator's reference",
    source="half the logarithm of the pressure across: what a regulator open to the air does at part load",
    rests=("/fuel", "/tune", "/injectors", "/engine"),
)
def reference(w: Worked, say: Say) -> Iterator[Finding]:
    yield from _cause(w, say, "reference")


@check(
    "LEARN-04",
    _AT,
    "Lean at high flow",
    source="only at high flow is pump, filter or line; the solved margin says which is likelier",
    rests=("/fuel", "/wiring", "/tune", "/injectors", "/engine"),
)
def high_flow(w: Worked, say: Say) -> Iterator[Finding]:
    yield from _cause(w, say, "high_flow")


@check(
    "LEARN-05",
    _AT,
    "Air temperature",
    source="what goes with the air sensor alone is its table, or heat that soaks into it",
    rests=("/tune", "/fuel", "/injectors", "/engine"),
)
def air(w: Worked, say: Say) -> Iterator[Finding]:
    yield from _cause(w, say, "air")


@check(
    "LEARN-06",
    _AT,
    "Fuel on the wall",
    source="off only while it dries after the foot moved (Aquino, SAE 810494)",
    rests=("/tune", "/fuel", "/injectors", "/engine"),
)
def tip_in(w: Worked, say: Say) -> Iterator[Finding]:
    yield from _cause(w, say, "tip_in")


@check(
    "LEARN-07",
    _AT,
    "One bank",
    source="a leak or a sensor is on one bank, a constant on both",
    rests=("/tune", "/fuel", "/injectors", "/engine"),
)
def bank(w: Worked, say: Say) -> Iterator[Finding]:
    yield from _cause(w, say, "bank")


@check(
    "LEARN-08",
    _AT,
    "The fuel table itself",
    figure="road.error.median",
    source="what no constant explains is filling",
    rests=("/tune", "/fuel", "/injectors", "/engine"),
)
def table(w: Worked, say: Say) -> Iterator[Finding]:
    d = _newest(w)
    if d is None:
        return
    if w.road.changed:
        yield say(
            "note",
            f"{d.name} was {d.error * 100:.1f} % off in the middle. What the unit runs on has changed since.",
            "Drive and log again.",
        )
    elif d.rest_is:
        severity: Severity = "sort_out" if d.rest > REST_SORT_OUT else "watch"
        others = any(c.named for c in d.causes.values())
        yield say(severity, f"Cells are off by {d.rest * 100:.1f} % (root of the mean square) in {d.name}, beyond what any constant explains.",
                  "Put the constants right first; then have the cells corrected." if others else "Have the cells corrected where they were driven; the rest stays.")  # fmt: skip
    elif not any(c.named for c in d.causes.values()):
        yield say("sound", f"The mixture was {d.error * 100:.1f} % off in the middle of {d.name}, and nothing in it is more than chance.")


@check("LEARN-09", _AT, "Oxygen sensor on the road", source="a sensor that is cold, pegged or stuck says nothing of the mixture")
def sensor(w: Worked, say: Say) -> Iterator[Finding]:
    d = _newest(w)
    if d is None or d.sensor is None:
        return
    if d.sensor == "sound":
        yield say("sound", f"The oxygen sensor moved freely in {d.name}.")
    else:
        words = {
            "stuck": "says one figure whatever the foot does",
            "pegged": "stands at the end of what it can say much of the time",
        }[d.sensor]
        yield say(
            "sort_out",
            f"The oxygen sensor {words} in {d.name}.",
            "Its plug, its heater's feed, a leak before it; then another sensor. Hot exhaust: hands off.",
        )


@check("LEARN-10", _AT, "What cannot be told apart", source="two causes whose shapes were alike over what was driven", rests=("/engine",))
def apart(w: Worked, say: Say) -> Iterator[Finding]:
    d = _newest(w)
    if d is None or not d.apart:
        return
    pair = d.apart[0]
    yield say("watch", f"{d.name} cannot tell {parts_words(pair[0], pair[1])[0]}.", parts_words(pair[0], pair[1])[1])


@check("LEARN-11", _AT, "Where it has been", figure="road.coverage", source="a cell that nobody visited is a guess")
def coverage(w: Worked, say: Say) -> Iterator[Finding]:
    d = _newest(w)
    if d is None:
        return
    if d.coverage >= COVERED:
        yield say("sound", f"{d.coverage * 100:.0f} % of the cells that are driven in were visited enough.", limit=COVERED)
    else:
        yield say(
            "watch" if d.coverage < COVERED_LEAST else "note",
            f"{d.coverage * 100:.0f} % of the cells that are driven in were visited enough.",
            "The drive plan says what to drive next. A passenger reads it out.",
            limit=COVERED,
        )


@check(
    "LEARN-12",
    _AT,
    "Power on the road",
    figure="road.power",
    source="pull in a gear against the aim, each with its doubt (ISO 1585)",
    rests=("/engine/power", "/engine/power_basis", "/engine/altitude"),
)
def power(w: Worked, say: Say) -> Iterator[Finding]:
    d = _newest(w)
    if d is None or d.power is None:
        return
    aim, doubt = w.build.engine.power.si, d.power_doubt or 0.1
    apart_by = d.power.si / aim - 1
    told = f"{owners.power(w, d.power.si)} ± {doubt * 100:.0f} % in standard air"
    if apart_by < -(doubt + POWER_OFF):
        yield say(
            "watch",
            f"The pull gave {told}, {-apart_by * 100:.0f} % less than the {owners.power(w, aim)} that are aimed at.",
            "Mixture and spark at full load first, then plates that open fully, compression, exhaust.",
            limit=round(aim / 1e3, 1),
        )
    elif apart_by > doubt + POWER_OFF:
        yield say(
            "watch",
            f"The pull gave {told}, {apart_by * 100:.0f} % more than the {owners.power(w, aim)} that pump and injectors are sized for.",
            "Mass and gearing told right? Then size for what it gives.",
            limit=round(aim / 1e3, 1),
        )
    elif d.power_told:
        yield say("sound", f"The pull gave {told}; {owners.power(w, aim)} are aimed at.", limit=round(aim / 1e3, 1))
    else:
        yield say(
            "note",
            f"The pull gave {told} with mass, gears or drag taken as usual; {owners.power(w, aim)} are aimed at.",
            "Tell mass, gears, tyre and drag at Engine, Power, have the road speed logged, and read the log again.",
            limit=round(aim / 1e3, 1),
        )


@check("LEARN-13", _AT, "Snags of the day", source="knock, heat, volts, oil and a lean full load are seen in a log before they are heard")
def snags(w: Worked, say: Say) -> Iterator[Finding]:
    d = _newest(w)
    if d is None:
        return
    if not d.snags:
        sound = set(d.looked) >= HAS_TO_BE_SEEN
        yield say("sound" if sound else "note", f"{d.name}: {day_words(d.looked, snags=False)}",
                  "" if sound else "Have coolant and mixture logged, and full load driven where that is allowed: heat and a lean full load are what breaks engines.")  # fmt: skip
        return
    worst = d.snags[0]
    more = f" And {len(d.snags) - 1} more." if len(d.snags) > 1 else ""
    severity: Severity = "sort_out" if worst.bad in ("stop", "sort_out") else "watch" if worst.bad == "watch" else "note"
    yield say(severity, f"{worst.what}{more}", "Look at the day's snags before the next drive.")


@check(
    "LEARN-14",
    _AT,
    "Whether it worked",
    figure="road.error.median",
    source="the log after a correction against the one before it",
    rests=("/tune", "/fuel", "/injectors", "/engine"),
)
def worked(w: Worked, say: Say) -> Iterator[Finding]:
    d, before = _newest(w), w.road.before
    if d is None:
        return
    if w.road.changed and d.corrected:
        yield say(
            "note",
            f"{d.corrected} cells were corrected by {d.name}; no log has said yet whether that worked.",
            "Type them into the unit, drive and log again.",
        )
    elif before is not None and not w.road.changed:
        if d.error <= before * WORKED_BETTER:
            yield say(
                "sound", f"It worked: {before * 100:.1f} % off in the middle before, {d.error * 100:.1f} % now.", limit=round(before, 4)
            )
        elif d.error > before / WORKED_BETTER:
            yield say(
                "watch",
                f"It is worse than before: {before * 100:.1f} % off in the middle then, {d.error * 100:.1f} % now.",
                "Roll the tune back, and look for what changed on the car.",
                limit=round(before, 4),
            )
        else:
            yield say(
                "note",
                f"Much as before: {before * 100:.1f} % off in the middle then, {d.error * 100:.1f} % now.",
                "If that is more than the sensor's own one per cent: another cause; read what is off.",
                limit=round(before, 4),
            )
