"""What ignition and injection the sensors allow, what is wanted, and what is left when one of them fails."""

from __future__ import annotations

from ...figures import Result
from ...given import Build
from ...given.sensors import SensorKind


class StrategyRow(Result):
    """A set of signals: what can be done with it, whether this build has it and wants it, what it falls back to."""

    key: str
    have: str
    ignition: str
    injection: str
    there: bool
    wanted: bool
    falls_back_to: str


def table(build: Build, there: set[SensorKind]) -> list[StrategyRow]:
    """Signals from the least to the most. `there` are the sensors that are not struck."""
    g, t = build.ignition, build.sensors.trigger
    window = t is not None and t.on == "distributor"
    odd = t is not None and (t.phase is not None or t.pattern == "windows")
    wheel = t is not None and "crank" in there and t.on == "crank"
    cam = wheel and ("cam" in there or (t is not None and t.phase is not None))
    sequence = build.injectors.firing == "sequential" or g.kind == "coil_per_plug"
    wanted = (
        "phase"
        if sequence
        else "distributor_wheel"
        if window and g.timed_by_unit
        else "wheel"
        if g.timed_by_unit or g.speed_signal == "trigger_wheel"
        else "tach"
    )
    rows = (
        ("tach", "the distributor's speed signal alone", "none; the distributor keeps its advance", "untimed, all together", g.speed_signal != "trigger_wheel" or wheel, "nothing: without speed it stops"),
        ("distributor_wheel", "a window wheel in the distributor", "timed, through the rotor", "paired; in sequence where one window differs" if odd else "paired", window, "the distributor's own advance, if it is unlocked"),
        ("wheel", "a crank wheel", "wasted spark, or timed through a distributor", "paired, every turn", wheel, "nothing: without the crank wheel it stops"),
        ("phase", "a crank wheel and a phase signal", "coil per plug, in sequence", "in sequence, one squirt a cycle", bool(cam), "wasted pairs and paired injection; little is lost"),
    )  # fmt: skip
    return [
        StrategyRow(key=k, have=h, ignition=i, injection=j, there=is_there, wanted=k == wanted, falls_back_to=f)
        for k, h, i, j, is_there, f in rows
    ]
