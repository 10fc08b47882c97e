"""The warm-up walk: what the unit does from a frosty morning to a hot engine, degree by degree, with the tables in use."""

from __future__ import annotations

from collections.abc import Sequence

from ...figures import Result
from ...given import Build
from ..injectors import InjectorsResult
from . import TuneResult
from .in_use import read
from .tables import Table

COLDEST, HOTTEST, STEP = -20, 100, 4  # degC


class WarmStep(Result):
    """At a coolant temperature [degC]: the prime and the cranking pulse [ms], fuel added after the start [%] and for how long [s], fuel for warming up (times), the pulse at idle [ms], idle target [rpm], idle air [%],
    advance at idle [deg before top], how much of a squirt wets the wall (share), fan [%]."""

    coolant: float
    prime_ms: float
    crank_ms: float
    after_start: float
    after_start_s: float
    warm_up: float
    idle_ms: float
    idle_rpm: float
    idle_air: float
    idle_advance: float | None
    wets: float
    fan: float


def walk(build: Build, tune: TuneResult, injectors: InjectorsResult, tables: Sequence[Table], idle_kpa: float) -> list[WarmStep]:
    """From the coldest to the hottest. Dead time is that of running volts; while the starter turns there are fewer, and the injectors open later."""
    own = {t.key: t for t in tables}
    full, dead = tune.full_cylinder_pulse_s * 1e3, injectors.dead_time_full_s * 1e3
    idle = build.engine.idle_speed.si * 60
    spark, load = own["advance"], next(p.load for p in tune.landmarks if p.key == "idle") if tune.load_signal == "throttle" else idle_kpa

    def at(key: str, celsius: float) -> float:
        return read(own[key], celsius, 0.0)

    return [
        WarmStep(
            coolant=float(t), prime_ms=round(at("prime", t) * full, 1), crank_ms=round(at("cranking", t) * full + dead, 1), after_start=round(at("after_start", t)), after_start_s=round(at("after_start_time", t), 1),
            warm_up=round(at("warm_up", t), 3), idle_ms=round(injectors.pulse_idle_s * 1e3 * at("warm_up", t) + dead, 2), idle_rpm=round(at("idle_speed", t) / 10) * 10, idle_air=round(at("idle_air", t)),
            idle_advance=None if spark.hidden else round(read(spark, idle, load), 1), wets=round(at("tip_in_share", t), 2), fan=round(at("fan", t)),
        )
        for t in range(COLDEST, HOTTEST + 1, STEP)
    ]  # fmt: skip
