"""What a person waits for at the trigger and the sensors: the starter simulated, the scope drawn, a sender fitted."""

from __future__ import annotations

import statistics
from collections.abc import Callable
from typing import Any

from bench.fuel import Rows
from tests.builds import edited
from uphill_spark.core.asked import trigger as scope
from uphill_spark.core.stages.sensors import scaling
from uphill_spark.core.stages.trigger import cranking, trigger_angle


def core(table: Rows, milliseconds: Callable[[Callable[[], Any], int], list[float]]) -> None:
    """On the Tern's 36-1 and on the Hollin, whose four swing more and take longer to settle; nothing remembered."""

    def median(work: Callable[[], Any], times: int) -> float:
        return statistics.median(milliseconds(work, times))

    def afresh(name: str) -> Callable[[], Any]:
        build = edited(name)

        def run() -> None:
            cranking._crank.cache_clear()
            cranking.crank(build)

        return run

    table.row("trigger: cranking gone round until it repeats, Tern 36-1, median", 100.0, median(afresh("tern"), 9))
    table.row("trigger: the same, Hollin 36-1, median", 100.0, median(afresh("hollin"), 9))
    t = edited("tern").sensors.trigger
    angle = trigger_angle(t) if t else None
    if t is not None and angle is not None:
        table.row("trigger: signals of 720 degrees, median", 20.0, median(lambda: scope.signals(t, angle), 20))
    sender = edited("tern").sensors.coolant
    if sender is not None:

        def fitted() -> None:
            scaling._curve.cache_clear()
            scaling.thermistor_curve("coolant", sender)

        table.row("sensors: a sender fitted, its table and best pull-up, median", None, median(fitted, 20))
