"""The work: hours and prices as people write them, schedules of many chances, tasks and parts of a build, what a slip does."""

import datetime as dt
import unittest
from decimal import Decimal
from typing import Any

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.builds import document, edited, plan, stands
from uphill_spark.core.asked import Trial, levelled
from uphill_spark.core.errors import BuildError, UnitError
from uphill_spark.core.given import parse
from uphill_spark.core.given.calendar import read_away, read_busy, read_day, read_week
from uphill_spark.core.given.money import read_money
from uphill_spark.core.physics.schedule import (
    DAY,
    FUEL,
    HOT,
    NEVER,
    PLAIN,
    Chances,
    Hours,
    Jobs,
    both,
    hours_of,
    latest,
    schedule,
    three_point,
)
from uphill_spark.core.plan import Plan
from uphill_spark.core.reference import tasks
from uphill_spark.core.ripple import describe
from uphill_spark.core.stages.work.made import MAKERS
from uphill_spark.core.stages.work.planned import plan as planned
from uphill_spark.core.stages.work.tasks import ring
from uphill_spark.core.stations import BY_KEY

#: Three hours on each of two hundred evenings, and all of every seventh day.
EVENINGS = hours_of([(d * DAY + 1140, d * DAY + 1320) for d in range(200)])
OTHERS = hours_of([(d * DAY + (540 if d % 7 == 5 else 1140), d * DAY + (1020 if d % 7 == 5 else 1320)) for d in range(200) if d % 2])


class Written(unittest.TestCase):
    def test_a_week_is_read_however_it_is_written(self) -> None:
        evening = (1140, 1320)
        for text in ("Tue Thu 19:00-22:00", "tuesday, thursday 19-22", "Tue and Thu 7pm - 10 pm", "Tue 19.00 to 22.00; Thu 19h00-22h00"):
            self.assertEqual(read_week(text), ((1, *evening), (3, *evening)), text)
        self.assertEqual([d for d, _, _ in read_week("Fri-Mon 18-20")], [0, 4, 5, 6])
        self.assertEqual(read_week("Sat 9-12, 11-17"), ((5, 540, 1020),))
        self.assertEqual(read_week("Sun 20-24"), ((6, 1200, 1440),))
        self.assertEqual(read_week(""), ())

    def test_what_is_no_week_says_what_would_do(self) -> None:
        for text, says in [("Tue", "hours are missing"), ("19-22", "no day"), ("Foo 19-22", "'foo' is no day"), ("Tue 22-19", "ends before"), ("Tue 25-26", "no time"), ("Tue 13pm-14", "no time")]:  # fmt: skip
            with self.assertRaisesRegex(UnitError, says):
                read_week(text)

    def test_days(self) -> None:
        self.assertEqual(read_away("2027-02-14 to 2027-02-21; 2027-03-05")[1], (dt.date(2027, 3, 5),) * 2)
        self.assertEqual(read_day("2028-02-29"), dt.date(2028, 2, 29))
        for text in ("2027-02-30", "14.2.2027", "0200-01-01", "20270214"):
            with self.assertRaises(UnitError):
                read_day(text)
        with self.assertRaises(UnitError):
            read_away("2027-02-21 to 2027-02-14")
        for text in ("2027-02-14T18:00/2027-02-14T17:00", "2027-02-14T18:00Z/2027-02-14T19:00Z", "soon"):
            with self.assertRaises(UnitError):
                read_busy(text)

    def test_prices_as_they_are_written(self) -> None:
        for text, low, currency in [("129.50", "129.50", ""), ("129,50 EUR", "129.50", "EUR"), ("eur 1.250", "1250", "EUR"), ("1,250.00", "1250.00", ""), ("1 250,5 SEK", "1250.5", "SEK"), ("12.345,6", "12345.6", "")]:  # fmt: skip
            found = read_money(text)
            self.assertEqual((found.low, found.high, found.currency), (Decimal(low), Decimal(low), currency), text)
        self.assertEqual(read_money("40 to 60 EUR").middle, 50)
        for text in ("", "abc", "5 EUR USD", "60-40", "-5", "1.2.3", "99999999999"):
            with self.assertRaises(UnitError):
                read_money(text)

    def test_in_the_document_each_error_names_its_field(self) -> None:
        for place, value in [("people", {"ada": {"name": "Ada", "free": "some day"}}), ("money", {"budget": "lots"}), ("begin", "2027-02-30"), ("off", {"o0il": {"what": "Hose"}}), ("people", {k: {"name": k} for k in ("a", "b", "c")})]:  # fmt: skip
            with self.assertRaises(BuildError) as raised:
                parse(document() | {"work": {place: value}})
            self.assertTrue(raised.exception.problems[0].at.startswith(f"/work/{place}"), raised.exception)


