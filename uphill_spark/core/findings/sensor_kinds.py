"""SENS, sensors that not every build has: an air meter, a narrowband oxygen sensor, a fuel composition sensor."""

from __future__ import annotations

from collections.abc import Iterator

from ..reference import fuels
from ..worked import Worked
from .base import Finding, Say, check

NARROW_LEAN, NARROW_RICH = 0.2, 0.7  # V that a hot narrowband shows lean at most, rich at least
AT_ONE = 0.02  # lambda by which a target may lie off 1 and still be held by a narrowband
BLEND_APART = 0.05  # of stoichiometric air-fuel ratio
ALCOHOL_STOICH, PETROL_STOICH = 9.0, 14.7  # kg of air for a kg of ethanol, of petrol (Heywood, app. D)
ALCOHOL_DENSITY, PETROL_DENSITY = 789.0, 745.0  # kg/m3


@check("SENS-12", "/sensors/meter", "Air meter", source="air that does not pass the meter is not counted", rests=("/air/consumers",))
def meter(w: Worked, say: Say) -> Iterator[Finding]:
    m = w.build.sensors.meter
    if m is None:
        return
    told = False
    if m.breather == "before":
        told = True
        yield say("sort_out", "The crankcase breather joins before the meter: oil settles on the element, and what the crankcase draws is counted twice or not at all.", "Join it behind the meter, before the throttle.", at="/sensors/meter/breather")  # fmt: skip
    if m.other_air == "past_it":
        told = True
        yield say("sort_out", "Some air goes past the meter: it is not counted, and idle runs lean.", "Idle valve, purge and bleeds draw from behind the meter.", at="/sensors/meter/other_air")  # fmt: skip
    open_ = [word for word, said in (("the breather", m.breather), ("all other air", m.other_air)) if said == "not_looked_at"]
    most, needs = m.most, w.engine.full_air_kg_s
    if most is not None and most.si < needs:
        told = True
        yield say("sort_out", f"It reads up to {most}, the engine draws {needs * 3600:.0f} kg/h at full power: past that the load stands still.", "A larger meter, or manifold pressure as the load above its range.", at="/sensors/meter/most")  # fmt: skip
    if open_:
        told = True
        yield say("unknown", f"Where {' and '.join(open_)} {'joins' if len(open_) == 1 else 'join'} the intake was not looked at.", "Follow each hose: behind the meter is right.", settle="a look along the duct")  # fmt: skip
    if not told:
        yield say("sound", "All air joins behind the meter.")


@check(
    "SENS-13",
    "/sensors/narrowband",
    "Narrowband oxygen sensor",
    source="a step near 0.45 V at lambda 1; it tells rich from lean and not by how much",
    rests=("/tune/cruise_lambda", "/sensors/decisions", "/engine/arrangement", "/fuel/tank/leaded"),
)
def narrowband(w: Worked, say: Say) -> Iterator[Finding]:
    n = w.build.sensors.narrowband
    if n is None:
        return
    told = False
    wide = w.build.sensors.decisions.get("wideband_oxygen") != "struck"
    target = w.build.tune.cruise_lambda
    if not wide and abs(target - 1.0) > AT_ONE:
        told = True
        yield say("sort_out", f"The cruise target is lambda {target:g}; a narrowband can hold lambda 1 and nothing else.", "Lambda 1 at cruise, or a wideband.", at="/tune/cruise_lambda")  # fmt: skip
    if n.count == 1 and w.build.engine.arrangement in ("vee", "flat"):
        told = True
        yield say("watch", "One narrowband on two banks: it speaks for its own only, unless it sits behind the join.", "One for each bank, or behind the join.", at="/sensors/narrowband/count")  # fmt: skip
    if n.lean is not None and n.rich is not None:
        if n.lean.si > NARROW_LEAN or n.rich.si < NARROW_RICH:
            told = True
            yield say("sort_out", f"It shows {n.lean} lean and {n.rich} rich: a live one swings from under {NARROW_LEAN:g} to over {NARROW_RICH:g} V.", "Hot enough? Then it is old, poisoned, or its ground is poor.", at="/sensors/narrowband/rich")  # fmt: skip
    else:
        told = True
        yield say("note", "Whether it still swings was not read.", settle="a high-impedance meter, engine hot, rich and lean in turn")
    if not told:
        yield say("sound", f"It swings from {n.lean} to {n.rich}.")


def stoich_of(alcohol: float) -> float:
    """Stoichiometric air-fuel ratio [-] of petrol with a share of ethanol by volume [-]."""
    share = alcohol * ALCOHOL_DENSITY / (alcohol * ALCOHOL_DENSITY + (1 - alcohol) * PETROL_DENSITY)
    return share * ALCOHOL_STOICH + (1 - share) * PETROL_STOICH


@check(
    "SENS-14",
    "/sensors/composition",
    "Fuel composition",
    source="stoichiometric ratio of the blend by mass; Heywood, app. D",
    rests=("/engine/fuel",),
)
def composition(w: Worked, say: Say) -> Iterator[Finding]:
    c = w.build.sensors.composition
    if c is None:
        return
    if c.blend is None:
        yield say("unknown", "What blend is in the tank now is not entered.", "The sensor's own reading, or a shaken tube with water: what the water gains is alcohol.", at="/sensors/composition/blend", settle="the sensor's reading")  # fmt: skip
        return
    planned = fuels()[w.build.engine.fuel].stoich
    off = planned / stoich_of(c.blend.si) - 1
    if abs(off) <= BLEND_APART:
        yield say(
            "sound",
            f"{c.blend} alcohol in the tank: within {abs(off) * 100:.0f} % of the fuel that everything is sized for, {w.build.engine.fuel}.",
        )
    elif c.unit_follows == "yes":
        yield say(
            "sound", f"{c.blend} alcohol in the tank asks for {off * 100:+.0f} % fuel against {w.build.engine.fuel}; the unit scales it."
        )
    else:
        yield say(
            "sort_out" if c.unit_follows == "no" else "unknown",
            f"{c.blend} alcohol in the tank asks for {off * 100:+.0f} % fuel against {w.build.engine.fuel}, and "
            + ("the unit does not scale it." if c.unit_follows == "no" else "whether the unit scales it is not known."),
            "Switch its scaling on, or fill up with the fuel that is planned.",
            at="/sensors/composition/unit_follows",
            settle="the unit's sheet",
        )
