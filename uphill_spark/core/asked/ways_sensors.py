"""Questions of the sensors: in sequence or not, where the crank sensor and the air sensor sit. Every answer is tried on this build."""

from __future__ import annotations

from ..given.edit import Patch, put, take_out
from .ways import Option, Question, Ways

HALF_OPEN = 1.0e-3  # s, a pulse at idle below which sequence helps


def questions(ways: Ways) -> list[Question]:
    """Sequence, crank sensor, air sensor; those that this build has."""
    s = ways.build.sensors
    found = [_sequence(ways)]
    if s.trigger is not None and s.trigger.on == "crank":
        found.append(_mount(ways))
    if s.air is not None:
        found.append(_air(ways))
    return found


def _sequence(ways: Ways) -> Question:
    build = ways.build
    now = "sequential" if build.injectors.firing == "sequential" else "paired"
    large = (ways.plan.figures["injectors.pulse.idle"].value or 9.0) < HALF_OPEN * 1e3
    confirmed = {k: v for k, v in build.sensors.decisions.items() if k != "cam"}
    options = [
        Option(key="paired", title="Paired, every turn", says="No phase signal; simpler, hardly slower on the road", hours=0.0,
               patch=[put("/injectors/firing", "every_turn"), *_squirts(ways), put("/sensors/decisions", confirmed)]),
        Option(key="sequential", title="In sequence, with a phase signal", says="One squirt a cycle: best idle with large injectors; one more sensor, one more way not to start", hours=4.0,
               patch=[put("/injectors/firing", "sequential"), *_squirts(ways)]),
    ]  # fmt: skip
    usual = "sequential" if large or build.ignition.kind == "coil_per_plug" else "paired"
    return ways.question(
        "sequence", "Sequential or paired?", "Paired, unless coils sit on the plugs or the injectors are large.", now, usual, options
    )


def _squirts(ways: Ways) -> Patch:
    """What was said of squirts goes by the firing."""
    return [take_out("/injectors/squirts")] if ways.build.injectors.squirts is not None else []


def _mount(ways: Ways) -> Question:
    t = ways.build.sensors.trigger
    now = t.mount if t else "not_chosen"
    options = [
        Option(key="outside_bracket", title="Outside, on a bracket", says="Can be reached, gapped and changed with the engine in; the bracket must be as stiff as the block",
               patch=[put("/sensors/trigger/mount", "outside_bracket")], hours=4.0),
        Option(key="behind_pulley", title="Hidden behind the pulley", says="Out of harm's way; the engine comes out, or the pulley off, to touch it again: test it first",
               patch=[put("/sensors/trigger/mount", "behind_pulley")], hours=8.0),
        *([Option(key="not_chosen", title="Not chosen yet", says="Whichever keeps the gap stiff", patch=[])] if now == "not_chosen" else []),
    ]  # fmt: skip
    return ways.question(
        "crank_place",
        "Where does the crank sensor sit?",
        "Whichever keeps the gap stiff; hidden when the engine is out for something else.",
        now,
        "outside_bracket",
        options,
    )


def _air(ways: Ways) -> Question:
    a, boost = ways.build.sensors.air, ways.build.engine.boost
    place = a.place if a else "not_chosen"
    now = (
        "filter"
        if place == "after_filter"
        else "plenum"
        if place in ("plastic_plenum", "metal_plenum")
        else "blower"
        if place == "after_blower"
        else "else"
    )
    metal = "metal_plenum" if place == "metal_plenum" else "plastic_plenum"
    options = [
        Option(key="filter", title="Near the filter", says="No heat soak; it reads what comes in, not what the plenum makes of it", patch=[put("/sensors/air/place", "after_filter")], hours=0.5),
        Option(key="plenum", title="In the plenum", says="The true charge temperature, and after a stop the heat of the metal", patch=[put("/sensors/air/place", metal)], hours=1.5),
        Option(key="blower", title="After the blower", says="What the blower has heated is what the engine gets", patch=[put("/sensors/air/place", "after_blower")], hours=1.5),
        *([Option(key="else", title="Where it is", says="As entered on the bench", patch=[])] if now == "else" else []),
    ]  # fmt: skip
    usual = "blower" if boost and boost.si else "filter"
    return ways.question("air_place", "Where does the air sensor sit?", "Near the filter, unless there is a blower.", now, usual, options)
