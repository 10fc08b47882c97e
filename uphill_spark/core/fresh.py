"""A new build from five answers: layout, cylinders, displacement, power, fuel. All the rest is filled in pencil."""

from __future__ import annotations

import math
from typing import Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator

from .errors import BuildError
from .given import FORMAT, VERSION, parse
from .given.base import Cylinder, Name
from .given.document import problem_of
from .given.engine import Displacement, Layout, Power, unlikely_cylinder, usual_order
from .given.engine import Fuel as FuelName
from .reference import fuels, pumps
from .stages.engine import BSFC_PETROL
from .units import bare_number


class Answers(BaseModel):
    """The five questions, and what to call the car."""

    model_config = ConfigDict(extra="forbid")

    name: Name = Field(title="Name of the car")
    layout: Layout = Field(title="Where will the injectors sit?")
    cylinders: Cylinder = Field(title="How many cylinders?")
    displacement: Displacement = Field(title="Displacement")
    power: Power = Field(title="Power wanted")
    fuel: FuelName = Field(title="Fuel")

    @model_validator(mode="after")
    def _believable(self) -> Answers:
        if wrong := unlikely_cylinder(self.displacement, self.cylinders):
            raise ValueError(wrong)
        return self


#: What a new build assumes: everything but the answers.
_PENCILLED = (
    "/engine/arrangement", "/engine/stroke", "/engine/compression_ratio", "/engine/firing_order", "/engine/valve_train", "/engine/chamber", "/engine/cam",
    "/engine/idle_speed", "/engine/power_speed", "/engine/rev_limit", "/engine/altitude", "/engine/bsfc",
    "/fuel/design_margin", "/fuel/tank", "/fuel/pump", "/fuel/regulator", "/fuel/path", "/fuel/parts",
    "/injectors/name", "/injectors/count", "/injectors/flow", "/injectors/rated_at", "/injectors/fluid", "/injectors/resistance", "/injectors/driver",
    "/injectors/driver_limit", "/injectors/per_driver", "/injectors/firing", "/injectors/duty_limit", "/injectors/dead_time",
    "/sensors/trigger", "/ignition/kind", "/ignition/speed_signal", "/ignition/timed_by_unit", "/ignition/advance", "/ignition/coil",
    "/wiring/profile", "/wiring/nodes", "/wiring/branches", "/wiring/feed/taken_from", "/wiring/feed/fuse_distance",
    "/tune/idle_lambda", "/tune/cruise_lambda", "/tune/full_lambda",
)  # fmt: skip


def answers(given: Any) -> Answers:
    """The answers, checked. Raises BuildError naming each."""
    try:
        return Answers.model_validate(_with_units(given))
    except ValidationError as error:
        raise BuildError("Some answers cannot be taken.", tuple(problem_of(e) for e in error.errors(include_url=False))) from error


def _with_units(given: Any) -> Any:
    """Answers as they were typed: a bare number takes the unit of the field's example."""
    if not isinstance(given, dict):
        return given
    units = {"displacement": "cc", "power": "kW"}
    return {
        key: f"{value.strip()} {units[key]}" if key in units and isinstance(value, str) and bare_number(value) else value
        for key, value in given.items()
    }


