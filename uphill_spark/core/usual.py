"""What a car of given answers usually has: a whole build in pencil, worked from them so that nothing that is only assumed is found wanting."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

from .circuit.states import CHARGING_V
from .findings.engine import PISTON_SPEED
from .findings.ignition import DWELL, SPARE
from .given import FORMAT, VERSION, Build, parse
from .given.document import copied
from .given.engine import Arrangement, Carburettors, Cooling, Fuel, usual_banks
from .reference import PumpData, fuels, pumps
from .stages import engine as engine_stage
from .stages.ignition import SPARK_TIME
from .stages.ignition.charge import coil_period, dwell

Kit = Literal["port_plenum", "throttle_body", "throttle_body_bank", "individual_throttles"]
Distributor = Literal["stays", "stays_timed", "goes"]


@dataclass(frozen=True)
class Car:
    """What the rest follows from. Displacement [m3], power [W]; `name` and the quantities as they were written are the document's own."""

    kit: Kit
    arrangement: Arrangement
    cylinders: int
    firing_order: tuple[int, ...]
    displacement: str
    displacement_m3: float
    power: str
    power_w: float
    cooling: Cooling
    carburettors: Carburettors
    distributor: Distributor
    fuel: Fuel

    @property
    def body(self) -> bool:
        """Whether the injectors sit in one throttle body or two."""
        return self.kit in ("throttle_body", "throttle_body_bank")

    @property
    def timed(self) -> bool:
        """Whether the control unit times the spark."""
        return self.distributor != "stays"


#: Values that a new build assumes, by the pointers that are marked; those that the answers leave out are left out here too.
PENCILLED = (
    "/engine/stroke", "/engine/compression_ratio", "/engine/banks", "/engine/valve_train", "/engine/chamber", "/engine/cam",
    "/engine/idle_speed", "/engine/power_speed", "/engine/rev_limit", "/engine/altitude", "/engine/bsfc",
    "/fuel/tank", "/fuel/pump", "/fuel/regulator", "/fuel/path", "/fuel/parts",
    "/injectors/name", "/injectors/count", "/injectors/enters", "/injectors/flow", "/injectors/rated_at", "/injectors/fluid", "/injectors/resistance", "/injectors/driver",
    "/injectors/driver_limit", "/injectors/per_driver", "/injectors/firing", "/injectors/dead_time", "/injectors/unit_compensates",
    "/sensors/trigger", "/ignition/kind", "/ignition/speed_signal", "/ignition/timed_by_unit", "/ignition/advance", "/ignition/coil",
    "/wiring/profile", "/wiring/nodes", "/wiring/branches", "/wiring/feed/taken_from", "/wiring/feed/fuse_distance",
    "/tune/idle_lambda", "/tune/cruise_lambda", "/tune/full_lambda",
)  # fmt: skip

#: Cam and speed of full power [1/min], the mildest first, for one throttle and for one a cylinder.
_PACES = {
    False: [("standard", 3400), ("standard", 3800), ("touring", 4100), ("touring", 4400), ("touring", 4800), ("touring", 5200), ("touring", 5600), ("sport", 5800), ("sport", 6200), ("competition", 6800)],
    True: [("sport", 5600), ("sport", 6200), ("sport", 6800), ("competition", 7000), ("competition", 7600)],
}  # fmt: skip
#: Coils from the strongest down: ohms, millihenries, amperes. One coil for many cylinders has little time.
_COILS = [(0.55, 3.6, 7.5), (0.6, 2.6, 7.0), (0.6, 1.8, 6.5), (0.5, 1.2, 6.5), (0.5, 0.9, 6.0)]
#: Pump against need at working volts; share of the time that an injector is sized to be open; engine size [m3] from which a throttle body has four
#: injectors, and a car a large tank.
_PUMP_OVER, _OPEN, _SMALL, _LARGE = 1.4, 0.70, 2.6e-3, 3.5e-3
#: Pressure [kPa] and volts at which a pump is picked.
_AT_KPA, _AT_V = 330, 13.3


