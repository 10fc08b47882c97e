"""What follows from the little that people have: a pump known by one figure, injectors known by the engine they came from. All of it goes in as pencil."""

from __future__ import annotations

from .given.fuel import RatedPoint
from .given.injectors import Donor
from .reference import PumpData, pumps
from .stages.engine import BSFC_PETROL

L_H = 3.6e6  # of a m3/s


def pump_curve(rated: RatedPoint) -> list[dict[str, str]]:
    """A pump's table, rows of the build document, that goes through its one figure: the usual shape of the generic pump that comes nearest, its flow scaled to
    it, and its current where that is known too."""
    volts, kpa, flow = rated.voltage.si, rated.pressure.si / 1e3, rated.flow.si * L_H
    near = min(pumps(), key=lambda p: abs(_gives(p, volts, kpa) - flow))
    k = flow / max(_gives(near, volts, kpa), 1.0)
    draws = near.d + near.e * kpa
    j = rated.current.si / draws if rated.current is not None else 1.0
    own = PumpData(name=near.name, a=near.a * k, b=near.b * k, c=near.c * k, d=near.d * j, e=near.e * j)
    return own.table(volts=tuple(sorted({10.0, 12.0, round(volts, 3)})), kpa=tuple(sorted({0.0, 200.0, 400.0, round(kpa, 3)})))


def _gives(pump: PumpData, volts: float, kpa: float) -> float:
    return pump.a * volts - pump.b * kpa - pump.c


def injector_flow(donor: Donor) -> str:
    """Flow of one injector [g/min, petrol] at the donor's rail pressure: its power times a usual consumption, over its injectors and the share of the time
    that they were open."""
    kg_s = donor.power.si * BSFC_PETROL
    return f"{kg_s * 6e4 / donor.injectors / donor.duty.si:.0f} g/min"
