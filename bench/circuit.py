"""What a person waits for at the harness: eight states solved, and pump, injectors and coils brought into balance with it."""

from __future__ import annotations

import statistics
from collections.abc import Callable
from typing import Any

from bench.fuel import Rows
from tests.builds import edited, worked
from uphill_spark.core import equilibrium
from uphill_spark.core.circuit.conductors import make


def core(table: Rows, milliseconds: Callable[[Callable[[], Any], int], list[float]]) -> None:
    """On the Tern, factored afresh every time, with the pump solved from nothing."""
    build, w = edited("tern"), worked("tern")
    harness = w.results["harness"]

    def balance() -> None:
        equilibrium._factored.cache_clear()
        equilibrium.work_out(build, w.engine, harness)

    most = equilibrium._Balance(build, w.engine, harness.netlist).most()
    made = make(build, harness.netlist, most)

    def states() -> None:
        equilibrium._factored.cache_clear()
        fresh = equilibrium._Balance(build, w.engine, harness.netlist)
        fresh.most()
        fresh.settle(fresh.network(made))

    table.row("circuit: eight states in balance with pump, injectors, coils", 6.0, statistics.median(milliseconds(states, 40)))
    table.row("circuit: the same with sizes proposed, median", None, statistics.median(milliseconds(balance, 40)))
