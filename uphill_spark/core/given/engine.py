"""The engine as found: its size, its order, its cam, what is wanted of it, and its compression log."""

from __future__ import annotations

import itertools
from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from ..reference import FiringOrder, firing_orders
from ..units import Of, Quantity
from .base import Cylinder, Day, Part, Photos, Pressure, Speed

Layout = Literal["throttle_body", "port_plenum", "individual_throttles"]
Fuel = Literal["E0", "E10", "E85"]
Cam = Literal["standard", "touring", "sport", "competition"]
ValveTrain = Literal["two_valve_pushrod", "two_valve_overhead_cam", "four_valve"]
Chamber = Literal["wedge", "hemispherical", "pent_roof", "flat_head"]
Arrangement = Literal["inline", "vee", "flat"]
Cooling = Literal["water", "air", "not_noted"]
Carburettors = Literal["one", "two", "one_a_cylinder", "not_noted"]
CarriedOver = Literal["fuel_tank", "fuel_lines", "fuel_pump", "injectors", "intake_manifold", "throttle", "distributor", "alternator"]

Displacement = Annotated[Quantity, Of("volume", "100 cc", "12 L", "2597 cc")]
Power = Annotated[Quantity, Of("power", "3 kW", "1000 kW", "118 kW")]


class CompressionReading(Part):
    """One cylinder's compression, cranking, throttle open, gauge pressure."""

    cylinder: Cylinder = Field(title="Cylinder")
    when: Day | None = Field(default=None, title="Day", examples=["2026-04-18"])
    dry: Pressure | None = Field(
        default=None, title="Compression, dry", description="Warm engine, all plugs out, throttle held open.", examples=["1150 kPa"]
    )
    wet: Pressure | None = Field(default=None, title="With a spoon of oil", description="A rise over 10 % points at the rings.")
    leak_down: Annotated[Quantity, Of("ratio", "0 %", "100 %", "12 %")] | None = Field(default=None, title="Leak-down")
    escapes: Literal["none_heard", "oil_filler", "exhaust", "throttle", "radiator", "neighbour"] = Field(
        default="none_heard", title="Air comes out at"
    )


class HealthCheck(Part):
    """The whole engine on one day, warm, idling."""

    when: Day = Field(title="Day", examples=["2026-04-18"])
    vacuum: Annotated[Quantity, Of("pressure", "0 kPa", "95 kPa", "18 inHg")] | None = Field(
        default=None, title="Manifold vacuum at idle", description="Below ambient; a steady needle."
    )
    oil_pressure: Annotated[Quantity, Of("pressure", "0 kPa", "1000 kPa", "30 psi")] | None = Field(
        default=None, title="Oil pressure, hot idle"
    )
    smoke: Literal["none", "blue", "black", "white"] | None = Field(default=None, title="Smoke")
    uses_oil: bool | None = Field(default=None, title="Uses oil")
    loses_coolant: bool | None = Field(default=None, title="Loses coolant")
    photos: Photos = []


class CamCard(Part):
    """The cam by its card, crank degrees at the lift at which the card was taken."""

    inlet_duration: Annotated[Quantity, Of("angle", "150 deg", "350 deg", "252 deg")] = Field(title="Inlet open for")
    exhaust_duration: Annotated[Quantity, Of("angle", "150 deg", "350 deg", "252 deg")] = Field(title="Exhaust open for")
    inlet_centre: Annotated[Quantity, Of("angle", "80 deg", "140 deg", "110 deg")] = Field(
        title="Inlet fully open at", description="After top dead centre."
    )
    exhaust_centre: Annotated[Quantity, Of("angle", "80 deg", "140 deg", "110 deg")] = Field(
        title="Exhaust fully open at", description="Before top dead centre."
    )
    lift: Annotated[Quantity, Of("length", "3 mm", "20 mm", "9 mm")] | None = Field(default=None, title="Inlet valve lift")


