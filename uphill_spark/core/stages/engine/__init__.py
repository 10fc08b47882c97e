"""Engine: ambient pressure, mean effective pressure, piston speed, air and fuel at full power and at idle, compression spread."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np

from ...figures import Result, Spec
from ...given import Build
from ...given.engine import CompressionReading, Engine
from ...physics import air
from ...reference import FuelData, fuels
from .cam import USUAL_CLOSING, inlet_closing, mach_index, overlap
from .filling import FILLING_BAND, PEAK_FILLING, filling, full_load_filling
from .kept import Kept, kept
from .run import RunResult, run_power

#: Usual fuel used per unit of work at full power, petrol, without a blower [kg/J] (Heywood, ch. 2.8 and 15).
BSFC_PETROL = 0.32 / 3.6e6
#: The same [kg/J] over boost [Pa]: compression falls, spark is held back, the mixture is enriched (Heywood, ch. 15).
BSFC_BOOSTED = ((0.0, 30e3, 100e3), (BSFC_PETROL, 0.36 / 3.6e6, 0.43 / 3.6e6))
#: Lambda at which they hold, and what is stated: without boost, and with it. On the rich side fuel burns for want of air: it goes with 1 / lambda.
BSFC_LAMBDA = (0.88, 0.80)
LEANEST = 1.05  # lambda up to which less fuel gives the same work
EFFICIENCY = 0.65  # adiabatic, of a blower that is not described
#: Manifold pressure at a warm idle [Pa] and opening of the curve at low speed, by cam: overlap costs vacuum (Heywood, ch. 6.2).
IDLE_MANIFOLD = {"standard": 35e3, "touring": 40e3, "sport": 48e3, "competition": 60e3}
CHARGE_TEMPERATURE = 313.15  # K, warm idle
SEA_TEMPERATURE = 293.15  # K, at which power is stated

#: A cylinder on the starter: exponent of its compression with heat going to the walls, the share of the charge that leaks past, exponent with neither (Heywood, ch. 4.2).
POLYTROPIC, KEPT_CRANKING, NO_HEAT = 1.30, 0.9, 1.38

LEAK_DOWN = (0.10, 0.20, 0.30)  # watch, sort out, stop: usual limits of a leak-down test
LEAKS = LEAK_DOWN[0]
ROD_OVER_STROKE = 1.65  # usual, where the rod is not known


class CompressionBar(Result):
    """One cylinder's readings [Pa], and what its leak-down says."""

    cylinder: int
    dry_pa: float | None
    before_pa: float | None
    wet_pa: float | None
    leak_down: float | None
    escapes: str


class PowerEstimate(Result):
    """One way of telling the engine's power [W]: low, middle, high; `high` is None where nothing bounds it."""

    key: str
    low: float
    middle: float
    high: float | None


class EngineResult(Result):
    """What the engine asks for. Pressures absolute unless named gauge."""

    ambient_pressure_pa: float
    bmep_pa: float
    piston_speed_m_s: float | None
    air_mass_flow_kg_s: float
    full_air_kg_s: float
    full_air_here_kg_s: float
    full_filling: float
    charge_k: float
    fuel_mass_flow_kg_s: float
    bsfc_kg_j: float
    bsfc_assumed: bool
    stoich: float
    idle_manifold_pressure_pa: float
    idle_filling: float
    idle_fuel_mass_flow_kg_s: float
    compression: list[CompressionBar]
    compression_spread: float | None
    compression_lowest_pa: float | None
    compression_expected_pa: float
    compression_impossible_pa: float
    dynamic_ratio: float | None
    inlet_closing_deg: float | None
    overlap_deg: float | None
    mach_index: float | None
    leak_down_worst: float | None
    leaks_above: float
    vacuum_pa: float | None
    vacuum_expected_pa: float
    power: list[PowerEstimate]
    run: RunResult | None
    blower_boost_pa: float | None
    kept: list[Kept]
    cylinder_volume_m3: float
    companions: list[list[int]]

    @property
    def read(self) -> dict[int, float]:
        """Compression [Pa] by cylinder, of those that were read."""
        return {bar.cylinder: bar.dry_pa for bar in self.compression if bar.dry_pa is not None}


def fuel_data(engine: Engine) -> FuelData:
    """Reference data of the fuel that the engine burns."""
    return fuels()[engine.fuel]


