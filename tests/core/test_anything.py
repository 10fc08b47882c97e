"""Any build that is taken has a plan: finite figures, no check that breaks, whatever believable values stand together."""

import copy
import json
import math
import unittest
from typing import Any

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.builds import document
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import parse
from uphill_spark.core.given.fields import FieldInfo, fields, label
from uphill_spark.core.plan import evaluate
from uphill_spark.core.ripple import ripple
from uphill_spark.core.units import DIMENSIONS, from_si, si
from uphill_spark.formats import plan_text, start_sheet, tune_tables, wire_list

UNITS = {"m**2": "mm**2", "revolution/s": "rpm", "dimensionless": "1"}


def written(info: FieldInfo, share: float) -> str:
    """A quantity at a share of the way between the field's bounds."""
    dimension = info.dimension or ""
    low, high = si(info.at_least or "", dimension), si(info.at_most or "", dimension)
    value = low + (high - low) * share
    if dimension == "ratio":
        return f"{value:.6g}"
    unit = DIMENSIONS[dimension].si_unit
    unit = UNITS.get(unit, unit)
    return f"{from_si(value, unit):.12g} {unit}"


def leaves(node: Any, pointer: str = "") -> list[str]:
    if isinstance(node, dict):
        return [leaf for key, below in node.items() for leaf in leaves(below, f"{pointer}/{key}")]
    if isinstance(node, list) and node and isinstance(node[0], dict):
        return [leaf for i, below in enumerate(node) for leaf in leaves(below, f"{pointer}/{i}")]
    return [pointer]


def info_of(pointer: str) -> FieldInfo | None:
    known = fields()
    tokens = pointer.split("/")
    for i in range(len(tokens)):
        tried = "/".join([*tokens[:i], "*", *tokens[i + 1 :]]) if i else pointer
        if tried in known:
            return known[tried]
    return None


class Anything(unittest.TestCase):
    @settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.too_slow])
    @given(st.data())
    def test_a_build_that_is_taken_has_a_plan_and_papers(self, data: st.DataObject) -> None:
        doc = copy.deepcopy(document(data.draw(st.sampled_from(["tern", "hollin", "brindle"]))))
        for pointer in data.draw(st.lists(st.sampled_from(leaves(doc)), max_size=12, unique=True)):
            info = info_of(pointer)
            if info is None or info.kind not in ("quantity", "choice", "flag"):
                continue
            if info.kind == "quantity":
                value: Any = written(info, data.draw(st.sampled_from([0.0, 1e-3, 0.02, 0.1, 0.3, 0.6, 1.0])))
            else:
                value = data.draw(st.sampled_from(info.options)) if info.options and info.kind == "choice" else data.draw(st.booleans())
            here = doc
            *above, last = pointer.split("/")[1:]
            for token in above:
                here = here[int(token)] if isinstance(here, list) else here[token]
            here[int(last) if isinstance(here, list) else last] = value
        try:
            build = parse(doc)
        except BuildError as error:
            self.assertTrue(all(p.at and p.wants for p in error.problems), error)
            return
        plan = evaluate(build)
        for name, figure in plan.figures.items():
            self.assertTrue(figure.value is None or math.isfinite(figure.value), (name, figure.value))
        for finding in plan.findings:
            self.assertNotRegex(finding.why + finding.do, r"\b(nan|inf|None)\b")
        json.loads(plan.model_dump_json(), parse_constant=lambda c: self.fail(c))
        for text in (plan_text.write(plan), wire_list.write(plan), tune_tables.all_json(plan), start_sheet.html(plan)):
            self.assertNotRegex(text, r"\b(nan|inf)\b")
        self.assertEqual(ripple(plan, plan).figures, [])

    def test_every_place_of_the_demo_cars_has_a_name(self) -> None:
        for name in ("tern", "hollin", "brindle"):
            for pointer in leaves(document(name)):
                self.assertTrue(label(pointer).strip(), pointer)


if __name__ == "__main__":
    unittest.main()
