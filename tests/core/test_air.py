"""Air: the throttle body, the pedal, and the matching of hoses and ports."""

import itertools
import math
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.builds import document, edited, plan, worked
from uphill_spark.core.errors import BuildError
from uphill_spark.core.given import parse
from uphill_spark.core.stages.air import LEFT_OFF, LEFT_OFF_ELSE, NEVER, WANTS, _cost


class ThrottleBody(unittest.TestCase):
    def test_the_drop_goes_with_the_square_of_flow_and_the_rating_says_at_what(self) -> None:
        def drop(flow: str, at: str) -> float:
            return worked("tern", {"/air/throttle/flow": flow, "/air/throttle/rated_drop": at}).air.drop_full_pa or 0

        here = drop("500 m3/h", "1.5 inHg")
        self.assertAlmostEqual(drop("1000 m3/h", "1.5 inHg") / here, 0.25, places=9)
        self.assertAlmostEqual(drop("500 m3/h", "3.0 inHg") / here, 2.0, places=9)
        need = worked("tern").air.need_m3_s * 3600
        self.assertAlmostEqual(here, 5079.58 * (need / 500) ** 2 * 96.380 / 101.325, delta=1)  # thinner air at 420 m loses less

    def test_ratings_at_both_drops_say_the_same_of_the_same_body(self) -> None:
        two = worked("tern", {"/air/throttle/flow": "400 cfm", "/air/throttle/rated_drop": "1.5 inHg"}).air.drop_full_pa or 0
        same = (
            worked("tern", {"/air/throttle/flow": f"{400 * math.sqrt(2):.4f} cfm", "/air/throttle/rated_drop": "3.0 inHg"}).air.drop_full_pa
            or 0
        )
        self.assertAlmostEqual(two / same, 1.0, places=4)

    @settings(max_examples=examples(40), deadline=None)
    @given(st.floats(30, 90), st.integers(1, 4))
    def test_more_bore_never_costs_more_and_makes_the_pedal_quicker(self, bore: float, bores: int) -> None:
        small = worked("tern", {"/air/throttle/bore": f"{bore:.2f} mm", "/air/throttle/bores": bores}).air
        large = worked("tern", {"/air/throttle/bore": f"{bore * 1.1:.2f} mm", "/air/throttle/bores": bores}).air
        self.assertLess(large.drop_full_pa or 0, small.drop_full_pa or 0)
        self.assertLessEqual(large.half_pedal or 0, (small.half_pedal or 1) + 1e-6)

    def test_the_pedal_rises_from_choked_to_all(self) -> None:
        feel = worked("tern").air.feel
        flows = [p.flow for p in feel]
        self.assertEqual(flows, sorted(flows))
        self.assertAlmostEqual(flows[-1], 1.0, places=6)
        self.assertTrue(feel[0].choked and not feel[-1].choked)
        choked = [p.choked for p in feel]
        self.assertEqual(choked, sorted(choked, reverse=True))

    def test_gas_speed_is_what_the_piston_sweeps_over_the_area(self) -> None:
        a, e = worked("hollin").air, edited("hollin").engine
        area = 4 * (math.pi * 0.04**2 / 4 - 0.008 * 0.04)
        self.assertAlmostEqual(a.gas_speed_m_s or 0, 2 * e.displacement.si * e.power_speed.si / area, places=6)
        self.assertIsNone(worked("tern").air.gas_speed_m_s)


class Pedal(unittest.TestCase):
    def test_travel_over_ratio_over_lever(self) -> None:
        a = worked("tern").air
        self.assertAlmostEqual(a.plate_deg or 0, math.degrees((0.066 / 1.75 - 0.0025) / 0.024), places=9)
        self.assertAlmostEqual(a.pedal_full or 0, (a.plate_deg or 0) / 82, places=12)

    def test_a_pedal_that_opens_half_gives_what_half_open_gives(self) -> None:
        half = worked("tern", {"/air/linkage/lever": "48 mm"}).air.feel[-1]
        self.assertAlmostEqual(half.opening, (worked("tern").air.pedal_full or 0) / 2, places=9)
        self.assertLess(half.flow, 1.0)


