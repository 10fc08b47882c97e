"""What the program says of seven cars, word for word: every figure, every finding, every step of the first start.

`./spark generate` writes the texts anew; the difference is then read line by line. A line may move only where the change says why.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from uphill_spark import demo
from uphill_spark.core.given import parse
from uphill_spark.core.plan import Plan, evaluate

FOLDER = Path(__file__).parent
#: The demo cars, and four that are otherwise: a flat four in pencil, a truck with a throttle-body kit, a blown six, a coupe on E85 in the mountains.
CARS = (*demo.NAMES, "flat_four", "truck", "blown_six", "mountain_coupe")


def document(name: str) -> dict[str, Any]:
    """The build document of a car."""
    if name in demo.NAMES:
        return demo.document(name)
    found: dict[str, Any] = json.loads((FOLDER / f"{name}.json").read_text())
    return found


def text(plan: Plan) -> str:
    """A plan as lines to compare."""
    lines = [plan.verdict, f"fitness: {plan.fitness.word}; {plan.fitness.reason}", ""]
    lines += [f"{s.key}: {s.ruling}; {s.severity or '-'}" for s in plan.stations] + [""]
    for name, f in plan.figures.items():
        value = "-" if f.value is None else f"{f.value:.6g}"
        lines.append(f"{name} = {value} {f.unit} | {f.shown}{' | assumed ' + ' '.join(f.assumed) if f.assumed else ''}")
    for x in plan.findings:
        at_limit = f" [{x.figure} {x.shown} / {x.shown_limit}]" if x.figure else ""
        lines += ["", f"{x.code} {x.severity} {x.at}{at_limit}: {x.title}", f"  why: {x.why}"]
        lines += [f"  {word}: {said}" for word, said in (("do", x.do), ("settle", x.settle), ("signed", x.overruled)) if said]
    for step in plan.stages.start.steps:
        lines += ["", f"{step.number} {step.title}"]
        lines += [f"  {word}: {said}" for word, rows in (("!", step.cautions), ("do", step.do), ("off", step.if_off)) for said in rows]
        lines += [f"  read: {e.what}: {e.band}{'' if e.worked_out else ' (usual)'}" for e in step.expect]
    return "\n".join(lines) + "\n"


def said(name: str) -> str:
    """What is said of a car now."""
    return text(evaluate(parse(document(name))))


def write() -> None:
    """Write the texts anew."""
    for name in CARS:
        (FOLDER / f"{name}.txt").write_text(said(name))