def one(
    work: list[float],
    needs: list[tuple[int, int]] = (),
    *,
    kind: list[int] | None = None,
    who: list[list[bool]] | None = None,
    people: int = 1,
) -> tuple[Jobs, Chances]:  # type: ignore[assignment]
    """One chance of jobs by their hours; `needs` as (job, what it waits for)."""
    n = len(work)
    before = np.zeros((n, n), dtype=bool)
    for a, b in needs:
        before[a, b] = True
    jobs = Jobs(before, np.array(kind or [PLAIN] * n), np.array(who or [[True] * people] * n), np.zeros(n, dtype=bool))
    zero = np.zeros((1, n))
    return jobs, Chances(np.array([work]) * 60.0, zero, zero)


class OnPaper(unittest.TestCase):
    """Small plans that can be laid by hand."""

    def test_five_hours_in_evenings_of_three(self) -> None:
        jobs, chances = one([5, 2], [(1, 0)])
        found = schedule(jobs, chances, [EVENINGS])
        self.assertEqual(found.begins[0].tolist(), [1140, DAY + 1260])
        self.assertEqual(found.ends[0].tolist(), [DAY + 1260, 2 * DAY + 1200])

    def test_two_share_the_work_and_one_waits_for_a_part(self) -> None:
        jobs, chances = one([3, 3, 3], [(2, 0), (2, 1)], people=2)
        ready = np.array([[0.0, 0.0, 6 * DAY]])
        found = schedule(jobs, Chances(chances.work, chances.wait, ready), [EVENINGS, EVENINGS])
        self.assertEqual(found.begins[0].tolist(), [1140, 1140, 6 * DAY + 1140])
        self.assertEqual(sorted(found.who[0, :2]), [0, 1])

    def test_a_shop_s_days_pass_without_anybody(self) -> None:
        jobs, chances = one([1, 1, 1], [(2, 0)])
        wait = np.array([[7 * DAY, 0.0, 0.0]])
        found = schedule(jobs, Chances(chances.work, wait, chances.ready), [EVENINGS])
        self.assertEqual(found.begins[0].tolist(), [1140, 1200, 8 * DAY - DAY + 1200])

    def test_what_comes_on_a_shut_day_comes_on_the_next_open_one(self) -> None:
        # The first day is a Monday: four days behind Tuesday's evening is Saturday, two shut days before Monday.
        jobs, chances = one([1, 1], [(1, 0)])
        wait, opens = np.array([[4 * DAY, 0.0]]), np.array([0, 0, 0, 0, 0, 2, 1]) * DAY
        ready = np.array([[DAY, 0.0]])
        found = schedule(jobs, Chances(chances.work, wait, ready, opens=opens), [EVENINGS])
        self.assertEqual(found.closes[0, 0], 7 * DAY)
        self.assertEqual(found.begins[0, 1], 7 * DAY + 1140)
        lead = np.array([[0.0, 4 * DAY]])
        ordered = schedule(jobs, Chances(chances.work, np.zeros((1, 2)), ready, lead, 0, opens=opens), [EVENINGS])
        self.assertEqual(ordered.begins[0, 1], 7 * DAY + 1140)

    def test_two_together_need_an_evening_in_common(self) -> None:
        common = both(EVENINGS, OTHERS)
        jobs, chances = one([2], who=[[False, False, True]])
        found = schedule(jobs, chances, [EVENINGS, OTHERS], common)
        self.assertEqual((found.begins[0, 0], found.who[0, 0]), (DAY + 1140, 2))

    def test_fuel_and_flame_never_share_a_day(self) -> None:
        jobs, chances = one([1, 1], kind=[FUEL, HOT])
        found = schedule(jobs, chances, [EVENINGS])
        self.assertEqual(found.begins[0].tolist(), [1140, DAY + 1140])
        jobs, chances = one([1, 1], kind=[FUEL, FUEL])
        self.assertEqual(schedule(jobs, chances, [EVENINGS]).begins[0].tolist(), [1140, 1200])

    def test_how_late_each_may_begin(self) -> None:
        # Three hours, then three; beside them one hour that only the end waits for.
        jobs, chances = one([3, 3, 1], [(1, 0)], people=2)
        found = schedule(jobs, chances, [EVENINGS, EVENINGS])
        late = latest(jobs, chances, found, [EVENINGS, EVENINGS], None, float(found.finish()[0]))
        self.assertEqual(late.tolist(), [1140, DAY + 1140, DAY + 1260])

    def test_more_than_there_are_hours_never_ends(self) -> None:
        jobs, chances = one([2000])
        self.assertEqual(schedule(jobs, chances, [EVENINGS]).closes[0, 0], NEVER)

    def test_three_points(self) -> None:
        a, b, c = (np.array([x]) for x in (1.0, 2.0, 4.0))
        for chance, value in [(0.0, 1.0), (1 / 3, 2.0), (1.0, 4.0)]:
            self.assertAlmostEqual(float(three_point(a, b, c, np.array([chance]))[0]), value)

    def test_a_ring_is_told_by_its_members(self) -> None:
        self.assertEqual(set(ring({"a": ["b"], "b": ["c"], "c": ["a"], "d": ["a"]})), {"a", "b", "c"})
        self.assertEqual(ring({"a": ["b"], "b": []}), [])


