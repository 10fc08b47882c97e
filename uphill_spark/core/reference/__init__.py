"""Data with sources: read once, checked as it is read, handed out as frozen records. Files here are part of the package."""

from __future__ import annotations

import tomllib
from functools import lru_cache
from importlib import resources
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, TypeAdapter


class Entry(BaseModel):
    """A row of reference data: frozen, checked when it is read."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class FuelData(Entry):
    """Density at 15 C [kg/m3], stoichiometric ratio [-], viscosity at 20 C [Pa s], usual BSFC at full power [kg/J], alcohol share [-]."""

    label: str
    density: float
    stoich: float
    viscosity: float
    alcohol: float


class LineData(Entry):
    """Roughness [m], working pressure [Pa] (None: wall decides, not the class), whether it may stand pressure, highest alcohol share [-]."""

    label: str
    roughness: float
    working_pressure: float | None
    pressure_side: bool
    alcohol: float
    why: str


class WireData(Entry):
    """Conductor area [m2] and outside diameter over insulation [m]."""

    area: float
    outside: float


class PinData(Entry):
    """A kind of pin on a control unit, the connector names of those pins, and the current it may carry [A]."""

    kind: str
    pins: list[str]
    limit: float


class ProfileData(Entry):
    """A control unit by what it can do."""

    label: str
    note: str
    pins: list[PinData]


def _table(file: str) -> dict[str, Any]:
    return tomllib.loads(resources.files(__name__).joinpath(file).read_text("utf-8"))


@lru_cache(maxsize=1)
def fuels() -> dict[str, FuelData]:
    """Fuels by their short name."""
    return TypeAdapter(dict[str, FuelData]).validate_python(_table("fuels.toml")["fuel"])


@lru_cache(maxsize=1)
def lines() -> dict[str, LineData]:
    """Tube and hose classes."""
    return TypeAdapter(dict[str, LineData]).validate_python(_table("lines.toml")["line"])


@lru_cache(maxsize=1)
def fittings() -> dict[str, float]:
    """Loss coefficient [-] of each kind of fitting, on its own bore."""
    return TypeAdapter(dict[str, float]).validate_python(_table("lines.toml")["loss_coefficient"])


@lru_cache(maxsize=1)
def tube_bores() -> list[float]:
    """Bores [m] as fuel tube is sold, small to large."""
    return TypeAdapter(list[float]).validate_python(_table("lines.toml")["bores"])


@lru_cache(maxsize=1)
def contacts() -> dict[str, float]:
    """Resistance [ohm] of each kind of contact."""
    return TypeAdapter(dict[str, float]).validate_python(_table("wires.toml")["contact"])


@lru_cache(maxsize=1)
def wires() -> list[WireData]:
    """Standard conductor sizes, small to large."""
    return TypeAdapter(list[WireData]).validate_python(_table("wires.toml")["wire"])


@lru_cache(maxsize=1)
def fuses() -> list[float]:
    """Standard blade fuse values [A]."""
    return TypeAdapter(list[float]).validate_python(_table("wires.toml")["fuses"])


@lru_cache(maxsize=1)
def zones() -> dict[str, float]:
    """Ambient temperature [K] of each zone of the car."""
    return TypeAdapter(dict[str, float]).validate_python(_table("wires.toml")["zone"])


@lru_cache(maxsize=1)
def profiles() -> dict[str, ProfileData]:
    """Generic control units."""
    return TypeAdapter(dict[str, ProfileData]).validate_python(_table("control_units.toml")["unit"])


class PumpData(Entry):
    """A generic pump: Q = a V - b P - c [L/h, V, kPa], I = d + e P [A]."""

    name: str
    a: float
    b: float
    c: float
    d: float
    e: float

    def table(
        self, volts: tuple[float, ...] = (10.0, 12.0, 13.5), kpa: tuple[float, ...] = (0.0, 200.0, 300.0, 400.0)
    ) -> list[dict[str, str]]:
        """Its sheet, as rows of the build document; rows without flow are left out."""
        rows = [(v, p, self.a * v - self.b * p - self.c, self.d + self.e * p) for v in volts for p in kpa]
        return [
            {"voltage": f"{v:g} V", "pressure": f"{p:g} kPa", "flow": f"{q:.1f} L/h", "current": f"{i:.3f} A"}
            for v, p, q, i in rows
            if q > 0
        ]


@lru_cache(maxsize=1)
def pumps() -> list[PumpData]:
    """Generic pumps, small to large."""
    return TypeAdapter(list[PumpData]).validate_python(_table("pumps.toml")["pump"])


class FaultData(Entry):
    """A fault of an engine: chance before anything is known, chance of each sign when it is there, and the mend."""

    label: str
    before: float
    mend: str
    shows: dict[str, float]


class FaultTest(Entry):
    """What a person can do to see signs; hours that it takes."""

    label: str
    how: str
    hours: float
    signs: list[str]


class EngineFaults(Entry):
    """Faults, how often each sign comes without any of them, and the tests."""

    fault: dict[str, FaultData]
    anyway: dict[str, float]
    test: dict[str, FaultTest]


@lru_cache(maxsize=1)
def engine_faults() -> EngineFaults:
    """Faults of a tired engine and how they show."""
    return EngineFaults.model_validate(_table("engine_faults.toml"))


class LoadData(Entry):
    """How a thing draws: its law, amps at SYSTEM volts, volts under which a constant current falls away."""

    label: str
    law: Literal["constant", "resistance", "pump", "injectors", "coils"]
    amps: float = 0.0
    knee: float = 0.0


class SensorData(Entry):
    """How a sensor is wired: kind of input, whether it takes 5 V, or 12 V, and a ground of its own, its place, noise class, ohms between its terminals."""

    input: Literal["thermistor", "analogue", "crank_input", "cam_input"]
    five_volt: bool
    twelve_volt: bool = False
    ground: bool
    place: str
    noise: str
    ohms: float


class InputData(Entry):
    """Resistors inside the control unit at an input [ohm]: up to its 5 V, down to its ground."""

    up: float | None = None
    down: float | None = None


class Devices(Entry):
    """Loads, joints [ohm], sensors and inputs of the harness."""

    revision: str
    load: dict[str, LoadData]
    joint: dict[str, float]
    sensor: dict[str, SensorData]
    input: dict[str, InputData]


@lru_cache(maxsize=1)
def devices() -> Devices:
    """What hangs on the harness."""
    return Devices.model_validate(_table("devices.toml"))


class FiringOrder(Entry):
    """A usual firing order of an arrangement, and the banks, front to back, as the cylinders are then numbered; no banks in line."""

    arrangement: Literal["inline", "vee", "flat"]
    order: list[int]
    banks: list[list[int]] | None = None


@lru_cache(maxsize=1)
def firing_orders() -> list[FiringOrder]:
    """Usual firing orders, the most usual of an arrangement and a number of cylinders first."""
    return TypeAdapter(list[FiringOrder]).validate_python(_table("firing_orders.toml")["order"])


class WordData(Entry):
    """A word of the field: how it stands in a text, what it means in two lines, its picture."""

    title: str
    forms: list[str]
    says: str
    picture: str


class PictureData(Entry):
    """A picture as paths in a frame of 120 by 60: in ink, in broken line, filled."""

    line: str
    thin: str
    solid: str


class Words(Entry):
    """Words of the field by key, and their pictures."""

    words: dict[str, WordData]
    pictures: dict[str, PictureData]


@lru_cache(maxsize=1)
def words() -> Words:
    """Words of the field that a newcomer may not know."""
    return Words.model_validate(_table("words.toml"))


class CarFaultData(Entry):
    """A fault of a converted car: its group, how hard it is to find (1 to 4), its words, the look that settles it, the looks that it must move, its mend with minutes and money."""

    group: str
    level: int
    words: str
    settles: str
    claims: list[str]
    mend: str
    minutes: float
    money: float


class LookData(Entry):
    """A look at a car: the step of the first start, words, how, minutes; of a figure its unit and how far it may be off; of words the answers, the first of which is a sound car's; a caution."""

    step: int
    words: str
    how: str
    minutes: float
    runs: bool = False
    unit: str = ""
    doubt: float = 0.0
    share: float = 0.0
    answers: dict[str, str] = {}
    caution: str = ""

    @property
    def sound(self) -> str:
        """The answer of a sound car, where answers are words."""
        return next(iter(self.answers), "")


