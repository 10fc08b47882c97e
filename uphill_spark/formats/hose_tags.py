"""Tags for the hoses: one for each, to print and tie on before the carburettor comes off."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.given import Build
from ..core.given.own import told
from ..core.plan import Plan
from .printing import Printer, to_pdf
from .start_sheet import as_pictures, environment


def html(plan: Plan, build: Build, photos: Mapping[str, bytes] | None = None) -> str:
    """Two tags a hose: what it feeds, where it was, where it goes, and a photograph of how it was."""
    pictures = as_pictures(photos or {})
    tags = [
        {"what": hose.kind.replace("_", " "), "was": consumer.was or "", "goes": hose.proposed or "", "bore": told(consumer.bore, plan.units) if consumer.bore else "", "valve": consumer.check_valve, "picture": next((pictures[k] for k in consumer.photos if k in pictures), "")}
        for hose, consumer in zip(plan.stages.air.hoses, build.air.consumers, strict=True)
    ]  # fmt: skip
    return environment().get_template("hose_tags.html").render(plan=plan, tags=tags, caps=plan.stages.air.spare_ports, revision="")


def pdf(plan: Plan, build: Build, photos: Mapping[str, bytes] | None = None, printer: Printer = to_pdf) -> bytes:
    """The tags as PDF, A4, to cut out."""
    return printer(html(plan, build, photos)).data
