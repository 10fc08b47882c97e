"""Tags for what comes off the car, and labels for its bags: what it is, where it goes back, a short code, and the same as a square that a phone reads."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.given import Build
from ..core.plan import Plan
from .printing import Printer, to_pdf
from .square import square
from .start_sheet import as_pictures, environment


def html(plan: Plan, build: Build, address: str, photos: Mapping[str, bytes], only: str = "") -> str:
    """A tag for each thing that is not back yet, or for one. `address` is where the page of this build is opened, without a slash behind."""
    pictures = as_pictures(photos)
    tags = [
        {
            "code": code.upper(), "what": x.what, "goes": x.goes, "place": x.place.replace("_", " ") if x.place != "not_noted" else "", "bag": x.bag, "box": x.box, "off": x.off or "",
            "picture": next((pictures[k] for k in x.photos if k in pictures), ""), "square": square(f"{address}/work/off#f/work/off/{code}"),
        }
        for code, x in build.work.off.items() if (code == only if only else x.state in ("on", "off"))
    ]  # fmt: skip
    return environment().get_template("off_tags.html").render(plan=plan, tags=tags, revision="", parts=False)


def pdf(plan: Plan, build: Build, address: str, photos: Mapping[str, bytes], printer: Printer = to_pdf, only: str = "") -> bytes:
    """The tags as PDF, A4, to cut out."""
    return printer(html(plan, build, address, photos, only)).data


def part_labels(plan: Plan, address: str) -> str:
    """A label for the bag of each part that is ordered or here and not fitted: what it is, how many, for which task, where it is entered."""
    work = plan.stages.work
    tasks = {t.key: t.what for t in work.tasks}
    tags = [
        {
            "code": p.counted, "what": p.what, "goes": tasks.get(p.task, ""), "place": p.spec[:80], "bag": "", "box": "", "off": "", "picture": "",
            "square": square(f"{address}/work/parts#f{p.entered_at}"),
        }
        for p in work.parts if p.state in ("ordered", "arrived") and not p.gone
    ]  # fmt: skip
    return environment().get_template("off_tags.html").render(plan=plan, tags=tags, revision="", parts=True)
