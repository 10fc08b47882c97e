"""Faults of the whole car, on three cars: what each looks like is worked out and moves what it claims, causes are ranked, and practice counts what was done."""

from __future__ import annotations

import random
import unittest

import numpy as np

from tests.builds import document, edited
from tests.fault_tables import table
from uphill_spark.core.asked.diagnosis import Evidence, complaint, diagnose, next_look, taken, tells
from uphill_spark.core.asked.faults import FaultRow, LookRow, apart, doubt, rests_on
from uphill_spark.core.asked.practice import RISKS, SWAPS, NotAMove, PracticeMove, harder, hide, play
from uphill_spark.core.errors import UnitError
from uphill_spark.core.given import parse
from uphill_spark.core.plan import evaluated
from uphill_spark.core.reference import car_faults, looks
from uphill_spark.core.standin.ails import Ails, lanes_of
from uphill_spark.core.standin.case import Case
from uphill_spark.core.standin.plant import plant_of, quick
from uphill_spark.core.standin.running import OFF, RUN, START, Running
from uphill_spark.core.standin.script import makes
from uphill_spark.core.standin.start import Doubts, start
from uphill_spark.core.worked import work_out

CARS = ("tern", "hollin", "brindle")


def look(key: str, car: str = "tern") -> LookRow:
    return next(row for row in table(car).looks if row.key == key)


def fault(key: str, car: str = "tern") -> FaultRow:
    return next(row for row in table(car).faults if row.key == key)


class Tables(unittest.TestCase):
    def test_every_fault_moves_what_it_claims_and_its_look_settles_it_on_every_car_that_can_have_it(self) -> None:
        possible: set[str] = set()
        for car in CARS:
            for row in table(car).faults:
                possible.add(row.key)
                for claimed in {*car_faults()[row.key].claims, row.settles}:
                    with self.subTest(car=car, fault=row.key, look=claimed):
                        self.assertIn(claimed, row.differs)
        self.assertEqual(set(car_faults()), possible)

    def test_what_a_car_cannot_have_says_why(self) -> None:
        for car in CARS:
            for row in table(car).cannot:
                self.assertGreaterEqual(len(row.why), 15, row.words)
        words = {row.words: row.why for row in table("hollin").cannot}
        self.assertIn("no leads", words[car_faults()["leads_crossed"].words])
        self.assertEqual(len(table().faults) + len(table().cannot), len(car_faults()))

    def test_no_two_faults_look_the_same_at_every_look(self) -> None:
        for car in CARS:
            seen: dict[str, str] = {}
            for row in table(car).faults:
                told = repr(sorted(row.differs.items(), key=str))
                self.assertNotIn(told, seen, row.key)
                seen[told] = row.key

    def test_pressures_and_volts_come_from_the_solved_system(self) -> None:
        self.assertAlmostEqual(float(fault("reference_off").differs["rail_idle"] or 0) - float(look("rail_idle").sound or 0), 55, delta=12)
        self.assertLess(float(fault("pump_crimp").differs["pump_volts"] or 0), float(look("pump_volts").sound or 0) - 2)
        self.assertAlmostEqual(
            float(fault("injector_figure").differs["lambda_idle"] or 0) / float(look("lambda_idle").sound or 1), 0.75, delta=0.03
        )
        self.assertAlmostEqual(
            float(fault("map_range").differs["manifold_still"] or 0) / float(look("manifold_still").sound or 1), 1.3, delta=0.01
        )

    def test_what_needs_a_running_engine_cannot_be_looked_at_where_it_does_not_run(self) -> None:
        row = fault("injector_fuse")
        self.assertIsNone(row.differs["lambda_idle"])
        self.assertEqual(row.differs["starts"], "nothing")
        self.assertEqual(row.differs["plugs"], "dry")
        self.assertEqual(fault("fouled_plugs").differs["plugs"], "wet")

    def test_it_rests_on_the_build_and_not_on_its_names(self) -> None:
        plain = rests_on(work_out(edited("tern")))
        self.assertEqual(plain, rests_on(work_out(edited("tern", {"/notes": "x", "/name": "other"}))))
        self.assertNotEqual(plain, rests_on(work_out(edited("tern", {"/fuel/regulator/set_pressure": "310 kPa"}))))