#: What this stage reads of the build.
READS = ("engine", "tune.idle_lambda", "tune.full_lambda")


def work_out(build: Build) -> EngineResult:
    """The engine's figures from its description."""
    e = build.engine
    fuel = fuel_data(e)
    ambient = air.ambient_pressure(e.altitude.si)
    bsfc = consumption(build)
    fuel_flow = e.power.si * bsfc
    air_flow = fuel_flow * fuel.stoich * build.tune.full_lambda
    idle_manifold = min(IDLE_MANIFOLD[e.cam], ambient)
    at_idle = float(filling(build, np.array([e.idle_speed.si]), np.array([idle_manifold]), ambient)[0])
    idle_air = air.air_flow(at_idle, air.density(idle_manifold, CHARGE_TEMPERATURE), e.displacement.si, e.idle_speed.si)
    newest = _newest(e)
    dry = [r.dry.si for r in newest.values() if r.dry is not None]
    run = run_power(build)
    return EngineResult(
        ambient_pressure_pa=ambient,
        bmep_pa=2 * e.power.si / (e.displacement.si * e.power_speed.si),
        piston_speed_m_s=2 * _stroke(e) * e.rev_limit.si if _stroke(e) else None,
        air_mass_flow_kg_s=air_flow,
        full_air_kg_s=_full_air(build, basis_pressure(build)),
        full_air_here_kg_s=_full_air(build, ambient),
        full_filling=_at_power_speed(build),
        charge_k=charge(build, basis_pressure(build)),
        fuel_mass_flow_kg_s=fuel_flow,
        bsfc_kg_j=bsfc,
        bsfc_assumed=e.bsfc is None,
        stoich=fuel.stoich,
        idle_manifold_pressure_pa=idle_manifold,
        idle_filling=at_idle,
        idle_fuel_mass_flow_kg_s=idle_air / (fuel.stoich * build.tune.idle_lambda),
        compression=[
            CompressionBar(
                cylinder=c,
                dry_pa=r.dry.si if r.dry else None,
                before_pa=_before(e, r),
                wet_pa=r.wet.si if r.wet else None,
                leak_down=r.leak_down.si if r.leak_down else None,
                escapes=r.escapes,
            )
            for c, r in sorted(newest.items())
        ],
        compression_spread=(max(dry) - min(dry)) / max(dry) if len(dry) == e.cylinders and max(dry) > 0 else None,
        compression_lowest_pa=min(dry) if dry else None,
        compression_expected_pa=KEPT_CRANKING * ambient * (dynamic_ratio(e, usual=True) or e.compression_ratio.si) ** POLYTROPIC - ambient,
        compression_impossible_pa=ambient * e.compression_ratio.si**NO_HEAT - ambient,
        dynamic_ratio=dynamic_ratio(e),
        inlet_closing_deg=inlet_closing(e),
        overlap_deg=overlap(e),
        mach_index=mach_index(e, 2 * _stroke(e) * e.rev_limit.si, e.power_speed.si / e.rev_limit.si) if _stroke(e) else None,
        leaks_above=LEAKS,
        leak_down_worst=max((r.leak_down.si for r in newest.values() if r.leak_down), default=None),
        vacuum_pa=next((h.vacuum.si for h in sorted(e.health, key=lambda h: h.when, reverse=True) if h.vacuum), None),
        vacuum_expected_pa=ambient - idle_manifold,
        power=_power(build, bsfc, fuel.stoich, run),
        run=run,
        blower_boost_pa=blower_boost(build),
        kept=kept(e),
        cylinder_volume_m3=e.displacement.si / e.cylinders,
        companions=companions(e.firing_order),
    )


def _newest(e: Engine) -> dict[int, CompressionReading]:
    """The newest reading of each cylinder; one without a day is older than any with one, and a row in which nothing was read is none."""
    return {r.cylinder: r for r in sorted(e.compression, key=lambda r: r.when or "") if r.dry or r.wet or r.leak_down}


def _before(e: Engine, now: CompressionReading) -> float | None:
    """What the same cylinder read the time before [Pa]."""
    older = [(r.when or "", r.dry.si) for r in e.compression if r.cylinder == now.cylinder and r.dry and (r.when or "") < (now.when or "")]
    return max(older)[1] if older else None