class AccelerationRun(Part):
    """What the car is to do, or what it did by the clock."""

    mass: Annotated[Quantity, Of("mass", "200 kg", "5000 kg", "1150 kg")] = Field(title="Car with driver")
    to_speed: Annotated[Quantity, Of("velocity", "10 km/h", "300 km/h", "100 km/h")] = Field(title="From rest to")
    time: Annotated[Quantity, Of("time", "1 s", "60 s", "11 s")] | None = Field(
        default=None, title="Time that it takes", description="Empty: how long it takes with the power target is worked out."
    )
    gears: list[Annotated[float, Field(ge=0.4, le=8.0, allow_inf_nan=False)]] = Field(
        default=[], max_length=8, title="Gears", description="Ratios, lowest gear first. With these the run is worked out step by step."
    )
    final_drive: Annotated[Quantity, Of("ratio", "1:1", "10:1", "3.9:1")] = Field(
        default=Quantity("3.9:1", 3.9), title="Final drive", validate_default=True
    )
    tyre: Annotated[Quantity, Of("length", "200 mm", "500 mm", "300 mm")] = Field(
        default=Quantity("300 mm", 0.3), title="Tyre, rolling radius", validate_default=True
    )
    drag_area: Annotated[Quantity, Of("area", "0.2 m2", "3 m2", "0.75 m2")] = Field(
        default=Quantity("0.75 m2", 0.75), title="Drag area", description="Drag coefficient times frontal area.", validate_default=True
    )
    grip: Annotated[float, Field(ge=0.3, le=1.6, allow_inf_nan=False)] = Field(
        default=0.85, title="Tyre grip", description="0.7 on old tyres, 0.85 usual, 1.0 on good ones, dry."
    )
    driven_share: Annotated[Quantity, Of("ratio", "20 %", "100 %", "52 %")] = Field(
        default=Quantity("52 %", 0.52), title="Weight on the driven wheels", validate_default=True
    )
    driven: Literal["rear", "front", "all", "not_noted"] = Field(
        default="not_noted",
        title="Driven wheels",
        description="Pulling away, weight goes to the rear: it helps rear wheels and takes from front ones.",
    )
    shift: Annotated[Quantity, Of("time", "0 s", "2 s", "0.5 s")] = Field(
        default=Quantity("0.5 s", 0.5), title="Each change of gear takes", validate_default=True
    )

    @model_validator(mode="after")
    def _falling(self) -> AccelerationRun:
        if any(later >= sooner for sooner, later in itertools.pairwise(self.gears)):
            raise ValueError(
                f"/gears|{'-'.join(f'{g:g}' for g in self.gears)}|ratios from the lowest gear up, each smaller than the one before, like 3.5-2.1-1.4-1"
            )
        return self


class Blower(Part):
    """What presses the charge in, and what cools it again."""

    size: Annotated[Quantity, Of("volume", "50 cc", "10 L", "1200 cc")] | None = Field(
        default=None, title="Moves in a turn", description="Of a blower that is driven by the crank."
    )
    drive: Annotated[Quantity, Of("ratio", "0.3:1", "15:1", "1.8:1")] | None = Field(default=None, title="Turns for each of the crank's")
    efficiency: Annotated[Quantity, Of("ratio", "30 %", "90 %", "65 %")] = Field(
        default=Quantity("65 %", 0.65),
        title="Adiabatic efficiency",
        description="At full power, from its map: 55 to 75 %.",
        validate_default=True,
    )
    sits: Literal["before_throttle", "after_throttle", "not_noted"] = Field(
        default="not_noted", title="Blower sits", description="Before the throttle plates, or between them and the ports."
    )
    cooler: Annotated[Quantity, Of("ratio", "0 %", "95 %", "60 %")] | None = Field(
        default=None, title="Charge cooler takes", description="Of the rise in temperature; empty: there is none."
    )


class RollingRoad(Part):
    """What a rolling road measured: it wins over what a head of this kind usually gives."""

    power: Power = Field(title="Measured")
    speed: Speed | None = Field(default=None, title="at")
    at: Literal["crank", "wheels", "not_noted"] = Field(
        default="not_noted", title="Told for", description="The wheels get some 15 % less than the crank gives."
    )


