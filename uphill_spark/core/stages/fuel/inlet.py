"""The pump's inlet: pressure there against the fuel's vapour pressure, and the hottest fuel it will take."""

from __future__ import annotations

import math

from scipy.optimize import brentq

from ...build import Build
from ...figures import Result
from ...physics import pipe
from ...physics.vapour import gasoline_vapour_pressure
from ..engine import fuel_data
from .plumbing import as_run

#: Reid vapour pressure of the summer grade [Pa] (EN 228 class A upper end; ASTM D5798 class 1), where none was given.
SUMMER_REID = {"E0": 62e3, "E10": 62e3, "E85": 45e3}
#: Margin above vapour pressure in metres of fuel: enough.
MARGIN_SOUND = 1.5
COLDEST, HOTTEST = 263.15, 353.15  # K, ends of the sweep


class Inlet(Result):
    """The pump's inlet at its largest flow, absolute pressures. Where the suction line is not described, nothing is known."""

    known: bool
    pressure_pa: float
    vapour_pa: float
    suction_loss_pa: float
    suction_velocity_m_s: float
    margin_m: float
    hottest_k: float | None
    fuel_k: float


def at_inlet(build: Build, flow: float, ambient_pa: float) -> Inlet:
    """Inlet pressure p_amb - vent + rho g h - losses, and its margin over the vapour pressure at the hottest fuel."""
    f, data = build.fuel, fuel_data(build.engine)
    liquid = pipe.Liquid(data.density, data.viscosity)
    inside = f.pump.place == "in_tank"
    loss = velocity = 0.0
    if f.suction is not None and not inside:
        run = as_run(f.suction)
        loss, velocity = pipe.line_loss(run, flow, liquid), run.velocity(flow)
    if f.strainer is not None:
        loss += pipe.filter_loss(f.strainer.pressure_drop.si, f.strainer.at_flow.si, flow, 1.0)
    pressure = ambient_pa - f.tank.vent_drop.si + pipe.head(liquid, f.tank.head.si) - loss
    reid = f.tank.reid.si if f.tank.reid else SUMMER_REID[build.engine.fuel]

    def margin(kelvin: float) -> float:
        return (pressure - gasoline_vapour_pressure(reid, kelvin)) / (data.density * pipe.G)

    hottest = None
    if margin(COLDEST) > 0 > margin(HOTTEST):
        hottest = float(brentq(margin, COLDEST, HOTTEST, xtol=0.01))
    elif margin(HOTTEST) >= 0:
        hottest = HOTTEST
    return Inlet(
        known=inside or f.suction is not None,
        pressure_pa=pressure,
        vapour_pa=gasoline_vapour_pressure(reid, f.tank.hottest.si),
        suction_loss_pa=loss,
        suction_velocity_m_s=velocity,
        margin_m=margin(f.tank.hottest.si) if math.isfinite(pressure) else 0.0,
        hottest_k=hottest,
        fuel_k=f.tank.hottest.si,
    )
