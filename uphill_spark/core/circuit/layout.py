"""Where wires run: the shortest way along the branches between two places, and how long a wire is made for it."""

from __future__ import annotations

import itertools
from functools import lru_cache

import networkx

from ..given.wiring import Wiring
from ..reference import zones

SERVICE_LOOP, TWIST = 0.15, 1.03  # m; lay of the harness
SHORTEST = 0.25  # m, a lead between neighbours at one place


@lru_cache(maxsize=64)
def _routes(branches: tuple[tuple[str, str, str, float], ...]) -> dict[str, dict[str, tuple[str, ...]]]:
    """Branches passed on the shortest way between any two places."""
    graph: networkx.Graph[str] = networkx.Graph()
    for key, start, end, length in branches:
        graph.add_edge(start, end, weight=length, key=key)
    ways = dict(networkx.all_pairs_dijkstra_path(graph, weight="weight"))
    return {a: {b: tuple(graph[x][y]["key"] for x, y in itertools.pairwise(way)) for b, way in to.items()} for a, to in ways.items()}


class Layout:
    """The branches of a harness as ways between places."""

    def __init__(self, wiring: Wiring) -> None:
        self._branches = wiring.branches
        self._ways = _routes(tuple((k, b.start, b.end, b.length.si) for k, b in wiring.branches.items()))

    def route(self, start: str, end: str) -> tuple[str, ...]:
        """Keys of the branches from one place to another."""
        return self._ways[start][end]

    def length(self, route: tuple[str, ...]) -> float:
        """Length [m] of a wire along a route: its branches, twist, a service loop; neighbours at one place still need a lead."""
        run = sum([self._branches[k].length.si for k in route])
        return max(run * TWIST + SERVICE_LOOP, SHORTEST)

    def zone(self, branch: str) -> float:
        """Air [K] about a branch."""
        return zones()[self._branches[branch].zone]

    def ambient(self, route: tuple[str, ...]) -> float:
        """The hottest zone [K] that a route passes; the engine bay for a lead at one place."""
        return max((self.zone(k) for k in route), default=zones()["bay"])
