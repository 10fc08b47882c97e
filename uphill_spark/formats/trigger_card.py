"""The card for the trigger's bench test: what to read, tooth by tooth, with room to write, and where number one is."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.findings.trigger import RUNOUT
from ..core.given import Build
from ..core.plan import Plan
from .station_sheet import Block, Sheet, words

_FIGURES = (
    "trigger.angle", "trigger.angle.doubt", "trigger.tooth_at_top", "trigger.degrees_per_tooth", "trigger.gap.mean", "trigger.gap.runout", "trigger.vr.no_start", "trigger.error.cranking",
)  # fmt: skip


def sheet(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The trigger's card; without a wheel it says so."""
    t, found = build.sensors.trigger, plan.stages.trigger
    if t is None or found is None:
        return Sheet(station="sensors", title="Trigger", lead="no trigger wheel in this build", cautions=[], figures=(), photos=photos)
    hall = t.sensor == "hall"
    levels = found.hand.rows if found.hand else []
    read = {r.tooth: r for r in levels}
    teeth = [
        f"{k}: {read[k].over_v:.2f} / {read[k].between_v:.2f} V{' !' if read[k].wrong else ''}" if k in read else f"{k}: ____ / ____"
        for k in range(1, found.teeth_per_turn + 1)
    ]  # fmt: skip
    rows = [[*teeth[i : i + 6], *[""] * (6 - len(teeth[i : i + 6]))] for i in range(0, len(teeth), 6)]
    steps = [
        ("Gap", f"feeler gauge, four places a quarter turn apart; runout {plan.scales['gap'].tell(RUNOUT[0] / 1e3)} or less"),
        ("Supply", f"{words(t.wants) if t.wants != 'not_read' else 'read its sheet first'}, meter on the plug before it goes on"),
        (
            "By hand",
            f"over each tooth under {found.low_most_v:g} V, between them near the supply; count them"
            if hall
            else "ohms of the coil; alternating millivolts when spun",
        ),
        ("Top", "positive stop from both sides, or a dial gauge: true top is half way; number one's valves shut and slack"),
        ("Count", "teeth from the gap to the sensor, in the order in which they pass"),
        ("Light", "timing locked at 10 degrees, injectors unplugged, crank and look"),
    ]
    return Sheet(
        station="sensors", title="Trigger, bench test", lead=f"{found.teeth} teeth less {found.missing}, {words(t.sensor)}, turns {t.turns} seen from the front",
        cautions=["Plugs out, key out, gear in neutral while hands are at the wheel. Battery on for the sensor alone. Out of line with the fan when it is cranked."],
        figures=_FIGURES,
        blocks=[Block("In this order", steps, tick=True), *([Block("Tooth by tooth: over it / after it", rows)] if hall else [])],
        photos=photos, drawing="trigger", codes="TRIG", most=3,
    )  # fmt: skip
