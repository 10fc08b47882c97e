"""Nothing that is said of the seven cars moves unseen."""

import unittest

from tests.golden import FOLDER, limits, said


class Golden(unittest.TestCase):
    maxDiff = 8000

    def holds(self, *names: str) -> None:
        for name in names:
            with self.subTest(name):
                self.assertMultiLineEqual(said(name), (FOLDER / f"{name}.txt").read_text())

    def test_what_is_said_of_the_demo_cars_is_as_it_was_read_last(self) -> None:
        self.holds("tern", "brindle", "hollin")

    def test_what_is_said_of_four_others_is_as_it_was_read_last(self) -> None:
        self.holds("flat_four", "truck", "blown_six", "mountain_coupe")


class Limits(unittest.TestCase):
    """Both sides of every limit that a quantity of a demo car crosses, half a per cent apart."""

    def turns(self, name: str) -> None:
        car = limits.Car(name)
        rows = limits.kept(name)
        self.assertGreater(len(rows), 100)
        for pointer, below, above, turned in rows:
            with self.subTest(car=name, at=pointer, below=below, above=above):
                a, b = car.said_with(pointer, below), car.said_with(pointer, above)
                self.assertEqual(limits.turned(a or {}, b or {}), turned)

    def test_what_turns_on_the_tern_turns_where_it_did(self) -> None:
        self.turns("tern")

    def test_what_turns_on_the_brindle_turns_where_it_did(self) -> None:
        self.turns("brindle")

    def test_what_turns_on_the_hollin_turns_where_it_did(self) -> None:
        self.turns("hollin")


if __name__ == "__main__":
    unittest.main()