def new_document(given: Any) -> dict[str, Any]:
    """A complete build document from the five answers; every other value is marked as assumed."""
    a = answers(given)
    itb, body, timed = a.layout == "individual_throttles", a.layout == "throttle_body", a.layout != "throttle_body"
    n = a.cylinders
    power_rpm = 7000 if itb else 5200
    data = fuels()[a.fuel]
    fuel_kg_s = a.power.si * BSFC_PETROL * fuels()["E0"].stoich / data.stoich
    need_l_h = fuel_kg_s / data.density * 3.6e6
    pump = next((p for p in pumps() if p.a * 13.3 - p.b * 330 - p.c >= 1.4 * need_l_h), pumps()[-1])
    each = fuel_kg_s * 6e4 / n / 0.70
    square = (4 * a.displacement.si / n / math.pi) ** (1 / 3) * 1e3
    profile = "throttle_body_unit" if body else "small_4" if n <= 4 else "medium_8"
    line = {
        "kind": "run",
        "material": "steel_tube",
        "bore": "7.9 mm" if need_l_h < 120 else "9.5 mm",
        "fittings": _fittings(),
        "exhaust_distance": "150 mm",
    }
    document: dict[str, Any] = {
        "format": FORMAT,
        "version": VERSION,
        "name": a.name,
        "engine": {
            "layout": a.layout, "arrangement": "vee" if n in (8, 10, 12) else "inline", "cylinders": n, "displacement": str(a.displacement), "stroke": f"{square:.1f} mm",
            "compression_ratio": "9:1", "firing_order": usual_order(n), "valve_train": "two_valve_overhead_cam" if itb else "two_valve_pushrod",
            "chamber": "hemispherical" if itb else "wedge", "cam": "sport" if itb else "touring", "idle_speed": "1000 rpm" if itb else "800 rpm", "power": str(a.power),
            "power_speed": f"{power_rpm} rpm", "rev_limit": f"{power_rpm * 1.1:.0f} rpm", "altitude": "0 m", "fuel": a.fuel,
        },
        "fuel": {
            "tank": {"head": "0.1 m", "vent_drop": "0.5 kPa", "volume": "60 L", "hottest": "45 degC", "return_enters": "below_fuel"},
            "pump": {"name": pump.name, "place": "in_tank", "control": "control_unit", "curve": pump.table()},
            "regulator": {"set_pressure": "300 kPa", "reference": "open_air" if body else "manifold"},
            "path": ["tank", "strainer", "pump", "filter", "supply", "rail", "regulator", "return_line", "tank"],
            "parts": {
                "strainer": {"kind": "filter", "pressure_drop": "1 kPa", "at_flow": "150 L/h", "fluid": "working_fuel", "fineness": "100 um"},
                "filter": {"kind": "filter", "pressure_drop": "12 kPa", "at_flow": "150 L/h"},
                "supply": {**line, "length": "4.2 m", "rise": "0.4 m"},
                "return_line": {**line, "length": "4.4 m", "rise": "-0.4 m"},
            },
        },
        "injectors": {
            "name": f"injector {each:.0f}", "count": n, "flow": f"{each:.0f} g/min", "rated_at": "300 kPa", "fluid": "working_fuel", "resistance": "14 ohm", "driver": "saturated",
            "driver_limit": "3 A", "firing": "every_turn" if n <= 4 and not itb else "sequential" if itb else "every_turn",
        },
        "sensors": {"trigger": {"teeth": 36, "missing": 1, "sensor": "hall"}} if timed else {},
        "ignition": {
            "kind": ("wasted_spark" if n % 2 == 0 else "coil_per_plug") if timed else "electronic_distributor", "speed_signal": "trigger_wheel" if timed else "tach_output",
            "timed_by_unit": timed, "advance": "none" if timed else "working",
            "coil": {"kind": "smart" if timed else "dumb", "resistance": "0.55 ohm", "inductance": "3.6 mH", "current": "7.5 A"},
        },
        "wiring": {"profile": profile, **default_layout(), "feed": {"taken_from": "battery", "fuse_distance": "150 mm"}},
        "tune": {"idle_lambda": 0.92 if itb else 0.97, "cruise_lambda": 1.0, "full_lambda": 0.88},
    }  # fmt: skip
    document["marks"] = {pointer: {"kind": "assumed"} for pointer in _PENCILLED if not (body and pointer == "/sensors/trigger")}
    parse(document)
    return document


def _fittings() -> list[dict[str, Any]]:
    return [{"kind": "entry", "count": 1}, {"kind": "exit", "count": 1}, {"kind": "elbow_90", "count": 1}, {"kind": "bend_90", "count": 3}]


def default_layout(battery: str = "front") -> dict[str, Any]:
    """Places and branches of a usual car, battery at the front or the rear: a start, to be measured with a string."""
    front = battery == "front"
    nodes = {
        "battery": ("battery", *((0.4, 0.66) if front else (3.9, 0.55))), "panel": ("fuses and relays", 1.02, 0.66), "firewall": ("hole in the firewall", 1.45, 0.12),
        "unit": ("control unit", 2.05, 0.6), "dash": ("dash and key", 2.1, -0.42), "engine": ("engine", 0.82, -0.08), "front": ("front of engine", 0.22, -0.08),
        "exhaust": ("exhaust, oxygen sensor", 1.3, -0.62), "tank": ("tank and pump", 3.7, 0.0),
    }  # fmt: skip
    branches = {
        "battery_panel": ("battery", "panel", 0.5 if front else 3.6, "bay" if front else "cabin"), "panel_firewall": ("panel", "firewall", 0.6, "bay"),
        "firewall_unit": ("firewall", "unit", 0.6, "cabin"), "firewall_dash": ("firewall", "dash", 0.9, "cabin"), "firewall_engine": ("firewall", "engine", 0.8, "bay"),
        "engine_front": ("engine", "front", 0.6, "bay"), "engine_exhaust": ("engine", "exhaust", 1.0, "near_exhaust"), "unit_tank": ("unit", "tank", 2.6, "cabin"),
    }  # fmt: skip
    return {
        "nodes": {k: {"name": name, "x": x, "y": y} for k, (name, x, y) in nodes.items()},
        "branches": {k: {"start": a, "end": b, "length": f"{length:g} m", "zone": zone} for k, (a, b, length, zone) in branches.items()},
    }
