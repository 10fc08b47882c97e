"""What can stay on the car: what it spares, and what to look at before it is used again."""

from __future__ import annotations

from ...figures import Result
from ...given.engine import Engine

#: What is carried over: the station it belongs to, what it spares, what to look at before it is used again.
KEPT: dict[str, tuple[str, str, str]] = {
    "fuel_tank": ("fuel", "cutting in a new pick-up, if it has a return and a baffle", "rust and sealer inside; whether the pick-up still draws in a long bend"),
    "fuel_lines": ("fuel", "new tube the length of the car", "class of the hose, clips, and that the pressure side was made for it: carburettor hose is not"),
    "fuel_pump": ("fuel", "the electric pump", "a carburettor's pump gives a tenth of the pressure; a pump of an injected car is measured before it is trusted"),
    "injectors": ("injectors", "a set of injectors", "flow, leak and spray on the bench; coil against driver"),
    "intake_manifold": ("air", "a manifold or a plate", "where injectors can go, heat for a wet manifold, every port plugged or used"),
    "throttle": ("air", "a throttle body", "shaft play, the angle at full pedal, its own spring"),
    "distributor": ("ignition", "a trigger wheel, if it keeps its own advance", "play of the shaft, advance that moves freely and comes back"),
    "alternator": ("wiring", "a larger alternator", "amps at idle, hot, against pump, coils and fan together"),
}  # fmt: skip


class Kept(Result):
    """Something carried over: where it counts, what it spares, what to look at first."""

    key: str
    station: str
    spares: str
    look_at: str
    kept: bool


def kept(engine: Engine) -> list[Kept]:
    """Everything that could be carried over, and whether it is."""
    return [Kept(key=k, station=s, spares=spares, look_at=look, kept=k in engine.carried_over) for k, (s, spares, look) in KEPT.items()]
