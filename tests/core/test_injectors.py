"""Injectors in depth: the box ranked, the flow bench, the order to fit them in, a second set."""

import itertools
import math
import unittest
from typing import Any
from unittest import mock

from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import document, edited, plan, worked
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import parse
from uphill_spark.core.stages.injectors import bench
from uphill_spark.core.stages.injectors.bench import best_set, imbalance, spread

FLOWS = st.lists(st.floats(0.8, 1.2), min_size=4, max_size=7, unique=True)


def box(*rows: dict[str, Any]) -> list[dict[str, Any]]:
    base = {"name": "x", "pieces": 6, "flow": "150 g/min", "rated_at": "300 kPa", "fluid": "petrol", "resistance": "15 ohm"}
    dead = [{"voltage": "8 V", "time": "1.7 ms"}, {"voltage": "14 V", "time": "0.8 ms"}]
    return [{**base, "dead_time": dead, **row} for row in rows]


class Box(unittest.TestCase):
    def ranked(self, *rows: dict[str, Any], **changes: Any) -> list[Any]:
        return worked("tern", {"/injectors/box": box(*rows), **{f"/injectors/{k}": v for k, v in changes.items()}}).injectors.box

    def test_the_one_that_is_fitted_is_judged_as_it_is_when_it_lies_in_the_box(self) -> None:
        mine = document()["injectors"]
        one = self.ranked({k: mine[k] for k in ("flow", "rated_at", "fluid", "resistance", "dead_time")})[0]
        w = worked("tern").injectors
        self.assertAlmostEqual(one.duty_full, w.duty_full, places=12)
        self.assertAlmostEqual(one.pulse_idle_s, w.pulse_idle_s, places=12)
        self.assertEqual((one.passes, one.fails, one.costs), (True, [], []))

    def test_a_flow_that_no_injector_has_is_refused_on_both_sides_by_mass_and_by_volume(self) -> None:
        for flow, taken in (
            ("5.9 g/min", False), ("6.1 g/min", True), ("5990 g/min", True), ("6010 g/min", False),
            ("5.9 cc/min", False), ("6.1 cc/min", True), ("5990 cc/min", True), ("6010 cc/min", False),
        ):  # fmt: skip
            with self.subTest(flow):
                if taken:
                    self.assertEqual(edited("tern", {"/injectors/box": box({"flow": flow})}).injectors.box[0].flow, flow)
                else:
                    with self.assertRaisesRegex(BuildError, f"/injectors/box/0/flow.*{flow}"):
                        edited("tern", {"/injectors/box": box({"flow": flow})})

    def test_each_loser_says_why(self) -> None:
        rows = self.ranked(
            {"name": "good"}, {"name": "small", "flow": "90 g/min"}, {"name": "huge", "flow": "900 g/min"}, {"name": "few", "pieces": 4},
            {"name": "low", "resistance": "2.2 ohm"}, {"name": "plug", "connector": "round"}, {"name": "bare", "dead_time": []}, connector="oval",
        )  # fmt: skip
        by = {row.name: row for row in rows}
        self.assertEqual(rows[0].name, "good")
        for name, words in (("small", "of the time at full power"), ("huge", "too short to repeat"), ("few", "4 of the 6 needed")):
            self.assertIn(words, by[name].fails[0])
            self.assertFalse(by[name].passes)
        for name, words in (("low", "ballast of 2.4 Ω"), ("plug", "the harness has oval"), ("bare", "dead time not known")):
            self.assertIn(words, by[name].costs[0])
            self.assertTrue(by[name].passes)
        self.assertEqual([row.rank for row in rows], list(range(1, 8)))
        self.assertTrue(all(a.passes >= b.passes for a, b in itertools.pairwise(rows)))

    def test_an_ohm_too_many_on_a_peak_and_hold_driver(self) -> None:
        self.assertIn("never peaks", self.ranked({}, driver="peak_and_hold")[0].costs[0])

    def test_two_hundred_are_ranked(self) -> None:
        rows = self.ranked(*({"name": f"n{k}", "flow": f"{60 + 3 * k} g/min"} for k in range(200)))
        passing = [row for row in rows if row.passes]
        self.assertEqual(len(rows), 200)
        self.assertEqual([row.centred for row in passing if not row.costs], sorted(row.centred for row in passing if not row.costs))