@lru_cache(maxsize=64)
def _built(car: Car) -> dict[str, Any]:
    document = _paced(car)
    build = parse(document)
    worked = engine_stage.work_out(build)
    data = fuels()[car.fuel]
    kg_s = max(worked.fuel_mass_flow_kg_s, worked.full_air_kg_s / (data.stoich * build.tune.full_lambda))
    fuel_l_h = kg_s / data.density * 3.6e6
    count = _injectors(car)
    each = kg_s * 6e4 / count / _OPEN
    document["injectors"].update(name=f"injector {each:.0f}", flow=f"{each:.0f} g/min")
    pump = _pump(fuel_l_h)
    document["fuel"]["pump"].update(name=pump.name, curve=pump.table())
    for line in ("supply", "return_line"):
        document["fuel"]["parts"][line]["bore"] = "7.9 mm" if fuel_l_h < 120 else "9.5 mm"
    document["ignition"]["coil"] = _coil(document)
    document["marks"] = {pointer: {"kind": "assumed"} for pointer in _marked(document)}
    return document


def usual(car: Car, name: str) -> dict[str, Any]:
    """A complete build document of a car, a copy of its own; every value that the answers do not hold is marked as assumed."""
    return {**copied(_built(car)), "name": name}


def _marked(document: dict[str, Any]) -> list[str]:
    found = []
    for pointer in PENCILLED:
        section, key = pointer.split("/")[1:3]
        if key in document[section] or pointer in ("/engine/bsfc", "/injectors/dead_time"):
            found.append(pointer)
    return found


def _paced(car: Car) -> dict[str, Any]:
    """The document with the mildest cam and the lowest speed at which the engine draws the air for its power, as far as its pistons can follow."""
    found = None
    for cam, rpm in _PACES[car.kit == "individual_throttles"]:
        stroke = _stroke_m(car)
        limit = min(1.1 * rpm, PISTON_SPEED[0] / (2 * stroke) * 60 * 0.99)
        if limit < rpm and found is not None:
            break
        document = _document(car, cam, rpm, max(limit, rpm))
        build = parse(document)
        breathes = engine_stage.by_air(engine_stage.work_out(build))
        found = document
        if breathes is not None and breathes.middle >= car.power_w:
            break
    assert found is not None, "there is at least one pace"
    return found


def _stroke_m(car: Car) -> float:
    return float((4 * car.displacement_m3 / car.cylinders / math.pi) ** (1 / 3))


def _injectors(car: Car) -> int:
    """How many: one a cylinder at the ports; in a throttle body by the size of the engine, two in each of two bodies."""
    if car.kit == "throttle_body_bank":
        return 4
    return (2 if car.displacement_m3 < _SMALL else 4) if car.body else car.cylinders


def _pump(fuel_l_h: float) -> PumpData:
    return next((p for p in pumps() if p.a * _AT_V - p.b * _AT_KPA - p.c >= _PUMP_OVER * fuel_l_h), pumps()[-1])


def _coil(document: dict[str, Any]) -> dict[str, Any]:
    """The strongest coil that charges in the time that there is at the rev limit."""
    kind = "smart" if document["ignition"]["timed_by_unit"] else "dumb"
    for ohms, mh, amps in _COILS:
        coil = {"kind": kind, "resistance": f"{ohms:g} ohm", "inductance": f"{mh:g} mH", "current": f"{amps:g} A"}
        build = parse({**document, "ignition": {**document["ignition"], "coil": coil}})
        takes, period = dwell(build, CHARGING_V), coil_period(build, build.engine.rev_limit.si)
        if takes is not None and takes <= 0.95 * DWELL[0] * period and takes <= period - SPARK_TIME - SPARE:
            break
    return coil


def _unit(car: Car) -> str:
    """The control unit: the throttle body's own as long as one coil, or none, hangs on it; otherwise by the number of outputs."""
    if car.body and car.distributor != "goes":
        return "throttle_body_unit"
    return "small_4" if car.cylinders <= 4 else "medium_8"