def _stroke(e: Engine) -> float:
    """Stroke [m], from the bore and displacement where it was not given; 0 when neither is known."""
    if e.stroke is not None:
        return e.stroke.si
    return e.displacement.si / e.cylinders / (math.pi * e.bore.si**2 / 4) if e.bore is not None else 0.0


def dynamic_ratio(e: Engine, *, usual: bool = False) -> float | None:
    """Compression ratio [-] from where the inlet valve closes, by slider-crank geometry; None where angle or stroke is not known.

    With `usual` the closing that is usual for the cam stands for one that is not known.
    """
    stroke = _stroke(e)
    closing = inlet_closing(e)
    if closing is None and usual:
        closing = USUAL_CLOSING[e.cam]
    if closing is None or not stroke:
        return None
    rod = e.rod.si if e.rod else ROD_OVER_STROKE * stroke
    crank = stroke / 2
    angle = math.radians(180 + closing)
    reach = math.sqrt(max(rod**2 - (crank * math.sin(angle)) ** 2, 0.0))
    left = (crank * (1 - math.cos(angle)) + rod - reach) / stroke
    return 1 + (e.compression_ratio.si - 1) * left


def boost_of(e: Engine) -> float:
    """Boost at full power [Pa]; 0 without a blower."""
    return e.boost.si if e.boost else 0.0


def basis_pressure(build: Build) -> float:
    """Ambient pressure [Pa] for which the power is told: sea level, or here."""
    return air.P_SEA_LEVEL if build.engine.power_basis == "sea_level" else air.ambient_pressure(build.engine.altitude.si)


def consumption(build: Build) -> float:
    """Fuel per work [kg/J] at full power: as stated, or usual for fuel and boost; both hold at the usual mixture, and a richer one takes more."""
    e, boost = build.engine, boost_of(build.engine)
    usual = float(np.interp(boost, *BSFC_BOOSTED)) * fuels()["E0"].stoich / fuel_data(e).stoich
    held = BSFC_LAMBDA[boost > 0]
    return (e.bsfc.si if e.bsfc is not None else usual) * held / min(build.tune.full_lambda, LEANEST)


def charge(build: Build, ambient_pa: float) -> float:
    """Temperature [K] of the charge at full power: ambient, or what blower and cooler make of it."""
    e = build.engine
    if not boost_of(e):
        return SEA_TEMPERATURE
    blower = e.blower
    efficiency = blower.efficiency.si if blower else EFFICIENCY
    cooler = blower.cooler.si if blower and blower.cooler else 0.0
    return air.charge_temperature(SEA_TEMPERATURE, 1 + boost_of(e) / ambient_pa, efficiency, cooler)


#: Share of its size that a blower really moves: what slips back past its rotors is lost (Heywood, ch. 6.8).
BLOWER_FILLS = 0.85


def blower_boost(build: Build) -> float | None:
    """Boost [Pa over ambient] by the size of a blower and its drive: what it moves over what the engine swallows, heat not counted; None where one is not known."""
    e, b = build.engine, build.engine.blower
    if b is None or b.size is None or b.drive is None:
        return None
    moves, swallows = b.size.si * b.drive.si * BLOWER_FILLS, e.displacement.si / 2 * _at_power_speed(build)
    return max(moves / swallows - 1, 0.0) * basis_pressure(build)


def _at_power_speed(build: Build) -> float:
    """Filling [-] at the speed of full power, which lies past the best."""
    return float(full_load_filling(build, np.array([build.engine.power_speed.si]))[0])


def _full_air(build: Build, ambient_pa: float) -> float:
    """Air [kg/s] that the engine draws at full power where ambient pressure is so high: the one figure for power, tables, throttle."""
    e = build.engine
    return air.air_flow(
        _at_power_speed(build), air.density(ambient_pa + boost_of(e), charge(build, ambient_pa)), e.displacement.si, e.power_speed.si
    )


