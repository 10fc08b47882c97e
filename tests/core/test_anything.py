"""Any build that is taken has a plan: finite figures, no check that breaks, whatever believable values stand together, whatever path is strung."""

import copy
import json
import math
import unittest
from typing import Any

from hypothesis import HealthCheck, example, given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import document
from tests.leaves import leaves, put, written
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import parse
from uphill_spark.core.given.fields import fields, info_at, label
from uphill_spark.core.given.path import FIXED
from uphill_spark.core.plan import evaluate
from uphill_spark.core.ripple import ripple
from uphill_spark.formats import plan_text, start_sheet, tune_tables, wire_list

CARS = ("tern", "hollin", "brindle")


class Anything(unittest.TestCase):
    def holds(self, doc: dict[str, Any], *, papers: bool = True) -> None:
        """A document is refused with its fields named, or has a plan that can be told and printed."""
        try:
            build = parse(doc)
        except BuildError as error:
            self.assertTrue(error.problems and all(p.at and p.wants for p in error.problems), error)
            return
        plan = evaluate(build)
        for name, figure in plan.figures.items():
            self.assertTrue(figure.value is None or math.isfinite(figure.value), (name, figure.value))
        for finding in plan.findings:
            self.assertNotRegex(finding.why + finding.do, r"\b(nan|inf|None)\b")
        json.loads(plan.model_dump_json(), parse_constant=lambda c: self.fail(c))
        if papers:
            for text in (plan_text.write(plan), wire_list.write(plan), tune_tables.all_json(plan), start_sheet.html(plan)):
                self.assertNotRegex(text, r"\b(nan|inf)\b")
            self.assertEqual(ripple(plan, plan).figures, [])

    @settings(max_examples=examples(60), suppress_health_check=[HealthCheck.too_slow])
    @given(st.data())
    def test_a_build_that_is_taken_has_a_plan_and_papers(self, data: st.DataObject) -> None:
        doc = copy.deepcopy(document(data.draw(st.sampled_from(CARS))))
        for pointer in data.draw(st.lists(st.sampled_from(leaves(doc)), max_size=12, unique=True)):
            info = info_at(pointer)
            if info is None or info.kind not in ("quantity", "choice", "flag"):
                continue
            if info.kind == "quantity":
                value: Any = written(info, data.draw(st.sampled_from([0.0, 1e-3, 0.02, 0.1, 0.3, 0.6, 1.0])))
            else:
                value = data.draw(st.sampled_from(info.options)) if info.options and info.kind == "choice" else data.draw(st.booleans())
            put(doc, pointer, value)
        self.holds(doc)

    @settings(max_examples=examples(120), suppress_health_check=[HealthCheck.too_slow])
    @given(
        st.sampled_from(CARS),
        st.lists(st.sampled_from([*FIXED, "supply", "filter", "return_line", "strainer", "nothing"]), max_size=10),
        st.booleans(),
    )
    @example("tern", ["tank", "pump", "regulator", "surge_tank", "rail"], False)
    @example("hollin", ["tank", "lift", "surge_tank", "pump", "rail", "surge_tank", "regulator", "tank"], True)
    @example("tern", ["tank", "pump", "surge_tank", "rail", "regulator", "surge_tank"], False)
    def test_any_path_is_refused_or_carries_fuel(self, car: str, path: list[str], drop: bool) -> None:
        doc = copy.deepcopy(document(car))
        fuel = doc["fuel"]
        fuel["path"] = path
        if drop:
            fuel["parts"] = {name: part for name, part in fuel["parts"].items() if name in path}
        self.holds(doc, papers=False)

    @settings(max_examples=examples(60), suppress_health_check=[HealthCheck.too_slow])
    @given(st.sampled_from(CARS), st.data())
    def test_a_path_strung_another_way_is_refused_or_carries_fuel(self, car: str, data: st.DataObject) -> None:
        doc = copy.deepcopy(document(car))
        path = list(doc["fuel"]["path"])
        for _ in range(data.draw(st.integers(1, 3))):
            i = data.draw(st.integers(0, max(len(path) - 1, 0)))
            j = data.draw(st.integers(0, max(len(path) - 1, 0)))
            if data.draw(st.booleans()) and path:
                path.insert(j, path.pop(i))
            elif data.draw(st.booleans()):
                path.insert(i, data.draw(st.sampled_from(FIXED)))
            elif path:
                path.pop(i)
        doc["fuel"]["path"] = path
        self.holds(doc, papers=False)

    def test_every_field_that_a_demo_car_fills_is_known(self) -> None:
        for name in CARS:
            for pointer in leaves({k: v for k, v in document(name).items() if k not in ("format", "version", "marks")}):
                self.assertIsNotNone(info_at(pointer), pointer)
                self.assertTrue(label(pointer).strip(), pointer)

    def test_the_list_of_fields_is_not_empty(self) -> None:
        self.assertGreater(len(fields()), 300)


if __name__ == "__main__":
    unittest.main()
