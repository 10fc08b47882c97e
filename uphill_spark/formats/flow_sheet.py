"""The flow sheet: what each injector gave, which are fitted where, with which trim, and the figure to type in."""

from __future__ import annotations

from ..core.build import Build
from ..core.plan import Plan
from .start_sheet import environment, to_pdf


def html(plan: Plan, build: Build, revision: str = "", printed: str = "") -> str:
    """The sheet as HTML."""
    names = (
        "injectors.nominal",
        "injectors.duty.full",
        "injectors.pulse.idle",
        "injectors.spread",
        "injectors.imbalance.bank",
        "injectors.current.driver",
    )
    findings = [f for f in plan.findings if f.stage == "injectors" and f.severity not in ("sound", "note")]
    return (
        environment()
        .get_template("flow_sheet.html")
        .render(
            plan=plan, injectors=build.injectors, bench=plan.stages.injectors.bench, box=plan.stages.injectors.box[:8], findings=findings,
            figures=[plan.figures[n] for n in names if plan.figures[n].value is not None], revision=revision, printed=printed,
        )
    )  # fmt: skip


def pdf(plan: Plan, build: Build, revision: str = "", printed: str = "") -> bytes:
    """The sheet as PDF, A4."""
    return to_pdf(html(plan, build, revision, printed))[0]
