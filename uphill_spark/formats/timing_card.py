"""The timing card: what each output fires, coil and dwell, rotor, and the log of the timing light with room to go on."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.given import Build
from ..core.plan import Plan
from .station_sheet import Block, Sheet, words

_FIGURES = (
    "trigger.angle",
    "ignition.offset",
    "ignition.drift",
    "ignition.duty.limit",
    "ignition.energy",
    "ignition.rotor.span",
    "ignition.tach.pulses",
)
_BLANK = "________"


def sheet(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The ignition's card."""
    g, r = build.ignition, plan.stages.ignition
    outputs = [
        (row.name, "+".join(map(str, row.proposed)), "+".join(map(str, row.wired)) if row.wired else _BLANK, ", ".join(f"{d:.0f}°" for d in row.fires_deg))
        for row in r.outputs
    ]  # fmt: skip
    log = [
        (
            f"{t.speed or _BLANK}",
            f"{t.commanded or _BLANK}",
            f"{t.observed or _BLANK}",
            f"{t.observed.si - t.commanded.si:+.1f}°" if t.observed and t.commanded else _BLANK,
        )
        for t in g.timing
    ]
    log += [(_BLANK, _BLANK, _BLANK, _BLANK)] * max(4 - len(log), 2)
    dwell = [f"{row.dwell_s * 1e3:.2f} ms" if row.dwell_s is not None else f"never, {row.reached_a:.1f} A" for row in r.dwell]
    return Sheet(
        station="ignition", title="Timing", lead=f"{words(g.kind)}, {'timed by the control unit' if g.timed_by_unit else 'the distributor keeps its advance'}",
        cautions=["Tens of thousands of volts: key and battery off before a lead or coil is touched. Light on number one: no loose clothing, clear of the fan and out of line with it, hot parts beside you."],
        figures=_FIGURES,
        blocks=[
            Block("Outputs, in the order of the unit's own numbers", outputs, ("Output", "should fire", "fires", "after number one"), tick=True),
            Block("Coil plugs of the harness", [(x.letter, x.output, "+".join(map(str, x.cylinders))) for x in g.letters], ("Letter", "output", "plugged to"), tick=True),
            Block(f"Dwell to {g.coil.current}", [dwell], [f"{row.volts:g} V" for row in r.dwell]),
            Block("Timing light", log, ("Speed", "locked at", "light shows", "off by"), note="Correct the trigger angle by what it is off at cranking; then look again at 3,000."),
        ],
        photos=photos, drawing="timing",
    )  # fmt: skip
