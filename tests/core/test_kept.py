"""The kept tune: what a table has to be, what is done to its cells, what it is made of, and how two are held against each other."""

from __future__ import annotations

import copy
import unittest
from typing import Any

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.builds import document, edited
from uphill_spark.core.errors import BuildError, PatchError
from uphill_spark.core.given import apply_edit, parse
from uphill_spark.core.given.edit import put, take_out
from uphill_spark.core.given.kept import MOST, TABLES
from uphill_spark.core.keeping import cell_history, differences, off, proposed, tables_of
from uphill_spark.core.ripple import describe
from uphill_spark.core.stages.tune.in_use import read, tables_in_use
from uphill_spark.core.worked import Worked, work_out

GRID = {
    "x": [800.0, 1600.0, 3200.0, 4800.0],
    "y": [40.0, 70.0, 100.0],
    "rows": [[40.0, 50.0, 60.0, 55.0], [55.0, 65.0, 75.0, 70.0], [70.0, 78.0, 86.0, 80.0]],
}
AT = "/tune/kept/tables/ve"


def with_tables(**tables: Any) -> dict[str, Any]:
    """The Tern with a kept tune of these tables."""
    doc = document("tern")
    doc["tune"]["kept"] = {"made": "quick", "load": "manifold_pressure", "tables": tables or {"ve": copy.deepcopy(GRID)}}
    return doc


def acted(doc: dict[str, Any], at: str = AT, **act: Any) -> dict[str, Any]:
    """The table after an act on its cells."""
    edited, _, _ = apply_edit(doc, [{"op": "replace", "path": at, "cells": act}])
    found: dict[str, Any] = edited["tune"]["kept"]["tables"][at.rsplit("/", 1)[-1]]
    return found


def rows(found: dict[str, Any]) -> Any:
    return np.array(found["rows"])


class Whole(unittest.TestCase):
    def refused(self, change: dict[str, Any], key: str = "ve") -> tuple[str, str]:
        with self.assertRaises(BuildError) as raised:
            parse(with_tables(**{key: {**copy.deepcopy(GRID), **change}}))
        problem = raised.exception.problems[0]
        return problem.at, problem.wants

    def test_what_is_no_table_is_named_by_its_place(self) -> None:
        for change, at, wants in (
            ({"x": [800.0, 1600.0, 1600.0, 4800.0]}, f"{AT}/x/2", "more than the one before"),
            ({"y": [100.0, 70.0, 40.0]}, f"{AT}/y/1", "more than the one before"),
            ({"rows": [[40.0, 50.0, 60.0], *GRID["rows"][1:]]}, f"{AT}/rows/0", "none may be missing"),
            ({"rows": GRID["rows"][:2]}, f"{AT}/rows", "3 rows"),
            ({"rows": [[float("nan"), 50.0, 60.0, 55.0], *GRID["rows"][1:]]}, f"{AT}/rows/0/0", "a number that is finite"),
            ({"rows": [[0.5, 50.0, 60.0, 55.0], *GRID["rows"][1:]]}, f"{AT}/rows/0/0", "1 to 250 %"),
            ({"rows": [[251.0, 50.0, 60.0, 55.0], *GRID["rows"][1:]]}, f"{AT}/rows/0/0", "1 to 250 %"),
            ({"ink": [[3, 0]]}, f"{AT}/ink/0", "a cell that the table has"),
            ({"doubt": [[0.1] * 4]}, f"{AT}/doubt", "3 rows"),
            ({"y": []}, f"{AT}/rows", "1 rows"),
        ):  # fmt: skip
            with self.subTest(change):
                found = self.refused(change)
                self.assertEqual(found[0], at)
                self.assertIn(wants, found[1])

    def test_the_ends_of_what_a_cell_may_hold_are_taken(self) -> None:
        for value in (1.0, 250.0):
            parse(with_tables(ve={**copy.deepcopy(GRID), "rows": [[value, 50.0, 60.0, 55.0], *GRID["rows"][1:]]}))

    def test_a_grid_may_be_large_and_no_larger(self) -> None:
        def grid(n: int) -> dict[str, Any]:
            return {"x": [float(k) for k in range(1, n + 1)], "y": [float(k) for k in range(1, n + 1)], "rows": [[50.0] * n] * n}

        parse(with_tables(ve=grid(MOST)))
        self.assertIn("at most 40", self.refused(grid(MOST + 1))[1])
        self.assertIn("at most 40", self.refused(grid(200))[1])

    def test_a_curve_has_one_axis_and_a_grid_two(self) -> None:
        flat = {"x": [0.0, 50.0], "rows": [[1.4, 1.0]]}
        parse(with_tables(warm_up=flat))
        self.assertEqual(self.refused({}, key="warm_up")[0], "/tune/kept/tables/warm_up/y")
        with self.assertRaises(BuildError):
            parse(with_tables(ve=flat))