@lru_cache(maxsize=1)
def car_faults() -> dict[str, CarFaultData]:
    """Faults of a converted car by their key."""
    return TypeAdapter(dict[str, CarFaultData]).validate_python(_table("faults.toml"))


@lru_cache(maxsize=1)
def looks() -> dict[str, LookData]:
    """Looks at a car by their key."""
    return TypeAdapter(dict[str, LookData]).validate_python(_table("looks.toml"))


class TaskData(Entry):
    """A usual piece of work: hours [h] and days at a shop (least, usual, most), where, the car after it, what must be done before (`after`: only where it is done at all), what closes it, cautions, and where it is entered.

    `parts`: nothing begins before its parts are there. `offered`: only there once a person takes it in.
    """

    what: str
    hours: tuple[float, float, float]
    where: Literal["bay", "under", "bench", "cabin", "desk", "shop", "road"]
    access: Literal["drivable", "standing", "engine_out"]
    needs: list[str] = []
    after: list[str] = []
    shop: tuple[float, float, float] = (0.0, 0.0, 0.0)
    parts: bool = False
    work: Literal["plain", "fuel", "hot"] = "plain"
    helper: bool = False
    offered: bool = False
    proof: str
    cautions: list[str]
    station: str
    bench: str


@lru_cache(maxsize=1)
def tasks() -> dict[str, TaskData]:
    """Usual pieces of work by their key, in the order of work."""
    return TypeAdapter(dict[str, TaskData]).validate_python(_table("tasks.toml"))