class Lanes(unittest.TestCase):
    def test_a_tidy_car_starts_in_nearly_all_of_the_doubt_at_fifteen_degrees(self) -> None:
        rng = np.random.default_rng(4)
        n = 64
        draws = Doubts(
            rng.uniform(-0.05, 0.05, n),
            rng.uniform(-0.1, 0.1, n),
            rng.uniform(-1.5e-4, 1.5e-4, n),
            np.full(n, 15.0),
            rng.uniform(11.8, 12.7, n),
            rng.uniform(-3, 3, n),
        )
        for car in CARS:
            w = work_out(edited(car))
            found = start(plant_of(w, quick(w), tidy=True), lanes_of([Ails()], w.build.engine.cylinders), draws, np.full(n, 9.8))
            self.assertGreaterEqual(float(found.caught.mean()), 0.98, car)

    def running(
        self, key: list[int], seconds: float, ails: list[Ails] | None = None, turning: float = 0.0, coolant: float = 15.0
    ) -> Running:
        w = work_out(edited("tern"))
        ails = ails or [Ails()]
        n = len(ails)
        car = Running(plant_of(w, quick(w), tidy=True), lanes_of(ails, 6), np.full(n, coolant), turning=np.full(n, turning))
        for k in range(int(seconds / 0.01)):
            car.step(np.full(n, key[min(int(k * 0.01), len(key) - 1)]), np.zeros(n))
        return car

    def test_the_pump_primes_and_stops_and_the_rail_holds_or_falls(self) -> None:
        car = self.running([RUN], 6.0, [Ails(), Ails(empties_s=2.0), Ails(pump="silent")])
        whole, leaks, silent = car.rail() / 1e3
        self.assertAlmostEqual(whole, 300, delta=3)
        self.assertLess(leaks, 50)
        self.assertEqual(silent, 0.0)

    def test_it_starts_by_the_key_runs_and_stops_with_it_and_runs_on_where_it_is_fed(self) -> None:
        car = self.running(
            [RUN, RUN, START, START, START, START, RUN, RUN, RUN, RUN, RUN, RUN, OFF, OFF, OFF, OFF, OFF],
            17.0,
            [Ails(), Ails(runs_on=True)],
        )
        self.assertLess(car.lanes.rev_s[0], 1.0)
        self.assertGreater(car.lanes.rev_s[1], 8.0)

    def test_a_steady_idle_is_the_balance_of_what_comes_in_and_what_is_swallowed(self) -> None:
        car = self.running([RUN], 25.0, turning=13.0, coolant=85.0)
        p, x = car.plant, car.lanes
        filled = float(p.filled(x.rev_s, x.manifold_pa).filling[0])
        swallowed = (
            filled * float(x.manifold_pa[0]) / (287.05 * (float(car.air_c[0]) + 273.15)) * p.car.displacement * float(x.rev_s[0]) / 2
        )
        burned = float(car.fuel_kg_s[0]) * p.car.stoich * float(x.lamda[0])
        self.assertAlmostEqual(burned / swallowed, 1.0, delta=0.02)
        self.assertAlmostEqual(float(car.shown["lambda"][0]), float(x.lamda[0]), delta=0.02)

    def test_the_exhaust_warms_while_it_runs_and_too_early_a_spark_knocks_under_load(self) -> None:
        w = work_out(edited("tern"))
        plant = plant_of(w, quick(w), tidy=True)
        car = Running(plant, lanes_of([Ails(), Ails(angle=25.0)], 6), np.full(2, 85.0), turning=np.full(2, 40.0))
        for _ in range(300):
            car.step(np.full(2, RUN), np.full(2, 1.0))
        self.assertEqual(float(car.knocks[0]), 0.0)
        self.assertGreater(float(car.knocks[1]), 10.0)
        self.assertTrue(np.all(car.exhaust_c > 150))
        cold = Running(plant, lanes_of([Ails()], 6), np.array([15.0]))
        for _ in range(100):
            cold.step(np.array([RUN]), np.zeros(1))
        self.assertAlmostEqual(float(cold.exhaust_c[0]), 15.0)

    def test_one_car_in_plain_numbers_is_the_same_as_a_lane(self) -> None:
        w = work_out(edited("tern"))
        plant, ails = plant_of(w, quick(w), tidy=True), lanes_of([Ails(leak_m2=1e-5, early_s=1e-3)], 6)
        alone = Running.alone(plant, ails, 15.0, 20.0)
        lane = Running(plant, ails, np.array([15.0]), np.array([20.0]))
        self.assertTrue(alone.plain)
        for k in range(900):
            key, pedal = (RUN if k < 250 or bool(lane.running[0]) else START), 0.2 if k > 700 else 0.0
            alone.step(key, pedal)  # type: ignore[arg-type]
            lane.step(np.array([key]), np.array([pedal]))
            if k % 50 == 0:
                self.assertEqual(alone.shown.keys(), lane.shown.keys())
                for name, value in alone.shown.items():
                    self.assertAlmostEqual(
                        float(value), float(lane.shown[name][0]), delta=1e-6 * max(abs(float(value)), 1.0), msg=f"{name} at {k}"
                    )
        self.assertTrue(alone.running)
        self.assertAlmostEqual(float(alone.rail()), float(lane.rail()[0]), places=3)
        uneven = Running.alone(plant, lanes_of([Ails(lit=(0.0, 1.0, 1.0, 1.0, 1.0, 1.0))], 6), 15.0, 20.0)
        self.assertFalse(uneven.plain)

    def test_lanes_of_other_cylinders_are_refused(self) -> None:
        with self.assertRaisesRegex(ValueError, "6 cylinders"):
            lanes_of([Ails(lit=(1.0, 0.0))], 6)


