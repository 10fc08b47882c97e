"""ENG, health and belief: leak-down, neighbours, vacuum, octane, and whether ways to tell the power agree."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator

from ..stages.engine import LEAK_DOWN, PowerEstimate, boost_of, estimate
from ..stages.engine.cam import CHOKES, cam_class
from ..worked import Worked
from . import owners
from .base import Finding, Say, above, check, grade

#: What the place where air escapes says.
ESCAPES = {
    "oil_filler": "past the rings",
    "exhaust": "past the exhaust valve",
    "throttle": "past the inlet valve",
    "radiator": "through the head gasket into the water",
    "neighbour": "through the gasket between two bores",
}
LOW_NEIGHBOUR = 0.80  # of the highest reading: below it a cylinder counts as low
VACUUM_SHORT = (8e3, 15e3)  # Pa below what the cam should give
#: Highest compression ratio [-] that pump fuel of an octane bears on a classic chamber (Heywood, ch. 9.6, two-valve open chamber, full advance).
RATIO_FOR_OCTANE = ((87, 8.0), (91, 8.8), (95, 9.6), (98, 10.3), (102, 11.2), (110, 13.0))
RICHER = 0.8  # of ratio that a four-valve chamber bears more, and one for fuel below the table less
E85_BEARS = 1.0  # of ratio that E85 bears more
BOOST_FOR_RATIO = 25e3  # Pa of boost that weigh as much as one of ratio on pump fuel (Heywood, ch. 9.6)
#: Charge [K] up to which a boosted engine counts as cooled, and how much hotter weighs as one of ratio: about one octane for 7 K (Heywood, ch. 9.6).
CHARGE_COOL, CHARGE_FOR_RATIO = 323.15, 30.0
RATIO_OVER = (0.3, 1.0)  # of ratio above what the fuel bears
POWER_ASIDE = 1.1  # by which a target may lie outside what the air or the run says


@check("ENG-02", "/engine/compression", "Leak-down", figure="engine.leak_down", source="leak-down test; 10, 20 and 30 %")
def leak_down(w: Worked, say: Say) -> Iterator[Finding]:
    read = [bar for bar in w.engine.compression if bar.leak_down is not None]
    if not read:
        yield say(
            "note",
            "No leak-down test is entered; it tells rings from valves from gasket.",
            settle="a leak-down tester, engine warm, cylinder at top dead centre",
        )
        return
    worst = max(read, key=lambda bar: bar.leak_down or 0.0)
    lost = worst.leak_down or 0.0
    severity = grade(lost, *LEAK_DOWN)
    where = f", {ESCAPES[worst.escapes]}" if worst.escapes in ESCAPES else ""
    do = (
        ""
        if severity == "sound"
        else "Mend what leaks before injection is fitted."
        if where
        else "Listen at oil filler, exhaust, throttle and radiator: it names the part."
    )
    yield say(
        severity,
        f"Cylinder {worst.cylinder} loses {lost * 100:.0f} %{where}.",
        do,
        limit=above(severity, *LEAK_DOWN),
    )


@check(
    "ENG-03",
    "/engine/compression",
    "Neighbours both low",
    source="two low cylinders side by side share a gasket",
    rests=("/engine/banks", "/engine/cylinders"),
)
def neighbours(w: Worked, say: Say) -> Iterator[Finding]:
    by = w.engine.read
    if w.build.engine.cylinders < 2:
        return
    if len(by) < 2:
        yield say(
            "unknown", "Too few compression readings to compare neighbours.", "Read every cylinder.", settle="compression of every cylinder"
        )
        return
    high = max(by.values())
    banks = w.build.engine.banks or [list(range(1, w.build.engine.cylinders + 1))]
    pairs = [
        (a, b)
        for bank in banks
        for a, b in itertools.pairwise(bank)
        if by.get(a, high) < LOW_NEIGHBOUR * high and by.get(b, high) < LOW_NEIGHBOUR * high
    ]
    if pairs:
        a, b = pairs[0]
        yield say("sort_out", f"Cylinders {a} and {b}, side by side, read {owners.compression(w, by[a])} and {owners.compression(w, by[b])}: the head gasket between them.", "Leak-down on one while you listen at the other's plug hole.")  # fmt: skip
    else:
        yield say("sound", "No two neighbours are low together.")


@check(
    "ENG-04",
    "/engine/health",
    "Vacuum at idle",
    figure="engine.vacuum",
    source="manifold pressure usual for the cam, ISO 2533 for altitude",
    rests=("/engine/cam", "/engine/cam_card", "engine.vacuum.expected"),
)
def vacuum(w: Worked, say: Say) -> Iterator[Finding]:
    read, expected = w.engine.vacuum_pa, w.engine.vacuum_expected_pa
    if read is None:
        yield say(
            "note",
            f"No vacuum reading is entered; {owners.vacuum(w, expected)} are to be expected with this cam at this altitude.",
            settle="a gauge on the manifold, warm idle",
        )
        return
    short = expected - read
    card = w.engine.overlap_deg
    if card is not None and cam_class(card) != w.build.engine.cam:
        named = cam_class(card)
        yield say("note", f"By its card the cam has {card:.0f}° of overlap, which is a {named} cam; {w.build.engine.cam} is entered, and the vacuum to expect goes by that.",
                  f"Enter {named}, or look at the card again: durations are taken at one small lift.", at="/engine/cam", figure="engine.cam.overlap")  # fmt: skip
    severity = grade(short, *VACUUM_SHORT)
    why = f"{owners.vacuum(w, read)} at idle, {owners.vacuum(w, expected)} to be expected with this cam at this altitude."
    if severity == "sound":
        yield say(severity, why, limit=round((expected - VACUUM_SHORT[0]) / 1e3, 3))
    else:
        yield say(
            "watch",
            why,
            "Valve clearance, late ignition and a vacuum leak read like wear: rule those out first.",
            limit=round((expected - VACUUM_SHORT[0]) / 1e3, 3),
        )


@check(
    "ENG-11",
    "/engine/health",
    "Smoke, oil and coolant",
    source="what burns in a cylinder besides fuel: oil blue, water white, too much fuel black",
    rests=("/engine/cooling",),
)
def burns(w: Worked, say: Say) -> Iterator[Finding]:
    log = sorted(w.build.engine.health, key=lambda h: h.when, reverse=True)
    smoke = next((h.smoke for h in log if h.smoke is not None), None)
    oil, coolant = (next((v for h in log if (v := getattr(h, name)) is not None), None) for name in ("uses_oil", "loses_coolant"))
    told = False
    if smoke == "blue" or oil:
        told = True
        signs = " and ".join(word for word, there in (("blue smoke", smoke == "blue"), ("oil that goes away", oil)) if there)
        yield say("sort_out", f"{signs[0].upper()}{signs[1:]}: past the rings or down the valve guides. It fouls plugs and an oxygen sensor, and no table mends it.",
                  "A wet compression test and a leak-down tell rings from guides; mend them first.", settle="compression, dry and with a spoon of oil")  # fmt: skip
    by_air = w.build.engine.cooling == "air"
    if by_air and coolant:
        told = True
        yield say("sort_out", "Coolant goes away from an engine that is cooled by air: one of the two is wrong.", "Say what cools it, or take the tick away.", at="/engine/cooling")  # fmt: skip
    elif smoke == "white" and by_air:
        told = True
        yield say("watch", "White smoke on an engine without water is unburnt fuel or water that stood in the exhaust.", "Look again with the engine hot.", settle="a look, hot")  # fmt: skip
    elif smoke == "white" or coolant:
        told = True
        signs = " and ".join(word for word, there in (("white smoke", smoke == "white"), ("coolant that goes away", coolant)) if there)
        yield say("sort_out", f"{signs[0].upper()}{signs[1:]}: water gets into a cylinder, by a head gasket or a crack.",
                  "A leak-down with the radiator cap off, system cold: bubbles name the cylinder.", settle="leak-down, cap off, cold")  # fmt: skip
    if smoke == "black":
        told = True
        yield say("watch", "Black smoke is fuel that does not burn: the carburettor that comes off, or a weak spark that stays.", "Look at plugs, leads and advance before the conversion.")  # fmt: skip
    if told:
        return
    open_ = [
        word
        for word, value in (("smoke", smoke), ("oil use", oil), ("coolant loss", coolant))
        if value is None and not (by_air and word == "coolant loss")
    ]
    if open_:
        yield say("note", f"Not looked at: {', '.join(open_)}.", settle="a long over-run in the mirror; oil and water marked, and looked at after some hundred kilometres")  # fmt: skip
    else:
        yield say("sound", "No smoke, no oil used." if by_air else "No smoke, no oil or coolant used.")


@check(
    "ENG-08",
    "/engine/octane",
    "Compression ratio and octane",
    source="knock limit of open two-valve chambers; Heywood, ch. 9.6",
    rests=("/engine/compression_ratio", "/engine/fuel", "/engine/valve_train", "/engine/boost", "engine.charge"),
)
def octane(w: Worked, say: Say) -> Iterator[Finding]:
    e = w.build.engine
    if e.octane is None:
        yield say("note", "The octane of the fuel is not entered.", settle="the pump's label")
        return
    bears = next((ratio for ron, ratio in reversed(RATIO_FOR_OCTANE) if e.octane >= ron), RATIO_FOR_OCTANE[0][1] - RICHER)
    bears += RICHER if e.valve_train == "four_valve" else 0.0
    bears += E85_BEARS if e.fuel == "E85" else 0.0
    hot = max(w.engine.charge_k - CHARGE_COOL, 0.0) / CHARGE_FOR_RATIO
    over = e.compression_ratio.si - bears + boost_of(e) / BOOST_FOR_RATIO + hot
    why = f"{e.compression_ratio} on {e.octane} RON, which bears about {bears:.1f}:1 here" + (
        f", less with {owners.typed(w, e.boost) if e.boost else 0} of boost and a charge of {owners.temperature(w, w.engine.charge_k)}."
        if boost_of(e)
        else "."
    )
    severity = grade(over, *RATIO_OVER)
    yield say(
        severity, why, "" if severity == "sound" else "Fuel of more octane, a thicker gasket, or less advance at full load: it knocks."
    )


@check(
    "ENG-09",
    "/engine/layout",
    "Layout and load signal",
    source="pulses of single intake runners; density behind one plate",
    rests=("/tune/load", "/engine/boost"),
)
def load(w: Worked, say: Say) -> Iterator[Finding]:
    layout, signal = w.build.engine.layout, w.tune.load_signal
    if layout == "individual_throttles" and signal == "manifold_pressure":
        yield say("sort_out", "One throttle per cylinder gives no steady vacuum, so manifold pressure says little about load.",
                  "Let the throttle's angle tell the load, with a balance manifold for the pressure sensor.", at="/tune/load")  # fmt: skip
    elif layout != "individual_throttles" and signal == "throttle":
        boosted = " Under boost it knows nothing." if w.build.engine.boost and w.build.engine.boost.si else ""
        told = f"Behind one plate its angle tells neither altitude nor how well the engine fills.{boosted}"
        yield say("sort_out", told, "Let manifold pressure tell the load.", at="/tune/load")
    else:
        yield say("sound", f"{'Throttle angle' if signal == 'throttle' else 'Manifold pressure'} suits the layout.")


def _basis(w: Worked) -> str:
    """For where the power is told."""
    e = w.build.engine
    return "at sea level" if e.power_basis == "sea_level" else f"here at {e.altitude}"


def _aim(target: float, air: PowerEstimate | None, run: PowerEstimate | None) -> str:
    """What to do where the ways to tell the power [W] do not agree: the air decides what parts must bear, then what the car should do."""
    if air is not None and air.low > target * POWER_ASIDE:
        return "The engine takes more air than the target says: size pump, injectors and wire for the air, or limit speed and throttle."
    if air is not None and air.high is not None and air.high < target / POWER_ASIDE:
        return "Tables and hopes should follow the air; parts sized for the target have that in hand."
    if run is not None and run.low > target * POWER_ASIDE:
        return "What the car should do takes more than the target: aim at that power and size for it, or expect less of the car."
    return "Look at what the car should do, and at the target, again."


@check(
    "ENG-10",
    "/engine/power",
    "Do the ways to tell the power agree",
    figure="engine.power.from_air",
    source="air over air-fuel ratio over BSFC; energy over time",
    rests=("/engine/run", "engine.power.from_run", "engine.power.from_road", "engine.inlet.mach", "/engine/rev_limit"),
)
def agree(w: Worked, say: Say) -> Iterator[Finding]:
    target = w.build.engine.power.si
    told = []
    for key, words in (
        ("air", "the air that this head can draw gives"),
        ("road", "the rolling road says"),
        ("run", "what the car should do takes"),
    ):
        one = estimate(w.engine, key)
        high = math.inf if one is None or one.high is None else one.high
        if one and not one.low / POWER_ASIDE <= target <= high * POWER_ASIDE:
            told.append(
                f"{words} {owners.power(w, one.low)} or more"
                if one.high is None
                else f"{words} {owners.power(w, one.low)} to {owners.power(w, high)}"
            )
    mach = w.engine.mach_index
    if mach is not None and mach > CHOKES:
        told.append(f"the inlet valves choke: Mach index {mach:.2f} at that speed, {CHOKES:g} is where filling falls away")
    run = w.engine.run
    if run and run.grip_limits:
        told.append(f"the run is beyond the tyres: with this grip it takes {run.grip_time_s:.1f} s or more, whatever the power")
    if told:
        yield say(
            "watch",
            f"The target is {owners.power(w, target)} {_basis(w)}, {' and '.join(told)}.",
            _aim(target, estimate(w.engine, "air"), estimate(w.engine, "run")),
            limit=round(target / 1e3, 3),
        )
    else:
        air = estimate(w.engine, "air")
        band = f"{owners.power(w, air.low)} to {owners.power(w, air.high or air.middle)}" if air else "not known"
        yield say("sound", f"The target lies where the air says: {band}.")
