"""The book of the build: one PDF of every sheet that goes with the car, with contents in front and marks to jump by."""

from __future__ import annotations

import io
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..core.given import Build
from ..core.given.own import told
from ..core.plan import Plan
from .printing import Printed, Printer, to_pdf
from .start_sheet import environment
from .station_sheet import Block, Sheet, words


@dataclass(frozen=True, slots=True)
class Chapter:
    """A part of the book: its title and its page as HTML."""

    title: str
    html: str


@dataclass(frozen=True, slots=True)
class Told:
    """An entry of the diary for the book: day, kind, words, who, hours, what was measured."""

    day: str
    kind: str
    words: str
    who: str
    hours: float | None
    measured: Sequence[tuple[str, str]]


def cover(plan: Plan, build: Build, contents: Sequence[tuple[str, int]], revision: str, printed: str) -> str:
    """The first pages: what the car is, what it became, and where things stand in the book."""
    e = build.engine
    facts = [
        (
            "Engine",
            f"{e.cylinders} cylinders {e.arrangement}, {told(e.displacement, plan.units)}, fires {'-'.join(map(str, e.firing_order))}",
        ),
        ("Injection", words(e.layout)),
        ("Injectors", f"{build.injectors.count} of {build.injectors.name}"),
        ("Pump", f"{build.fuel.pump.name}, {words(build.fuel.pump.place)}"),
        ("Fuel pressure", told(build.fuel.regulator.set_pressure, plan.units)),
        ("Ignition", words(build.ignition.kind)),
        ("Control unit", words(build.wiring.profile)),
        ("Fuel", e.fuel),
        ("Asked of it", f"{told(e.power, plan.units)} at {told(e.power_speed, plan.units)}"),
        ("Carried over from the old car", ", ".join(words(x) for x in e.carried_over) or "nothing that is listed"),
    ]
    return (
        environment()
        .get_template("book_cover.html")
        .render(plan=plan, notes=build.notes, facts=facts, contents=contents, revision=revision, printed=printed)
    )


def numbers(pages: int) -> str:
    """So many empty pages with the book's own number at the top, as HTML: each chapter counts its own sheets at the foot."""
    return environment().get_template("book_numbers.html").render(pages=pages)


def bound(plan: Plan, first: Printed, chapters: Sequence[tuple[str, Printed]], printer: Printer = to_pdf) -> bytes:
    """Chapters behind the first pages, as one PDF with a mark for each and a number on each page."""
    from pypdf import PdfReader, PdfWriter

    book = PdfWriter()
    book.add_metadata({"/Title": f"Book of the build: {plan.name}"})
    page = 0
    for title, paper in (("Contents", first), *chapters):
        reader = PdfReader(io.BytesIO(paper.data))
        for sheet in reader.pages:
            book.add_page(sheet)
        book.add_outline_item(title=title, page_number=page)
        page += len(reader.pages)
    stamps = PdfReader(io.BytesIO(printer(numbers(page)).data)).pages
    for sheet, stamp in zip(book.pages, stamps, strict=True):
        right, up = (float(a) - float(b) for a, b in zip(sheet.mediabox.upper_right, stamp.mediabox.upper_right, strict=True))
        sheet.merge_translated_page(stamp, right, up)  # a sheet that lies on its side has its corner elsewhere
    book.compress_identical_objects(remove_duplicates=True, remove_unreferenced=True)
    out = io.BytesIO()
    book.write(out)
    return out.getvalue()


