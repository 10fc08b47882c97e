"""The stand-in for the car, held by physics: what burns, what rubs, what the starter has, a steady idle that is the balance of the maps; and a rehearsal of whole builds."""

from __future__ import annotations

import unittest
from dataclasses import fields, replace
from typing import ClassVar

import numpy as np
from scipy.optimize import brentq

from tests.builds import document, edited, pump_wire
from uphill_spark.core.asked import Trial, rehearsal
from uphill_spark.core.given import parse
from uphill_spark.core.physics.air import R_AIR
from uphill_spark.core.plan import evaluated
from uphill_spark.core.stages.tune.axes import OPENINGS, manifold_by_throttle
from uphill_spark.core.stages.tune.in_use import read, tables_in_use
from uphill_spark.core.standin.ails import Ails, lanes_of
from uphill_spark.core.standin.drive import Drive, Leg, Truth
from uphill_spark.core.standin.engine import Car, Filled, Lanes, burns, friction, starter, step
from uphill_spark.core.standin.plant import as_built, in_turn, pressed
from uphill_spark.core.standin.running import Plant
from uphill_spark.core.standin.start import Doubts, Started, start
from uphill_spark.core.standin.unit import Grid, Unit
from uphill_spark.core.worked import work_out

CAR = Car(
    2.597e-3,
    96_380.0,
    41.8e6,
    14.1,
    1.0,
    2.4e-5,
    np.array([0.55, 0.40, 0.28, 0.18]),
    np.array([1.6, 0.9, 0.5, 0.25]),
    np.array([-20.0, 20.0, 50.0, 85.0]),
)


def flat(value: float = 0.5, residual: float = 0.1, best: float = 20.0) -> object:
    """An engine that fills alike everywhere."""
    return lambda n, p: Filled(np.full_like(n, value), np.full_like(n, residual), np.full_like(n, best))


