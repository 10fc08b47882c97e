"""The build document: what is refused and how it is said, edits, pencil marks, versions, field names."""

import unittest
from typing import Any
from unittest import mock

import jsonschema
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import document, patched
from uphill_spark import demo
from uphill_spark.core.errors import BuildError, FormatError, PatchError
from uphill_spark.core.given import VERSION, apply_edit, json_schema, parse
from uphill_spark.core.given import document as document_module
from uphill_spark.core.given.document import copied, touches
from uphill_spark.core.given.engine import usual_order
from uphill_spark.core.given.fields import fields, label
from uphill_spark.core.plan import evaluate


class Refusals(unittest.TestCase):
    def refuse(self, name: str, pointer: str, value: object) -> list[tuple[str, str, str]]:
        doc = document(name)
        here = doc
        *above, last = pointer.split("/")[1:]
        for token in above:
            here = here[int(token)] if isinstance(here, list) else here[token]
        here[int(last) if isinstance(here, list) else last] = value
        with self.assertRaises(BuildError) as caught:
            parse(doc)
        self.assertTrue(caught.exception.problems)
        self.assertIn(caught.exception.problems[0].at, str(caught.exception))
        return [(p.at, p.given, p.wants) for p in caught.exception.problems]

    def test_each_names_the_field_what_was_given_and_what_would_do(self) -> None:
        rows = document()["fuel"]["pump"]["curve"]
        rising = [{**rows[0], "flow": "10 L/h"}, *rows[1:]]
        for pointer, value, at, word in [
            ("/engine/power", "118 mm", "/engine/power", "does not measure power"),
            ("/engine/power", "-5 kW", "/engine/power", "between 3 kW and 1000 kW"),
            ("/engine/power", "1e300 kW", "/engine/power", "between"),
            ("/engine/power", 118, "/engine/power", "a text"),
            ("/engine/powr", "1 kW", "/engine/powr", "no such key"),
            ("/engine/firing_order", [1, 5, 3, 6, 2, 2], "/engine/firing_order", "each of the cylinders 1 to 6 once"),
            ("/engine/firing_order", [], "/engine/firing_order", "at least 1"),
            ("/engine/cylinders", 0, "/engine/cylinders", "1 or more"),
            ("/engine/rev_limit", "3000 rpm", "/engine/rev_limit", "at or above"),
            ("/engine/fuel", "diesel", "/engine/fuel", "'E10'"),
            ("/engine/compression", [{"cylinder": 9, "dry": "1 bar"}], "/engine/compression", "one reading"),
            ("/fuel/pump/curve", [], "/fuel/pump/curve", "at least 2"),
            ("/fuel/pump/curve", rising, "/fuel/pump/curve", "does not rise as pressure rises"),
            ("/fuel/pump/curve", [rows[0], rows[0]], "/fuel/pump/curve", "two different pressures"),
            ("/fuel/parts/supply/bore", "0 mm", "/fuel/parts/supply/bore", "between 1 mm"),
            ("/injectors/flow", "150 mm", "/injectors/flow", "mass or volume flow"),
            ("/injectors/flow", "1 g/min", "/injectors/flow", "between 6 g/min"),
            ("/tune/full_lambda", 9, "/tune/full_lambda", "1.3 at most"),
            ("/ignition/outputs", [{"name": "A", "cylinders": [9]}], "/ignition/outputs/0/cylinders", "1 to 6"),
            ("/wiring/fitted", {"Bad Key": {}}, "/wiring/fitted", "without signs that do not belong"),
            ("/name", "", "/name", "a character or more"),
            ("/name", "a\x00b", "/name", "without signs"),
            ("/notes", "x" * 5000, "/notes", "at most 4000"),
            ("/marks", {"no pointer": {"kind": "assumed"}}, "/marks", "without signs"),
        ]:
            with self.subTest(pointer=pointer, value=str(value)[:30]):
                found = self.refuse("tern", pointer, value)
                self.assertTrue(any(f[0].startswith(at) and word in f[2] for f in found), found)

    def test_no_words_of_a_library_reach_a_person(self) -> None:
        """Whatever stands at a place: what would do is said in our words."""
        odd: list[Any] = [None, True, -1, 1e9, 10**400, 1.5, "", "x" * 5000, [], {}, [[1]], {"a": 1}, "5 furlongs", "\x00"]
        for pointer in ("/name", "/engine/power", "/engine/cylinders", "/engine/firing_order", "/engine/fuel", "/engine/compression", "/fuel/pump/curve", "/fuel/parts", "/fuel/parts/supply",
                        "/injectors/flow", "/injectors/duty_limit", "/ignition/ballast", "/ignition/outputs", "/wiring/nodes", "/tune/full_lambda", "/sensors/decisions", "/marks", "/start/steps"):  # fmt: skip
            for value in odd:
                doc = document()
                *above, last = pointer.split("/")[1:]
                here = doc
                for token in above:
                    here = here.setdefault(token, {})
                here[last] = value
                try:
                    parse(doc)
                except BuildError as error:
                    for p in error.problems:
                        with self.subTest(pointer=pointer, value=str(value)[:30]):
                            self.assertNotRegex(p.wants, r"(?i)input should|valid|unable to|discriminator|union|pydantic|instance of|\{|\}")
                            self.assertTrue(p.wants)

    def test_relations_between_fields(self) -> None:
        self.assertIn("below the speed of full power", self.refuse("tern", "/engine/power_speed", "700 rpm")[0][2])
        doc = document()
        doc["sensors"]["trigger"].update(teeth=6, missing=4)
        with self.assertRaises(BuildError) as caught:
            parse(doc)
        self.assertIn("36-1", caught.exception.problems[0].wants)

    def test_places_must_be_there_and_joined(self) -> None:
        doc = document()
        del doc["wiring"]["branches"]["unit_tank"]
        with self.assertRaises(BuildError) as caught:
            parse(doc)
        self.assertIn("tank", caught.exception.problems[0].given)

    def test_format_and_version(self) -> None:
        for wrong in (
            [],
            "x",
            None,
            {},
            {"format": "other"},
            {"format": "uphill-spark-build", "version": 99},
            {"format": "uphill-spark-build", "version": True},
        ):
            with self.subTest(str(wrong)), self.assertRaises(FormatError):
                parse(wrong)

    def test_an_older_version_is_upgraded(self) -> None:
        old = {**document(), "version": 0}
        with mock.patch.dict(document_module.UPGRADERS, {0: lambda d: {**d, "version": VERSION, "name": d["name"] + ", upgraded"}}):
            self.assertEqual(parse(old).name, "Marlow Tern 2600 estate, upgraded")

    @settings(max_examples=examples(60), deadline=None)
    @given(
        st.recursive(
            st.none() | st.booleans() | st.integers() | st.floats() | st.text(),
            lambda x: st.lists(x) | st.dictionaries(st.text(), x),
            max_leaves=12,
        ),
        st.data(),
    )
    def test_junk_anywhere_is_refused_or_taken_never_worse(self, junk: object, data: st.DataObject) -> None:
        pointer = data.draw(st.sampled_from(sorted(p for p in fields() if "*" not in p)))
        doc = document()
        here = doc
        *above, last = pointer.split("/")[1:]
        for token in above:
            here = here.setdefault(token, {})
        here[last] = junk
        try:
            evaluate(parse(doc))
        except BuildError as error:
            self.assertTrue(error.problems)


