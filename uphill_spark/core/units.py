"""The edge between "58 psi" and pascal. Inside the core everything is SI; only this module converts.

A quantity is a number (decimal, "3/8", "1 1/4", decimal comma allowed) followed by a unit. The unit is parsed
by pint; gauge sizes ("14 AWG"), dash sizes ("-6") and ratios ("9.2:1") are taught here. A comma followed by exactly
three digits groups thousands ("2,597 cc"), any other comma is a decimal comma ("7,9 mm").
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal, get_args

import pint
from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import PydanticCustomError, core_schema

from .errors import UnitError

#: In whose units a person is told: as the fields were written, or one system for everything.
Units = Literal["as_written", "metric", "imperial"]
UNITS: tuple[Units, ...] = get_args(Units)


@dataclass(frozen=True, slots=True)
class Dimension:
    """What a quantity measures: the SI unit held inside, and an example that a person would write."""

    si_unit: str
    example: str


DIMENSIONS: dict[str, Dimension] = {
    "pressure": Dimension("Pa", "43.5 psi"),
    "length": Dimension("m", "3/8 in"),
    "mass": Dimension("kg", "1150 kg"),
    "wire size": Dimension("m**2", "2.5 mm2"),
    "area": Dimension("m**2", "0.7 m2"),
    "volume": Dimension("m**3", "2597 cc"),
    "mass flow": Dimension("kg/s", "150 g/min"),
    "volume flow": Dimension("m**3/s", "120 L/h"),
    "power": Dimension("W", "118 kW"),
    "speed": Dimension("revolution/s", "5200 rpm"),
    "temperature": Dimension("K", "20 degC"),
    "voltage": Dimension("V", "12.4 V"),
    "current": Dimension("A", "7.5 A"),
    "resistance": Dimension("ohm", "0.55 ohm"),
    "inductance": Dimension("H", "3.6 mH"),
    "frequency": Dimension("Hz", "10 kHz"),
    "time": Dimension("s", "0.9 ms"),
    "angle": Dimension("degree", "60 deg"),
    "ratio": Dimension("dimensionless", "9.2:1"),
    "specific consumption": Dimension("kg/J", "0.32 kg/kWh"),
    "density": Dimension("kg/m**3", "750 kg/m3"),
    "velocity": Dimension("m/s", "2.5 m/s"),
    "torque": Dimension("N*m", "190 N*m"),
}

_NUMBER = re.compile(
    r"^\s*(?P<sign>[+-])?\s*(?:(?P<whole>\d{1,9})\s+(?=\d+\s*/))?"
    r"(?P<number>\d{1,12}(?:[.,]\d{1,20})*(?:[eE][+-]?\d{1,3})?|\.\d{1,12})"
    r"(?:\s*/\s*(?P<below>\d{1,6})(?![\d.]))?\s*(?P<unit>.*)$"
)
#: A unit as it may be written: names, each to a power of at most four, over and times one another, one pair of brackets. No tower of powers: such a
#: number would be worked out for ever.
_NAME = r"[A-Za-zµμΩ°%][A-Za-zµμΩ°_0-9]{0,15}(?:(?:\*\*|\^)-?[1-4](?![0-9*^]))?[²³]?"
_TERM = rf"(?:{_NAME}|\({_NAME}(?: ?[*/·] ?{_NAME}){{0,3}}\))"
_UNIT_TEXT = re.compile(rf"{_TERM}(?:(?: ?[*/·.] ?| ){_TERM}){{0,4}}")
_UNIT_LONGEST = 24
_SPELLINGS = {
    '"': "inch", "''": "inch", "”": "inch", "ohms": "ohm", "Ω": "ohm", "kΩ": "kohm", "mΩ": "mohm",
    "sqmm": "mm**2", "mm2": "mm**2", "mm²": "mm**2", "m2": "m**2", "m²": "m**2", "kg/m3": "kg/m**3", "°": "degree", "bhp": "hp", "PS": "metric_horsepower",
    "rev/min": "rpm", "r/min": "rpm", "1/min": "rpm", "lbs/h": "lb/h", "lb/hr": "lb/h", "cc/m": "cc/min", "L/hr": "L/h",
    "l/h": "L/h", "lph": "L/h", "gph": "gal/h", "g/kWh": "g/(kW*h)", "kg/kWh": "kg/(kW*h)", "lb/hp/h": "lb/(hp*h)",
    "amps": "A", "cfm": "ft**3/min", "CFM": "ft**3/min", "m3/min": "m**3/min", "m3/h": "m**3/h", "m3/s": "m**3/s", "l/s": "L/s", "cid": "inch**3", "cu in": "inch**3", "in3": "inch**3", "thou": "mil",
}  # fmt: skip
#: What people write otherwise than a table of units has it, in small letters, by what is measured: capitals tell "mV" from "MV", but nobody types the latter into a
#: field of a car, and many type "PSI", "Bar", "KW".
_FREELY: dict[str, dict[str, str]] = {
    "pressure": {"psi": "psi", "psig": "psi", "lb/in2": "psi", "bar": "bar", "mbar": "mbar", "kpa": "kPa", "hpa": "hPa", "mpa": "MPa", "pa": "Pa", "inhg": "inHg",
                 "in hg": "inHg", "mmhg": "mmHg", "mm hg": "mmHg", "kg/cm2": "kgf/cm**2", "at": "kgf/cm**2", "atm": "atm"},
    "length": {"mm": "mm", "cm": "cm", "m": "m", "um": "um", "in": "inch", "in.": "inch", "inch": "inch", "inches": "inch", "ft": "ft", "ft.": "ft", "feet": "ft", "foot": "ft", "'": "ft", "′": "ft", "thou": "mil"},
    "mass": {"kg": "kg", "kgs": "kg", "g": "g", "lb": "lb", "lbs": "lb", "lb.": "lb", "t": "tonne"},
    "wire size": {"mm2": "mm**2", "mm²": "mm**2", "sqmm": "mm**2", "sq mm": "mm**2", "qmm": "mm**2", "sq.mm": "mm**2", "mm^2": "mm**2"},
    "area": {"m2": "m**2", "m²": "m**2", "sq m": "m**2", "sq ft": "ft**2", "ft2": "ft**2"},
    "volume": {"cc": "cm**3", "ccm": "cm**3", "cm3": "cm**3", "cm³": "cm**3", "l": "L", "ltr": "L", "litre": "L", "litres": "L", "liter": "L", "liters": "L", "ml": "mL",
               "ci": "inch**3", "cid": "inch**3", "cui": "inch**3", "cu in": "inch**3", "cu.in": "inch**3", "cu.in.": "inch**3", "in3": "inch**3", "in³": "inch**3", "gal": "gal", "gallon": "gal", "gallons": "gal"},
    "mass flow": {"g/min": "g/min", "kg/h": "kg/h", "lb/h": "lb/h", "lb/hr": "lb/h", "lbs/hr": "lb/h", "lbs/h": "lb/h", "pph": "lb/h", "g/s": "g/s"},
    "volume flow": {"l/h": "L/h", "l/hr": "L/h", "lph": "L/h", "l/min": "L/min", "lpm": "L/min", "cc/min": "cm**3/min", "ccm/min": "cm**3/min", "cc/m": "cm**3/min", "ml/min": "mL/min",
                    "gph": "gal/h", "gal/h": "gal/h", "gal/hr": "gal/h", "gpm": "gal/min", "cfm": "ft**3/min", "m3/h": "m**3/h", "m3/min": "m**3/min"},
    "power": {"kw": "kW", "w": "W", "hp": "hp", "bhp": "hp", "whp": "hp", "ps": "metric_horsepower", "cv": "metric_horsepower", "pk": "metric_horsepower"},
    "speed": {"rpm": "rpm", "r/min": "rpm", "rev/min": "rpm", "revs": "rpm", "1/min": "rpm", "u/min": "rpm", "r.p.m.": "rpm"},
    "temperature": {"c": "degC", "°c": "degC", "degc": "degC", "deg c": "degC", "celsius": "degC", "f": "degF", "°f": "degF", "degf": "degF", "deg f": "degF", "fahrenheit": "degF", "k": "kelvin"},
    "voltage": {"v": "V", "volt": "V", "volts": "V", "mv": "mV", "vdc": "V", "v dc": "V"},
    "current": {"a": "A", "amp": "A", "amps": "A", "ampere": "A", "amperes": "A", "ma": "mA"},
    "resistance": {"ohm": "ohm", "ohms": "ohm", "ω": "ohm", "r": "ohm", "kohm": "kohm", "kohms": "kohm", "k": "kohm", "kω": "kohm", "mohm": "mohm", "mω": "mohm"},
    "inductance": {"h": "H", "mh": "mH", "uh": "uH", "µh": "uH"},
    "frequency": {"hz": "Hz", "khz": "kHz"},
    "time": {"s": "s", "sec": "s", "secs": "s", "seconds": "s", "ms": "ms", "msec": "ms", "min": "min", "us": "us", "µs": "us"},
    "angle": {"deg": "degree", "degs": "degree", "degree": "degree", "degrees": "degree", "°": "degree"},
    "specific consumption": {"kg/kwh": "kg/(kW*h)", "g/kwh": "g/(kW*h)", "lb/hph": "lb/(hp*h)", "lb/hp h": "lb/(hp*h)", "lb/hp/h": "lb/(hp*h)", "lb/hp-hr": "lb/(hp*h)"},
    "density": {"kg/m3": "kg/m**3", "kg/l": "kg/L", "g/cc": "g/cm**3"},
    "torque": {"nm": "N*m", "n m": "N*m", "n·m": "N*m", "n*m": "N*m", "lb ft": "lbf*ft", "lbft": "lbf*ft", "lb-ft": "lbf*ft", "ft lb": "lbf*ft", "ft-lb": "lbf*ft", "lbf*ft": "lbf*ft"},
    "velocity": {"m/s": "m/s", "km/h": "km/h", "kmh": "km/h", "kph": "km/h", "mph": "mph", "ft/s": "ft/s"},
}  # fmt: skip
_DEGREES = {"C": "degC", "°C": "degC", "degC": "degC", "F": "degF", "°F": "degF", "degF": "degF", "K": "kelvin"}
#: Inside diameter of hose by dash size, m (SAE J517, hose 100R14).
DASH_BORES = {3: 0.0032, 4: 0.0048, 5: 0.0064, 6: 0.0079, 8: 0.0103, 10: 0.0127, 12: 0.0159}
#: Wire gauge: "16 AWG", "AWG16", "16 ga", "#16". Dash size: "-6", "-6 AN", "AN6", "#6". Feet, and inches behind them: 13', 5' 6".
_GAUGE = re.compile(
    r"(?:(?P<before>\d{1,2})\s*(?:awg|ga|ga\.|gauge)|(?:awg|#)\s*(?P<after>\d{1,2})(?:\s*(?:awg|ga|gauge))?)", re.IGNORECASE
)
_DASH = re.compile(
    r"(?:(?:dash\s*)?-\s*(?P<plain>\d{1,2})|(?:dash\s*)?-?\s*(?P<before>\d{1,2})\s*an|(?:an\s*-?\s*|#\s*)(?P<after>\d{1,2}))", re.IGNORECASE
)
_FEET = re.compile(
    r"(?P<feet>\d{1,4})\s*(?:'|′|ft\.?|feet)\s*(?:(?P<inches>\d{1,2}(?:[.,]\d{1,3})?)\s*(?:\"|″|''|in\.?|inch(?:es)?))?", re.IGNORECASE
)
#: A number that is written as a fraction.
_FRACTION = re.compile(r"\s*(?:\d{1,9}\s+)?\d{1,9}\s*/\s*\d{1,6}\s*")


def is_fraction(text: str) -> bool:
    """Whether a number is written as a fraction: of a length that means inches."""
    return bool(_FRACTION.fullmatch(text))


@lru_cache(maxsize=1)
def _registry() -> pint.UnitRegistry[Any]:
    return pint.UnitRegistry(autoconvert_offset_to_baseunit=True, cache_folder=None)


@lru_cache(maxsize=1024)
def _linear(unit: str, dimension: str) -> tuple[float, float]:
    """Scale and offset that take a number in `unit` to SI: si = scale * number + offset."""
    registry = _registry()
    target = DIMENSIONS[dimension].si_unit
    try:
        parsed = registry.parse_units(unit)
        zero = registry.Quantity(0.0, parsed).to(target).magnitude
        one = registry.Quantity(1.0, parsed).to(target).magnitude
    except pint.DimensionalityError as error:
        raise UnitError(f"{unit!r} does not measure {dimension}; write it like {DIMENSIONS[dimension].example!r}") from error
    except Exception as error:  # pint raises many kinds for a unit that it does not know
        raise UnitError(f"unit {unit!r} is not known; write it like {DIMENSIONS[dimension].example!r}") from error
    if dimension == "speed" and "revolution" not in f"{parsed:P}" and "rpm" not in f"{parsed:P}":
        raise UnitError(f"{unit!r} is not a speed of rotation; write it like '5200 rpm'")
    return float(one - zero), float(zero)


def _awg_area(gauge: int) -> float:
    """Conductor area in m2 of an American wire gauge number (ASTM B258: d = 0.127 mm * 92^((36-n)/39))."""
    diameter = 0.127e-3 * math.pow(92, (36 - gauge) / 39)
    return math.pi * diameter**2 / 4


def _number(text: str) -> tuple[float, str]:
    match = _NUMBER.match(text)
    if match is None:
        raise UnitError("no number found")
    raw = match["number"]
    grouped = re.fullmatch(r"[1-9]\d{0,2}(,\d{3})+(\.\d+)?", raw)
    raw = raw.replace(",", "") if grouped else raw.replace(",", ".")
    if raw.count(".") > 1:
        raise UnitError(f"{match['number']!r} is not a number")
    value = float(raw)
    if match["below"]:
        below = int(match["below"])
        if below == 0:
            raise UnitError("a fraction over zero is not a number")
        value /= below
    value += int(match["whole"] or 0)
    if not math.isfinite(value):
        raise UnitError("the number is not finite")
    return (-value if match["sign"] == "-" else value), match["unit"].strip()


def number(text: str) -> float:
    """A bare number [-]: decimal, fraction, decimal comma. Raises UnitError for anything else."""
    value, unit = _number(text.strip())
    if unit:
        raise UnitError(f"{text!r} is more than a number")
    return value


def signed(text: str, *units: str) -> float:
    """A number [-] that may stand under nought, with one of some units behind it or none. Raises UnitError."""
    bare = text.strip()
    for unit in units:
        if unit and bare.endswith(unit):
            bare = bare.removesuffix(unit).strip()
            break
    minus = bare[:1] in ("-", "−")
    value = number(bare.lstrip("+-−").strip())
    return -value if minus else value


def bare_number(text: str, *, signed: bool = False) -> bool:
    """Whether a text is a number and nothing more: its unit has still to be told. A dash size ("-6") is no number where nothing is below nought."""
    stripped = text.strip()
    if not signed and re.fullmatch(r"[-#]\s*\d{1,2}", stripped):
        return False
    try:
        number(stripped)
    except UnitError:
        return False
    return True


@lru_cache(maxsize=8192)
def unit_of(text: str) -> str:
    """The unit that a quantity is written in, as written; empty where there is none."""
    match = _NUMBER.match(text)
    return match["unit"].strip() if match and not text.lstrip().startswith("-") and ":" not in text and " to " not in text else ""


@lru_cache(maxsize=8192)
def si(text: str, dimension: str) -> float:
    """The SI value of a written quantity.

    >>> round(si("43.5 psi", "pressure"))
    299922
    >>> round(si("3/8 in", "length"), 6)
    0.009525
    >>> round(si("14 AWG", "wire size") * 1e6, 2)
    2.08

    Raises UnitError with what would do when the text cannot be read as `dimension`.
    """
    example = DIMENSIONS[dimension].example
    if len(text) > 60:
        raise UnitError(f"too long to be a quantity; write it like {example!r}")
    stripped = text.strip()
    if dimension == "ratio":
        share = re.fullmatch(r"(-?\d{1,6}(?:[.,]\d{1,9})?)\s*%", stripped)
        if share:
            return float(share[1].replace(",", ".")) / 100
        match = re.fullmatch(r"(?:1\s*(?::|to)\s*)?(\d{1,6}(?:[.,]\d{1,9})?)(?:\s*(?::|to)\s*1)?", stripped, re.IGNORECASE)
        if match is None:
            raise UnitError(f"not a ratio; write it like {example!r}")
        return float(match[1].replace(",", "."))
    if dimension == "wire size" and (gauge := _GAUGE.fullmatch(stripped)):
        return _awg_area(int(gauge["before"] or gauge["after"]))
    if dimension == "length" and (dash := _DASH.fullmatch(stripped)):
        size = int(dash["plain"] or dash["before"] or dash["after"])
        if size in DASH_BORES:
            return DASH_BORES[size]
        raise UnitError(f"dash size -{size} is not known; known are {', '.join(f'-{n}' for n in DASH_BORES)}")
    if dimension == "length" and (feet := _FEET.fullmatch(stripped)):
        return int(feet["feet"]) * 0.3048 + (float(feet["inches"].replace(",", ".")) * 0.0254 if feet["inches"] else 0.0)
    try:
        number, unit = _number(stripped)
    except UnitError as error:
        raise UnitError(f"{error}; write it like {example!r}") from None
    if not unit:
        raise UnitError(f"the unit is missing; write it like {example!r}")
    scale, offset = _linear(_unit(unit, dimension), dimension)
    return number * scale + offset


def _unit(unit: str, dimension: str) -> str:
    """A unit as it was written, as the table of units has it: as it stands where that measures the dimension, else without regard to capitals. Raises UnitError."""
    exact = _DEGREES.get(unit, unit) if dimension == "temperature" else _SPELLINGS.get(unit, unit)
    freely = _FREELY.get(dimension, {}).get(" ".join(unit.lower().split()))
    if freely is not None and unit.isupper():
        return freely  # all in capitals: a locked key, no megahenry
    if len(exact) <= _UNIT_LONGEST and _UNIT_TEXT.fullmatch(exact):
        try:
            _linear(exact, dimension)
            return exact
        except UnitError:
            if freely is None:
                raise
    if freely is None:
        raise UnitError(f"unit {unit!r} is not known; write it like {DIMENSIONS[dimension].example!r}")
    return freely


#: Turns in one of each angular unit: angles are carried in degrees, speeds of rotation in turns a second, never in radians.
_TURNS = {"deg": 1 / 360, "degree": 1 / 360, "rad": 1 / math.tau, "radian": 1 / math.tau, "turn": 1.0, "revolution": 1.0}
_ANGLES = {unit: 360 * turns for unit, turns in _TURNS.items()}  # degrees
_ROTATION = {"rpm": 1 / 60, "rev/s": 1.0, "revolution/s": 1.0, "Hz": 1.0}  # turns a second


@lru_cache(maxsize=256)
def _output(unit: str) -> tuple[float, float]:
    if unit in _ANGLES:
        return _ANGLES[unit], 0.0
    if unit in _ROTATION:
        return _ROTATION[unit], 0.0
    registry = _registry()
    target = registry.parse_units(unit)
    base = registry.Quantity(1.0, target).to_base_units().units
    if "radian" in f"{base:P}":
        raise UnitError(f"{unit!r} is an angular unit that is not shown here; known are {', '.join((*_ANGLES, *_ROTATION))}")
    zero = registry.Quantity(0.0, target).to(base).magnitude
    one = registry.Quantity(1.0, target).to(base).magnitude
    return float(one - zero), float(zero)


def from_si(value: float, unit: str) -> float:
    """An SI value expressed in `unit`, for showing and sending ("1" is dimensionless).

    >>> round(from_si(101325.0, "kPa"), 3)
    101.325
    """
    if unit == "1":
        return value
    scale, offset = _output(unit)
    return (value - offset) / scale


def to_si(value: float, unit: str) -> float:
    """A value [`unit`] as it is inside [SI]: the other way round of `from_si`."""
    if unit == "1":
        return value
    scale, offset = _output(unit)
    return value * scale + offset


#: Units in which a quantity is written that nobody wrote, where the SI unit itself is not what people write.
_WRITTEN_IN = {"m**2": "mm**2", "revolution/s": "rpm"}


def written(value: float, dimension: str) -> str:
    """A quantity [SI] as text that reads back as it was: for values that no person wrote."""
    unit = _WRITTEN_IN.get(DIMENSIONS[dimension].si_unit, DIMENSIONS[dimension].si_unit)
    return f"{value:.9g}" if unit == "dimensionless" else f"{from_si(value, unit):.12g} {unit}"


class Quantity(str):
    """A quantity as the person wrote it, with its SI value beside it."""

    si: float
    __slots__ = ("si",)

    def __new__(cls, text: str, value: float) -> Quantity:
        quantity = super().__new__(cls, text)
        quantity.si = value
        return quantity

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        """Written out as its text. Reading needs the dimension, which `Of` beside the type gives."""
        return core_schema.any_schema(serialization=core_schema.to_string_ser_schema())

    def __reduce__(self) -> tuple[type[Quantity], tuple[str, float]]:
        return Quantity, (str(self), self.si)


def _in_unit(bound: str, typed: str, dimension: str) -> str:
    """A bound in the unit that was typed, four digits, the bound's own words where that is its unit or has none."""
    unit = unit_of(typed)
    if not unit or dimension in ("ratio", "wire size") or unit == unit_of(bound):
        return bound
    scale, offset = _linear(_unit(unit, dimension), dimension)
    return f"{(si(bound, dimension) - offset) / scale:.4g} {unit}"