class Engine(unittest.TestCase):
    def lanes(self, rpm: float, coolant: float = 85.0, volts: float = 12.5, turning: float = 1.0) -> Lanes:
        one = np.ones(1)
        return Lanes(one * rpm / 60, one * 4e4, one * 0, one * coolant, one * volts, one * turning, one, one * 0)

    def test_a_mixture_burns_between_its_limits_only(self) -> None:
        share = burns(np.array([0.3, 0.42, 0.62, 0.9, 1.0, 1.18, 1.45, 2.0]), np.full(8, 0.1))
        self.assertEqual(share.tolist(), [0.0, 0.0, 1.0, 1.0, 1.0, 1.0, 0.0, 0.0])
        self.assertEqual(burns(np.ones(3), np.array([0.4, 0.475, 0.6])).round(3).tolist(), [1.0, 0.5, 0.0])

    def test_cold_oil_rubs_more_and_speed_does(self) -> None:
        values = friction(np.full(4, 10.0), np.array([85.0, 20.0, 0.0, -20.0]))
        self.assertTrue(np.all(np.diff(values) > 0))
        self.assertAlmostEqual(values[2] / (0.75e5 + 25 * 600), 2.5, places=6)
        self.assertGreater(friction(np.array([50.0]), np.array([85.0]))[0], friction(np.array([10.0]), np.array([85.0]))[0])

    def test_a_starter_has_less_when_it_turns_is_cold_or_weakly_fed_and_none_when_it_is_off(self) -> None:
        at = lambda **k: float(starter(CAR, self.lanes(**{"rpm": 0.0, **k}))[0])  # noqa: E731
        still = at(coolant=20.0)
        self.assertAlmostEqual(still, 62.0 * 2.597, places=6)
        self.assertEqual(at(rpm=300.0), 0.0)
        self.assertLess(at(rpm=150.0, coolant=20.0), still)
        self.assertLess(at(coolant=-10.0), still)
        self.assertLess(at(volts=11.8, coolant=20.0), still)
        self.assertEqual(at(turning=0.0), 0.0)

    def test_fuel_is_kept_what_is_sprayed_is_burned_or_on_the_wall(self) -> None:
        lanes = self.lanes(900.0, turning=0.0)
        sprayed, into = 0.0, 0.0
        for _ in range(2000):
            lanes.rev_s[:] = 15.0
            film = float(lanes.film_kg[0])
            fuel = np.array([60e-6])
            step(
                CAR,
                lanes,
                Filled(np.array([0.5]), np.array([0.1]), np.array([20.0])),
                np.array([2.4e-5]),
                fuel,
                np.array([20.0]),
                np.array([313.0]),
            )
            turns = 15.0 * 0.01 / 2
            sprayed += float(fuel[0]) * turns
            into += float(fuel[0]) * turns - (float(lanes.film_kg[0]) - film)
        self.assertAlmostEqual(sprayed, into + float(lanes.film_kg[0]), places=12)
        wets, dries = 0.18, 0.25
        self.assertAlmostEqual(float(lanes.film_kg[0]), wets * 60e-6 * 7.5 * dries, delta=0.05 * wets * 60e-6 * 7.5 * dries)

    def test_the_manifold_settles_where_what_comes_is_what_is_swallowed(self) -> None:
        lanes = self.lanes(900.0, turning=0.0)
        for _ in range(3000):
            lanes.rev_s[:] = 15.0
            step(
                CAR,
                lanes,
                Filled(np.array([0.5]), np.array([0.1]), np.array([20.0])),
                np.array([2.4e-5]),
                np.array([0.0]),
                np.array([20.0]),
                np.array([313.0]),
            )
        swallowed = 0.5 * float(lanes.manifold_pa[0]) / (R_AIR * 313.0) * 2.597e-3 * 7.5
        choked = 0.8 * 2.4e-5 * 96_380.0 / np.sqrt(R_AIR * 293.15) * 0.6847
        self.assertAlmostEqual(swallowed / choked, 1.0, delta=0.02)

    def test_a_calm_manifold_holds_at_the_end_of_a_step_what_it_held_came_and_left(self) -> None:
        """Many lanes at once and one in plain numbers, from shut to wide open, against a root that is found otherwise."""
        many, draw = 400, np.random.default_rng(3)
        held, rev = draw.uniform(8e3, CAR.ambient_pa, many), draw.uniform(0.0, 110.0, many)
        opening, warm, fills = 10 ** draw.uniform(-6, -2.3, many), draw.uniform(250.0, 330.0, many), draw.uniform(0.3, 1.1, many)
        every = self.lanes(0.0, turning=0.0)
        one = np.ones(many)
        lanes = Lanes(rev.copy(), held.copy(), one * 0, one * 85, one * 12.5, one * 0, one, one * 0)
        step(CAR, lanes, Filled(fills, one * 0.1, one * 20), opening, one * 0, one * 20, warm, calm=True)
        for k in range(0, many, 8):

            def over(pa: float, k: int = k) -> float:
                came = 0.8 * opening[k] * CAR.ambient_pa / np.sqrt(R_AIR * 293.15) * flux(pa / CAR.ambient_pa) * 0.01
                left = fills[k] * pa / (R_AIR * warm[k]) * CAR.displacement * rev[k] / 2 * 0.01
                return float(held[k] + (came - left) * R_AIR * warm[k] / CAR.displacement - pa)

            meant = 8e3 if over(8e3) < 0 else CAR.ambient_pa if over(CAR.ambient_pa) > 0 else brentq(over, 8e3, CAR.ambient_pa)
            self.assertAlmostEqual(float(lanes.manifold_pa[k]), meant, delta=5.0)
            single = Lanes(*(float(getattr(every, f.name)[0]) for f in fields(Lanes) if f.name != "torque_nm"))  # type: ignore[arg-type]
            single.rev_s, single.manifold_pa = float(rev[k]), float(held[k])  # type: ignore[assignment]
            plain = [float(x) for x in (fills[k], 0.1, 20.0, opening[k], 0.0, 20.0, warm[k])]
            step(CAR, single, Filled(*plain[:3]), *plain[3:], calm=True)  # type: ignore[arg-type]
            self.assertAlmostEqual(float(single.manifold_pa), meant, delta=5.0)


