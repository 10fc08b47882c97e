"""One sheet of a station for the garage wall: its figures, its tables, photographs, and what is open. What differs is what each station puts on it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from ..core.findings import AT_REST
from ..core.plan import Plan
from ..core.stations import StationKey
from .cells import written
from .drawings import DRAWINGS, WIDE
from .printing import Printer, to_pdf
from .start_sheet import as_pictures, environment


@dataclass(frozen=True, slots=True)
class Block:
    """A table with a heading. `headings` may be empty; the first cell of a row stands bold; `tick` gives each row a box to tick; a `long` one may run over sheets."""

    title: str
    rows: Sequence[Sequence[str]]
    headings: Sequence[str] = ()
    note: str = ""
    tick: bool = False
    long: bool = False


@dataclass(frozen=True, slots=True)
class Pictures:
    """Photographs with what they show, by key. Those that are not kept here are told as such."""

    title: str
    shown: Sequence[tuple[str, str]]


@dataclass(frozen=True, slots=True)
class Sheet:
    """What a station prints. `figures` are names of published figures; those without a value are left out.

    `codes` narrows the findings to those that begin so, `most` is how many still leave the sheet on one page; `drawing` names its drawing.
    """

    station: StationKey
    title: str
    lead: str
    cautions: Sequence[str]
    figures: Sequence[str]
    blocks: Sequence[Block] = ()
    pictures: Sequence[Pictures] = ()
    photos: Mapping[str, bytes] = field(default_factory=dict)
    codes: str = ""
    most: int = 5
    drawing: str = ""


def html(sheet: Sheet, plan: Plan, revision: str = "", printed: str = "") -> str:
    """The sheet as HTML."""
    open_here = [
        f for f in plan.findings if f.station == sheet.station and f.code.startswith(sheet.codes) and f.severity not in AT_REST
    ]  # worst first, as the plan has them
    findings = open_here[: sheet.most]
    return (
        environment()
        .get_template("station_sheet.html")
        .render(
            sheet=sheet, plan=plan, findings=findings, more=len(open_here) - len(findings), figures=[plan.figures[n] for n in sheet.figures if plan.figures[n].value is not None],
            pictures=as_pictures(sheet.photos), drawing=DRAWINGS[sheet.drawing](plan) if sheet.drawing else None, wide=sheet.drawing in WIDE,
            revision=revision, printed=printed,
        )
    )  # fmt: skip


def pdf(sheet: Sheet, plan: Plan, revision: str = "", printed: str = "", printer: Printer = to_pdf) -> bytes:
    """The sheet as PDF, A4."""
    return printer(html(sheet, plan, revision, printed)).data


def csv(sheet: Sheet) -> str:
    """The tables of a sheet as CSV (RFC 4180): each row behind the name of its table, headings where it has them."""
    rows: list[Sequence[object]] = []
    for block in sheet.blocks:
        if block.headings:
            rows.append((block.title, *block.headings))
        rows += [(block.title, *row) for row in block.rows]
    return written(rows)


def words(value: object) -> str:
    """A word of the build document for reading; nothing for what is not known."""
    return "" if value is None else str(value).replace("_", " ")
