"""Answers about a build: the whole of one, or what moved against the one that the page has."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ..core.figures import Figure
from ..core.findings import Finding
from ..core.plan import Stages
from ..core.ripple import Ripple, ripple
from ..core.worked import SPECS
from .models import FigureSeen
from .standing import Standing

#: Stages whose results a page may ask for.
STAGES: tuple[str, ...] = tuple(Stages.model_fields)


def joined(**parts: Any) -> str:
    """A JSON object from parts that are models (dumped fast), lists and dicts of them, or plain values."""
    return "{" + ",".join(f"{json.dumps(name)}:{text_of(part)}" for name, part in parts.items()) + "}"


#: A number with more digits than any drawing shows: they pack badly, and there are thousands.
_LONG = re.compile(r"-?\d+\.\d{5,}(?:e[+-]?\d+)?")


def _short(found: re.Match[str]) -> str:
    return f"{float(found[0]):.5g}"


@dataclass(frozen=True)
class Drawn:
    """A stage's result on its way to a drawing: numbers to five digits."""

    result: Any

    def model_dump_json(self) -> str:
        """It as JSON."""
        return _LONG.sub(_short, text_of(self.result))


@dataclass(frozen=True)
class Written:
    """What is JSON already."""

    text: str

    def model_dump_json(self) -> str:
        """It."""
        return self.text


def text_of(part: Any) -> str:
    """A part as JSON."""
    if isinstance(part, Finding):
        return part.model_dump_json(
            exclude_none=True, exclude={"source"}
        )  # most of what it could say is not there; its source is asked for
    if isinstance(part, FigureSeen):
        return part.model_dump_json(exclude_unset=True)  # behind most figures stands no other
    if hasattr(part, "model_dump_json"):
        return str(part.model_dump_json())
    if isinstance(part, dict):
        return "{" + ",".join(f"{json.dumps(key)}:{text_of(value)}" for key, value in part.items()) + "}"
    if isinstance(part, list) and part and hasattr(part[0], "model_dump_json"):
        return "[" + ",".join(map(text_of, part)) + "]"
    return json.dumps(part, ensure_ascii=False)


def seen(document: dict[str, Any], shown: Sequence[str] = ()) -> dict[str, Any]:
    """A document as a page needs it: without the cells of kept tables, of which there are thousands, and which it has from the tables in use; without what is said of tasks and parts while the work is not shown."""
    if "work" in document and "work" not in shown:
        document = {key: value for key, value in document.items() if key != "work"}
    tune = document.get("tune")
    if not isinstance(tune, dict) or not tune.keys() & _WITH_TABLES:
        return document
    return {**document, "tune": {**tune, **{key: {**tune[key], "tables": {}} for key in _WITH_TABLES if isinstance(tune.get(key), dict)}}}


_WITH_TABLES = {"kept", "found"}


def whole(standing: Standing, shown: Sequence[str], *, light: bool = False) -> dict[str, Any]:
    """Everything that a page needs of a build, with the stages that it shows; `light`, to five digits and without the cells of kept tables."""
    p = standing.plan
    return {
        "build": seen(standing.document, shown) if light else standing.document,
        "read": Drawn(standing.read) if light else standing.read,
        "plan": {
            "name": p.name, "verdict": p.verdict, "fitness": p.fitness, "figures": {name: Drawn(f) for name, f in _seen(p.figures).items()} if light else _seen(p.figures), "findings": p.findings, "pencil": p.pencil, "next": p.next, "stations": p.stations,
            "scales": p.scales,
        },
        "stages": stages(standing, shown),
    }  # fmt: skip


def _seen(figures: dict[str, Figure]) -> dict[str, FigureSeen]:
    return {name: FigureSeen.of(figure) for name, figure in figures.items() if name in SPECS and not SPECS[name].quiet}


def sections(standing: Standing, shown: Sequence[str]) -> dict[str, Any]:
    """Sections of the document that come with a stage and not before."""
    return {"work": standing.document.get("work", {})} if "work" in shown else {}


def stages(standing: Standing, shown: Sequence[str]) -> dict[str, Any]:
    """Results of stages by name."""
    return {name: Drawn(getattr(standing.plan.stages, name)) for name in shown if name in STAGES}


def difference(before: Standing, after: Standing, shown: Sequence[str], summary: str) -> dict[str, Any]:
    """What moved from one build to the next, in the parts of `whole`. `order` places findings: what was there by its number, what is new below nought."""
    old, new = before.plan, after.plan
    told: Ripple = ripple(old, new, summary)
    moved = [name for name in STAGES if getattr(new.stages, name) != getattr(old.stages, name)]
    came, order = _arranged(old.findings, new.findings)
    return {
        "summary": summary,
        "ripple": told,
        "sections": {
            key: after.document.get(key)
            for key in {**before.document, **after.document}
            if before.document.get(key) != after.document.get(key)
        },
        "read": {key: after.read.get(key) for key in {**before.read, **after.read} if before.read.get(key) != after.read.get(key)},
        "verdict": new.verdict,
        "fitness": new.fitness,
        "figures": _seen({name: figure for name, figure in new.figures.items() if figure != old.figures.get(name)}),
        "findings": came,
        "order": order,
        "pencil": new.pencil,
        "next": new.next,
        "stations": new.stations,
        "scales": new.scales if new.scales != old.scales else None,
        "stages": stages(after, [name for name in shown if name in moved]),
        "stale": moved,
    }


def _arranged(old: list[Finding], new: list[Finding]) -> tuple[list[Finding], list[int]]:
    """Findings that were not there before, and for each of the new list its number in the old one, or -1, -2 ... for the first, second ... that came."""
    places: dict[tuple[str, str], list[int]] = {}
    for i, f in enumerate(old):
        places.setdefault((f.code, f.at), []).append(i)
    came: list[Finding] = []
    order = []
    for f in new:
        at = next((i for i in places.get((f.code, f.at), ()) if old[i] == f), None)
        if at is None:
            came.append(f)
            at = -len(came)
        order.append(at)
    return came, order