class Causes(unittest.TestCase):
    def test_the_true_fault_is_among_the_first_three_in_nine_of_ten(self) -> None:
        rng = random.Random(11)
        for car in CARS:
            found = table(car)
            good = 0
            for row in found.faults:
                evidence = complaint(found, row)
                for _ in range(12):
                    answer = diagnose(found, evidence)
                    if answer.next is None:
                        break
                    at = look(answer.next.look, car)
                    shown = found.shows(row, at)
                    if isinstance(shown, float):
                        shown = rng.gauss(shown, 0.6 * doubt(at.key, shown))
                    evidence.append(Evidence(look=at.key, shown=shown))
                good += row.key in [c.key for c in answer.causes[:3]]
            self.assertGreaterEqual(good / len(found.faults), 0.9, car)

    def test_what_was_seen_speaks_for_and_against(self) -> None:
        answer = diagnose(table(), [Evidence(look="starts", shown="nothing"), Evidence(look="dip_stick", shown="dry")])
        self.assertEqual(answer.causes[0].key, "tank_empty")
        self.assertTrue(answer.sure)
        self.assertIsNone(answer.next)
        self.assertEqual(answer.causes[0].agrees, ["starts", "dip_stick"])
        self.assertFalse(answer.unexplained)
        self.assertAlmostEqual(sum(c.chance for c in answer.causes), 1.0, delta=0.1)

    def test_what_no_fault_explains_is_said(self) -> None:
        odd = [
            Evidence(look="dip_stick", shown="dry"),
            Evidence(look="crash_press", shown="out"),
            Evidence(look="jar", shown="layers"),
            Evidence(look="rail_prime", shown=300.0),
        ]
        self.assertTrue(diagnose(table(), odd).unexplained)

    def test_nothing_seen_leaves_all_open(self) -> None:
        answer = diagnose(table(), [])
        self.assertFalse(answer.sure)
        self.assertGreater(answer.open_bits, 5.0)
        assert answer.next is not None
        self.assertFalse(look(answer.next.look).runs)

    def test_the_next_look_tells_and_is_not_taken_twice(self) -> None:
        chance = {f.key: 1 / len(table().faults) for f in table().faults}
        best = next_look(table(), chance, set())
        assert best is not None
        again = next_look(table(), chance, {best.look})
        assert again is not None
        self.assertNotEqual(best.look, again.look)
        near = [(f, 1.0) for f in table().faults]
        self.assertGreater(best.bits, 0.5)
        self.assertLess(tells(table(), look("jar"), near), tells(table(), look("starts"), near))

    def test_a_look_that_is_none_or_an_answer_that_it_has_not_is_told(self) -> None:
        for key, shown in (("no_such", "1"), ("starts", "perhaps"), ("rail_prime", "high"), ("rail_prime", "3 V"), ("air_valve", "5 kPa")):
            with self.assertRaises(UnitError):
                taken(table(), key, shown)
        self.assertEqual(taken(table(), "rail_prime", None).shown, None)
        for key, text, value in (
            ("rail_prime", "3 bar", 300.0),
            ("rail_prime", "310", 310.0),
            ("light_locked", "−5", -5.0),
            ("air_valve", "12 %", 12.0),
            ("coolant_shown", "-4 °C", -4.0),
        ):
            self.assertAlmostEqual(float(taken(table(), key, text).shown or 0), value, places=6)

    def test_figures_are_apart_by_twice_their_doubt(self) -> None:
        row = look("rail_prime")
        self.assertFalse(apart(row, 300.0, 319.9))
        self.assertTrue(apart(row, 300.0, 320.1))
        self.assertTrue(apart(row, None, 300.0))


