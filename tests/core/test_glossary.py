"""Words of the field: each is met somewhere, said in two lines, drawn in its frame, and found as a whole word."""

import re
import unittest

from tests import golden
from uphill_spark.core.given import parse
from uphill_spark.core.given.fields import fields
from uphill_spark.core.glossary import found_in, glossary
from uphill_spark.core.plan import evaluate
from uphill_spark.core.reference import words
from uphill_spark.formats import start_sheet

TWO_LINES = 175  # letters


class Words(unittest.TestCase):
    def test_each_is_met_by_somebody(self) -> None:
        texts = [text for info in fields().values() for text in (info.title, info.help or "", *(info.options or ()))]
        for car in golden.CARS:
            plan = evaluate(parse(golden.document(car)))
            texts += [text for f in plan.findings for text in (f.title, f.why, f.do or "")]
            texts += [figure.label for figure in plan.figures.values()] + [table.title for table in plan.stages.tune.tables]
            texts += [text for s in plan.stages.start.steps for text in (*s.do, *s.if_off, *(e.what for e in s.expect))]
        texts = [text.replace("_", " ") for text in texts]
        self.assertEqual(
            set(glossary().words) - {w.key for w in found_in(*texts)}, {"pencil", "trim"}
        )  # on the screens themselves, and of a set that spreads

    def test_two_lines_and_no_word_twice(self) -> None:
        data = words()
        forms = [form for word in data.words.values() for form in word.forms]
        self.assertEqual((len(forms), forms), (len(set(forms)), [f.lower() for f in forms]))
        for key, word in data.words.items():
            self.assertLessEqual(len(word.says), TWO_LINES, key)
            self.assertRegex(word.says, r"^[A-Z0-9].*\.$")
        self.assertEqual({w.picture for w in data.words.values()}, set(data.pictures))

    def test_pictures_stay_in_their_frame(self) -> None:
        for key, picture in words().pictures.items():
            for path in (picture.line, picture.thin, picture.solid):
                self.assertNotRegex(path, r"[^MLHVCSAZmlhvcsaz0-9 .-]", key)
                for x, y in re.findall(r"[ML](-?[\d.]+) (-?[\d.]+)", path):
                    self.assertTrue(0 <= float(x) <= 120 and 0 <= float(y) <= 60, f"{key} {x} {y}")

    def test_whole_words_whatever_their_capitals_and_the_longest_first(self) -> None:
        def keys(text: str) -> list[str]:
            return [w.key for w in found_in(text)]

        self.assertEqual(keys("Manifold vacuum falls; the RAIL holds."), ["vacuum", "rail"])
        self.assertEqual(keys("A trail of fuses, derailed, pulsed"), ["fuse"])
        self.assertEqual(keys("the trigger wheel's missing tooth"), ["trigger_wheel", "missing_tooth"])
        self.assertEqual(keys("dead time, dead times, dead"), ["dead_time"])
        self.assertEqual(keys("turn it off, please"), [])

    def test_the_first_start_explains_the_words_it_uses(self) -> None:
        plan = evaluate(parse(golden.document("tern")))
        html = start_sheet.html(plan)
        self.assertIn("<b>Relay.</b>", html)
        self.assertIn(words().pictures["relay"].line, html)
        self.assertNotIn("<b>Relay.</b>", start_sheet.html(plan, explained=False))


if __name__ == "__main__":
    unittest.main()
