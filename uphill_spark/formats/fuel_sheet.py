"""The fuel sheet: one page with what the gauge should show, every state solved, cautions; and the shopping list as CSV."""

from __future__ import annotations

from ..core.asked import FuelDepth
from ..core.circuit.states import CHARGING_V, TIRED_V
from ..core.findings import AT_REST, WORDS
from ..core.plan import Plan
from .cells import written
from .drawings import DRAWINGS
from .printing import Printer, to_pdf
from .start_sheet import environment

#: Findings in words: as many at most, and as leave the sheet on one page; the rest is counted. Each is found on the sheet by its id.
SHOWN = 12
FINDING = "finding-"
STATES = {
    "full": "full power",
    "cruise": "cruise",
    "idle": "idle",
    "hot_idle": "hot idle",
    "prime": "prime, engine off",
    "crank": "cranking",
}


def html(plan: Plan, depth: FuelDepth, revision: str = "", printed: str = "", shown: int = SHOWN) -> str:
    """The sheet as HTML, with so many of the open findings in words."""
    names = (
        "fuel.gauge.key_on", "fuel.gauge.idle", "fuel.gauge.full", "fuel.injector.pressure.full", "fuel.need", "fuel.margin.full", "fuel.margin.tired",
        "fuel.pump.current.full", "fuel.pump.voltage.full", "fuel.return.pressure.idle", "fuel.inlet.margin", "fuel.hottest", "fuel.margin.full.p05", "fuel.margin.full.p95",
    )  # fmt: skip
    findings = [f for f in plan.findings if f.station == "fuel" and f.severity not in AT_REST]
    cases = [c for c in depth.cases if (c.volts, c.filter_due) in ((CHARGING_V, False), (TIRED_V, True)) or c.state == "crank"]
    figures = [plan.figures[n] for n in names if plan.figures[n].value is not None]
    return (
        environment()
        .get_template("fuel_sheet.html")
        .render(
            plan=plan, scales=plan.scales, drawing=DRAWINGS["fuel"](plan), depth=depth, cases=cases, figures=figures, findings=findings, losses=plan.stages.fuel.grades["full"].losses,
            states=STATES, words=WORDS, shown=shown, revision=revision, printed=printed,
        )
    )  # fmt: skip


def pdf(plan: Plan, depth: FuelDepth, revision: str = "", printed: str = "", printer: Printer = to_pdf) -> bytes:
    """The sheet as PDF, one page of A4: with as many findings in words as came to lie on its first sheet, less one for the line that counts the rest."""
    paper = printer(html(plan, depth, revision, printed))
    room = sum(name.startswith(FINDING) for name in paper.sheets[0])
    while len(paper.sheets) > 1 and room >= 0:
        room = max(room - 1, 0)
        paper = printer(html(plan, depth, revision, printed, room))
        if room == 0:
            break
    return paper.data


def shopping_csv(depth: FuelDepth) -> str:
    """What to buy, one row an item."""
    return written([("what", "quantity", "unit", "note"), *((x.what, f"{x.quantity:g}", x.unit, x.note) for x in depth.shopping)])