def both(value: float, unit: str, own: str, digits: int = 0) -> str:
    """A figure [SI] as a sentence tells it: in the owner's unit, with the usual `unit` behind, to so many digits; in `unit` alone where they agree.

    >>> both(299922.0, "kPa", "psi")
    '43.5 psi (300 kPa)'
    >>> both(3e5, "kPa", "kPa")
    '300 kPa'
    """
    plain = f"{from_si(value, unit):.{digits}f} {printed(unit)}"
    if not own or not fitting(unit, own) or from_si(1.0, unit) == from_si(1.0, own):
        return plain
    return f"{told_in(value, own)} ({plain})"


#: Units as people write them, where a table of units has them otherwise.
_PRINTED = {
    "degC": "°C", "degF": "°F", "inch": "in", "inch**3": "cu in", "ft**3/min": "cfm", "m**3/h": "m³/h", "cm**3": "cc", "lb/(hp*h)": "lb/hph", "kg/(kW*h)": "kg/kWh", "metric_horsepower": "PS", "N*m": "N m", "lbf*ft": "lb ft",
}  # fmt: skip


def printed(unit: str) -> str:
    """A unit as a person writes it."""
    return _PRINTED.get(unit, unit)


def told_in(value: float, unit: str) -> str:
    """A value [SI] in a unit, to three digits, or all before the point where there are more."""
    number = from_si(value, unit)
    return f"{number:.3g} {printed(unit)}" if abs(number) < 1000 else f"{number:.0f} {printed(unit)}"