class Engine(Part):
    """What the engine is and what it is to do."""

    stands: Literal["in_car", "on_stand", "not_noted"] = Field(
        default="not_noted", title="Engine stands", description="In the car, or on a stand for its first run."
    )
    bottom_end: Literal["cast", "forged", "not_noted"] = Field(
        default="not_noted", title="Rods and pistons", description="Forged ones, by their builder's word, bear more speed."
    )

    layout: Layout = Field(title="Injection layout", description="Where the injectors and throttles sit.")
    arrangement: Arrangement = Field(default="inline", title="Arrangement")
    cylinders: Cylinder = Field(title="Cylinders")
    displacement: Displacement = Field(title="Displacement")
    bore: Annotated[Quantity, Of("length", "30 mm", "150 mm", "83 mm")] | None = Field(default=None, title="Bore")
    stroke: Annotated[Quantity, Of("length", "30 mm", "200 mm", "80 mm")] | None = Field(default=None, title="Stroke")
    compression_ratio: Annotated[Quantity, Of("ratio", "4:1", "18:1", "9.2:1")] = Field(title="Compression ratio")
    firing_order: list[Cylinder] = Field(title="Firing order", min_length=1, max_length=12)
    banks: list[list[Cylinder]] | None = Field(
        default=None, max_length=2, title="Banks", description="Vee or flat engines: the cylinder numbers of each bank, front to back."
    )
    cooling: Cooling = Field(default="not_noted", title="Cooled by")
    carburettors: Carburettors = Field(
        default="not_noted", title="Carburettors today", description="As the manifold that is on the engine takes them."
    )
    valve_train: ValveTrain = Field(title="Cylinder head")
    chamber: Chamber = Field(title="Combustion chamber")
    cam: Cam = Field(title="Cam")
    idle_speed: Annotated[Quantity, Of("speed", "300 rpm", "3000 rpm", "800 rpm")] = Field(title="Idle speed, warm")
    power: Power = Field(title="Power target")
    power_speed: Speed = Field(title="Speed of full power", description="Engine speed at which the power target is made.")
    power_basis: Literal["sea_level", "here"] = Field(
        default="sea_level", title="Told for", description="Power at sea level, or here where the car lives: thin air gives less."
    )
    rev_limit: Speed = Field(title="Rev limit")
    boost: Annotated[Quantity, Of("pressure", "0 kPa", "200 kPa", "60 kPa")] | None = Field(
        default=None, title="Boost at full power", description="Manifold over ambient; empty without a blower."
    )
    blower: Blower | None = Field(default=None, title="Blower and cooler")
    altitude: Annotated[Quantity, Of("length", "-400 m", "5000 m", "420 m")] = Field(title="Altitude at home")
    fuel: Fuel = Field(title="Fuel")
    season: Literal["summer", "winter"] = Field(
        default="summer", title="Grade of the season", description="Winter fuel boils sooner: a warm day in early spring is the test."
    )
    bsfc: Annotated[Quantity, Of("specific consumption", "0.15 kg/kWh", "1.2 kg/kWh", "0.32 kg/kWh")] | None = Field(
        default=None,
        title="Fuel used per unit of work",
        description="At full power (BSFC), at lambda 0.88, under boost at 0.80; richer takes more. Left empty, a usual figure is assumed.",
    )
    rod: Annotated[Quantity, Of("length", "50 mm", "400 mm", "135 mm")] | None = Field(
        default=None, title="Connecting rod", description="Centre to centre."
    )
    inlet_closing: Annotated[Quantity, Of("angle", "0 deg", "110 deg", "54 deg")] | None = Field(
        default=None, title="Inlet valve closes", description="After bottom dead centre, from the cam's card."
    )
    cam_card: CamCard | None = Field(default=None, title="Cam card")
    inlet_valve: Annotated[Quantity, Of("length", "15 mm", "70 mm", "40 mm")] | None = Field(
        default=None, title="Inlet valve", description="Diameter of the head."
    )
    inlet_valves: int = Field(default=1, ge=1, le=3, title="Inlet valves, each cylinder")
    exhaust_valve: Annotated[Quantity, Of("length", "15 mm", "70 mm", "34 mm")] | None = Field(
        default=None, title="Exhaust valve", description="Diameter of the head."
    )
    exhaust_valves: Annotated[int, Field(ge=1, le=3)] | None = Field(
        default=None, title="Exhaust valves, each cylinder", description="Empty: as many as inlet valves."
    )
    tract: Annotated[Quantity, Of("length", "50 mm", "1 m", "320 mm")] | None = Field(
        default=None, title="Inlet tract", description="From the valve to the plenum or the open air, along its middle."
    )
    exhaust: Literal["cast_manifold", "tubular", "open_pipes", "not_noted"] = Field(
        default="not_noted", title="Exhaust", description="How freely it lets go at full power."
    )
    octane: int | None = Field(default=None, ge=60, le=130, title="Octane, RON", description="Of the fuel that is bought.")
    carried_over: list[CarriedOver] = Field(
        default=[], max_length=len(get_args(CarriedOver)), title="Carried over", description="What stays on the car and is used again."
    )
    run: AccelerationRun | None = Field(default=None, title="What the car should do")
    rolling_road: RollingRoad | None = Field(default=None, title="Rolling road")
    health: list[HealthCheck] = Field(default=[], max_length=60, title="Health log")
    compression: list[CompressionReading] = Field(default=[], max_length=120, title="Compression log")

    @model_validator(mode="after")
    def _consistent(self) -> Engine:
        n = self.cylinders
        wanted = f"each of the cylinders 1 to {n} once"
        if sorted(self.firing_order) != list(range(1, n + 1)):
            raise ValueError(
                f"/firing_order|{'-'.join(map(str, self.firing_order))}|{wanted}, like {'-'.join(map(str, usual_order(n, self.arrangement)))}"
            )
        if wrong := unlikely_cylinder(self.displacement, n):
            raise ValueError(wrong)
        if self.banks is not None and sorted(c for bank in self.banks for c in bank) != list(range(1, n + 1)):
            raise ValueError(f"/banks|{self.banks}|{wanted}, shared between the banks")
        seen = [(r.when, r.cylinder) for r in self.compression]
        if len(set(seen)) != len(seen) or any(c > n for _, c in seen):
            raise ValueError(
                f"/compression|readings for {[c for _, c in seen]}|one reading a day for each of the cylinders 1 to {n} at most"
            )
        if self.idle_speed.si >= self.power_speed.si:
            raise ValueError(f"/idle_speed|{self.idle_speed}|an idle speed below the speed of full power, {self.power_speed}")
        if self.rev_limit.si < self.power_speed.si:
            raise ValueError(f"/rev_limit|{self.rev_limit}|a rev limit at or above the speed of full power, {self.power_speed}")
        return self


