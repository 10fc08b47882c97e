"""Nothing that is said of the seven cars moves unseen."""

import unittest

from tests import DEEP
from tests.golden import FOLDER, begun, faults, limits, said, tables


class Said(unittest.TestCase):
    maxDiff = 8000

    def holds(self, *names: str) -> None:
        for name in names:
            with self.subTest(name):
                self.assertMultiLineEqual(said(name), (FOLDER / f"{name}.txt").read_text())


class Golden(Said):
    def test_what_is_said_of_the_demo_cars_is_as_it_was_read_last(self) -> None:
        self.holds("tern", "brindle", "hollin")


class GoldenOthers(Said):
    def test_what_is_said_of_four_others_is_as_it_was_read_last(self) -> None:
        self.holds("flat_four", "truck", "blown_six", "mountain_coupe")


class Begun(unittest.TestCase):
    def test_new_builds_hold_what_they_did(self) -> None:
        self.assertEqual(begun(), (FOLDER / "begun.txt").read_text())


class Tables(unittest.TestCase):
    maxDiff = 4000

    def test_what_is_worked_out_over_whole_tables_is_as_it_was_read_last(self) -> None:
        self.assertMultiLineEqual(tables(), (FOLDER / "tables.txt").read_text())


class Faults(unittest.TestCase):
    maxDiff = 4000

    def test_what_each_fault_looks_like_and_costs_is_as_it_was_read_last(self) -> None:
        self.assertMultiLineEqual(faults(), (FOLDER / "faults.txt").read_text())


class Limits(unittest.TestCase):
    """Both sides of every limit that a quantity or a count of a car crosses, half a per cent apart or one."""

    def turns(self, name: str) -> None:
        car = limits.Car(name)
        rows = limits.kept(name)
        self.assertGreater(len(rows), 100)
        for pointer, below, above, turned in rows if DEEP else rows[::3]:
            with self.subTest(car=name, at=pointer, below=below, above=above):
                a, b = car.said_with(pointer, below), car.said_with(pointer, above)
                self.assertEqual(limits.turned(a or {}, b or {}), turned)


@unittest.skipUnless(DEEP, "in the deep run, and when mutants are counted")
class TernLimits(Limits):
    def test_what_turns_turns_where_it_did(self) -> None:
        self.turns("tern")


class BrindleLimits(Limits):
    def test_what_turns_turns_where_it_did(self) -> None:
        self.turns("brindle")


@unittest.skipUnless(DEEP, "in the deep run, and when mutants are counted")
class HollinLimits(Limits):
    def test_what_turns_turns_where_it_did(self) -> None:
        self.turns("hollin")


@unittest.skipUnless(DEEP, "the longest, and of what the others hold it holds again: in the deep run, and when mutants are counted")
class BlownLimits(Limits):
    def test_what_turns_turns_where_it_did(self) -> None:
        self.turns("blown_six")


@unittest.skipUnless(DEEP, "in the deep run, and when mutants are counted")
class MountainLimits(Limits):
    def test_what_turns_turns_where_it_did(self) -> None:
        self.turns("mountain_coupe")


if __name__ == "__main__":
    unittest.main()
