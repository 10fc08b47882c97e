"""How a sentence tells a figure: in the person's own unit, with the usual one behind.

Each takes a worked build and a figure in SI. Which unit that is, and to how many digits, `scales` says.
"""

from __future__ import annotations

from ..given.own import told as as_told
from ..scales import Kind, told
from ..scales import span as told_span
from ..units import Quantity
from ..worked import Worked


def own(w: Worked, kind: Kind, si: float, finer: int = 0) -> str:
    """A value of some kind [SI], with so many digits more."""
    return told(w.build, w.units, kind, si, finer)


def typed(w: Worked, quantity: Quantity) -> str:
    """What somebody typed: as his field shows it, with what stands behind the field behind; as it was typed where nothing does."""
    return as_told(quantity, w.units)


def span(w: Worked, kind: Kind, low: float, high: float) -> str:
    """What lies between two values of some kind [SI]."""
    return told_span(w.build, w.units, kind, low, high)


def pressure(w: Worked, pa: float) -> str:
    """A pressure of the fuel system [Pa]."""
    return own(w, "pressure", pa)


def compression(w: Worked, pa: float) -> str:
    """A compression pressure [Pa]."""
    return own(w, "compression", pa)


def vacuum(w: Worked, pa: float) -> str:
    """A pressure below that of the air [Pa]."""
    return own(w, "vacuum", pa)


def flow(w: Worked, m3_s: float) -> str:
    """A flow of fuel [m3/s]."""
    return own(w, "flow", m3_s)


def power(w: Worked, watts: float) -> str:
    """A power [W]."""
    return own(w, "power", watts)


def heat(w: Worked, kelvin: float) -> str:
    """A temperature of fuel [K]."""
    return own(w, "heat", kelvin)


def injector(w: Worked, kg_s: float) -> str:
    """A flow of one injector [kg/s], in the unit of its own where that is a mass."""
    return own(w, "injector", kg_s)


def manifold(w: Worked, pa: float) -> str:
    """A pressure in the manifold, absolute [Pa]."""
    return own(w, "manifold", pa)


def temperature(w: Worked, kelvin: float) -> str:
    """Any other temperature [K]."""
    return own(w, "temperature", kelvin)


def length(w: Worked, metres: float) -> str:
    """A length to the millimetre [m]."""
    return own(w, "length", metres)


def pitch(w: Worked, metres: float) -> str:
    """A length to a tenth of a millimetre [m]."""
    return own(w, "pitch", metres)


def gap(w: Worked, metres: float) -> str:
    """A length to a hundredth of a millimetre [m]."""
    return own(w, "gap", metres)


def distance(w: Worked, metres: float) -> str:
    """A length to a tenth of a metre [m]."""
    return own(w, "distance", metres)


def velocity(w: Worked, m_s: float) -> str:
    """A speed along a pipe or of a piston [m/s]."""
    return own(w, "velocity", m_s)