def flux(ratio: float) -> float:
    """Mass flux of air through a throat over p0 / sqrt(R T0), choked at the critical ratio (Heywood, app. C)."""
    r = max(min(ratio, 1.0), (2 / 2.4) ** 3.5)
    return float(r ** (1 / 1.4) * np.sqrt(7.0 * max(1 - r ** (0.4 / 1.4), 0.0)))


class ControlUnit(unittest.TestCase):
    def test_a_grid_is_read_as_the_plan_reads_it(self) -> None:
        w = work_out(edited("tern"))
        ve = next(t for t in tables_in_use(w.tune.tables, w.in_use) if t.key == "ve")
        rng = np.random.default_rng(3)
        x, y = rng.uniform(200, 7000, 50), rng.uniform(10, 120, 50)
        for a, b, value in zip(x, y, Grid.of(ve).at(x, y), strict=True):
            self.assertAlmostEqual(value, read(ve, a, b), places=9)

    def test_what_is_tried_multiplies_what_is_read(self) -> None:
        w = work_out(edited("tern"))
        tables = {t.key: t for t in tables_in_use(w.tune.tables, w.in_use)}
        plain = Unit(tables, w.tune.fuel_per_cycle_kg, 6, {})
        more = replace(plain, scaled={"cranking": np.array([1.2])})
        args = (np.array([3.0]), np.array([9e4]), np.array([0.0]), np.array([20.0]), np.array([20.0]), np.array([0.0]), np.array([True]))
        self.assertAlmostEqual(float(more.sprays(*args)[0] / plain.sprays(*args)[0]), 1.2)
        self.assertAlmostEqual(float(plain.sprays(*args)[0]), 1.2 * w.tune.fuel_per_cycle_kg, places=12)


class FirstStart(unittest.TestCase):
    """Starts of one plant, each lane with something else off, all run at once."""

    LANES: ClassVar[dict[str, dict[str, float]]] = {
        "as it is": {}, "more flow": {"flow": 0.08}, "less flow": {"flow": -0.08}, "fuller": {"filling": 0.08}, "warm": {"coolant": 30.0}, "cold": {"coolant": 8.0}, "no pressure": {"pa": 0.0}, "6.4 V": {"volts": 6.4},
        "6.6 V": {"volts": 6.6}, "flooded": {"coolant": 20.0, "pa": 12.0}, "one fires": {"fires": 1 / 6},
    }  # fmt: skip

    @classmethod
    def setUpClass(cls) -> None:
        w = work_out(edited("tern", {"/tune/kept": None}))
        tables = {t.key: t for t in w.tune.tables}
        ve = tables["ve"]
        tables["ve"] = ve.model_copy(update={"rows": [[45.0] * len(ve.x) for _ in ve.y]})
        unit = Unit(tables, w.tune.fuel_per_cycle_kg, 6, {})
        plant = Plant(CAR, unit, flat(0.45), w.injectors.flow_nominal_kg_s * 6, 3e5, 0.01, 2.5e-3, 0.0, follows=True, throttled=False)  # type: ignore[arg-type]
        rows = list(cls.LANES.values())
        of = {key: np.array([row.get(key, usual) for row in rows]) for key, usual in {**USUAL, "volts": 10.0}.items()}
        ails = lanes_of([Ails(crank_pa=row.get("pa", 1.0), idle_pa=row.get("pa", 1.0), fires=row.get("fires", 1.0)) for row in rows], 6)
        cls.found = start(plant, ails, Doubts(**{key: of[key] for key in USUAL}), of["volts"])

    def of(self, lane: str) -> Started:
        k = list(self.LANES).index(lane)
        return self.found.part(slice(k, k + 1))

    def test_it_catches_and_idles_and_its_mixture_is_what_the_maps_say(self) -> None:
        found = self.of("as it is")
        self.assertTrue(found.idles[0])
        self.assertTrue(0.4 < found.after_s[0] < 3.0)
        self.assertAlmostEqual(found.rpm[0] / 860, 1.0, delta=0.2)
        self.assertAlmostEqual(found.lamda[0], 0.97, delta=0.04)

    def test_the_mixture_follows_an_injectors_error_as_one_over_it(self) -> None:
        as_is, more, less = (float(self.of(lane).lamda[0]) for lane in ("as it is", "more flow", "less flow"))
        self.assertAlmostEqual(as_is / more, 1.08, delta=0.01)
        self.assertAlmostEqual(as_is / less, 0.92, delta=0.01)

    def test_the_mixture_follows_the_filling_that_the_table_does_not_know(self) -> None:
        as_is, fuller = (float(self.of(lane).lamda[0]) for lane in ("as it is", "fuller"))
        self.assertAlmostEqual(fuller / as_is, 1.08, delta=0.015)

    def test_without_pressure_volts_or_fuel_it_does_not_catch_and_says_why(self) -> None:
        self.assertEqual(self.of("no pressure").trouble, ["starves"])
        self.assertEqual(self.of("6.4 V").trouble, ["unit_resets"])
        self.assertEqual(self.of("6.6 V").trouble, [""])
        self.assertEqual(self.of("flooded").trouble, ["floods"])

    def test_cylinders_that_fire_when_another_should_leave_it_weak(self) -> None:
        self.assertFalse(self.of("one fires").idles[0])

    def test_colder_takes_longer(self) -> None:
        self.assertGreater(float(self.of("cold").after_s[0]), float(self.of("warm").after_s[0]))

    def test_lanes_do_not_feel_each_other(self) -> None:
        self.assertEqual(float(self.of("6.6 V").rpm[0]), float(self.of("as it is").rpm[0]))