class Hoses(unittest.TestCase):
    PORTS = {
        "big": {"source": "full_manifold", "bore": "10 mm", "central": True}, "mid": {"source": "full_manifold", "bore": "8 mm", "central": True},
        "small": {"source": "full_manifold", "bore": "4 mm", "central": True}, "runner": {"source": "full_manifold", "bore": "4 mm"},
        "slot": {"source": "ported", "bore": "4 mm"}, "filter": {"source": "filtered_air", "bore": "15 mm"},
    }  # fmt: skip

    @settings(max_examples=examples(60), deadline=None)
    @given(st.sets(st.sampled_from(sorted(WANTS)), min_size=1, max_size=5), st.sets(st.sampled_from(sorted(PORTS)), min_size=1, max_size=5))
    def test_no_other_matching_serves_more_or_better(self, kinds: set[str], ports: set[str]) -> None:
        """Held against every way of giving ports to consumers."""
        changes: dict[str, Any] = {
            "/air/ports": {p: self.PORTS[p] for p in sorted(ports)},
            "/air/consumers": [{"kind": k} for k in sorted(kinds)],
        }
        w = worked("tern", changes | {"/ignition/timed_by_unit": False})
        consumers, there = w.build.air.consumers, w.build.air.ports
        costs = {(c.kind, p): _cost(c, port) for c in consumers for p, port in there.items()}

        def total(pairs: dict[str, str | None]) -> float:
            return sum(costs[k, p] if p is not None else LEFT_OFF.get(k, LEFT_OFF_ELSE) for k, p in pairs.items())

        names = [*there, *([None] * len(consumers))]
        least = min(
            total(dict(zip([c.kind for c in consumers], way, strict=True))) for way in itertools.permutations(names, len(consumers))
        )
        mine = total({h.kind: h.proposed for h in w.air.hoses})
        self.assertAlmostEqual(mine, least, places=6)
        self.assertLess(mine, NEVER)

    def test_what_is_starved_left_open_and_swapped_is_told(self) -> None:
        a = worked("brindle").air
        self.assertEqual(a.starved, ["crankcase_valve"])  # brakes and sensor first
        self.assertEqual(a.open_ports, ["front"])
        by = {h.kind: h for h in a.hoses}
        self.assertEqual(
            (by["brake_booster"].proposed, by["pressure_sensor"].proposed, by["crankcase_breather"].proposed), ("rear", "front", "filter")
        )

    def test_vacuum_advance_comes_off_when_the_unit_times(self) -> None:
        hose = {"kind": "distributor_advance", "port": "runner 3"}
        changes = {"/air/ports/runner 3/capped": False, "/air/consumers": [*document()["air"]["consumers"], hose]}
        found = [f for f in plan("tern", changes).findings if f.code == "AIR-04"]
        self.assertEqual([f.severity for f in found], ["sort_out"])
        self.assertIn("Take it off", found[0].do)

    def test_one_throttle_per_cylinder_wants_a_balance_manifold_and_brakes_a_reservoir(self) -> None:
        self.assertEqual(worked("hollin").air.unsteady, [])
        self.assertEqual(worked("hollin", {"/air/balance": "none"}).air.unsteady, ["brake_booster", "pressure_sensor", "crankcase_valve"])
        self.assertEqual(worked("hollin", {"/air/reservoir": None}).air.unsteady, ["brake_booster"])
        found = [f for f in plan("hollin", {"/air/balance": "none"}).findings if f.code == "AIR-04"]
        self.assertEqual([(f.severity, f.at) for f in found], [("sort_out", "/air/balance")])

    @settings(max_examples=examples(50), deadline=None)
    @given(st.floats(0.3, 18), st.floats(0.15, 4.5))
    def test_a_reservoir_is_counted_by_letting_the_air_in(self, litres: float, booster: float) -> None:
        changes = {"/air/reservoir": f"{litres:.3f} L", "/air/booster": f"{booster:.3f} L"}
        vacuum, count = 60.0, 0
        while (vacuum := vacuum * round(litres, 3) / (round(litres, 3) + round(booster, 3))) >= 30.0 - 1e-9:
            count += 1
        self.assertEqual(worked("hollin", changes).air.reservoir_applications, count)

    def test_bad_input(self) -> None:
        consumers = document()["air"]["consumers"]
        for changes, at, wants in (
            ({"/air/consumers/0/port": "nowhere"}, "/air/consumers/0/port", "plenum rear"),
            ({"/air/consumers": [consumers[0], consumers[0]]}, "/air/consumers", "each consumer once"),
            ({"/air/ports/sensor/capped": True}, "/air/ports/sensor/capped", "either a cap or a hose"),
            ({"/air/throttle/bore": "0 mm"}, "/air/throttle/bore", "between 15 mm"),
            ({"/air/throttle/flow": "650 kPa"}, "/air/throttle/flow", "volume flow"),
            ({"/air/linkage/pedal_ratio": "0"}, "/air/linkage/pedal_ratio", "between 1:1"),
        ):
            with self.subTest(at), self.assertRaises(BuildError) as caught:
                edited("tern", changes)
            self.assertEqual(caught.exception.problems[0].at, at)
            self.assertIn(wants, caught.exception.problems[0].wants)

    def test_a_build_without_an_air_side_is_whole(self) -> None:
        doc = document()
        del doc["air"]
        doc["marks"] = {}
        self.assertEqual(parse(doc).air.consumers, [])
        self.assertEqual({f.severity for f in plan("tern", {"/air": {}}).findings if f.station == "air"}, {"unknown", "note"})


if __name__ == "__main__":
    unittest.main()