def differs(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """What differs from the car as it was made, what was decided over a Stop, what is not proven."""
    f, e, g = build.fuel, build.engine, build.ignition
    changed = [
        ("Mixture", "one carburettor or more, by jets", f"{words(e.layout)}, {build.injectors.count} injectors, lambda measured"),
        (
            "Fuel in the line",
            "a few kPa, from a pump on the engine",
            f"{told(f.regulator.set_pressure, plan.units)}, pump {words(f.pump.place)}, a return to the tank",
        ),
        ("Spark", "by the distributor's weights and vacuum", f"{words(g.kind)}, {'timed by the unit' if g.timed_by_unit else 'as before'}"),
        (
            "Power to it",
            "from the key and the old fuse box",
            f"from the {words(build.wiring.feed.taken_from)}, {len(plan.stages.wiring.fuses)} fuses of its own",
        ),
    ]
    signed = [(x.code, x.title, x.overruled or "") for x in plan.findings if x.overruled]
    open_ = [(x.code, x.title, x.why) for x in plan.findings if x.severity in ("sort_out", "unknown", "watch") and x.station != "work"]
    replaced = [(x.what, x.goes) for x in build.work.off.values() if x.state == "replaced"]
    return Sheet(
        station="work", title="What differs from the car as it was made", lead="For whoever works on it next", cautions=["Local rules say what must be told to an inspector or an insurer; nothing here says that the car is legal."],
        figures=(), blocks=[
            Block("Changed", changed, ("", "as it was made", "now")), Block("Taken off for good", replaced, ("", "")), Block("Decided over a Stop", signed, ("", "", "why")),
            Block("Known and open", open_[:OPEN_MOST], ("", "", ""), long=True),
        ],
        photos=photos, codes="-", most=0,
    )  # fmt: skip


OPEN_MOST = 40


def parts(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """What is in it, from whom, for how much."""
    work = plan.stages.work
    groups: defaultdict[str, list[tuple[str, ...]]] = defaultdict(list)
    for p in work.parts:
        if p.state != "not_wanted":
            groups[p.group].append((p.what, p.counted, words(p.state), p.supplier, p.price, p.spec))
    m = work.money
    sums = [
        ("Spent", m.spent),
        ("Still to pay", m.to_pay),
        ("Comes back", m.back),
        ("All in all", m.cost),
        ("Reserve for nine of ten chances", m.reserve),
    ]
    return Sheet(
        station="work", title="Parts", lead=f"{len(work.parts)} lines; {m.priced} have a price", cautions=["The maker's data for a part come before anything that is printed here."], figures=(),
        blocks=[
            Block("Money", [(name, f"{value:,.2f} {m.currency}") for name, value in sums if value]),
            *(Block(_GROUPS[key], rows, ("", "how many", "stands", "from", "price", ""), long=True) for key, rows in groups.items()),
        ],
        photos=photos, codes="-", most=0,
    )  # fmt: skip


_GROUPS = {
    "engine": "Engine and trigger", "fuel": "Fuel", "injectors": "Injectors", "air": "Air", "sensors": "Sensors", "ignition": "Ignition", "unit": "Control unit", "wire": "Wire, terminals, fuses", "tools": "Tools", "own": "Of one's own",
}  # fmt: skip
_KINDS = {"decided": "Decisions", "problem": "Problems", "mended": "Mends", "measured": "Measured", "did": "Done", "note": "Notes"}


def diary(plan: Plan, entries: Sequence[Told]) -> Sheet:
    """The diary by kind, decisions and problems first, each by day."""
    by_kind: defaultdict[str, list[tuple[str, ...]]] = defaultdict(list)
    for e in sorted(entries, key=lambda e: e.day):
        read = "; ".join(f"{what} {value}" for what, value in e.measured)
        by_kind[e.kind].append((e.day, " ".join(x for x in (e.words, read) if x), e.who, f"{e.hours:g} h" if e.hours else ""))
    hours = sum(e.hours or 0.0 for e in entries)
    return Sheet(
        station="work", title="Diary", lead=f"{len(entries)} entries, {hours:g} hours written down", cautions=[], figures=(),
        blocks=[Block(title, by_kind[kind], ("", "", "", ""), long=True) for kind, title in _KINDS.items() if by_kind[kind]], codes="-", most=0,
    )  # fmt: skip


def wires(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """Every wire from pin to pin."""
    rows = [
        (w.label, w.starts_at, w.ends_at, w.colour, f"{w.area_m2 * 1e6:.3g} mm²", f"{w.length_m:.2f} m", w.fuse or "")
        for w in plan.stages.wiring.wires
    ]
    return Sheet(
        station="wiring", title="Wires", lead=f"{len(rows)} wires; colours by IEC 60757", cautions=["Battery off before a terminal is touched."], figures=(),
        blocks=[Block("Each wire", rows, ("", "from", "to", "colour", "size", "length", "fuse"), long=True)], photos=photos, codes="-", most=0,
    )  # fmt: skip