class Cells(unittest.TestCase):
    def test_what_is_typed_is_written_added_or_taken_by_per_cent(self) -> None:
        for typed, want in (
            ("62", 62.0),
            ("62,5", 62.5),
            ("+3", 68.0),
            ("-3", 62.0),
            ("−3", 62.0),
            ("+10 %", 71.5),
            ("-10%", 58.5),
            ("=12", 12.0),
        ):
            with self.subTest(typed):
                found = acted(with_tables(), do="enter", typed=typed, **{"from": [1, 1]})
                self.assertEqual(found["rows"][1][1], want)
                self.assertEqual(found["ink"], [[1, 1]])
                self.assertEqual(np.count_nonzero(rows(found) != np.array(GRID["rows"])), 1)

    def test_what_is_below_nought_is_written_with_a_sign_of_equality(self) -> None:
        trim = {"x": [-100.0, 0.0, 100.0], "rows": [[3.0, 0.0, -3.0]]}
        found = acted(with_tables(idle_trim=trim), "/tune/kept/tables/idle_trim", do="enter", typed="=-4", **{"from": [0, 2]})
        self.assertEqual(found["rows"][0], [3.0, 0.0, -4.0])

    def test_a_range_is_one_from_either_corner(self) -> None:
        one = acted(with_tables(), do="set", typed="50", **{"from": [0, 1], "to": [2, 2]})
        other = acted(with_tables(), do="set", typed="50", **{"from": [2, 2], "to": [0, 1]})
        self.assertEqual(one, other)
        self.assertEqual(len(one["ink"]), 6)

    def test_filling_takes_the_left_one_across_and_the_lowest_up(self) -> None:
        across = acted(with_tables(), do="across", **{"from": [1, 1], "to": [2, 3]})
        self.assertEqual(across["rows"][1], [55.0, 65.0, 65.0, 65.0])
        self.assertEqual(across["rows"][2], [70.0, 78.0, 78.0, 78.0])
        up = acted(with_tables(), do="up", **{"from": [0, 0], "to": [2, 0]})
        self.assertEqual([row[0] for row in up["rows"]], [40.0, 40.0, 40.0])

    def test_straight_between_corners_goes_by_the_axes_not_by_the_cells(self) -> None:
        found = acted(with_tables(), do="between", **{"from": [0, 0], "to": [0, 3]})
        self.assertEqual(found["rows"][0], [40.0, 43.0, 49.0, 55.0])  # 800 to 4800 rpm: 1600 is a fifth of the way, 3200 three
        corner = acted(with_tables(), do="between", **{"from": [0, 0], "to": [2, 3]})
        self.assertEqual([corner["rows"][i][j] for i, j in ((0, 0), (0, 3), (2, 0), (2, 3))], [40.0, 55.0, 70.0, 80.0])

    @given(st.lists(st.lists(st.floats(10, 120), min_size=4, max_size=4), min_size=3, max_size=3), st.floats(0.01, 0.4))
    def test_smoothing_stays_within_the_neighbours(self, cells: list[list[float]], doubt: float) -> None:
        grid = {**copy.deepcopy(GRID), "rows": cells, "doubt": [[doubt] * 4] * 3}
        found = rows(acted(with_tables(ve=grid), do="smooth", **{"from": [0, 0], "to": [2, 3]}))
        before = np.array(cells)
        for i in range(3):
            for j in range(4):
                near = before[max(0, i - 1) : i + 2, max(0, j - 1) : j + 2]
                self.assertTrue(near.min() - 0.06 <= found[i, j] <= near.max() + 0.06)

    def test_smoothing_leaves_the_sure_cell_and_moves_the_doubtful_one(self) -> None:
        spike = {**copy.deepcopy(GRID), "rows": [[50.0] * 4, [50.0, 90.0, 50.0, 50.0], [50.0] * 4]}
        sure = {**spike, "doubt": [[0.2] * 4, [0.2, 0.01, 0.2, 0.2], [0.2] * 4]}
        unsure = {**spike, "doubt": [[0.01] * 4, [0.01, 0.2, 0.01, 0.01], [0.01] * 4]}
        at = {"from": [1, 1]}
        self.assertGreater(acted(with_tables(ve=sure), do="smooth", **at)["rows"][1][1], 88.0)
        self.assertLess(acted(with_tables(ve=unsure), do="smooth", **at)["rows"][1][1], 51.0)
        plain = acted(with_tables(ve=spike), do="smooth", **at)["rows"][1][1]
        self.assertEqual(plain, 60.0)  # four of sixteen parts are its own

    def test_pasting_takes_what_a_spreadsheet_gives(self) -> None:
        for text in ("61\t62\r\n71\t72\r\n", "61;62\n71;72", "61,0\t62,0\n71,0\t72,0", "61 62\n71 72"):
            with self.subTest(text):
                found = acted(with_tables(), do="paste", typed=text, **{"from": [1, 2]})
                self.assertEqual([row[2:] for row in found["rows"]], [[60.0, 55.0], [61.0, 62.0], [71.0, 72.0]])
        one = acted(with_tables(), do="paste", typed="44", **{"from": [0, 0], "to": [1, 1]})
        self.assertEqual([row[:2] for row in one["rows"][:2]], [[44.0, 44.0], [44.0, 44.0]])
        over = acted(with_tables(), do="paste", typed="61\t62\t63", **{"from": [2, 3]})
        self.assertEqual(over["rows"][2], [70.0, 78.0, 86.0, 61.0])  # what would stand beside the table is left out

    def test_cells_are_made_ones_own_and_given_back(self) -> None:
        mine = acted(with_tables(), do="accept", **{"from": [0, 0], "to": [0, 1]})
        self.assertEqual((mine["rows"], mine["ink"]), (GRID["rows"], [[0, 0], [0, 1]]))
        back = acted(with_tables(ve=mine), do="pencil", **{"from": [0, 0]})
        self.assertEqual(back["ink"], [[0, 1]])

    def test_on_other_axes_a_table_reads_as_it_did(self) -> None:
        grid = {**copy.deepcopy(GRID), "ink": [[0, 0], [1, 3]], "doubt": [[0.05] * 4] * 3, "ruled": ["bbkk"] * 3}
        found = acted(with_tables(ve=grid), do="axis_x", typed="800 1200 1600 2400 4800")
        self.assertEqual(found["x"], [800.0, 1200.0, 1600.0, 2400.0, 4800.0])
        self.assertEqual(found["rows"][0], [40.0, 45.0, 50.0, 55.0, 55.0])
        self.assertEqual(found["ink"], [[0, 0], [1, 4]])  # a cell stays the person's own where it stays
        self.assertEqual(len(found["doubt"][0]), 5)
        self.assertNotIn("ruled", found)
        high = acted(with_tables(ve=grid), do="axis_y", typed="40; 70; 85; 120")
        self.assertEqual([row[0] for row in high["rows"]], [40.0, 55.0, 62.5, 70.0])  # held beyond its end
        same = acted(with_tables(), do="axis_x", typed="800 1600 3200 4800")
        self.assertEqual(same["rows"], GRID["rows"])

    def test_what_cannot_be_done_is_told(self) -> None:
        for act, wants in (
            ({"do": "set", "typed": "lots", "from": [0, 0]}, "a number"),
            ({"do": "set", "typed": " ", "from": [0, 0]}, "a number"),
            ({"do": "set", "typed": "300", "from": [0, 0]}, "1 to 250 %"),
            ({"do": "percent", "typed": "-100", "from": [0, 0]}, "1 to 250 %"),
            ({"do": "set", "typed": "50", "from": [3, 0]}, "a cell of 3 rows of 4"),
            ({"do": "set", "typed": "50", "from": [0, 0], "to": [0, 4]}, "a cell of 3 rows of 4"),
            ({"do": "set", "typed": "50", "from": [0]}, "row and column"),
            ({"do": "set", "typed": "50", "from": [True, 0]}, "row and column"),
            ({"do": "melt", "from": [0, 0]}, "do ("),
            ({"do": "paste", "typed": "1\t2\n3", "from": [0, 0]}, "2 cells, as in the first row"),
            ({"do": "paste", "typed": "1\tx", "from": [0, 0]}, "a number"),
            ({"do": "axis_x", "typed": "800 700"}, "each more than the one before"),
            ({"do": "axis_x", "typed": "800"}, "2 to 40 numbers"),
        ):  # fmt: skip
            with self.subTest(act), self.assertRaises(BuildError) as raised:
                acted(with_tables(), **act)
            self.assertIn(wants, raised.exception.problems[0].wants, act)

    def test_only_tables_of_the_kept_tune_are_written_in(self) -> None:
        cells = {"do": "set", "typed": "50", "from": [0, 0]}
        for at in ("/tune/kept/tables/lambda", "/tune/kept/tables/moon", "/engine/power"):
            with self.subTest(at), self.assertRaises(PatchError):
                apply_edit(with_tables(), [{"op": "replace", "path": at, "cells": cells}])
        with self.assertRaises(PatchError):
            apply_edit(with_tables(), [{"op": "add", "path": AT, "cells": cells}])
        curve = {"x": [0.0, 50.0], "rows": [[1.4, 1.0]]}
        with self.assertRaises(PatchError):
            acted(with_tables(warm_up=curve), "/tune/kept/tables/warm_up", do="axis_y", typed="1 2")


