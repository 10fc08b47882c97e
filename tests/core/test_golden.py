"""Nothing that is said of the seven cars moves unseen."""

import unittest

from tests.golden import FOLDER, said


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


if __name__ == "__main__":
    unittest.main()