def _power(build: Build, bsfc: float, stoich: float, run: RunResult | None) -> list[PowerEstimate]:
    """Power by the target, by the air that the engine draws at that speed, and by what the car should do."""
    e = build.engine
    found = [PowerEstimate(key="target", low=e.power.si, middle=e.power.si, high=e.power.si)]
    middle = _full_air(build, basis_pressure(build)) / (stoich * build.tune.full_lambda) / bsfc
    low, high = (middle * f / PEAK_FILLING[e.valve_train] for f in FILLING_BAND[e.valve_train])
    found.append(PowerEstimate(key="air", low=low, middle=middle, high=high))
    if e.rolling_road is not None:
        w = e.rolling_road.power.si / (WHEELS if e.rolling_road.at == "wheels" else 1.0)
        found.append(PowerEstimate(key="road", low=w * (1 - ROAD_DOUBT), middle=w, high=w * (1 + ROAD_DOUBT)))
    if run and run.middle is not None:
        found.append(PowerEstimate(key="run", low=run.low or run.middle, middle=run.middle, high=run.high))
    return found


#: Share of the crank's power that reaches the wheels of a rear-driven car, and how far a rolling road may be off (SAE J1349 and usual practice).
WHEELS, ROAD_DOUBT = 0.85, 0.05


def estimate(result: EngineResult, key: str) -> PowerEstimate | None:
    """One of the ways to tell the power, where it is known."""
    return next((p for p in result.power if p.key == key), None)


def by_air(result: EngineResult) -> PowerEstimate | None:
    """The power for which the engine draws the air."""
    return estimate(result, "air")


def companions(order: list[int]) -> list[list[int]]:
    """Cylinders that reach top dead centre together, 360 crank degrees apart in firing: position k and k + n/2.

    >>> companions([1, 5, 3, 6, 2, 4])
    [[1, 6], [5, 2], [3, 4]]
    """
    half, odd = divmod(len(order), 2)
    return [[c] for c in order] if odd else [[order[k], order[k + half]] for k in range(half)]


_SIZE = ("/engine/displacement",)
_GEOMETRY = (
    "/engine/inlet_closing",
    "/engine/cam_card",
    "/engine/rod",
    "/engine/stroke",
    "/engine/bore",
    "/engine/displacement",
    "/engine/cylinders",
    "/engine/firing_order",
)
_FILLING = (
    "/engine/displacement", "/engine/power_speed", "/engine/valve_train", "/engine/layout", "/engine/cam", "/engine/idle_speed", "/engine/rev_limit", "/engine/boost",
    "/engine/blower",
)  # fmt: skip
_AIR = (*_FILLING, "/engine/power_basis", "/engine/altitude", "/engine/bsfc", "/engine/fuel", "/tune/full_lambda")


def _of(key: str, end: str) -> Callable[[EngineResult], float | None]:
    def take(result: EngineResult) -> float | None:
        found = estimate(result, key)
        value: float | None = getattr(found, end) if found else None
        return value

    return take


def _seconds(k: int) -> Callable[[EngineResult], float | None]:
    def take(result: EngineResult) -> float | None:
        return result.run.seconds[k] if result.run and result.run.seconds else None

    return take