class AsFound(unittest.TestCase):
    FOUND = {"load": "manifold_pressure", "source": "read_out", "tables": {"ve": GRID}}

    def test_it_is_taken_whole_and_not_written_in(self) -> None:
        doc, _, build = apply_edit(document("tern"), [put("/tune/found", self.FOUND)])
        assert build.tune.found is not None
        self.assertEqual(build.tune.found.tables["ve"].rows, GRID["rows"])
        for op in (
            put("/tune/found/tables/ve/rows/0/0", 41.0),
            take_out("/tune/found/tables/ve"),
            {"op": "move", "from": "/tune/found/tables/ve", "path": "/tune/kept/tables/ve"},
            {"op": "replace", "path": "/tune/found/tables/ve", "cells": {"do": "set", "typed": "50", "from": [0, 0]}},
        ):
            with self.subTest(op), self.assertRaises(PatchError) as raised:
                apply_edit(doc, [op])
            self.assertIn("kept tune", raised.exception.problems[0].wants)
        self.assertIsNone(apply_edit(doc, [take_out("/tune/found")])[2].tune.found)

    def test_that_it_stands_in_the_unit_holds_until_a_cell_changes(self) -> None:
        stands = [{"op": "add", "path": "/tune/kept/in_unit", "stands": True}]
        doc, _, build = apply_edit(with_tables(), stands)
        self.assertEqual(work_out(build).in_use.in_unit, "same")
        changed, _, other = apply_edit(doc, [{"op": "replace", "path": AT, "cells": {"do": "set", "typed": "41", "from": [0, 0]}}])
        self.assertEqual(work_out(other).in_use.in_unit, "changed")
        accepted = apply_edit(doc, [{"op": "replace", "path": AT, "cells": {"do": "accept", "from": [0, 0]}}])[2]
        self.assertEqual(work_out(accepted).in_use.in_unit, "same", "what a cell is called does not change what stands in the unit")
        self.assertEqual(work_out(apply_edit(changed, stands)[2]).in_use.in_unit, "same")
        bare = document("tern")
        del bare["tune"]["kept"]
        with self.assertRaises(PatchError):
            apply_edit(bare, stands)