@st.composite
def nets(draw: st.DrawFn) -> tuple[Jobs, Chances]:
    n = draw(st.integers(1, 9))
    needs = np.zeros((n, n), dtype=bool)
    for i in range(1, n):
        for j in range(i):
            needs[i, j] = draw(st.integers(0, 3)) == 0
    lanes = draw(st.integers(1, 4))
    kind = np.array([draw(st.sampled_from([PLAIN, FUEL, HOT])) for _ in range(n)])
    who = np.array([draw(st.sampled_from([[True, True, False], [True, False, False], [False, False, True]])) for _ in range(n)])
    numbers = st.lists(st.floats(0.25, 9.0), min_size=n, max_size=n)
    work = np.array([draw(numbers) for _ in range(lanes)]) * 60
    wait = np.array([draw(st.lists(st.sampled_from([0.0, 0.0, 3.0]), min_size=n, max_size=n)) for _ in range(lanes)]) * DAY
    ready = np.array([draw(st.lists(st.integers(0, 9), min_size=n, max_size=n)) for _ in range(lanes)]) * DAY
    return Jobs(needs, kind, who, np.zeros(n, dtype=bool)), Chances(work, wait, ready)


class Anything(unittest.TestCase):
    """What holds of every schedule."""

    @given(nets())
    def test_nobody_is_at_two_places_and_nothing_comes_before_what_it_needs(self, net: tuple[Jobs, Chances]) -> None:
        jobs, chances = net
        people, common = [EVENINGS, OTHERS], both(EVENINGS, OTHERS)
        found = schedule(jobs, chances, people, common)
        self.assertTrue(np.isfinite(found.closes).all())
        calendars = [*people, common]
        for lane in range(len(chances)):
            for i in range(len(jobs.kind)):
                hours = calendars[found.who[lane, i]]
                self.assertAlmostEqual(_free(hours, found.begins[lane, i], found.ends[lane, i]), chances.work[lane, i], places=3)
                self.assertGreaterEqual(found.begins[lane, i], chances.ready[lane, i])
                for j in np.flatnonzero(jobs.needs[i]):
                    self.assertGreaterEqual(found.begins[lane, i] + 1e-6, found.closes[lane, j])
                for j in range(i):
                    hands = {0: {0}, 1: {1}, 2: {0, 1}}
                    if hands[int(found.who[lane, i])] & hands[int(found.who[lane, j])]:
                        self.assertTrue(
                            found.begins[lane, i] >= found.ends[lane, j] - 1e-6 or found.begins[lane, j] >= found.ends[lane, i] - 1e-6
                        )
                    if {int(jobs.kind[i]), int(jobs.kind[j])} == {FUEL, HOT}:
                        first, then = sorted((i, j), key=lambda k: found.begins[lane, k])
                        self.assertGreater(found.begins[lane, then] // DAY, (found.ends[lane, first] - 1e-6) // DAY)

    @given(nets())
    def test_a_chance_is_the_same_alone_as_among_others(self, net: tuple[Jobs, Chances]) -> None:
        jobs, chances = net
        args = [EVENINGS, OTHERS], both(EVENINGS, OTHERS)
        together = schedule(jobs, chances, *args)
        for lane in range(len(chances)):
            alone = schedule(jobs, Chances(*(x[lane : lane + 1] for x in (chances.work, chances.wait, chances.ready))), *args)
            np.testing.assert_array_equal(alone.begins[0], together.begins[lane])

    @given(nets())
    def test_none_may_begin_later_than_it_does_less_than_nothing(self, net: tuple[Jobs, Chances]) -> None:
        jobs, chances = net
        people, common = [EVENINGS, OTHERS], both(EVENINGS, OTHERS)
        found = schedule(jobs, chances, people, common)
        late = latest(jobs, chances, found, people, common, float(found.finish()[0]))
        self.assertTrue((late >= found.begins[0] - 1e-3).all(), (late, found.begins[0]))


def _free(hours: Hours, begins: float, ends: float) -> float:
    return float(np.clip(np.minimum(hours.ends, ends) - np.maximum(hours.begins, begins), 0, None).sum())


def of_work(car: str = "tern", **changed: Any) -> Plan:
    """A demo car with places of its work changed."""
    return plan(car, {f"/work/{place}": value for place, value in changed.items()})


class OfTheTern(unittest.TestCase):
    def test_every_usual_task_has_its_maker_and_its_bench(self) -> None:
        self.assertEqual(set(tasks()), set(MAKERS))
        for key, data in tasks().items():
            self.assertIn(data.bench, {b.key for b in BY_KEY[data.station].row}, key)  # type: ignore[index]
            self.assertLessEqual(set(data.needs) | set(data.after), set(tasks()), key)
            self.assertTrue(data.hours[0] <= data.hours[1] <= data.hours[2] and data.what and (data.cautions or data.where in ("desk", "bench", "cabin", "bay")), key)  # fmt: skip

    def test_reasons_are_of_this_build(self) -> None:
        found = {t.key: t for t in plan().stages.work.tasks}
        self.assertEqual(found["bung"].why, "Oxygen sensor at 980 mm from the ports, 35° above level.")
        self.assertIn("In-tank pump 190", found["tank"].why)
        self.assertNotIn("clamp_boss", found)
        changed = {t.key: t for t in plan("tern", {"/sensors/oxygen/boss": "clamped"}).stages.work.tasks}
        self.assertNotIn("bung", changed)
        self.assertIn("clamp_boss", changed)

    def test_tasks_come_and_go_and_what_was_done_to_them_is_kept(self) -> None:
        gone = plan("tern", {"/sensors/oxygen/boss": "clamped", "/work/tasks/bung": {"who": "ben", "words": "Thursday, at the shop"}})
        self.assertIsNone(gone.stages.work.task("bung"))
        back = plan("tern", {"/work/tasks/bung": {"who": "ben", "words": "Thursday, at the shop"}}).stages.work.task("bung")
        self.assertIsNotNone(back)
        self.assertEqual((back.who, back.words), ("ben", "Thursday, at the shop"))  # type: ignore[union-attr]

    def test_done_follows_evidence(self) -> None:
        self.assertEqual(plan().stages.work.task("test_sheet").stands, "open")  # type: ignore[union-attr]
        passed = {w.wire: {"continuity": "0.1 ohm", "short": "none", "stage": "tested"} for w in plan().stages.wiring.tests}
        found = plan("tern", {"/wiring/tests": passed}).stages.work
        self.assertEqual({found.task(k).stands for k in ("test_sheet", "hidden_tested", "harness_board")}, {"done"})  # type: ignore[union-attr]
        self.assertEqual(plan("tern", {"/engine/compression": []}).stages.work.task("health").proven, False)  # type: ignore[union-attr]

    def test_left_out_is_passed_through_to_what_it_waited_for(self) -> None:
        tasks_ = plan("tern", {"/work/tasks/harness_make": {"state": "left_out"}}).stages.work
        self.assertIn("harness_board", tasks_.task("harness_in").needs)  # type: ignore[union-attr]

    def test_published(self) -> None:
        figures = plan().figures
        self.assertEqual({n: figures[n].unit for n in ("work.hours", "work.finish.p50", "work.finish.p90", "work.days_off_road", "work.cost")}, {"work.hours": "h", "work.finish.p50": "day", "work.finish.p90": "day", "work.days_off_road": "day", "work.cost": "1"})  # fmt: skip
        open_ = [t for t in plan().stages.work.tasks if t.stands == "open"]
        self.assertAlmostEqual(figures["work.hours"].value or 0, sum(t.work_s[1] for t in open_) / 3600)
        self.assertLess(figures["work.finish.p50"].value or 0, figures["work.finish.p90"].value or 0)

    def test_without_people_or_a_day_there_is_no_plan_and_it_says_why(self) -> None:
        for changed, says in [
            ({"begin": None}, "No day"),
            ({"people": {}}, "free hours"),
            ({"people": {"ada": {"name": "Ada", "free": "Sat 9:00-9:10"}}}, "too few"),
        ]:
            found = of_work(**changed).stages.work.plan
            self.assertIn(says, found.trouble)
            self.assertIsNone(found.p90_days)

    def test_a_part_that_slips_moves_the_plan_and_is_told(self) -> None:
        before, after = plan().stages.work.plan, of_work(**{"parts/fuel.pump/due": "2027-03-12"}).stages.work.plan
        self.assertGreater(after.finish, before.finish)
        tank = {t.key: t.begins for t in after.tasks}["tank"]
        self.assertGreaterEqual(tank, "2027-03-12")
        late = [f for f in of_work(**{"parts/fuel.pump/due": "2027-03-12"}).findings if f.code == "PLAN-01"]
        self.assertEqual(late[0].severity, "watch")
        self.assertIn("2027-03-12", late[0].why)

    def test_what_slips_is_told_task_by_task(self) -> None:
        found = plan().stages.work.plan
        critical = [t for t in found.tasks if t.critical]
        self.assertIn("first_start", {t.key for t in critical})
        for t in found.tasks:
            self.assertTrue(t.begins <= t.ends <= t.closes and t.ends_p10 <= t.ends_p90, t)
        # A task that takes as long as it may moves the end by so much: held against the plan worked with those hours.
        long = max(critical, key=lambda t: t.slip_days)
        row = plan().stages.work.task(long.key)
        hours = f"{row.work_s[2] / 3600} h"  # type: ignore[union-attr]
        moved = of_work(**{f"tasks/{long.key}": {"quick": hours, "usual": hours, "slow": hours}}).stages.work.plan
        days = (dt.date.fromisoformat(moved.finish) - dt.date.fromisoformat(found.finish)).days
        self.assertAlmostEqual(days, long.slip_days, delta=1.0)

    def test_the_car_stays_on_the_road_as_long_as_it_may(self) -> None:
        found = plan().stages.work.plan
        self.assertGreater(found.off_road_from, found.begin)
        drivable = {t.key for t in plan().stages.work.tasks if t.access == "drivable"}
        first = [t for t in found.tasks if t.key in ("harness_board", "pump_wire")]
        self.assertTrue(all(t.key in drivable and t.begins < found.off_road_from for t in first))
        later = of_work(on_road_until="2027-02-22").stages.work.plan
        self.assertGreaterEqual(later.off_road_from, "2027-02-22")

    def test_as_of_a_later_day_what_is_open_begins_no_earlier(self) -> None:
        w = plan().stages.work
        found = planned(edited().work, w.tasks, w.parts, dt.date(2027, 2, 1))
        self.assertEqual(found.as_of, "2027-02-01")
        self.assertTrue(all(t.begins >= "2027-02-01" for t in found.tasks))

    def test_days_away_and_busy_times_are_free_of_work(self) -> None:
        p = of_work(**{"people/ada/busy": ["2027-01-12T18:00/2027-01-12T23:00"], "people/ada/away": "2027-01-14 to 2027-01-17"})
        days = {e.day for e in p.stages.work.plan.evenings if "ada" in e.who}
        self.assertFalse(days & {"2027-01-12", "2027-01-14", "2027-01-16"})
        self.assertIn("2027-01-19", days)

    def test_shops_are_shut_at_weekends_unless_it_is_said_otherwise(self) -> None:
        due = {"parts/fuel.pump/due": "2027-02-06"}  # a Saturday
        for shops, day in (("weekdays", "2027-02-08"), ("every_day", "2027-02-06")):
            begins = {t.key: t.begins for t in of_work(**due, shops=shops).stages.work.plan.tasks}["tank"]
            self.assertGreaterEqual(begins, day)
        self.assertEqual({t.key: t.begins for t in of_work(**due, shops="every_day").stages.work.plan.tasks}["tank"], "2027-02-06")

    def test_a_better_order_is_one_as_the_plan_itself_lays_it(self) -> None:
        told: list[float] = []
        found = levelled.look_deeper(Trial(document("brindle"), stands("brindle")), told.append)
        self.assertTrue(found.better and told, found)
        taken = of_work("brindle", order=found.order, on_road_until=found.on_road_until).stages.work.plan
        self.assertEqual((taken.finish_days or 0) + (taken.off_road_days or 0), found.days_then)
        self.assertLess(found.days_then, found.days_now)
        self.assertLessEqual(found.bound, found.days_then)
        self.assertEqual(levelled.look_deeper(Trial(document("hollin"), stands("hollin"))).why, "No day is set on which the work begins.")
        self.assertNotEqual(levelled.rests_on(stands("tern").of_work.worked), levelled.rests_on(stands("brindle").of_work.worked))

    def test_one_alone_is_told_when_two_are_wanted(self) -> None:
        alone = of_work(people={"ada": {"name": "Ada", "free": "Tue Thu 19-22; Sat 9-17"}})
        self.assertTrue(alone.stages.work.plan.together)
        self.assertEqual(plan().stages.work.plan.together, "")

    def test_a_change_of_cam_goes_through_to_what_was_bought(self) -> None:
        found = plan("tern", {"/injectors/name": "port injector 190"})
        told = [f for f in found.findings if f.code == "PLAN-06" and f.severity == "sort_out"]
        self.assertIn("port injector 150", told[0].why)
        self.assertIn("port injector 190", told[0].why)

    def test_money_is_one_sum_and_its_doubt(self) -> None:
        base = plan().stages.work.money
        self.assertEqual((base.currency, base.strange), ("EUR", []))
        self.assertAlmostEqual(base.cost, base.spent + base.to_pay - base.back)
        more = of_work(**{"parts/fuel.filter/price": "30 USD"}).stages.work.money
        self.assertEqual(more.strange, ["USD"])
        known = of_work(**{"parts/fuel.filter/price": "30 USD", "money/rates": {"USD": 0.9}}).stages.work.money
        self.assertAlmostEqual(known.cost, base.cost - 21 + 27)
        wide = of_work(**{"parts/tools.light/price": "20 to 80 EUR"}).stages.work.money
        self.assertGreater(wide.reserve, base.reserve)
        back = of_work(**{"parts/tools.light/credit": "15 EUR"}).stages.work.money
        self.assertAlmostEqual(back.cost, base.cost - 15)

    def test_a_draw_of_a_task_stays_when_another_goes(self) -> None:
        before = {t.key: (t.ends_p10, t.ends_p90) for t in plan().stages.work.plan.tasks}
        after = {t.key: (t.ends_p10, t.ends_p90) for t in of_work(own={}).stages.work.plan.tasks}
        self.assertEqual(before["first_start"], after["first_start"])

    def test_next_acts_hold_the_tasks_that_may_be_done_now(self) -> None:
        acts = [a for a in plan().next if a.kind == "do"]
        self.assertTrue(acts)
        open_ = {t.entered_at for t in plan().stages.work.tasks if t.stands == "open"}
        self.assertLessEqual({a.at for a in acts}, open_)
        self.assertFalse([a for a in of_work(begin=None).next if a.kind == "do"])


class OfAnEdit(unittest.TestCase):
    def test_the_plan_carried_on_is_the_plan_worked_from_nothing(self) -> None:
        from uphill_spark.core.plan import evaluate, evaluated

        before = stands("tern")
        for patch in (
            {"/work/tasks/tank": {"who": "ben"}},
            {"/work/parts/fuel.pump/due": "2027-02-20"},
            {"/fuel/pump/place": "external"},
            {"/work/begin": "2027-01-18"},
        ):
            doc = edited("tern", patch)
            self.assertEqual(evaluated(doc, before).plan.model_dump_json(), evaluate(doc).model_dump_json())


class InWords(unittest.TestCase):
    def test_what_was_done_is_told_by_its_name(self) -> None:
        for patch, says in [
            ([{"op": "add", "path": "/work/tasks", "value": {}}, {"op": "add", "path": "/work/tasks/bung", "value": {"state": "done", "done": "2027-01-12"}}], "Weld the oxygen sensor's boss into the pipe: done"),
            ([{"op": "add", "path": f"/work/parts/fuel.{k}", "value": {"state": "ordered", "bought_as": f"part {k}"}} for k in "abcdef"], "Part a: ordered; Part b: ordered; Part c: ordered; Part d: ordered and 2 more"),
            ([{"op": "add", "path": "/work/off/k7dm/state", "value": "missing"}], "Brake servo hose: missing"),
            ([{"op": "add", "path": "/work/off/aaaa", "value": {"what": "choke knob", "place": "cabin"}}], "Choke knob: labelled"),
            ([{"op": "remove", "path": "/work/own/paint_cover"}], "Paint the rocker cover: taken out"),
            ([{"op": "replace", "path": "/work/parts/fuel.pump/due", "value": "2027-02-01"}], "In-tank pump 190: promised for 2027-01-15 → 2027-02-01"),
            ([{"op": "replace", "path": "/work/begin", "value": "2027-02-01"}], "Work begins 2027-01-11 → 2027-02-01"),
        ]:  # fmt: skip
            self.assertEqual(describe(document(), patch), says)
