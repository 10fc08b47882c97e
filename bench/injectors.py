"""What a person waits for at the injectors: a full box ranked, and the best order of a set."""

from __future__ import annotations

import statistics
from collections.abc import Callable
from typing import Any

from bench.fuel import Rows
from tests.builds import edited
from uphill_spark.core.stages.injectors.bench import best_set
from uphill_spark.core.stages.injectors.box import ranked
from uphill_spark.core.stages.injectors.opening import opening


def core(table: Rows, milliseconds: Callable[[Callable[[], Any], int], list[float]]) -> None:
    """On the Tern with two hundred in the box, and on an eight in two banks with fourteen tested."""
    one = {"name": "x", "flow": "150 g/min", "rated_at": "300 kPa", "resistance": "15 ohm"}
    build = edited("tern", {"/injectors/box": [{**one, "name": f"n{k}", "flow": f"{60 + 3 * k} g/min"} for k in range(200)]})
    density_of = opening(build).density_of
    work = milliseconds(lambda: ranked(build, 4e-5, 5e-6, 0.023, (300e3, 300e3), density_of, 13.8), 10)
    table.row("injectors: 200 in the box ranked, median", 50.0, statistics.median(work))
    flows = {f"m{k}": 1 + 0.01 * ((k * 37) % 11) for k in range(14)}
    order = milliseconds(lambda: best_set(flows, [[1, 2, 3, 4], [5, 6, 7, 8]]), 10)
    table.row("injectors: the best eight of fourteen in their places, median", 100.0, statistics.median(order))