class Making(unittest.TestCase):
    bare: Worked
    kept: dict[str, Any]

    @classmethod
    def setUpClass(cls) -> None:
        cls.bare = work_out(edited("tern", {"/tune/kept": None}))
        cls.kept = proposed(cls.bare, "quick").value

    def with_kept(self, value: dict[str, Any]) -> Worked:
        return work_out(edited("tern", {"/tune/kept": value}))

    def test_of_the_quick_tables_it_says_what_they_say(self) -> None:
        w = self.with_kept(copy.deepcopy(self.kept))
        self.assertEqual(set(self.kept["tables"]), set(TABLES))
        self.assertEqual(differences(w.tune.tables, tables_in_use(w.tune.tables, w.in_use))[0].changed, 0)
        self.assertEqual((w.in_use.source, w.in_use.inked, w.in_use.power_w), ("kept", 0, None))
        self.assertAlmostEqual(w.in_use.fuel_full_kg_s, self.bare.in_use.fuel_full_kg_s, delta=5e-3 * self.bare.in_use.fuel_full_kg_s)

    def test_ten_per_cent_more_in_the_table_is_ten_per_cent_more_fuel(self) -> None:
        before = self.with_kept(copy.deepcopy(self.kept)).in_use
        richer = copy.deepcopy(self.kept)
        richer["tables"]["ve"]["rows"] = [[round(v * 1.1, 1) for v in row] for row in richer["tables"]["ve"]["rows"]]
        after = self.with_kept(richer).in_use
        self.assertAlmostEqual(after.fuel_full_kg_s / before.fuel_full_kg_s, 1.1, delta=0.002)
        self.assertAlmostEqual(after.ve_peak / before.ve_peak, 1.1, delta=0.002)
        leaner = copy.deepcopy(self.kept)
        leaner["tables"]["lambda"]["rows"] = [[round(v * 1.05, 3) for v in row] for row in leaner["tables"]["lambda"]["rows"]]
        self.assertAlmostEqual(self.with_kept(leaner).in_use.fuel_full_kg_s / before.fuel_full_kg_s, 1 / 1.05, delta=0.002)

    def test_ones_own_cells_stay_and_are_asked_about_beyond_their_doubt(self) -> None:
        value = copy.deepcopy(self.kept)
        ve = value["tables"]["ve"]
        near, far = ve["rows"][4][3] * 1.08, ve["rows"][5][3] * 1.25
        ve["rows"][4][3], ve["rows"][5][3], ve["ink"] = round(near, 1), round(far, 1), [[4, 3], [5, 3]]
        w = self.with_kept(value)
        found = proposed(w, "quick")
        self.assertEqual([(a.table, a.row, a.column) for a in found.asks], [("ve", 5, 3)])
        self.assertEqual(found.asks[0].theirs, self.kept["tables"]["ve"]["rows"][5][3])
        self.assertEqual(found.value["tables"]["ve"]["rows"][4][3], round(near, 1))
        self.assertEqual(found.inked, 2)
        anew = proposed(w, "quick", mine=False)
        self.assertEqual((anew.inked, anew.value["tables"]["ve"]["rows"]), (0, self.kept["tables"]["ve"]["rows"]))

    def test_on_other_axes_ones_own_cells_cannot_stay_and_that_is_asked(self) -> None:
        value = copy.deepcopy(self.kept)
        value["tables"]["ve"] = {**copy.deepcopy(GRID), "ink": [[1, 1]]}
        found = proposed(self.with_kept(value), "quick")
        self.assertEqual([a.table for a in found.asks], ["ve"])
        self.assertNotIn("ink", found.value["tables"]["ve"])

    def test_how_far_a_cell_may_be_off(self) -> None:
        self.assertEqual(off("ve", 80.0), 8.0)
        self.assertEqual(off("ve", 80.0, 0.05), 4.0)
        self.assertEqual(off("advance", 30.0), 3.0)

    def test_there_has_to_be_something_to_make_it_of(self) -> None:
        for source in ("found", "worked"):
            with self.subTest(source), self.assertRaises(BuildError):
                proposed(self.bare, source)  # type: ignore[arg-type]
        doc = edited("tern", {"/tune/found": {**AsFound.FOUND, "tables": {"ve": GRID}}})
        self.assertEqual(proposed(work_out(doc), "found").value["tables"], {"ve": GRID})

    def test_differences_name_what_only_one_has_and_count_what_moved(self) -> None:
        w = self.bare
        kept = self.with_kept({"made": "read_in", "load": "manifold_pressure", "tables": {"ve": copy.deepcopy(GRID)}})
        found = {d.key: d for d in differences(tables_of(kept.build.tune.kept), w.tune.tables)}
        self.assertEqual((found["ve"].only, found["lambda"].only), ("", "after"))
        ve = w.tune.tables[0]
        held = next(t for t in tables_of(kept.build.tune.kept))
        self.assertAlmostEqual(found["ve"].before[3][5], read(held, ve.x[5], ve.y[3]), delta=0.05)
        most = max((b - a for x, y in zip(found["ve"].before, ve.rows, strict=True) for a, b in zip(x, y, strict=True)), key=abs)
        self.assertAlmostEqual(found["ve"].most, most, places=3)
        self.assertEqual([d.changed for d in differences(w.tune.tables, w.tune.tables)], [0] * len(TABLES))

    def test_what_a_cell_held(self) -> None:
        def kept(value: float) -> Any:
            table = {**copy.deepcopy(GRID), "rows": [[value, *GRID["rows"][0][1:]], *GRID["rows"][1:]]}
            return parse(with_tables(ve=table)).tune.kept

        trail = {3: kept(40.0), 5: kept(40.0), 8: kept(44.0), 9: None, 11: kept(41.0)}
        self.assertEqual(cell_history(trail, "ve", 800.0, 40.0), [(3, 40.0), (8, 44.0), (11, 41.0)])
        self.assertEqual(cell_history(trail, "warm_up", 0.0, None), [])

    def test_changes_in_words(self) -> None:
        doc = with_tables()

        def said(*patch: dict[str, Any]) -> str:
            return describe(doc, apply_edit(doc, list(patch))[1])

        def cells(**act: Any) -> dict[str, Any]:
            return {"op": "replace", "path": AT, "cells": act}

        self.assertEqual(said(cells(do="set", typed="44", **{"from": [0, 0]})), "Volumetric efficiency: 40 → 44 in one cell")
        self.assertEqual(
            said(cells(do="percent", typed="10", **{"from": [0, 0], "to": [0, 1]})), "Volumetric efficiency: 2 cells, by up to +5"
        )
        self.assertEqual(said(cells(do="accept", **{"from": [0, 0]})), "Volumetric efficiency: cells marked")
        self.assertEqual(said(cells(do="axis_x", typed="800 4800")), "Volumetric efficiency: new axes")
        self.assertEqual(said(put("/tune/kept", self.kept)), "Tune kept, of the quick tables")
        self.assertEqual(said(take_out("/tune/kept")), "Kept tune taken out")
        self.assertEqual(said(put("/tune/found", AsFound.FOUND)), "As found: 1 tables")
        self.assertEqual(said({"op": "add", "path": "/tune/kept/in_unit", "stands": True}), "The kept tune stands in the unit")
        self.assertEqual(said(put("/tune/kept/label", "Winter")), "Called Winter")


if __name__ == "__main__":
    unittest.main()
