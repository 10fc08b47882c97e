"""How a sentence tells a figure: in the person's own unit, with the usual one behind.

Each takes a worked build and a figure in SI. Which unit that is, `given.own` says.
"""

from __future__ import annotations

from ..given.own import unit_of_figure
from ..units import both
from ..worked import Worked


def _told(w: Worked, value: float, unit: str, name: str) -> str:
    return both(value, unit, unit_of_figure(w.build, w.units, name, unit))


def pressure(w: Worked, pa: float) -> str:
    """A pressure of the fuel system [Pa]."""
    return _told(w, pa, "kPa", "fuel.")


def compression(w: Worked, pa: float) -> str:
    """A compression pressure [Pa]."""
    return _told(w, pa, "kPa", "engine.compression")


def vacuum(w: Worked, pa: float) -> str:
    """A pressure below that of the air [Pa]."""
    return _told(w, pa, "kPa", "engine.vacuum")


def flow(w: Worked, m3_s: float) -> str:
    """A flow of fuel [m3/s]."""
    return _told(w, m3_s, "L/h", "fuel.")


def power(w: Worked, watts: float) -> str:
    """A power [W]."""
    return _told(w, watts, "kW", "engine.")


def heat(w: Worked, kelvin: float) -> str:
    """A temperature of fuel [K]."""
    return _told(w, kelvin, "degC", "fuel.")


def injector(w: Worked, kg_s: float) -> str:
    """A flow of one injector [kg/s], in the unit of its own where that is a mass."""
    return _told(w, kg_s, "g/min", "injectors.")
