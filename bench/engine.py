"""What a person waits for at the engine: the run stepped through, doubt weighed afresh, every way to do it tried, a photograph kept."""

from __future__ import annotations

import io
import statistics
from collections.abc import Callable
from typing import Any

import numpy as np
from PIL import Image

from bench.fuel import Rows
from tests.builds import document, edited, trial, worked
from tests.core.test_cycle import lanes
from uphill_spark.core.asked import answer
from uphill_spark.core.physics.cycle import work
from uphill_spark.core.stages.engine.fitness import _weighed, signs
from uphill_spark.core.stages.engine.measures import measures
from uphill_spark.core.stages.engine.run import run_power
from uphill_spark.formats import photo


def core(table: Rows, milliseconds: Callable[[Callable[[], Any], int], list[float]]) -> None:
    """On the Tern; doubt on the Brindle, which shows most signs; a photograph of twelve million pixels."""
    build, stands = edited("tern"), trial(document("tern"))

    def median(work: Callable[[], Any], times: int) -> float:
        return statistics.median(milliseconds(work, times))

    table.row("engine: run stepped through, three bands, Tern, median", None, median(lambda: run_power(build), 30))
    seen = tuple(sorted(signs(edited("brindle"), worked("brindle").engine).items()))

    def afresh() -> None:
        _weighed.cache_clear()
        _weighed(seen[:4])

    table.row("engine: faults weighed and the next test found, median", None, median(afresh, 30))
    table.row("engine: every way to do it tried, Tern, median", None, median(lambda: answer("ways-engine", stands), 5))
    table.row("fuel: every way to do it tried, Tern, median", None, median(lambda: answer("ways-fuel", stands), 5))
    c = measures(build).cylinder
    grid = lanes(c, np.linspace(500, 6000, 16).tolist(), np.linspace(20, 105, 16).tolist())
    table.row("cycle: 16 x 16 cells worked, one core", 1000.0, median(lambda: work(c, grid), 3))
    table.row("cycle: engine of the Tern worked, with its doubt", 30_000.0, median(lambda: answer("cycle", trial(document("tern"))), 1))
    table.row(
        "rehearsal: 256 starts and six changes tried, Tern", 60_000.0, median(lambda: answer("rehearsal", trial(document("tern"))), 1)
    )
    shot = io.BytesIO()
    Image.effect_noise((4000, 3000), 40).convert("RGB").save(shot, "JPEG", quality=80)
    table.row("photograph of 12 megapixels made ready to keep, median", None, median(lambda: photo.read(shot.getvalue()), 3))
