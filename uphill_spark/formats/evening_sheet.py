"""What to measure this evening: the values in pencil that could change most, each with what it is measured with and a line to write on."""

from __future__ import annotations

from ..core.asked.guesses import Guess, Guesses
from ..core.plan import Plan
from ..core.stations import BY_KEY
from .station_sheet import Block, Sheet

#: Lines on the sheet: an evening's work, and a page.
MOST = 26


def sheet(plan: Plan, told: Guesses) -> Sheet:
    """The sheet: by station, in the order of work, so that nobody walks twice."""
    chosen = told.guesses[:MOST]
    blocks = [
        Block(
            station.title,
            [(g.title, g.says or "–", g.measured_with, _why(g), "") for g in chosen if g.station == station.key],
            ("What", "assumed", "measured with", "would change", "it is"),
        )
        for station in BY_KEY.values()
    ]
    minutes = sum(g.minutes for g in chosen)
    left = len(told.guesses) - len(chosen)
    return Sheet(
        station="engine", title="To measure this evening",
        lead=f"{len(chosen)} values in pencil, about {minutes / 60:.1f} h; those first that could change a verdict" + (f"; {left} more are on screen" if left else ""),
        cautions=["Battery off before a meter on ohms goes to a wire. Fuel lines only with the engine cold, the pressure let off, and no flame near."],
        figures=(), blocks=[b for b in blocks if b.rows], codes="-",
    )  # fmt: skip


def _why(g: Guess) -> str:
    return (
        ", ".join(code.split(" ")[0] for code in g.turns)
        if g.turns
        else f"nothing alone; under {g.holds} verdict{'s' if g.holds > 1 else ''}"
    )
