"""The pump's inlet: pressure there against the fuel's vapour pressure, and the hottest fuel it will take."""

from __future__ import annotations

from scipy.optimize import brentq

from ...figures import Result
from ...given import Build
from ...physics import pipe
from ...physics.vapour import fuel_vapour_pressure
from ..engine import fuel_data
from .plumbing import Section, elements

#: Reid vapour pressure of the summer grade [Pa] (EN 228 class A upper end; ASTM D5798 class 1), where none was given.
REID = {"summer": {"E0": 62e3, "E10": 62e3, "E85": 45e3}, "winter": {"E0": 90e3, "E10": 95e3, "E85": 60e3}}
#: Margin above vapour pressure in metres of fuel: enough.
MARGIN_SOUND = 1.5
COLDEST, HOTTEST = 263.15, 353.15  # K, ends of the sweep


#: Fuel temperature [K] and the margin there [m of fuel].
SweepPoint = tuple[float, float]


class Inlet(Result):
    """The pump's inlet at its largest flow, absolute pressures. Where the suction line is not described, nothing is known."""

    known: bool
    pressure_pa: float
    vapour_pa: float
    #: The same against the air around: a gauge that shows less stands in vapour.
    boils_below_pa: float
    suction_loss_pa: float
    suction_velocity_m_s: float
    head_m: float
    margin_m: float
    enough_m: float
    hottest_k: float | None
    fuel_k: float
    sweep: list[SweepPoint]


class Suction:
    """From the tank that the pump draws from to its inlet. The tank is the surge tank where there is one, which is vented alike."""

    def __init__(self, build: Build, ambient_pa: float, *, of_lift: bool = False) -> None:
        f, data = build.fuel, fuel_data(build.engine)
        names = f.sections.suction
        if of_lift:
            names = tuple(n for n in f.path[1 : f.path.index("lift")] if n in f.parts)
        self.liquid = pipe.Liquid(data.density, data.viscosity)
        self.section = Section(elements(f, names, data.viscosity), self.liquid)
        self.known = (f.pump.place == "in_tank" and not of_lift) or any(e.run for e in self.section.parts)
        self.ambient_pa = ambient_pa
        self.surface_pa = ambient_pa - f.tank.vent_drop.si
        self.surface_m = f.lift.head.si if f.lift and not of_lift else f.tank.head.si
        self.head_m = self.surface_m - sum(e.rise for e in self.section.parts)
        self.reid = f.tank.reid.si if f.tank.reid else REID[build.engine.season][build.engine.fuel]
        self.hottest = f.tank.hottest.si
        self.alcohol = data.alcohol

    def loss(self, flow: float) -> float:
        """Pressure [Pa] lost on the way, height not counted."""
        return float(self.section.loss(flow))

    def inlet(self, flow: float) -> float:
        """Absolute pressure [Pa] at the pump's inlet: surface + rho g h - losses."""
        return self.surface_pa + pipe.head(self.liquid, self.head_m) - self.loss(flow)

    def by_itself(self) -> float | None:
        """Flow [m3/s] that runs out at the end of the suction line by its own height, the hose off and as low as the pump; None where nothing runs."""
        height = pipe.head(self.liquid, self.head_m) - (self.ambient_pa - self.surface_pa)
        if height <= 0 or not self.section.parts:
            return None

        def left(flow: float) -> float:
            return height - float(self.section.loss(flow))

        high = 1e-5
        while left(high) > 0 and high < 1.0:
            high *= 2
        if left(0.0) <= 0 or left(high) > 0:  # a check valve that its height does not open; nothing that holds it back
            return None
        return float(brentq(left, 0.0, high, xtol=1e-10))

    def margin(self, flow: float) -> float:
        """Inlet over vapour pressure [m of fuel] at a flow [m3/s], at the hottest fuel expected."""
        return self._over(self.inlet(flow), self.hottest)

    def vapour(self, kelvin: float) -> float:
        """Vapour pressure [Pa] of the fuel."""
        return fuel_vapour_pressure(self.reid, kelvin, self.alcohol)

    def _over(self, pressure: float, kelvin: float) -> float:
        return (pressure - self.vapour(kelvin)) / (self.liquid.density * pipe.G)

    def at_inlet(self, flow: float) -> Inlet:
        """All of it at a flow [m3/s], with the margin swept over fuel temperature."""
        pressure, vapour = self.inlet(flow), self.vapour(self.hottest)
        hottest = None
        if self._over(pressure, COLDEST) > 0 > self._over(pressure, HOTTEST):
            hottest = float(brentq(lambda kelvin: self._over(pressure, kelvin), COLDEST, HOTTEST, xtol=0.01))
        elif self._over(pressure, HOTTEST) >= 0:
            hottest = HOTTEST
        kelvins = [COLDEST + k * (HOTTEST - COLDEST) / 18 for k in range(19)]
        return Inlet(
            known=self.known,
            pressure_pa=pressure,
            vapour_pa=vapour,
            boils_below_pa=vapour - self.ambient_pa,
            suction_loss_pa=self.loss(flow),
            suction_velocity_m_s=self.section.fastest(flow),
            head_m=self.head_m,
            margin_m=self._over(pressure, self.hottest),
            enough_m=MARGIN_SOUND,
            hottest_k=hottest,
            fuel_k=self.hottest,
            sweep=[(k, self._over(pressure, k)) for k in kelvins],
        )
