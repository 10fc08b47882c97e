"""A direct-current network solved by its nodes (Kirchhoff's current law), with loads whose current depends on their own volts.

    G u = s - P i(v)        v = P' u

G holds the conductances between free nodes, s what the held nodes and sources drive in, P where each load takes its current and where it gives it
back. G is factored once; u = u0 - U i and v = v0 - Z i follow, so that the loads are found on v alone (Newton's method, Vlach and Singhal: Computer
Methods for Circuit Analysis and Design, ch. 1 and 10). Several states that share nodes and loads are solved side by side.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..errors import NotConverged

Array = NDArray[np.float64]
LEAK = 1e-9  # S from each node to the reference: a node that hangs in the air has a potential all the same
RESIDUAL = 1e-6  # A, what may be left over at a node
ROUNDS = 60
LEAST_STEP = 1e-3  # of a step, after which it is taken as it is
LARGE = 200  # nodes, from which on `sparse_network` is faster
LEAST_OHMS = 1e-5  # a joint without resistance is taken as this
CLOSE = 1e-9  # V, by which a load may still be off

#: Currents [A] of all loads and their slopes [A/V], for volts across them: arrays of (states, loads).
Law = Callable[[Array], tuple[Array, Array]]


class Branch(NamedTuple):
    """A resistor between two nodes [ohm]; in states where `closed` is false it is open."""

    a: str
    b: str
    ohms: float
    closed: tuple[bool, ...]


class Source(NamedTuple):
    """Volts between two nodes behind a resistance [V, ohm], in the states where it is on: `plus` is driven above `minus`."""

    plus: str
    minus: str
    volts: float
    ohms: float
    on: tuple[bool, ...]


@dataclass(frozen=True, slots=True)
class Solution:
    """Potentials [V] by (state, node), volts across and amps of each load by (state, load), and the largest current left over at a node [A]."""

    nodes: dict[str, int]
    u: Array
    volts: Array
    amps: Array
    residual: float

    def potential(self, node: str, state: int) -> float:
        """Potential [V] of a node against the reference."""
        return float(self.u[state, self.nodes[node]])


class Network:
    """Branches, sources and held potentials, factored for every state; `loads` are pairs of nodes (plus, minus)."""

    def __init__(
        self, branches: Sequence[Branch], sources: Sequence[Source], held: Mapping[str, Sequence[float]], loads: Sequence[tuple[str, str]]
    ) -> None:
        names = dict.fromkeys(
            [
                *held,
                *(n for b in branches for n in (b.a, b.b)),
                *(n for s in sources for n in (s.plus, s.minus)),
                *(n for load in loads for n in load),
            ]
        )
        self.nodes = {name: i for i, name in enumerate(names)}  # those that are held come first
        self.states = len(next(iter(held.values())))
        fixed, n, m, k = len(held), len(names), len(loads), self.states
        self._held = np.array([list(v) for v in held.values()], dtype=np.float64).T
        g = np.zeros((k, n, n))
        s = np.zeros((k, n))
        a = np.array([self.nodes[b.a] for b in branches], dtype=np.intp)
        b = np.array([self.nodes[x.b] for x in branches], dtype=np.intp)
        on = np.array([x.closed for x in branches], dtype=np.float64).reshape(len(branches), k).T
        conductance = on / np.maximum([x.ohms for x in branches], LEAST_OHMS)
        places = np.concatenate([a * n + a, b * n + b, a * n + b, b * n + a])
        for state in range(k):
            y = conductance[state]
            g[state] = np.bincount(places, np.concatenate([y, y, -y, -y]), n * n).reshape(n, n)
        for source in sources:
            p, q = self.nodes[source.plus], self.nodes[source.minus]
            inside = np.array(source.on, dtype=np.float64) / source.ohms
            g[:, p, p] += inside
            g[:, q, q] += inside
            g[:, p, q] -= inside
            g[:, q, p] -= inside
            s[:, p] += inside * source.volts
            s[:, q] -= inside * source.volts
        g[:, np.arange(n), np.arange(n)] += LEAK
        self._g, self._s = g, s
        incidence = np.zeros((n, m))
        for j, (plus, minus) in enumerate(loads):
            incidence[self.nodes[plus], j] += 1.0
            incidence[self.nodes[minus], j] -= 1.0
        self._incidence = incidence
        drive = s[:, fixed:] - np.einsum("kij,kj->ki", g[:, fixed:, :fixed], self._held)
        right = np.concatenate([drive[:, :, None], np.broadcast_to(incidence[fixed:], (k, n - fixed, m))], axis=2)
        found = np.linalg.solve(g[:, fixed:, fixed:], right)
        self._u0, self._spread = found[:, :, 0], found[:, :, 1:]
        across = incidence[fixed:].T
        self.open_volts = self._u0 @ across.T + self._held @ incidence[:fixed]
        self.impedance = across @ self._spread
        self.resistance: Array = np.diagonal(self.impedance, axis1=1, axis2=2)
        self._eye = np.eye(m)

    def settle(self, law: Law, near: Array | None = None) -> tuple[Array, Array]:
        """Volts and amps of all loads by (state, load), where each law is met. Raises NotConverged when a state does not settle."""
        volts = self.open_volts if near is None else near
        amps, slope = law(volts)
        miss = self._miss(volts, amps)
        for _ in range(ROUNDS):
            step = np.linalg.solve(self._eye + self.impedance * slope[:, None, :], miss[:, :, None])[:, :, 0]
            share = np.ones((self.states, 1))
            while True:  # a current that falls away below its knee has a corner: the step is halved where it would lead further off
                tried = volts - share * step
                amps, slope = law(tried)
                left = self._miss(tried, amps)
                worse = (
                    np.abs(left).max(axis=1, keepdims=True, initial=0.0) > np.abs(miss).max(axis=1, keepdims=True, initial=0.0) + CLOSE
                ) & (share > LEAST_STEP)
                if not worse.any():
                    break
                share = np.where(worse, share / 2, share)
            volts, miss = tried, left
            if float(np.abs(miss).max(initial=0.0)) < CLOSE:
                return volts, amps
        raise NotConverged(f"harness: {float(np.abs(miss).max()):.3g} V are missing after {ROUNDS} rounds")

    def _miss(self, volts: Array, amps: Array) -> Array:
        """By how much volts differ from what the network leaves of them at some currents."""
        return np.asarray(volts - self.open_volts + (self.impedance @ amps[:, :, None])[:, :, 0])

    def solution(self, amps: Array) -> Solution:
        """Every potential for known load currents [A] by (state, load)."""
        free = self._u0 - (self._spread @ amps[:, :, None])[:, :, 0]
        u = np.concatenate([self._held, free], axis=1)
        fixed = self._held.shape[1]
        left = (self._g @ u[:, :, None])[:, :, 0] - self._s + amps @ self._incidence.T
        residual = float(np.abs(left[:, fixed:]).max(initial=0.0))
        if residual > RESIDUAL:
            raise NotConverged(f"harness: {residual:.3g} A left over at a node")
        return Solution(self.nodes, u, u @ self._incidence, amps, residual)
