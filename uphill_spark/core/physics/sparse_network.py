"""The same network where it is large: its nodes are solved as they are, each state by a sparse factor (Davis: Direct Methods for Sparse Linear Systems, ch. 6),
with the loads in the matrix by their slopes (Newton's method). Worth it from some hundred nodes on; below them `network` is faster."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cached_property

import numpy as np
from scipy.sparse import csc_matrix
from scipy.sparse.linalg import SuperLU, splu

from ..errors import NotConverged
from .network import CLOSE, LEAK, LEAST_OHMS, LEAST_STEP, RESIDUAL, ROUNDS, Array, Branch, Law, Solution, Source


def _factored(g: csc_matrix) -> SuperLU:
    """A factor of a network's matrix: alike on both sides of its diagonal, so that its order is sought on that and pivots are taken from it unless they are small."""
    return splu(g, permc_spec="MMD_AT_PLUS_A", diag_pivot_thresh=0.01, options={"SymmetricMode": True})


class SparseNetwork:
    """Branches, sources and held potentials of every state; `loads` are pairs of nodes (plus, minus)."""

    def __init__(
        self, branches: Sequence[Branch], sources: Sequence[Source], held: Mapping[str, Sequence[float]], loads: Sequence[tuple[str, str]]
    ) -> None:
        names = dict.fromkeys(
            [
                *held,
                *(n for b in branches for n in (b.a, b.b)),
                *(n for s in sources for n in (s.plus, s.minus)),
                *(n for x in loads for n in x),
            ]
        )
        self.nodes = {name: i for i, name in enumerate(names)}  # those that are held come first
        self.states, self._n, self._f = len(next(iter(held.values()))), len(names), len(held)
        self._held = np.array([list(v) for v in held.values()], dtype=np.float64).T
        a = np.array([self.nodes[b.a] for b in branches] + [self.nodes[s.plus] for s in sources], dtype=np.intp)
        b = np.array([self.nodes[x.b] for x in branches] + [self.nodes[s.minus] for s in sources], dtype=np.intp)
        ohms = np.maximum([x.ohms for x in branches] + [s.ohms for s in sources], LEAST_OHMS)
        on = np.array([x.closed for x in branches] + [s.on for s in sources], dtype=np.float64).T
        self._y = on / ohms
        self._s = np.zeros((self.states, self._n))
        for s in sources:
            inside = np.array(s.on, dtype=np.float64) / s.ohms * s.volts
            self._s[:, self.nodes[s.plus]] += inside
            self._s[:, self.nodes[s.minus]] -= inside
        self._plus = np.array([self.nodes[plus] for plus, _ in loads], dtype=np.intp)
        self._minus = np.array([self.nodes[minus] for _, minus in loads], dtype=np.intp)
        every = np.arange(self._n)
        p, q = self._plus, self._minus
        self._rows = np.concatenate([a, b, a, b, every, p, q, p, q])
        self._columns = np.concatenate([a, b, b, a, every, p, q, q, p])
        self._g = [self._matrix(k, np.zeros(len(loads))) for k in range(self.states)]
        self._free = [_factored(g[self._f :, self._f :]) for g in self._g]

    def _matrix(self, state: int, slope: Array) -> csc_matrix:
        y = self._y[state]
        values = np.concatenate([y, y, -y, -y, np.full(self._n, LEAK), slope, slope, -slope, -slope])
        return csc_matrix((values, (self._rows, self._columns)), shape=(self._n, self._n))

    def _injected(self, state: int, amps: Array) -> Array:
        """What loads take from each node [A]."""
        taken = np.bincount(self._plus, amps, self._n) - np.bincount(self._minus, amps, self._n)
        return np.asarray(taken, dtype=np.float64)

    def settle(self, law: Law, near: Array | None = None) -> tuple[Array, Array]:
        """Volts and amps of all loads by (state, load), where each law is met. Raises NotConverged when a state does not settle."""
        f = self._f
        u = self._potentials(np.zeros((self.states, len(self._plus))))
        amps, slope = law(self._across(u))
        left = self._left(u, amps)
        for _ in range(ROUNDS):
            step = np.zeros_like(u)
            for k in range(self.states):
                solver = _factored(self._matrix(k, slope[k])[f:, f:]) if slope[k].any() else self._free[k]
                step[k, f:] = solver.solve(left[k, f:])
            share = np.ones((self.states, 1))
            while True:  # a current that falls away below its knee has a corner: the step is halved where it would lead further off
                tried = u - share * step
                amps, slope = law(self._across(tried))
                then = self._left(tried, amps)
                worse = (np.abs(then[:, f:]).max(axis=1, keepdims=True) > np.abs(left[:, f:]).max(axis=1, keepdims=True) + CLOSE) & (
                    share > LEAST_STEP
                )
                if not worse.any():
                    break
                share = np.where(worse, share / 2, share)
            moved, u, left = float(np.abs(share * step).max()), tried, then
            if moved < CLOSE:
                return self._across(u), amps
        raise NotConverged(f"harness: {moved:.3g} V still move after {ROUNDS} rounds")

    def _potentials(self, amps: Array) -> Array:
        f = self._f
        u = np.concatenate([self._held, np.zeros((self.states, self._n - f))], axis=1)
        for k, g in enumerate(self._g):
            u[k, f:] = self._free[k].solve(self._s[k, f:] - g[f:, :f] @ self._held[k] - self._injected(k, amps[k])[f:])
        return u

    def _across(self, u: Array) -> Array:
        return np.asarray(u[:, self._plus] - u[:, self._minus])

    def _left(self, u: Array, amps: Array) -> Array:
        """What is left over at each node [A]."""
        return np.array([self._g[k] @ u[k] - self._s[k] + self._injected(k, amps[k]) for k in range(self.states)])

    def solution(self, amps: Array) -> Solution:
        """Every potential for known load currents [A] by (state, load)."""
        u = self._potentials(amps)
        residual = float(np.abs(self._left(u, amps)[:, self._f :]).max(initial=0.0))
        if residual > RESIDUAL:
            raise NotConverged(f"harness: {residual:.3g} A left over at a node")
        return Solution(self.nodes, u, self._across(u), amps, residual)

    @cached_property
    def resistance(self) -> Array:
        """What stands behind each load [ohm], out and back, by (state, load)."""
        f, m = self._f, len(self._plus)
        ends = np.zeros((self._n, m))
        ends[self._plus, np.arange(m)] += 1.0
        ends[self._minus, np.arange(m)] -= 1.0
        free = ends[f:]
        return np.array([(free * factor.solve(free)).sum(axis=0) for factor in self._free])

    @cached_property
    def open_volts(self) -> Array:
        """Volts across each load with nothing drawn, by (state, load)."""
        return self.solution(np.zeros((self.states, len(self._plus)))).volts
