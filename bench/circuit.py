"""What a person waits for at the harness: eight states solved, and pump, injectors and coils brought into balance with it."""

from __future__ import annotations

import pathlib
import shutil
import statistics
import subprocess
import tempfile
from collections.abc import Callable
from typing import Any

from bench.fuel import Rows
from tests.builds import edited, worked
from tests.core.test_network import Large, harness
from uphill_spark.core import equilibrium
from uphill_spark.core.circuit.branches import branches
from uphill_spark.core.circuit.conductors import make
from uphill_spark.core.circuit.electric import Electric
from uphill_spark.core.circuit.faults import Taken, Tester, shown
from uphill_spark.core.circuit.states import ORDER
from uphill_spark.core.circuit.supply import supply
from uphill_spark.core.physics.network import LARGE, Branch, Network
from uphill_spark.core.physics.sparse_network import SparseNetwork
from uphill_spark.formats import spice


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
        held, still = supply(build), dict.fromkeys(ORDER, frozenset[str]())
        rows = tuple(branch for _, branch in branches(harness.netlist, made, held, still))
        fresh.settle(fresh.network(rows, held, still))

    table.row("circuit: eight states in balance with pump, injectors, coils", 6.0, statistics.median(milliseconds(states, 40)))
    table.row("circuit: the same with sizes proposed, median", None, statistics.median(milliseconds(balance, 40)))
    ready = equilibrium._Balance(build, w.engine, harness.netlist)
    ready.most()
    held, still = supply(build), dict.fromkeys(ORDER, frozenset[str]())
    rows = tuple(branch for _, branch in branches(harness.netlist, made, held, still))

    def nodes() -> None:
        equilibrium._factored.cache_clear()
        network = ready.network(rows, held, still)
        network.solution(network.settle(ready.law)[1])

    table.row("circuit: eight states solved, pump and injectors as they were", None, statistics.median(milliseconds(nodes, 40)))
    tester = Tester(w.circuit)
    live = tester.live("full")

    many = len(tester.faults)
    table.row(
        f"circuit: one fault solved again, of {many} side by side",
        0.3,
        statistics.median(milliseconds(lambda: shown(live, tester.faults), 5)) / many,
    )
    readings = [Taken(red="pump.plus", black="battery.minus", state="prime", volts=0.1)]
    table.row(
        f"circuit: {many} faults ranked for a reading, next one proposed",
        150.0,
        statistics.median(milliseconds(lambda: Tester(w.circuit).explain(readings), 5)),
    )
    against(table, milliseconds, nodes, w.circuit)
    growing(table, milliseconds)


def growing(table: Rows, milliseconds: Callable[[Callable[[], Any], int], list[float]]) -> None:
    """Eight states of harnesses of so many wires, factored afresh, with loads that hold their current and fade below their knee."""
    for wires, goal in ((50, None), (200, None), (1000, 60.0)):
        rows, loads = harness(wires // 2)
        held = {"plus": [12.6] * len(ORDER), "minus": [0.0] * len(ORDER)}

        def eight(rows: list[Branch] = rows, loads: list[tuple[str, str]] = loads, held: dict[str, list[float]] = held) -> None:
            many = len({end for row in rows for end in (row.a, row.b)})
            network = (SparseNetwork if many > LARGE else Network)(rows, [], held, loads)
            network.solution(network.settle(Large.fading)[1])

        table.row(f"circuit: eight states of a harness of {wires} wires", goal, statistics.median(milliseconds(eight, 8)))


def against(
    table: Rows, milliseconds: Callable[[Callable[[], Any], int], list[float]], ours: Callable[[], None], circuit: Electric
) -> None:
    """The same eight states put to a circuit simulator, started once for each: how many times longer it takes."""
    if shutil.which("ngspice") is None:
        return
    with tempfile.TemporaryDirectory() as folder:
        files = []
        for state in ORDER:
            file = pathlib.Path(folder) / f"{state}.cir"
            file.write_text(spice.write(circuit, state, "bench").replace(".end\n", ".control\nop\nquit\n.endc\n.end\n"))
            files.append(str(file))

        def theirs() -> None:
            for file in files:
                subprocess.run(["ngspice", "-b", file], capture_output=True, check=False, timeout=60)

        times = statistics.median(milliseconds(theirs, 3)) / statistics.median(milliseconds(ours, 20))
    table.row("circuit: a simulator on the same eight, times longer (10 wanted)", None, times, "x")