def unlikely_cylinder(displacement: Quantity, cylinders: int) -> str | None:
    """What is wrong with a displacement for its number of cylinders, as "pointer|given|wants", or None."""
    if 40e-6 <= displacement.si / cylinders <= 2000e-6:
        return None
    return f"/displacement|{displacement} in {cylinders}|40 to 2000 cc for each cylinder; check displacement and number of cylinders"


def usual_arrangement(cylinders: int) -> Arrangement:
    """How so many cylinders mostly stand."""
    return "vee" if cylinders >= 8 else "inline"


def usual_order(cylinders: int, arrangement: Arrangement | None = None) -> list[int]:
    """A common firing order to start from: an example for messages and for a new build, never a claim about an engine."""
    found = _usual(cylinders, arrangement or usual_arrangement(cylinders))
    return list(found.order) if found else list(range(1, cylinders + 1))


def usual_banks(order: list[int], arrangement: Arrangement) -> list[list[int]] | None:
    """The banks as the cylinders are numbered where this order is usual; None in line, and where nothing is known of it."""
    found = next((o for o in firing_orders() if o.arrangement == arrangement and o.order == order), None)
    return found.banks if found else None


def _usual(cylinders: int, arrangement: Arrangement) -> FiringOrder | None:
    return next((o for o in firing_orders() if o.arrangement == arrangement and len(o.order) == cylinders), None)
