"""ENG: is the engine fit, is the target believable."""

from __future__ import annotations

from collections.abc import Iterator

from ..given.engine import Engine
from ..physics.air import P_SEA_LEVEL
from ..stages.engine import SEA_TEMPERATURE, basis_pressure, boost_of, estimate
from ..stages.engine.fitness import WET_RISE
from ..worked import Worked
from . import owners
from .base import Finding, Say, Severity, above, check, grade

#: Lowest pressure [Pa] with which a cylinder still fires cold (workshop practice for petrol engines).
COMPRESSION_LEAST = 600e3
#: Spread of the cylinders, as a share of the highest: from here on to be watched, sorted out, never injected (workshop practice, 10 % when new).
COMPRESSION_SPREAD = (0.10, 0.20, 0.35)
#: Brake mean effective pressure [bar] of an engine without a blower, by its head: very good, doubtful, not believable; with one throttle a cylinder
#: the last two lie higher (Heywood, ch. 2.7).
BMEP = {"two_valve_pushrod": (10.5, 11.0, 13.0), "two_valve_overhead_cam": (10.5, 11.5, 13.0), "four_valve": (12.0, 12.8, 14.0)}
BMEP_THROTTLES = (12.0, 13.0, 14.5)
#: Mean piston speed [m/s] that a bottom end bears: watched, stopped; forged rods and pistons bear more (Heywood, ch. 2.2).
PISTON_SPEED = (20.0, 25.0)
PISTON_SPEED_FORGED = (24.0, 28.0)
BOOST_APART = 0.15  # share by which boost by size and boost entered may differ
AS_MEASURED = 1.05  # of what a rolling road measured, up to which a target counts as measured


def bmep_limits(e: Engine) -> tuple[float, float, float]:
    """Mean effective pressure [bar] that is very good, doubtful and not believable for a head."""
    return max(BMEP[e.valve_train], BMEP_THROTTLES) if e.layout == "individual_throttles" else BMEP[e.valve_train]


@check(
    "ENG-01",
    "/engine/compression",
    "Compression",
    figure="engine.compression.spread",
    source="compression test; spread as a share of the highest",
    gate=(),
    rests=("/engine/compression_ratio", "/engine/altitude"),
)
def compression(w: Worked, say: Say) -> Iterator[Finding]:
    e, n = w.engine, w.build.engine.cylinders
    if e.compression_spread is None:
        missing = n - len(e.read)
        yield say("unknown", f"{missing} of {n} cylinders {'has' if missing == 1 else 'have'} no reading; injection makes a worn engine's faults worse.",
                  "Warm the engine, take all plugs out, hold the throttle open and crank five compressions each.", settle="compression of every cylinder")  # fmt: skip
        return
    spread, lowest = e.compression_spread, e.compression_lowest_pa or 0.0
    cylinder = min(e.read, key=e.read.__getitem__)
    wet = next(bar.wet_pa for bar in e.compression if bar.cylinder == cylinder)
    severity: Severity = "stop" if lowest < COMPRESSION_LEAST else grade(spread, *COMPRESSION_SPREAD)
    high = [c for c, pa in e.read.items() if pa > e.compression_impossible_pa]
    if severity == "sound" and high:
        yield say("watch", f"Cylinder {high[0]} reads more than this compression ratio can give: a wet bore or a bad gauge.",
                  "Check the gauge, blow the bore out and read again.", limit=COMPRESSION_SPREAD[0])  # fmt: skip
        return
    rings = wet is not None and wet > WET_RISE * e.read[cylinder]
    why = f"Spread {spread * 100:.0f} %, lowest is cylinder {cylinder} with {owners.compression(w, lowest)}."
    if severity == "sound":
        yield say(severity, why, limit=COMPRESSION_SPREAD[0])
        return
    do = (
        "A spoon of oil lifts it, so look at the rings."
        if rings
        else "Check valve clearance, then a leak-down test tells rings from valves from gasket."
    )
    yield say(
        severity,
        f"{why} Injection cannot even out a cylinder that does not hold.",
        do,
        limit=above(severity, *COMPRESSION_SPREAD),
    )