USUAL = {"flow": 0.0, "filling": 0.0, "dead_s": 0.0, "coolant": 50.0, "rested_v": 12.5, "sender": 0.0}


class AsBuilt(unittest.TestCase):
    """What the stand-in takes from a build: measured before solved, and its mistakes as what they do."""

    def of(self, changes: dict[str, object]) -> Ails:
        return as_built(work_out(edited("tern", changes)))

    def test_a_tidy_car_has_its_measured_volts_and_nothing_wrong(self) -> None:
        found = self.of({})
        self.assertEqual((found.crank_v, found.lit, found.wrong, found.early_s), (10.6, (), 0.0, 0.0))
        self.assertAlmostEqual(found.limit * 60, 5700)
        self.assertAlmostEqual(found.angle, 0.4)
        self.assertNotEqual(self.of({"/wiring/feed/crank": None}).crank_v, 10.6)

    def test_outputs_edge_and_limit_do_what_they_would(self) -> None:
        swapped = self.of({"/ignition/outputs/0/cylinders": [3, 4], "/ignition/outputs/2/cylinders": [1, 6], "/ignition/letters": []})
        self.assertEqual((sum(swapped.lit), swapped.wrong), (2.0, 4 / 6))
        self.assertGreater(self.of({"/ignition/edge": "rising"}).early_s, 1e-3)
        self.assertAlmostEqual(self.of({"/tune/typed/rev_limit": "3000 rpm"}).limit * 60, 3000)
        self.assertAlmostEqual(self.of({"/sensors/trigger/light_observed": "0 deg"}).angle, -10)