class Bench(unittest.TestCase):
    @settings(max_examples=examples(60), deadline=None)
    @given(FLOWS)
    def test_no_other_set_and_order_is_better(self, flows: list[float]) -> None:
        """Held against every choice and every order of four, in two banks of two."""
        banks = [[1, 3], [2, 4]]
        marks = {f"m{k}": f for k, f in enumerate(flows)}
        found = best_set(marks, banks)
        mine = {c: marks[m] for m, c in found.items()}
        everything = [dict(zip(order, (1, 2, 3, 4), strict=True)) for order in itertools.permutations(marks, 4)]
        least = min(spread([marks[m] for m in other]) for other in everything)
        self.assertAlmostEqual(spread(list(mine.values())), least, places=12)
        same = [
            sum(imbalance({c: marks[m] for m, c in o.items()}, banks)) for o in everything if spread([marks[m] for m in o]) <= least + 1e-12
        ]
        self.assertLessEqual(sum(imbalance(mine, banks)), min(same) + 1e-9)

    def test_twelve_second_hand_ones_six_chosen_for_a_vee_six(self) -> None:
        volumes = [104.0, 106.2, 99.1, 105.5, 110.3, 105.9, 106.0, 97.0, 105.1, 105.7, 102.0, 106.1]
        rows = [
            {"mark": str(k), "volume": f"{v} mL", "time": "30 s", "pressure": "300 kPa", "drops": 2 if k == 6 else 0, "spray": "cone"}
            for k, v in enumerate(volumes)
        ]
        changes = {"/engine/arrangement": "vee", "/engine/banks": [[1, 3, 5], [2, 4, 6]], "/injectors/bench": rows}
        b = worked("tern", changes).injectors.bench
        fitted = {row.mark: row.cylinder for row in b.rows if row.cylinder}
        self.assertEqual(set(fitted), {"1", "3", "5", "8", "9", "11"})  # 6 drips, the rest lie further out
        self.assertLess(b.spread or 1, 0.011)
        self.assertLess(b.bank_imbalance or 1, 0.002)
        self.assertAlmostEqual(sum(row.flow_kg_s * (row.trim or 0) for row in b.rows if row.cylinder) / 6, b.mean_kg_s or 0, places=12)

    def test_pressure_time_and_fluid_of_the_test_are_brought_to_the_rating(self) -> None:
        def flow(**row: str) -> float:
            base = {"mark": "A", "volume": "100 mL", "time": "30 s", "pressure": "300 kPa"}
            return worked("tern", {"/injectors/bench": [{**base, **row}]}).injectors.bench.rows[0].flow_kg_s

        here = flow()
        self.assertAlmostEqual(flow(pressure="150 kPa") / here, 2**0.5, places=9)
        self.assertAlmostEqual(flow(time="60 s") / here, 0.5, places=9)
        self.assertAlmostEqual(here * 6e4, 0.1 * 684 * 2 * (735 / 684) ** 0.5, places=6)

    def test_cleaning_shows_what_it_gained_and_the_later_test_counts(self) -> None:
        row = {"mark": "A", "volume": "90 mL", "time": "30 s", "pressure": "300 kPa", "drops": 1, "spray": "streaky"}
        rows = [row, {**row, "cleaned": True, "volume": "99 mL", "drops": 0, "spray": "cone"}]
        found = worked("tern", {"/injectors/bench": rows}).injectors.bench.rows
        self.assertEqual(len(found), 1)
        self.assertAlmostEqual(found[0].gain or 0, 0.1, places=9)
        self.assertEqual((found[0].drops, found[0].tight), (0, True))

    def test_eight_of_fourteen_are_tried_by_their_share_between_the_banks_and_not_in_every_order(self) -> None:
        marks = {f"m{k}": 1 + 0.01 * ((k * 37) % 11) for k in range(14)}
        with mock.patch.object(bench, "imbalance", wraps=imbalance) as tried:
            found = best_set(marks, [[1, 2, 3, 4], [5, 6, 7, 8]])
        self.assertEqual(len(found), 8)
        self.assertLessEqual(tried.call_count, 7 * math.comb(8, 4))  # there are 121 million orders

    def test_bad_tests_are_told(self) -> None:
        row = {"mark": "A", "volume": "90 mL", "time": "30 s", "pressure": "300 kPa"}
        for rows, at, wants in (
            ([{**row, "time": "0 s"}], "/injectors/bench/0/time", "between 1 s and 600 s"),
            ([row, row], "/injectors/bench", "one test before and one after"),
            ([{**row, "drops": -1}], "/injectors/bench/0/drops", "0 or more"),
            ([{**row, "spray": "fog"}], "/injectors/bench/0/spray", "cone"),
        ):
            doc = document()
            doc["injectors"]["bench"] = rows
            with self.subTest(wants=wants), self.assertRaises(BuildError) as caught:
                parse(doc)
            self.assertEqual(caught.exception.problems[0].at, at)
            self.assertIn(wants, caught.exception.problems[0].wants)


class Together(unittest.TestCase):
    SECOND = {"name": "big", "count": 6, "flow": "300 g/min", "rated_at": "300 kPa", "fluid": "petrol", "resistance": "12 ohm"}

    def test_a_second_set_joins_where_the_first_reaches_its_limit(self) -> None:
        small = {"/injectors/flow": "80 g/min", "/injectors/second": self.SECOND}
        w = worked("tern", small)
        alone = worked("tern", {"/injectors/flow": "80 g/min"}).injectors
        self.assertGreater(alone.duty_full, 1.0)
        self.assertLess(w.injectors.duty_full, 0.5)
        self.assertAlmostEqual(w.injectors.pulse_idle_s, alone.pulse_idle_s, places=12)
        share = w.injectors.changeover or 0
        pulse = share * alone.pulse_full_s
        self.assertAlmostEqual((pulse + w.injectors.dead_time_full_s) / alone.period_full_s, 0.80, places=9)
        self.assertIsNone(plan("tern").figures["injectors.changeover"].value)

    def test_squirts_of_a_throttle_body_divide_the_pulse_and_pay_dead_time_each(self) -> None:
        two, six = worked("brindle", {"/injectors/squirts": 2}).injectors, worked("brindle", {"/injectors/squirts": 6}).injectors
        self.assertEqual(two, worked("brindle").injectors)
        self.assertAlmostEqual(six.pulse_full_s, two.pulse_full_s / 3, places=12)
        self.assertGreater(six.duty_full, two.duty_full)

    def test_figures_by_name(self) -> None:
        figures = plan("tern").figures
        self.assertAlmostEqual(figures["injectors.spread"].value or 0, 1.1 / 105.8, delta=1e-3)
        self.assertEqual(figures["injectors.imbalance.bank"].value, 0.0)  # one bank
        self.assertGreater(figures["injectors.turndown"].value or 0, 1)
        self.assertIsNone(plan("hollin").figures["injectors.spread"].value)
        self.assertEqual(edited("tern").injectors.bench_fluid, "n_heptane")


if __name__ == "__main__":
    unittest.main()
