"""The nodal solve against closed forms, Kirchhoff's laws and another way to the same answer."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from uphill_spark.core.errors import NotConverged
from uphill_spark.core.physics.network import Array, Branch, Law, Network, Source
from uphill_spark.core.physics.sparse_network import SparseNetwork

ON = (True,)


def constant(amps: float) -> Law:
    """A load of constant current."""
    return lambda volts: (np.full(volts.shape, amps), np.zeros(volts.shape))


class WorkedFigures(unittest.TestCase):
    def test_a_unit_fed_from_the_battery_while_the_starter_turns(self) -> None:
        # 12.6 V behind 6 mohm; 180 A on the block through a strap; unit 6 A, 2.5 mm2, 2.2 m feed and 1.5 m ground, joints 6 and 2 mohm.
        for strap, block, unit in ((0.8e-3, 0.144, 11.283), (8e-3, 1.366, None)):
            wire = 6.8964e-3
            starter = 180.0 if unit is not None else 1.366 / strap  # through paint the same starter draws less
            branches = [
                Branch("plus", "unit", 2.2 * wire + 6e-3, ON),
                Branch("ground", "minus", 1.5 * wire + 2e-3, ON),
                Branch("block", "minus", strap, ON),
            ]
            network = Network(
                branches, [Source("plus", "minus", 12.6, 6e-3, ON)], {"minus": [0.0]}, [("unit", "ground"), ("plus", "block")]
            )
            solution = network.solution(np.array([[6.0, starter]]))
            self.assertAlmostEqual(solution.potential("block", 0), block, places=3)
            if unit is not None:
                self.assertAlmostEqual(float(solution.volts[0, 0]), unit, delta=2e-3)
                self.assertAlmostEqual(solution.potential("block", 0) - solution.potential("ground", 0), 0.070, delta=1e-3)

    def test_a_bridge_against_its_closed_form(self) -> None:
        r = [10.0, 20.0, 30.0, 40.0, 5.0]
        branches = [
            Branch("a", "b", r[0], ON),
            Branch("a", "c", r[1], ON),
            Branch("b", "d", r[2], ON),
            Branch("c", "d", r[3], ON),
            Branch("b", "c", r[4], ON),
        ]
        found = Network(branches, [], {"a": [12.0], "d": [0.0]}, []).solution(np.zeros((1, 0)))
        matrix = np.array([[1 / 10 + 1 / 30 + 1 / 5, -1 / 5], [-1 / 5, 1 / 20 + 1 / 40 + 1 / 5]])
        b, c = np.linalg.solve(matrix, [12 / 10, 12 / 20])
        self.assertAlmostEqual(found.potential("b", 0), b, places=6)
        self.assertAlmostEqual(found.potential("c", 0), c, places=6)


def harness(circuits: int, states: int = 8) -> tuple[list[Branch], list[tuple[str, str]]]:
    """So many circuits: from the battery, some over a splice, through a contact that is open in some states, out and back, half of them by the body."""
    rows, loads = [Branch("body", "minus", 1e-3, (True,) * states)], []
    for k in range(circuits):
        shut = tuple((state + k) % 3 != 0 for state in range(states))
        start = f"fuse.{k}" if k % 4 else f"splice.{k // 16}"
        rows.append(Branch("plus", start, 3e-3, (True,) * states))
        rows.append(Branch(start, f"d{k}.plus", 0.02 + k * 1e-5, shut))
        rows.append(Branch(f"d{k}.minus", "minus" if k % 2 else "body", 0.02, (True,) * states))
        loads.append((f"d{k}.plus", f"d{k}.minus"))
    return rows, loads


class Large(unittest.TestCase):
    """A large network is solved in another way, to the same answer."""

    @staticmethod
    def fading(volts: Array) -> tuple[Array, Array]:
        """Half an ampere down to 3 V, and less below."""
        return 0.5 * np.minimum(volts / 3, 1), np.where(volts < 3, 0.5 / 3, 0.0)

    def test_both_ways_agree_on_every_node(self) -> None:
        for circuits in (3, 40, 120):
            rows, loads = harness(circuits)
            held = {"plus": [12.6] * 8, "minus": [0.0] * 8}
            sources = [Source("d0.plus", "d0.minus", 5.0, 0.5, (True, False) * 4)]
            found = []
            for kind in (Network, SparseNetwork):
                network = kind(rows, sources, held, loads)
                amps = network.settle(self.fading)[1]
                found.append((network.solution(amps).u, amps, network.resistance, network.open_volts))
            for dense, sparse in zip(*found, strict=True):
                shut = np.abs(dense) < 1e6  # ohms behind an open contact are those of a leak
                np.testing.assert_allclose(sparse[shut], dense[shut], atol=2e-6)

    def test_one_that_cannot_settle_says_so(self) -> None:
        rows, loads = harness(4)
        network = SparseNetwork(rows, [], {"plus": [12.0] * 8, "minus": [0.0] * 8}, loads)
        with self.assertRaises(NotConverged):
            network.settle(lambda v: (np.where(v > 6, 1e4, -1e4), np.zeros(v.shape)))


class Laws(unittest.TestCase):
    @settings(max_examples=examples(60))
    @given(st.lists(st.floats(1e-3, 50.0), min_size=3, max_size=12), st.floats(0.0, 40.0), st.integers(0, 10**6))
    def test_what_flows_in_flows_out_and_the_parts_add_up(self, ohms: list[float], amps: float, seed: int) -> None:
        draw = np.random.default_rng(seed)
        nodes = ["plus", "minus", *(f"n{i}" for i in range(len(ohms) // 2))]
        branches = []
        for i, r in enumerate(ohms):
            a = nodes[i % len(nodes)]
            b = nodes[int(draw.integers(0, len(nodes)))]
            if a != b:
                branches.append(Branch(a, b, r, ON))
        branches += [Branch("plus", n, 25.0, ON) for n in nodes[2:]] + [Branch(n, "minus", 25.0, ON) for n in nodes[2:]]
        network = Network(branches, [], {"plus": [12.0], "minus": [0.0]}, [(nodes[-1], "minus")])
        volts, drawn = network.settle(constant(amps))
        found = network.solution(drawn)
        self.assertLess(found.residual, 1e-6)
        self.assertAlmostEqual(float(volts[0, 0]), float(found.volts[0, 0]), places=6)
        out = sum(
            (found.potential("plus", 0) - found.potential(b.b if b.a == "plus" else b.a, 0)) / b.ohms
            for b in branches
            if "plus" in (b.a, b.b)
        )
        back = sum((found.potential(b.b if b.a == "minus" else b.a, 0)) / b.ohms for b in branches if "minus" in (b.a, b.b))
        self.assertAlmostEqual(out, back + amps, delta=1e-5 * max(1.0, abs(out)))

    def test_an_open_branch_carries_nothing_and_states_do_not_mix(self) -> None:
        branches = [
            Branch("plus", "switch", 0.01, (True, True)),
            Branch("switch", "lamp", 0.01, (True, False)),
            Branch("lamp", "minus", 2.0, (True, True)),
        ]
        found = Network(branches, [], {"plus": [12.0, 13.8], "minus": [0.0, 0.0]}, []).solution(np.zeros((2, 0)))
        self.assertAlmostEqual(found.potential("lamp", 0), 12.0 * 2.0 / 2.02, places=6)
        self.assertAlmostEqual(found.potential("lamp", 1), 0.0, places=6)
        self.assertAlmostEqual(found.potential("switch", 1), 13.8, places=6)

    def test_a_load_that_follows_its_volts_is_met(self) -> None:
        network = Network([Branch("plus", "load", 1.0, ON)], [], {"plus": [12.0], "minus": [0.0]}, [("load", "minus")])
        volts, amps = network.settle(lambda v: (v**2 / 10, v / 5))
        self.assertAlmostEqual(float(volts[0, 0]) + float(amps[0, 0]), 12.0, places=6)
        self.assertAlmostEqual(float(amps[0, 0]), float(volts[0, 0]) ** 2 / 10, places=6)

    def test_what_cannot_settle_gives_no_figure(self) -> None:
        network = Network([Branch("plus", "load", 1.0, ON)], [], {"plus": [12.0], "minus": [0.0]}, [("load", "minus")])
        with self.assertRaises(NotConverged):
            network.settle(lambda v: (np.sign(v - 6.0) * 20.0 + 20.0, np.zeros(v.shape)))


if __name__ == "__main__":
    unittest.main()