class Practised(unittest.TestCase):
    def test_the_same_seed_and_moves_show_the_same_and_another_seed_hides_another(self) -> None:
        moves = [PracticeMove(kind="look", key="rail_prime"), PracticeMove(kind="look", key="lambda_idle")]
        self.assertEqual(play(table(), 2, 7, moves), play(table(), 2, 7, moves))
        self.assertGreater(len({hide(table(), 2, seed).key for seed in range(20)}), 8)

    def test_no_fault_comes_twice_in_a_row_and_its_level_is_what_was_asked(self) -> None:
        for level in (1, 2, 3, 4):
            for seed in range(15):
                first = hide(table(), level, seed)
                self.assertEqual(first.level, level)
                self.assertNotEqual(hide(table(), level, seed, first.key).key, first.key)

    def test_found_the_short_way_counts_full_and_each_waste_less(self) -> None:
        hidden = hide(table(), 2, 3)
        way = [w.look for w in play(table(), 2, 3, [PracticeMove(kind="name", key=hidden.key)]).ended.best]  # type: ignore[union-attr]
        looked = [PracticeMove(kind="look", key=key) for key in way]
        named = PracticeMove(kind="name", key=hidden.key)
        best = play(table(), 2, 3, [*looked, named]).ended
        assert best is not None
        self.assertTrue(best.found)
        self.assertGreaterEqual(best.score, 99)
        other = next(f.key for f in table().faults if f.key != hidden.key and f.mend != hidden.mend)
        for worse in (
            PracticeMove(kind="risk", key="look_down"),
            PracticeMove(kind="name", key=other),
            PracticeMove(kind="swap", key="regulator"),
        ):
            ended = play(table(), 2, 3, [*looked, worse, named]).ended
            assert ended is not None
            self.assertLess(ended.score, best.score)
        risky = play(table(), 2, 3, [PracticeMove(kind="risk", key="look_down"), named]).ended
        assert risky is not None
        self.assertTrue(any(RISKS["look_down"][1] in line for line in risky.told))

    def test_a_part_that_cures_it_ends_it_and_one_that_does_not_costs(self) -> None:
        seed = next(s for s in range(200) if hide(table(), 1, s).key == "battery_low")
        kept = play(table(), 1, seed, [PracticeMove(kind="swap", key="pump")])
        self.assertIsNone(kept.ended)
        self.assertEqual(kept.money, SWAPS["pump"][2])
        cured = play(table(), 1, seed, [PracticeMove(kind="swap", key="battery")])
        self.assertTrue(cured.ended and cured.ended.found)

    def test_giving_up_tells_what_it_was_and_counts_nothing(self) -> None:
        ended = play(table(), 3, 5, [PracticeMove(kind="give_up")]).ended
        assert ended is not None
        self.assertEqual((ended.found, ended.score), (False, 0))
        self.assertEqual(ended.key, hide(table(), 3, 5).key)

    def test_a_meter_reads_the_harness_with_the_fault_in_it(self) -> None:
        doc = document()
        case = Case(evaluated(parse(doc)).worked, doc)
        sound = case.meter(case.sound, "pump.plus", "pump.minus", "prime")
        faulty = case.meter(makes(case, "pump_crimp"), "pump.plus", "pump.minus", "prime")
        self.assertLess(faulty, sound - 2)
        dead = makes(case, "feed_dies_cranking")
        pin = case.harness.places["ignition"][0]
        self.assertGreater(case.meter(dead, pin, "battery.minus", "run"), 11)
        self.assertLess(case.meter(dead, pin, "battery.minus", "crank"), 1)
        seed = next(s for s in range(300) if hide(table(), 3, s).key == "pump_crimp")
        read = PracticeMove(kind="meter", key="pump.plus,pump.minus,prime")
        step = play(table(), 3, seed, [read], meter=lambda key, red, black, state: case.meter(makes(case, key), red, black, state)).steps[0]
        self.assertEqual((step.minutes, step.says), (4.0, f"{faulty:.2f} V"))
        for key in ("", "pump.plus,pump.minus", "pump.plus,pump.minus,flat", "ghost.1,pump.minus,run"):
            with self.assertRaises(NotAMove):
                play(
                    table(),
                    3,
                    seed,
                    [PracticeMove(kind="meter", key=key)],
                    meter=lambda key, red, black, state: case.meter(makes(case, key), red, black, state),
                )

    def test_moves_that_are_none_are_told(self) -> None:
        bad = [
            PracticeMove(kind="look", key="nothing"),
            PracticeMove(kind="swap", key="wings"),
            PracticeMove(kind="risk", key="jump"),
            PracticeMove(kind="name", key="ghost"),
        ]
        for move in bad:
            with self.assertRaises(NotAMove):
                play(table(), 1, 1, [move])
        with self.assertRaisesRegex(NotAMove, "ended"):
            play(table(), 1, 1, [PracticeMove(kind="give_up"), PracticeMove(kind="look", key="starts")])

    def test_the_path_goes_up_after_two_good_ones_and_down_after_a_poor_one(self) -> None:
        self.assertEqual(harder([]), 1)
        self.assertEqual(harder([(1, 60)]), 1)
        self.assertEqual(harder([(1, 60), (1, 60)]), 2)
        self.assertEqual(harder([(1, 59), (1, 60)]), 1)
        self.assertEqual(harder([(3, 24)]), 2)
        self.assertEqual(harder([(3, 25)]), 3)
        self.assertEqual(harder([(4, 90), (4, 90)]), 4)

    def test_every_look_and_every_fault_is_told_in_whole_words(self) -> None:
        for key, row in looks().items():
            self.assertTrue(row.words and row.how and row.minutes > 0, key)
            self.assertTrue(bool(row.answers) != bool(row.unit), key)
            self.assertTrue(row.answers or row.doubt > 0, key)
        for key, data in car_faults().items():
            self.assertTrue(data.mend.endswith("."), key)
            self.assertIn(data.level, (1, 2, 3, 4))


if __name__ == "__main__":
    unittest.main()
