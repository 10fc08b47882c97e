"""Nothing that is said of the seven cars moves unseen."""

import unittest

from tests.golden import CARS, FOLDER, said


class Golden(unittest.TestCase):
    maxDiff = 8000

    def test_every_figure_and_word_is_as_it_was_read_last(self) -> None:
        for name in CARS:
            with self.subTest(name):
                self.assertMultiLineEqual(said(name), (FOLDER / f"{name}.txt").read_text())
