"""The fuel sheet: one page with what the gauge should show, every state solved, cautions; and the shopping list as CSV."""

from __future__ import annotations

import csv
import io

from ..core.plan import Plan
from ..core.stages.fuel.depth import FuelDepth
from .start_sheet import environment, to_pdf

STATES = {
    "full": "full power",
    "cruise": "cruise",
    "idle": "idle",
    "hot_idle": "hot idle",
    "prime": "prime, engine off",
    "crank": "cranking",
}


def html(plan: Plan, depth: FuelDepth, revision: str = "", printed: str = "") -> str:
    """The sheet as HTML."""
    names = (
        "fuel.gauge.key_on", "fuel.gauge.idle", "fuel.rail.pressure.full", "fuel.injector.pressure.full", "fuel.need", "fuel.margin.full", "fuel.margin.tired",
        "fuel.pump.current.full", "fuel.pump.voltage.full", "fuel.return.pressure.idle", "fuel.inlet.margin", "fuel.hottest",
    )  # fmt: skip
    findings = [f for f in plan.findings if f.stage == "fuel" and f.severity not in ("sound", "note")]
    cases = [c for c in depth.cases if c.volts in (10.0, 12.4, 13.8)]
    figures = [plan.figures[n] for n in names if plan.figures[n].value is not None]
    return (
        environment()
        .get_template("fuel_sheet.html")
        .render(plan=plan, depth=depth, cases=cases, figures=figures, findings=findings, states=STATES, revision=revision, printed=printed)
    )


def pdf(plan: Plan, depth: FuelDepth, revision: str = "", printed: str = "") -> bytes:
    """The sheet as PDF, A4."""
    return to_pdf(html(plan, depth, revision, printed))


def shopping_csv(depth: FuelDepth) -> str:
    """What to buy, one row an item."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(("what", "quantity", "unit", "note"))
    writer.writerows((x.what, f"{x.quantity:g}", x.unit, x.note) for x in depth.shopping)
    return out.getvalue()