@check(
    "ENG-05",
    "/engine/power",
    "Power target against engine size",
    figure="engine.bmep",
    source="mean effective pressure; Heywood, ch. 2.7",
    rests=(
        "/engine/boost",
        "/engine/blower",
        "/engine/power_basis",
        "/engine/altitude",
        "/engine/valve_train",
        "/engine/layout",
        "engine.power.from_road",
    ),
)
def believable(w: Worked, say: Say) -> Iterator[Finding]:
    boost = w.build.engine.boost
    thick = (basis_pressure(w.build) + boost_of(w.build.engine)) / P_SEA_LEVEL * SEA_TEMPERATURE / w.engine.charge_k
    bar = w.engine.bmep_pa / 1e5 / thick
    blown = ", per bar of air it breathes" if boost and boost.si else ""
    limits = bmep_limits(w.build.engine)
    severity = grade(bar, *limits)
    road = estimate(w.engine, "road")
    if road is not None and w.build.engine.power.si <= road.middle * AS_MEASURED:
        yield say(
            "sound",
            f"A rolling road has measured {owners.power(w, road.middle)} at the crank: {bar:.1f} bar mean effective pressure{blown}.",
            limit=limits[0],
        )
    elif severity == "sound":
        yield say(
            severity,
            f"{bar:.1f} bar mean effective pressure{blown} is within 8 to {limits[0]:g} bar, usual for this head without a blower.",
            limit=limits[0],
        )
    else:
        word = {
            "watch": "a very good engine of its kind",
            "sort_out": "more than nearly any road engine gives",
            "stop": "not believable on pump petrol without a blower",
        }
        yield say(severity, f"{bar:.1f} bar mean effective pressure{blown} is {word[severity]}; parts would be sized for power that is not there.",
                  "Lower the power target or check displacement and the speed of full power.", limit=above(severity, *limits),
                  settle="a rolling-road or acceleration figure")  # fmt: skip


@check(
    "ENG-06",
    "/engine/rev_limit",
    "Piston speed at the rev limit",
    figure="engine.piston_speed",
    source="mean piston speed; Heywood, ch. 2.2",
    rests=("/engine/bottom_end",),
)
def piston_speed(w: Worked, say: Say) -> Iterator[Finding]:
    speed = w.engine.piston_speed_m_s
    if speed is None:
        yield say("unknown", "Stroke is not given, so piston speed cannot be worked out.", "Enter the stroke.", settle="stroke")
        return
    forged = w.build.engine.bottom_end == "forged"
    watched, never = PISTON_SPEED_FORGED if forged else PISTON_SPEED
    severity: Severity = "stop" if speed > never else "watch" if speed > watched else "sound"
    if severity == "sound":
        yield say(
            severity,
            f"{owners.velocity(w, speed)} is within {owners.velocity(w, watched)} for a {'forged' if forged else 'cast'} bottom end.",
            limit=watched,
        )
    else:
        yield say(severity, f"{owners.velocity(w, speed)} asks more of rods and pistons than a {'forged' if forged else 'cast classic'} bottom end gives.",
                  "Lower the rev limit." if forged else "Lower the rev limit, or say that rods and pistons are forged where their builder says so.", limit=never if severity == "stop" else watched)  # fmt: skip


@check(
    "ENG-12",
    "/engine/blower",
    "Boost by the blower's size",
    figure="engine.boost.from_blower",
    source="what it moves over what the engine swallows, before heat; Heywood, ch. 6.8",
    rests=("/engine/boost",),
)
def blower(w: Worked, say: Say) -> Iterator[Finding]:
    by_size, entered = w.engine.blower_boost_pa, w.build.engine.boost
    if by_size is None:
        return
    if entered is None or abs(by_size - entered.si) > BOOST_APART * (entered.si or by_size):
        told = "no boost is entered" if entered is None else f"{owners.typed(w, entered)} is entered"
        yield say(
            "watch",
            f"By its size and drive the blower makes about {owners.own(w, 'pressure', by_size)}, and {told}: everything is sized for that.",
            "Enter what it makes, or another drive; a gauge on the manifold decides.",
            at="/engine/boost",
            settle="a gauge on the manifold at full load",
        )
    else:
        yield say("sound", f"By its size and drive the blower makes about {owners.own(w, 'pressure', by_size)}, as is entered.")


@check(
    "ENG-07",
    "/engine/firing_order",
    "Firing order and cylinder numbers",
    source="crank geometry: companions share a crank angle",
    rests=("/engine/arrangement", "/engine/banks", "/engine/cylinders"),
)
def order(w: Worked, say: Say) -> Iterator[Finding]:
    why = _impossible(w.build.engine)
    text = "-".join(map(str, w.build.engine.firing_order))
    if why is None:
        yield say("sound", f"{text} is possible with this crank and these numbers.")
    else:
        yield say("stop", f"{text}: {why}", "Check how the cylinders are numbered on this engine and correct the order or the banks.")


def _impossible(e: Engine) -> str | None:
    """Why a firing order cannot be this engine's, or None."""
    n, firing = e.cylinders, e.firing_order
    if e.arrangement == "inline" and n in (4, 6):
        for k in range(n // 2):
            pair = (firing[k], firing[k + n // 2])
            if sum(pair) != n + 1:
                return f"{pair[0]} and {pair[1]} fire a turn apart, but on an inline crank the companion of {pair[0]} is {n + 1 - pair[0]}."
    if e.arrangement == "vee" and n == 6 and e.banks is not None and len(e.banks) == 2:
        side = {c: i for i, bank in enumerate(e.banks) for c in bank}
        for a, b in zip(firing, [*firing[1:], firing[0]], strict=True):
            if side[a] == side[b]:
                return f"{a} and {b} sit in one bank and would fire one after the other; a V6 fires its banks in turn."
    return None