FIGURES = (
    Spec("engine.ambient_pressure", "kPa", "Ambient pressure at home", ("/engine/altitude",), "ISO 2533", lambda r: r.ambient_pressure_pa),
    Spec("engine.bmep", "bar", "Mean effective pressure at the power target", (*_SIZE, "/engine/power", "/engine/power_speed"),
         "bmep = 2 P / (Vd n); Heywood, ch. 2.7", lambda r: r.bmep_pa),
    Spec("engine.piston_speed", "m/s", "Mean piston speed at the rev limit", ("/engine/stroke", "/engine/bore", *_SIZE, "/engine/cylinders", "/engine/firing_order", "/engine/rev_limit"),
         "2 s n; Heywood, ch. 2.2", lambda r: r.piston_speed_m_s),
    Spec("engine.air_mass_flow", "kg/h", "Air at full power", ("engine.fuel_mass_flow",),
         "fuel flow times air-fuel ratio", lambda r: r.air_mass_flow_kg_s),
    Spec("engine.fuel_mass_flow", "kg/h", "Fuel at full power", ("/engine/power", "/engine/bsfc", "/engine/fuel", "/engine/boost", "/tune/full_lambda"),
         "P times BSFC; Heywood, ch. 2.8", lambda r: r.fuel_mass_flow_kg_s),
    Spec("engine.idle_manifold_pressure", "kPa", "Manifold pressure at idle, absolute", ("/engine/cam", "engine.ambient_pressure"),
         "usual for the cam; Heywood, ch. 6.2", lambda r: r.idle_manifold_pressure_pa),
    Spec("engine.idle_fuel_mass_flow", "kg/h", "Fuel at idle",
         ("engine.idle_manifold_pressure", *_SIZE, "/engine/idle_speed", "/engine/power_speed", "/engine/rev_limit", "/engine/layout", "/engine/valve_train", "/engine/compression_ratio", "/engine/fuel", "/tune/idle_lambda"),
         "filling with residual gas; Heywood, ch. 6.2", lambda r: r.idle_fuel_mass_flow_kg_s),
    Spec("engine.compression.spread", "1", "Compression spread, (highest - lowest) / highest", ("/engine/compression", "/engine/cylinders", "/engine/firing_order"),
         "compression test", lambda r: r.compression_spread, share=True),
    Spec("engine.compression.expected", "kPa", "Compression to expect, cranking, gauge", ("/engine/compression_ratio", "/engine/cam", *_GEOMETRY, "engine.ambient_pressure"),
         "0.9 p CR^1.30 from inlet closing, polytropic compression", lambda r: r.compression_expected_pa),
    *(Spec(f"engine.power.from_{key}{suffix}", "kW", f"Power {words}{more}", uses, source, _of(key, end))
      for key, words, uses, source in (("air", "from the air it can draw", _AIR, "air over air-fuel ratio over BSFC"), ("run", "from what the car should do", ("/engine/run", "/engine/cam", "/engine/idle_speed", "/engine/power_speed", "/engine/rev_limit"), "kinetic energy over time and the share that arrives"))
      for suffix, end, more in (("", "middle", ""), (".p05", "low", ", at least"), (".p95", "high", ", at most"))),
    Spec("engine.air.full", "kg/h", "Air that it draws at full power", (*_FILLING, "/engine/power_basis", "/engine/altitude"), "filling times density of the charge", lambda r: r.full_air_kg_s),
    Spec("engine.charge", "degC", "Charge at full power", ("/engine/boost", "/engine/blower", "/engine/power_basis", "/engine/altitude"), "adiabatic compression; Heywood, ch. 6.8", lambda r: r.charge_k),
    Spec("engine.inlet.closing", "deg", "Inlet shuts, after bottom dead centre", ("/engine/inlet_closing", "/engine/cam_card"), "centre plus half the duration less 180", lambda r: r.inlet_closing_deg),
    Spec("engine.cam.overlap", "deg", "Both valves open", ("/engine/cam_card",), "half durations less centres", lambda r: r.overlap_deg),
    Spec("engine.inlet.mach", "1", "Inlet Mach index at full power", (*_GEOMETRY, "/engine/inlet_valve", "/engine/inlet_valves", "/engine/power_speed"), "Taylor, vol. 1, ch. 6", lambda r: r.mach_index),
    *(Spec(f"engine.run.seconds{suffix}", "s", f"The run takes with the power target{more}", ("/engine/run", "/engine/power", "/engine/cam", "/engine/idle_speed", "/engine/power_speed", "/engine/rev_limit"), "mass over what is left of the push, step by step; or kinetic energy over the share that arrives",
           _seconds(k))
      for k, suffix, more in ((1, "", ""), (0, ".p05", ", at best"), (2, ".p95", ", at worst"))),
    Spec("engine.power.from_road", "kW", "Power on the rolling road, at the crank", ("/engine/rolling_road",), "as measured; 15 % lost on the way to the wheels", _of("road", "middle")),
    Spec("engine.boost.from_blower", "kPa", "Boost by the blower's size and drive", ("/engine/blower", *_FILLING, "/engine/power_basis", "/engine/altitude"), "what it moves over what the engine swallows", lambda r: r.blower_boost_pa),
    Spec("engine.leak_down", "1", "Worst leak-down", ("/engine/compression",), "leak-down test", lambda r: r.leak_down_worst, share=True),
    Spec("engine.vacuum", "kPa", "Manifold vacuum at idle, last reading", ("/engine/health",), "gauge, warm", lambda r: r.vacuum_pa),
    Spec("engine.vacuum.expected", "kPa", "Manifold vacuum to expect at idle", ("engine.idle_manifold_pressure", "engine.ambient_pressure"), "usual for the cam, less at altitude", lambda r: r.vacuum_expected_pa),
)  # fmt: skip