class Rehearsed(unittest.TestCase):
    found: rehearsal.Rehearsal

    @classmethod
    def setUpClass(cls) -> None:
        doc = document("tern")
        cls.words: list[float] = []
        cls.found = rehearsal.look_deeper(Trial(doc, evaluated(parse(doc))), cls.words.append)

    def test_the_tidy_car_starts(self) -> None:
        self.assertGreaterEqual(self.found.catch, 0.98)
        mild = [s for s in self.found.chart if s.cold >= 10]
        self.assertGreaterEqual(sum(s.good for s in mild) / sum(s.runs for s in mild), 0.98)
        self.assertEqual(sum(s.runs for s in self.found.chart), self.found.runs)
        self.assertEqual(self.found.blocked, "")

    def test_it_says_what_it_hangs_on_and_what_was_tried(self) -> None:
        self.assertEqual(len(self.found.hangs), len(rehearsal.DRAWN))
        self.assertEqual([h.share for h in self.found.hangs], sorted((h.share for h in self.found.hangs), reverse=True))
        self.assertEqual(len(self.found.tried), len(rehearsal.TRIED))
        self.assertAlmostEqual(sum(share for _, share in self.found.troubles), 1 - self.found.idle, places=9)

    def test_how_far_it_is_only_grows(self) -> None:
        self.assertEqual(self.words, sorted(self.words))
        self.assertTrue(0 < self.words[0] < self.words[-1] <= 1.0)

    def test_it_rests_on_the_tables_and_not_on_the_notes(self) -> None:
        def rests(changes: dict[str, object]) -> str:
            return rehearsal.rests_on(work_out(edited("tern", changes)))

        self.assertEqual(rests({}), rests({"/notes": "x"}))
        rows = document("tern")["tune"]["kept"]["tables"]["warm_up"]["rows"]
        self.assertNotEqual(rests({}), rests({"/tune/kept/tables/warm_up/rows": [[v * 1.1 for v in rows[0]]]}))
        self.assertNotEqual(rests({}), rests({"/tune/typed/firing_order": [1, 5, 3, 6, 4, 2]}))

    def test_the_camper_vans_starts_fail_for_what_its_stops_name(self) -> None:
        doc = document("brindle")
        stands = evaluated(parse(doc))
        found = rehearsal.look_deeper(Trial(doc, stands))
        self.assertLess(found.idle, 0.05)
        self.assertIn("fuel pressure", found.blocked)
        stops = [f for f in stands.plan.findings if f.severity == "stop"]
        self.assertTrue(any(f.code.startswith("FUEL") and "pump" in f.why.lower() for f in stops))
        words = {word for word, _ in found.troubles}
        self.assertTrue(
            words
            & {
                "it gets too little fuel to catch",
                "the unit resets while the starter turns",
                "it turns, and does not catch",
                "it idles lean",
            },
            words,
        )

    def test_a_car_whose_pump_does_not_hold_starves_and_says_so(self) -> None:
        changes = pump_wire("0.2 mm2", 20)
        w = work_out(edited("tern", changes))
        self.assertLess(pressed(w)[0], 0.1)
        self.assertIn("fuel pressure", rehearsal._blocked(w))
        typed = work_out(edited("tern", {"/tune/typed/firing_order": [1, 5, 3, 6, 4, 2]}))
        self.assertIn("firing order", rehearsal._blocked(typed))
        self.assertAlmostEqual(in_turn(typed), 4 / 6)
        turned = work_out(edited("tern", {"/tune/typed/firing_order": [3, 6, 2, 4, 1, 5]}))
        self.assertEqual(in_turn(turned), 1.0)


class BehindPlates(unittest.TestCase):
    def test_what_stands_behind_the_plates_of_a_drive_is_what_they_let_through(self) -> None:
        for car, throttled in (("hollin", True), ("tern", False)):
            w = evaluated(parse(document(car))).worked
            drive = Drive(w, [Truth()], [Leg("hold", 5, 0.3, 0.5)])
            self.assertEqual(drive._behind is not None, throttled)
            if drive._behind is None:
                continue
            for rpm in (w.tune.tables[0].x[2], w.tune.tables[0].x[-2]):
                for opening in OPENINGS[1:4]:
                    there = manifold_by_throttle(w.build, np.array([[rpm / 60]]), np.array([[opening / 100]]), w.engine.ambient_pressure_pa)
                    got = drive._behind.at(np.array([rpm]), np.array([float(opening)]))
                    self.assertAlmostEqual(float(got[0]) / float(there[0, 0]), 1.0, places=9)


if __name__ == "__main__":
    unittest.main()
