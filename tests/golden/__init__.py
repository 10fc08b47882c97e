"""What the program says of seven cars, word for word: every figure, every finding, every step of the first start.

`./spark generate` writes the texts anew; the difference is then read line by line. A line may move only where the change says why.
"""

from __future__ import annotations

import copy
import json
import math
import zlib
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
from pydantic import BaseModel

from tests.fault_tables import table as fault_table
from uphill_spark import demo
from uphill_spark.core.asked import ASKED, LONG, Trial, answer
from uphill_spark.core.asked.faults import doubt
from uphill_spark.core.asked.faults import said as look_said
from uphill_spark.core.asked.practice import RISKS, SWAPS
from uphill_spark.core.circuit.states import ORDER
from uphill_spark.core.equilibrium import _Balance
from uphill_spark.core.fresh import new_document
from uphill_spark.core.given import parse
from uphill_spark.core.given.air import Consumer, Port
from uphill_spark.core.plan import Plan, judged
from uphill_spark.core.reference import engine_faults
from uphill_spark.core.stages.air import WANTS, _cost
from uphill_spark.core.stages.engine.fitness import _weighed
from uphill_spark.core.stages.fuel.paths import placed, restrung
from uphill_spark.core.stations import BY_KEY
from uphill_spark.core.worked import work_out

FOLDER = Path(__file__).parent
#: The demo cars, and four that are otherwise: a flat four in pencil, a truck with a throttle-body kit, a blown six, a coupe on E85 in the mountains.
CARS = (*demo.NAMES, "flat_four", "truck", "blown_six", "mountain_coupe")


def document(name: str) -> dict[str, Any]:
    """The build document of a car."""
    if name in demo.NAMES:
        return demo.document(name)
    found: dict[str, Any] = json.loads((FOLDER / f"{name}.json").read_text())
    return found


def told(plan: Plan) -> list[str]:
    """A plan as lines to compare."""
    lines = [plan.verdict, f"fitness: {plan.fitness.word}; {plan.fitness.reason}"]
    lines += [f"  {c.label}: {c.chance:.4f} {c.how_sure}" for c in plan.fitness.causes] + [""]
    lines += [f"{s.key}: {s.ruling}; {s.severity or '-'}; {BY_KEY[s.key].hours:g} h" for s in plan.stations] + [""]
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
        lines += [f"  read: {e.what}: {e.shown}{'' if e.worked_out else ' (usual)'}" for e in step.expect]
    return lines


def leaves(node: Any) -> Iterator[float | str]:
    """Numbers and words of a result, in their order."""
    if isinstance(node, dict):
        for key, below in node.items():
            yield str(key)
            yield from leaves(below)
    elif isinstance(node, list):
        for below in node:
            yield from leaves(below)
    elif isinstance(node, str) or node is None:
        yield str(node)
    else:
        yield float(node)


def _even(x: float) -> float:
    """Its size; what is left over of a difference of equals is nothing."""
    return abs(x) if abs(x) > 1e-12 else 0.0


def summed(name: str, result: BaseModel) -> list[str]:
    """A result's parts, each by how many numbers it has, what they come to, and a check of its words: drawings and tables move as seldom as figures."""
    lines = [""]
    for part, value in result.model_dump(mode="json").items():
        if not isinstance(value, (dict, list)):
            lines.append(
                f"{name}.{part} = {next(leaves(value))}" if not isinstance(value, float) else f"{name}.{part} = {_even(value):.6g}"
            )
            continue
        found = list(leaves(value))
        numbers = [x for x in found if isinstance(x, float)]
        words = zlib.crc32("\n".join(x for x in found if isinstance(x, str)).encode())
        sizes = sum(math.log10(abs(x)) for x in numbers if abs(x) > 1e-6)  # a small number among large ones shows too
        lines.append(
            f"{name}.{part}: {len(numbers)} numbers, {sum(map(_even, numbers)):.6g} in all, {sizes:.3f} by size; words {words:08x}"
        )
    return lines


def said(name: str) -> str:
    """What is said of a car now: its plan, what its stages hold, what is answered when it is asked."""
    doc = document(name)
    worked = work_out(parse(doc))
    stands = judged(worked)
    plan = stands.plan
    lines = told(plan)
    for stage in type(plan.stages).model_fields:
        if (result := getattr(plan.stages, stage)) is not None:
            lines += summed(stage, result)
    circuit = worked.circuit
    for state in ORDER:
        lines += ["", f"circuit {state}"]
        lines += [f"  {load}: {circuit.across(load, state):.4f} V, {circuit.drawn(load, state):.4f} A" for load in circuit.loads]
    trial = Trial(doc, stands)
    for subject in ASKED:
        if subject in LONG:  # seconds a car: their own tests hold them by physics
            continue
        if (found := answer(subject, trial)) is not None:
            lines += summed(f"asked {subject}", found)
    return "\n".join(lines) + "\n"


def begun() -> str:
    """What new builds hold: a six with ports, an eight with a body on the throttle, a four with a throttle each."""
    rows = (
        ("port_plenum", 6, "2597 cc", "118 kW", "E10"),
        ("throttle_body", 8, "5200 cc", "150 kW", "E0"),
        ("individual_throttles", 4, "1700 cc", "95 kW", "E85"),
    )
    keys = ("layout", "cylinders", "displacement", "power", "fuel")
    return json.dumps([new_document({"name": "x", **dict(zip(keys, row, strict=True))}) for row in rows], indent=1) + "\n"