def _document(car: Car, cam: str, rpm: float, limit: float) -> dict[str, Any]:
    """The document at a pace, with injectors and pump of any size and no marks yet."""
    n, itb = car.cylinders, car.kit == "individual_throttles"
    count = _injectors(car)
    line = {"kind": "run", "material": "steel_tube", "bore": "7.9 mm", "fittings": _fittings(), "exhaust_distance": "150 mm"}
    kinds = {
        "stays": "electronic_distributor",
        "stays_timed": "timed_distributor",
        "goes": "wasted_spark" if n % 2 == 0 else "coil_per_plug",
    }
    banks = usual_banks(list(car.firing_order), car.arrangement)
    outputs = 8
    return {
        "format": FORMAT,
        "version": VERSION,
        "name": "car",
        "engine": {
            "layout": "throttle_body" if car.body else car.kit, "arrangement": car.arrangement, "cylinders": n, "displacement": car.displacement,
            "stroke": f"{_stroke_m(car) * 1e3:.1f} mm", "compression_ratio": "9:1", "firing_order": list(car.firing_order), **({"banks": banks} if banks else {}),
            **({"cooling": car.cooling} if car.cooling != "not_noted" else {}), **({"carburettors": car.carburettors} if car.carburettors != "not_noted" else {}),
            "valve_train": "two_valve_overhead_cam" if itb else "two_valve_pushrod", "chamber": "hemispherical" if itb else "wedge", "cam": cam,
            "idle_speed": "1000 rpm" if itb else "800 rpm", "power": car.power, "power_speed": f"{rpm:.0f} rpm", "rev_limit": f"{limit:.0f} rpm", "altitude": "0 m", "fuel": car.fuel,
        },
        "fuel": {
            "tank": {"head": "0.1 m", "vent_drop": "0.5 kPa", "volume": "60 L" if car.displacement_m3 < _LARGE else "90 L", "hottest": "45 degC", "return_enters": "below_fuel"},
            "pump": {"name": pumps()[-1].name, "place": "in_tank", "control": "control_unit", "curve": pumps()[-1].table()},
            "regulator": {"set_pressure": "300 kPa", "reference": "open_air" if car.body else "manifold"},
            "path": ["tank", "strainer", "pump", "filter", "supply", "rail", "regulator", "return_line", "tank"],
            "parts": {
                "strainer": {"kind": "filter", "pressure_drop": "1 kPa", "at_flow": "150 L/h", "fluid": "working_fuel", "fineness": "100 um"},
                "filter": {"kind": "filter", "pressure_drop": "12 kPa", "at_flow": "150 L/h"},
                "supply": {**line, "length": "4.2 m", "rise": "0.4 m"},
                "return_line": {**line, "length": "4.4 m", "rise": "-0.4 m"},
            },
        },
        "injectors": {
            "name": "injector", "count": count, "flow": "100 g/min", "rated_at": "300 kPa", "fluid": "working_fuel", "resistance": "14 ohm", "driver": "saturated",
            "driver_limit": "3 A", **({"per_driver": math.ceil(count / outputs)} if count > outputs else {}), "firing": "sequential" if itb else "every_turn",
            "enters": "above_plates" if car.body else "below_plates",
        },
        "sensors": {"trigger": {"teeth": 36, "missing": 1, "sensor": "hall"}} if car.timed else {},
        "ignition": {
            "kind": kinds[car.distributor], "speed_signal": "trigger_wheel" if car.timed else "tach_output", "timed_by_unit": car.timed,
            "advance": {"stays": "working", "stays_timed": "locked", "goes": "none"}[car.distributor],
            "coil": {"kind": "smart", "resistance": "0.55 ohm", "inductance": "3.6 mH", "current": "7.5 A"},
        },
        "wiring": {"profile": _unit(car), **default_layout(), "feed": {"taken_from": "battery", "fuse_distance": "150 mm"}},
        "tune": {"idle_lambda": 0.92 if itb else 0.97, "cruise_lambda": 1.0, "full_lambda": 0.88},
    }  # fmt: skip


def car_of(build: Build) -> Car:
    """The answers as a build that stands gives them."""
    e, kind = build.engine, build.ignition.kind
    bodies = e.layout == "throttle_body" and (build.air.manifolds or 1) > 1
    distributor: Distributor = (
        "goes" if kind in ("wasted_spark", "coil_per_plug") else "stays_timed" if build.ignition.timed_by_unit else "stays"
    )
    return Car(
        kit="throttle_body_bank" if bodies else e.layout, arrangement=e.arrangement, cylinders=e.cylinders, firing_order=tuple(e.firing_order),
        displacement=str(e.displacement), displacement_m3=e.displacement.si, power=str(e.power), power_w=e.power.si, cooling=e.cooling,
        carburettors=e.carburettors, distributor=distributor, fuel=e.fuel,
    )  # fmt: skip


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