class Schema(unittest.TestCase):
    def test_the_published_schema_takes_the_demo_cars_and_refuses_a_wrong_key(self) -> None:
        schema = json_schema()
        jsonschema.Draft202012Validator.check_schema(schema)
        validator = jsonschema.Draft202012Validator(schema)
        for name in demo.NAMES:
            self.assertEqual([e.message for e in validator.iter_errors(document(name))], [])
        self.assertFalse(validator.is_valid({**document(), "colour": "red"}))

    def test_every_value_field_has_a_name_and_the_demo_cars_are_known(self) -> None:
        for pointer, info in fields().items():
            if info.kind not in ("group", "list") and not pointer.endswith("/*"):
                self.assertTrue(info.title, pointer)
        self.assertEqual(label("/engine/power"), "Power target")
        self.assertEqual(label("/engine/compression/2/dry"), "Compression, dry")
        self.assertEqual(label("/wiring/branches/unit_tank/length"), "Length")
        self.assertEqual(fields()["/fuel/design_margin"].default, "1.2")


class Orders(unittest.TestCase):
    def test_an_order_to_start_from_fires_each_cylinder_once(self) -> None:
        for n in range(1, 13):
            self.assertEqual(sorted(usual_order(n)), list(range(1, n + 1)))
        self.assertEqual(usual_order(5), [1, 2, 4, 5, 3])
        for n in (3, 4, 6, 8, 12):  # neighbours on one crank never all fire in the row's order
            self.assertNotEqual(usual_order(n), list(range(1, n + 1)), n)
        for n in (4, 6):  # in a row the two that rise together are as far from either end
            order = usual_order(n)
            self.assertEqual({a + b for a, b in zip(order[: n // 2], order[n // 2 :], strict=True)}, {n + 1})


class Edits(unittest.TestCase):
    def test_a_copy_is_equal_and_shares_nothing_that_can_be_written_into(self) -> None:
        def holders(tree: Any) -> set[int]:
            below = tree.values() if isinstance(tree, dict) else tree if isinstance(tree, list) else ()
            return {id(tree), *(n for t in below for n in holders(t))} if isinstance(tree, (dict, list)) else set()

        one = document()
        other = copied(one)
        self.assertEqual(one, other)
        self.assertEqual(holders(one) & holders(other), set())
        self.assertGreater(len(holders(one)), 200)

    def test_two_readings_of_one_text_are_equal_whatever_was_asked_of_one(self) -> None:
        asked, fresh = parse(document()), parse(document())
        self.assertTrue(asked.fuel.sections.forward)  # kept with the record once it is worked out
        self.assertEqual(asked.fuel, fresh.fuel)
        self.assertEqual(fresh, asked)
        self.assertNotEqual(asked.fuel, parse(document("brindle")).fuel)

    def test_a_written_value_is_no_longer_assumed(self) -> None:
        doc, full, build = patched("tern", [{"op": "replace", "path": "/wiring/fitted/pump_feed/length", "value": "5 m"}])
        self.assertEqual(build.wiring.fitted["pump_feed"].length, "5 m")
        self.assertNotIn("/wiring/fitted/pump_feed/length", doc["marks"])
        self.assertEqual(full[-1], {"op": "remove", "path": "/marks/~1wiring~1fitted~1pump_feed~1length"})

    def test_a_key_that_an_operation_does_not_need_is_left_alone(self) -> None:
        for stray in (None, 5, "x", "", "/nowhere"):
            doc, _, _ = patched("tern", [{"op": "add", "path": "/notes", "value": "n", "from": stray}])
            self.assertEqual(doc["notes"], "n")

    def test_what_is_not_written_is_shared_and_what_is_written_is_not(self) -> None:
        before = document()
        doc, _, build = apply_edit(
            before, [{"op": "move", "from": "/fuel/tank/head", "path": "/notes"}, {"op": "remove", "path": "/notes"}], parse(before)
        )
        self.assertIs(doc["engine"], before["engine"])
        self.assertIn("head", before["fuel"]["tank"])
        self.assertNotIn("head", doc["fuel"]["tank"])
        self.assertEqual(build, parse(doc))

    def test_a_mark_on_a_part_is_narrowed_to_the_rest(self) -> None:
        doc, _, build = patched("tern", [{"op": "replace", "path": "/fuel/parts/filter/at_flow", "value": "160 L/h"}])
        self.assertNotIn("/fuel/parts/filter", doc["marks"])
        self.assertEqual([m for m in build.marks if touches(m, "/fuel/parts/filter/at_flow")], [])
        self.assertEqual([m for m in build.marks if touches(m, "/fuel/parts/filter/pressure_drop")], ["/fuel/parts/filter/pressure_drop"])

    def test_a_measured_mark_stays_and_a_mark_can_be_set_along(self) -> None:
        doc, _, _ = patched("tern", [{"op": "replace", "path": "/wiring/feed/crank", "value": "10.4 V"}])
        self.assertEqual(doc["marks"]["/wiring/feed/crank"]["kind"], "measured")
        mark = {"op": "add", "path": "/marks/~1engine~1bsfc", "value": {"kind": "assumed"}}
        doc, full, _ = patched("tern", [{"op": "replace", "path": "/engine/bsfc", "value": "0.31 kg/kWh"}, mark])
        self.assertEqual(doc["marks"]["/engine/bsfc"]["kind"], "assumed")
        self.assertEqual(len(full), 2)

    def test_what_does_not_fit_is_refused_and_nothing_is_changed(self) -> None:
        before = document()
        for patch in (
            None,
            [],
            "x",
            [1],
            [{"op": "fly", "path": "/x"}],
            [{"op": "replace", "path": "engine"}],
            [{"op": "replace", "path": "/engine/power"}],
            [{"op": "remove", "path": "/engine/nothing"}],
            [{"op": "replace", "path": "/engine/compression/99/dry", "value": "1 bar"}],
            [{"op": "test", "path": "/name", "value": "x"}],
            [{"op": "move", "path": "/name"}],
            [{"op": "add", "path": "/notes", "value": "x"}] * 201,
        ):
            with self.subTest(str(patch)[:50]), self.assertRaises(PatchError) as caught:
                patched("tern", patch)
            self.assertTrue(caught.exception.problems[0].wants)
        self.assertEqual(document(), before)


if __name__ == "__main__":
    unittest.main()
