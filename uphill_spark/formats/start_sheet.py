"""The first-start sheet: one HTML page for the screen and the printer, and the same as PDF."""

from __future__ import annotations

import base64
from collections.abc import Mapping
from functools import lru_cache

from jinja2 import Environment, PackageLoader, StrictUndefined, select_autoescape

from ..core.findings import barring, holding
from ..core.given.fields import called
from ..core.glossary import Word, found_in
from ..core.plan import Plan
from ..core.stations import BY_KEY, STATIONS, of_place
from .printing import Printer, to_pdf

#: Sheets on which the words of the field still have room.
LONGEST = 3


@lru_cache(maxsize=1)
def environment() -> Environment:
    """Templates of the papers: all that is put in is escaped."""
    return Environment(
        loader=PackageLoader("uphill_spark.formats"),
        autoescape=select_autoescape(("html", "svg")),
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )


def html(plan: Plan, revision: str = "", printed: str = "", *, explained: bool = True) -> str:
    """The sheet as HTML. `revision` and `printed` say which state of the build it shows and when; `explained` has the words of the field at its end, where nothing holds the start."""
    shown = (
        "fuel.margin.full",
        "injectors.duty.full",
        "injectors.nominal",
        "tune.full_cylinder_pulse",
        "fuel.gauge.key_on",
        "fuel.gauge.idle",
    )
    return (
        environment()
        .get_template("start_sheet.html")
        .render(
            plan=plan,
            open_stops=[f for f in holding(plan.findings) if f.severity == "stop"],
            unknown=[f for f in holding(plan.findings) if f.severity != "stop"],
            gates=[("Before it moves", barring(plan.findings, "move")), ("Before the road", barring(plan.findings, "road"))],
            signed=[f for f in plan.findings if f.overruled],
            to_sort=[f for f in plan.findings if f.severity in ("sort_out", "unknown") and not f.holds],
            assumed=assumed(plan),
            words=_words(plan) if explained and not holding(plan.findings) else [],
            figures=[plan.figures[name] for name in shown],
            revision=revision,
            printed=printed,
        )
    )


def _words(plan: Plan) -> list[Word]:
    """The words of the field that its steps use."""
    steps = plan.stages.start.steps
    return found_in(*(text for s in steps for text in (s.title, *s.do, *(e.what for e in s.expect), *s.if_off)))


def assumed(plan: Plan) -> list[tuple[str, list[str]]]:
    """What is in pencil under the figures and under what is sound, by station, each place by its name, once."""
    under = {p for f in plan.figures.values() for p in f.assumed} | {p for f in plan.findings for p in f.rests_on}
    found: dict[str, list[str]] = {station.title: [] for station in STATIONS}
    for place in sorted(under):
        names = found[BY_KEY[of_place(place)].title]
        if (name := called(place)) not in names:
            names.append(name)
    return [(title, names) for title, names in found.items() if names]


def pdf(plan: Plan, revision: str = "", printed: str = "", printer: Printer = to_pdf) -> bytes:
    """The sheet as PDF, A4."""
    paper = printer(html(plan, revision, printed))
    if len(paper.sheets) > LONGEST and not holding(plan.findings):
        paper = printer(html(plan, revision, printed, explained=False))
    return paper.data


def as_pictures(photos: Mapping[str, bytes]) -> dict[str, str]:
    """JPEG photographs by key as addresses that hold them: a sheet fetches nothing."""
    return {key: "data:image/jpeg;base64," + base64.b64encode(data).decode() for key, data in photos.items()}
