"""How a sentence tells a figure: in the unit in which the owner typed the field nearest to it, with the usual one behind.

Each takes a worked build and a figure in SI. An owner who thinks in psi types his regulator so; nobody is asked twice.
"""

from __future__ import annotations

from ..units import both
from ..worked import Worked


def pressure(w: Worked, pa: float) -> str:
    """A pressure of the fuel system [Pa], as the regulator's was typed."""
    return both(pa, "kPa", w.build.fuel.regulator.set_pressure)


def flow(w: Worked, m3_s: float) -> str:
    """A flow of fuel [m3/s], as the pump's table has it."""
    return both(m3_s, "L/h", next((row.flow for row in w.build.fuel.pump.curve), None))


def power(w: Worked, watts: float) -> str:
    """A power [W], as the target was typed."""
    return both(watts, "kW", w.build.engine.power)


def heat(w: Worked, kelvin: float) -> str:
    """A temperature of fuel [K], as the hottest was typed."""
    return both(kelvin, "degC", w.build.fuel.tank.hottest)


def injector(w: Worked, kg_s: float) -> str:
    """A flow of one injector [kg/s], as its own was typed where that was a mass."""
    return both(kg_s, "g/min", w.build.injectors.flow)
