"""The page's source: it reads no quantity, knows no limit, holds one thing a file. The README's map: what it names is there."""

import ast
import pathlib
import re
import unittest

from uphill_spark.core.findings import CHECKS
from uphill_spark.core.given.fields import fields
from uphill_spark.core.stations import BY_KEY, OVERVIEW, STATIONS, bench_of

ROOT = pathlib.Path(__file__).resolve().parents[2]
SOURCE = ROOT / "frontend" / "src"


def sources(*endings: str) -> list[pathlib.Path]:
    return [f for f in SOURCE.rglob("*") if f.suffix in endings and f.name != "schema.d.ts"]


class PageSource(unittest.TestCase):
    def test_no_quantity_is_read_by_hand(self) -> None:
        """What a person types is read by the core: no parsing of numbers, no unit taken off a text."""
        by_hand = re.compile(
            r"\bparseFloat\b|\bparseInt\b|\bNumber\(|\.split\(\"? \"?\)\[0\]|\.match\(/[^/]*\\d|[=(,:?] \+[a-z]\w*\.(?:value|text|typed)\b"
        )
        files = sources(".vue", ".ts")
        self.assertGreater(len(files), 100)
        told = [f"{f.relative_to(SOURCE)}: {m.group()}" for f in files for m in by_hand.finditer(f.read_text())]
        self.assertEqual(told, [])

    def test_that_search_finds_what_it_is_for(self) -> None:
        by_hand = re.compile(r"\bparseFloat\b|\bNumber\(")
        self.assertTrue(by_hand.search("const mm = parseFloat(field.value)") and by_hand.search("Number(text)"))

    def test_no_volts_of_the_battery_and_no_zone_stands_in_the_page(self) -> None:
        told = [f.name for f in sources(".vue", ".ts") if re.search(r"\b13\.8\b|\b24_000_000\b|near_exhaust: *\d", f.read_text())]
        self.assertEqual(told, [])

    def test_views_stay_short(self) -> None:
        long = {f.name: n for f in sources(".vue") if (n := len(f.read_text().splitlines())) > 200}
        self.assertEqual(long, {})


class Benches(unittest.TestCase):
    def test_what_the_record_names_is_on_its_station(self) -> None:
        """A slot for each bench, and `group="key"` for each group of fields, or a key that is handed on (of a sender, of a line)."""
        for station in STATIONS:
            text = "".join(f.read_text() for f in (SOURCE / "stations" / station.key).glob("*.vue"))
            groups = {key for bench in station.benches for key in bench.groups}
            shown = set(re.findall(r'<FieldGroup[^>]*?(?<!:)group="(\w+)"', text))
            handed = {key for key in groups if re.search(rf"kind=\"{key}\"|\['{key}', '/", text)} if ':group="' in text else set()
            with self.subTest(station.key):
                self.assertEqual(shown | handed, groups)
                slots = {slot.removesuffix("-fields") for slot in re.findall(r"<template #([\w-]+)>", text)}
                if station.key not in ("start", "road"):
                    self.assertLessEqual({bench.key for bench in station.row}, slots)

    def test_every_field_and_every_finding_has_a_bench(self) -> None:
        for pointer, info in fields().items():
            if info.kind in ("group", "list") or pointer.split("/")[1] in ("marks", "name", "notes", "format", "version", "start"):
                continue
            with self.subTest(pointer):
                self.assertNotEqual(bench_of(pointer)[1], OVERVIEW)
        for check in CHECKS:
            with self.subTest(check.code):
                self.assertIn(bench_of(check.at, check.station)[1], {b.key for b in BY_KEY[check.station].row})
        self.assertEqual(bench_of("/fuel/tank/return_enters/x"), ("fuel", "regulator"))
        self.assertEqual(bench_of("/wiring/fitted/pump_feed/size"), ("fuel", "wire"))
        self.assertEqual(bench_of("/wiring/fitted/pump_feed/size", "wiring"), ("wiring", "wires"))
        self.assertEqual(bench_of("/name"), ("engine", OVERVIEW))


class Map(unittest.TestCase):
    def test_what_the_readme_names_is_there(self) -> None:
        text = (ROOT / "README.md").read_text()
        linked = {link for link in re.findall(r"\]\(([^)#]+)\)", text) if "://" not in link}
        self.assertGreater(len(linked), 15)
        self.assertEqual([link for link in sorted(linked) if not (ROOT / link).exists()], [])
        block = text.split("## How the house is laid out")[1].split("\n\n")[1]
        above: list[str] = []
        missing, named = [], 0
        for line in block.splitlines():
            depth = (len(line) - len(line.lstrip()) - 4) // 2
            names = line.strip().split("  ")[0].split()
            above = above[:depth]
            for name in names:
                named += 1
                if not (ROOT / "/".join(above) / name).exists():
                    missing.append("/".join([*above, name]))
            above.append(names[0].rstrip("/"))
        self.assertGreater(named, 20)
        self.assertEqual(missing, [])

    def test_pictures_are_few_and_all_shown(self) -> None:
        pictures = {p.name for p in (ROOT / "docs" / "screenshots").glob("*.png")}
        self.assertLess(len(pictures), 20)
        self.assertEqual({p for p in pictures if p not in (ROOT / "README.md").read_text()}, set())


if __name__ == "__main__":
    unittest.main()


def undocumented(tree: ast.AST, above: str = "") -> list[str]:
    """Public classes and functions without a docstring; a decorator with words (a check's source, an address' summary) says as much."""
    found = []
    for node in getattr(tree, "body", []):
        if not isinstance(node, (ast.ClassDef, ast.FunctionDef)) or node.name.startswith("_"):
            continue
        protocol = isinstance(node.body[-1], ast.Expr) and getattr(node.body[-1].value, "value", "") is ...
        words = {k.arg for d in node.decorator_list if isinstance(d, ast.Call) for k in d.keywords}
        if not ast.get_docstring(node) and not protocol and not words & {"source", "summary"}:
            found.append(above + node.name)
        if isinstance(node, ast.ClassDef):
            found += undocumented(node, f"{node.name}.")
    return found


class Documented(unittest.TestCase):
    def test_what_is_public_says_what_it_does(self) -> None:
        for file in sorted((ROOT / "uphill_spark").rglob("*.py")):
            with self.subTest(file.name):
                self.assertEqual(undocumented(ast.parse(file.read_text())), [])

    def test_that_search_finds_what_it_is_for(self) -> None:
        self.assertEqual(undocumented(ast.parse("class A:\n    def b(self):\n        return 1\n")), ["A", "A.b"])

    def test_limits_of_findings_are_named(self) -> None:
        """Nought, one and two count things or compare with none; any other number that a finding turns at is a limit and has a name."""
        ordering = (ast.Lt, ast.LtE, ast.Gt, ast.GtE)
        for file in sorted((ROOT / "uphill_spark/core/findings").glob("*.py")):
            for node in ast.walk(ast.parse(file.read_text())):
                held: list[ast.expr] = []
                if isinstance(node, ast.Compare) and isinstance(node.ops[0], ordering):
                    held = [node.left, *node.comparators]
                elif isinstance(node, ast.Call) and getattr(node.func, "id", "") == "grade":
                    held = node.args
                numbers = [
                    n.value for h in held for n in ast.walk(h) if isinstance(n, ast.Constant) and (n is h or isinstance(n.value, float))
                ]
                with self.subTest(file.name, line=getattr(node, "lineno", 0)):
                    self.assertEqual([v for v in numbers if v not in (0, 1, 2)], [])