@lru_cache(maxsize=1024)
def canonical(unit: str) -> str:
    """A unit as the table of units has it, however it was written; empty where nobody knows it."""
    exact = _DEGREES.get(unit) or _SPELLINGS.get(unit, unit)
    if exact and len(exact) <= _UNIT_LONGEST and _UNIT_TEXT.fullmatch(exact):
        try:
            _registry().parse_units(exact)
            return _SHORT.get(exact, exact)
        except Exception:  # pint raises many kinds for a unit that it does not know
            pass
    folded = " ".join(unit.lower().split())
    return next((_SHORT.get(table[folded], table[folded]) for table in _FREELY.values() if folded in table), "")


_SHORT = {"inch": "in", "cc": "cm**3", "litre": "L", "l": "L", "lb/hph": "lb/(hp*h)"}


@lru_cache(maxsize=256)
def fitting(one: str, other: str) -> bool:
    """Whether two units measure the same kind of thing."""
    return bool(_registry().Unit(one).is_compatible_with(other))


@dataclass(frozen=True, slots=True)
class Of:
    """Annotation that makes a string field a quantity: its dimension and the bounds that are believable.

    `Annotated[Quantity, Of("length", "1 mm", "100 mm")]`
    """

    dimension: str
    at_least: str
    at_most: str
    example: str = ""

    def _parse(self, text: str) -> Quantity:
        example = self.example or DIMENSIONS[self.dimension].example
        try:
            value = si(text, self.dimension)
        except UnitError as error:
            raise PydanticCustomError(
                "quantity", "{why}", {"why": str(error).replace(DIMENSIONS[self.dimension].example, example)}
            ) from error
        low, high = si(self.at_least, self.dimension), si(self.at_most, self.dimension)
        slack = 1e-9 * max(abs(low), abs(high))
        if not low - slack <= value <= high + slack:
            raise PydanticCustomError(
                "quantity_range",
                "between {low} and {high} is believable here; write it like {example}",
                {
                    "low": _in_unit(self.at_least, text, self.dimension),
                    "high": _in_unit(self.at_most, text, self.dimension),
                    "example": repr(example),
                },
            )
        return Quantity(text, value)

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        return core_schema.no_info_after_validator_function(
            self._parse,
            core_schema.str_schema(strict=True),
            serialization=core_schema.to_string_ser_schema(),
        )

    def __get_pydantic_json_schema__(self, schema: core_schema.CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return {
            "type": "string",
            "maxLength": 60,
            "x-dimension": self.dimension,
            "x-at-least": self.at_least,
            "x-at-most": self.at_most,
            "examples": [self.example or DIMENSIONS[self.dimension].example],
        }