def tables() -> str:
    """What is worked out over the whole of a table, where no car comes by more than a few of its rows."""
    lines = ["faults by each sign alone"]
    for sign in sorted({sign for fault in engine_faults().fault.values() for sign in fault.shows}):
        for there in (True, False):
            causes = _weighed(((sign, there),))[0]
            lines.append(
                f"  {sign} {'seen' if there else 'not seen'}: "
                + ", ".join(f"{c.key} {c.chance:.5f}" for c in sorted(causes, key=lambda c: c.key))
            )
    lines += ["", "tests of an engine of which nothing is known: hours, doubt that each takes away"]
    lines += [f"  {key}: {test.hours:g} h, {test.bits:.5f} bits, {test.tells}" for key, test in _weighed(())[1].items()]
    lines += ["", "a port for each consumer that tells no bore of its own, by what each bore costs"]
    for kind in WANTS:
        consumer = Consumer.model_validate({"kind": kind})
        for source in ("full_manifold", "ported", "filtered_air", "vacuum_pump"):
            costs = [_cost(consumer, Port.model_validate({"source": source, "bore": f"{bore} mm"})) for bore in (3, 7, 15)]
            lines.append(f"  {kind} on {source}: " + ", ".join(f"{c:.5f}" for c in costs))
    lines += ["", "the path of each scheme and place, from each demo car's parts, and from one without lines"]
    for name in demo.NAMES:
        doc = document(name)
        bare = copy.deepcopy(doc)
        bare["fuel"]["parts"] = {k: p for k, p in doc["fuel"]["parts"].items() if p["kind"] == "filter"}
        bare["fuel"]["path"] = [p for p in doc["fuel"]["path"] if p not in doc["fuel"]["parts"] or p in bare["fuel"]["parts"]]
        for told, fuel in ((name, parse(doc).fuel), (f"{name}, no lines", parse(bare).fuel)):
            for scheme in ("return", "tank_regulator", "dead_head"):
                lines.append(f"  {told}, {scheme}: {json.dumps(restrung(fuel, scheme))}")
            for place in ("in_tank", "external", "surge_tank"):
                lines.append(f"  {told}, {place}: {json.dumps(placed(fuel, place))}")
    lines += ["", "what loads draw on little"]
    for name in CARS:
        worked = work_out(parse(document(name)))
        balance = _Balance(worked.build, worked.engine, worked.results["harness"].netlist)
        balance.most()
        for volts in (2.0, 5.0):
            amps = balance.law(np.full((len(ORDER), len(balance.loads)), volts))[0]
            lines.append(
                f"  {name} at {volts:g} V: " + ", ".join(f"{load.key} {amps[:, j].max():.4f}" for j, load in enumerate(balance.loads))
            )
        most = balance.most()
        lines.append(
            f"  {name}, the most of each: "
            + ", ".join(f"{key} {x.average:.4f} {x.effective:.4f} {x.peak:.4f}" for key, x in sorted(most.items()))
        )
    return "\n".join(lines) + "\n"


def faults() -> str:
    """What each look shows on the demo cars and takes, how far it may be off; what each fault changes of that on the first of them that can have it, how hard it is to find, what its mend
    takes; what parts and dares cost."""
    lines: list[str] = []
    met: set[str] = set()
    for name in demo.NAMES:
        table = fault_table(name)
        look = {row.key: row for row in table.looks}
        lines += ["", f"looks on {name}"]
        for row in table.looks:
            off = "" if isinstance(row.sound, str) or row.sound is None else f" ± {doubt(row.key, row.sound):.4g}"
            lines.append(f"  {row.key}, step {row.step}, {row.minutes:g} min, {row.unit or 'words'}: {look_said(row, row.sound)}{off}")
        lines += ["", f"faults of {name}"]
        for fault in table.faults:
            if fault.key not in met:
                lines.append(
                    f"  {fault.key}, level {fault.level}, {fault.minutes:g} min, {fault.money:g} of money, settled by {fault.settles}"
                )
                lines += [f"    {key}: {look_said(look[key], shown)}" for key, shown in fault.differs.items() if key in look]
                met.add(fault.key)
        lines += ["", f"what {name} cannot have", *(f"  {row.words}: {row.why}" for row in table.cannot)]
    lines += ["", "swaps and dares"]
    lines += [f"  {key}: {minutes:g} min, {money:g}, {sorted(cures)}" for key, (_, minutes, money, cures) in SWAPS.items()]
    lines += [f"  {key}: {minutes:g} min" for key, (_, _, minutes) in RISKS.items()]
    return "\n".join(lines[1:]) + "\n"


def write() -> None:
    """Write the texts anew."""
    (FOLDER / "faults.txt").write_text(faults())
    (FOLDER / "begun.txt").write_text(begun())
    (FOLDER / "tables.txt").write_text(tables())
    for name in CARS:
        (FOLDER / f"{name}.txt").write_text(said(name))
