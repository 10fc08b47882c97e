"""What to do next: Stops first, what clears most for its minutes, and what is done does not come again."""

import unittest
from unittest import mock

from tests.builds import document, edited, plan
from uphill_spark.core import fresh
from uphill_spark.core import next as upcoming
from uphill_spark.core.given import parse
from uphill_spark.core.plan import Plan, evaluate, holding
from uphill_spark.core.stations import BY_KEY


class NextActs(unittest.TestCase):
    def test_stops_come_first_and_the_one_that_clears_most_for_its_minutes_before_the_others(self) -> None:
        p = plan("brindle")
        self.assertEqual({a.kind for a in p.next}, {"clear"})
        self.assertEqual(len(p.next), upcoming.MOST)
        self.assertEqual(p.next[0].station, "engine")
        worth = [(a.station != "engine", -a.clears / a.minutes) for a in p.next]
        self.assertEqual(worth, sorted(worth))
        stops = {f.at for f in p.findings if f.severity == "stop"}
        self.assertLessEqual({a.at for a in p.next}, stops)
        self.assertEqual(p.next[0].clears, sum(f.at == p.next[0].at for f in holding(p.findings)))

    def test_without_stops_what_must_be_known_then_the_measurement_then_the_order_of_work(self) -> None:
        p = plan("tern")
        self.assertEqual(holding(p.findings), [])
        kinds = [a.kind for a in p.next]
        rank = ["do", "settle", "measure", "mend", "sign"]
        self.assertEqual(kinds, sorted(kinds, key=rank.index))
        first = next(a for a in p.next if a.kind == "measure")
        self.assertIn(first.at, p.pencil)
        self.assertGreater(first.clears, 1)
        opened = evaluate(edited("tern", {"/wiring/feed/crank": None}))
        self.assertEqual((opened.next[0].kind, opened.next[0].station, opened.next[0].bench), ("settle", "wiring", "feeds"))

    def test_what_is_done_does_not_come_again(self) -> None:
        doc = document("brindle")
        with mock.patch.object(upcoming, "MOST", 999):
            before = evaluate(parse(doc))
            act = next(a for a in before.next if a.at == "/fuel/pump/control")
            doc["fuel"]["pump"]["control"] = "control_unit"
            after = evaluate(parse(doc))
        self.assertNotIn((act.says, act.at), {(a.says, a.at) for a in after.next})
        stops = [f for f in holding(before.findings) if f.severity == "stop"]
        self.assertEqual(sum(a.clears for a in before.next if a.kind == "clear"), len(stops))

    def test_a_stop_that_is_signed_for_is_no_act_and_steps_come_last(self) -> None:
        doc = document("brindle")
        doc["start"] = {
            "overrules": [
                {"code": f.code, "at": f.at, "reason": "on the bench, outdoors", "by": "Ada"} for f in holding(plan("brindle").findings)
            ]
        }
        p = evaluate(parse(doc))
        self.assertNotIn("clear", {a.kind for a in p.next})
        tidy = document("tern")
        tidy["marks"] = {}
        found = evaluate(parse(tidy)).stages
        self.assertEqual([a.kind for a in upcoming.acts([], found.start, found.work, begun=False)], ["sign"])

    def test_every_act_leads_to_a_bench_that_there_is_and_says_how_long(self) -> None:
        new = fresh.new_document(
            {"name": "new", "layout": "port_plenum", "cylinders": 4, "displacement": "2 L", "power": "100 kW", "fuel": "E10"}
        )
        for p in (plan("tern"), plan("hollin"), plan("brindle"), evaluate(parse(new))):
            self.here(p)

    def here(self, p: Plan) -> None:
        self.assertTrue(p.next)
        for act in p.next:
            self.assertIn(act.bench, {b.key for b in BY_KEY[act.station].row})
            self.assertGreaterEqual(act.minutes, 5)
            self.assertRegex(act.says, r"^[A-Z].*[.a-z)]$")
            self.assertTrue(act.why)


if __name__ == "__main__":
    unittest.main()
