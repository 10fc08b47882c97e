"""Engine: ambient pressure, mean effective pressure, piston speed, air and fuel at full power and at idle, compression spread."""

from __future__ import annotations

import math
from collections.abc import Callable

from ...figures import Result, Spec
from ...given import Build
from ...given.engine import CompressionReading, Engine
from ...physics import air
from ...reference import FuelData, fuels
from .cam import inlet_closing, mach_index, overlap
from .filling import FILLING_BAND, PEAK_FILLING, TUNED_TRACTS
from .kept import Kept, kept
from .run import RunResult, run_power

#: Usual fuel used per unit of work at full power, petrol, naturally aspirated [kg/J] (Heywood, ch. 2.8 and 15).
BSFC_PETROL = 0.32 / 3.6e6
#: Manifold pressure at a warm idle [Pa] and opening of the curve at low speed, by cam: overlap costs vacuum (Heywood, ch. 6.2).
IDLE_MANIFOLD = {"standard": 35e3, "touring": 40e3, "sport": 48e3, "competition": 60e3}
CHARGE_TEMPERATURE = 313.15  # K, warm idle
SEA_TEMPERATURE = 293.15  # K, at which power is stated

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
    bsfc = e.bsfc.si if e.bsfc is not None else BSFC_PETROL * fuels()["E0"].stoich / fuel.stoich
    fuel_flow = e.power.si * bsfc
    air_flow = fuel_flow * fuel.stoich * build.tune.full_lambda
    idle_manifold = min(IDLE_MANIFOLD[e.cam], ambient)
    filling = PEAK_FILLING[e.valve_train] * float(air.part_load_filling(ambient / idle_manifold, e.compression_ratio.si))
    idle_air = air.air_flow(filling, air.density(idle_manifold, CHARGE_TEMPERATURE), e.displacement.si, e.idle_speed.si)
    newest = _newest(e)
    dry = [r.dry.si for r in newest.values() if r.dry is not None]
    run = run_power(build)
    return EngineResult(
        ambient_pressure_pa=ambient,
        bmep_pa=2 * e.power.si / (e.displacement.si * e.power_speed.si),
        piston_speed_m_s=2 * _stroke(e) * e.rev_limit.si if _stroke(e) else None,
        air_mass_flow_kg_s=air_flow,
        fuel_mass_flow_kg_s=fuel_flow,
        bsfc_kg_j=bsfc,
        bsfc_assumed=e.bsfc is None,
        stoich=fuel.stoich,
        idle_manifold_pressure_pa=idle_manifold,
        idle_filling=filling,
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
        compression_expected_pa=0.85 * ambient * (dynamic_ratio(e) or e.compression_ratio.si) ** 1.2 - ambient,
        compression_impossible_pa=ambient * e.compression_ratio.si**1.35 - ambient,
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


def dynamic_ratio(e: Engine) -> float | None:
    """Compression ratio [-] from where the inlet valve closes, by slider-crank geometry; None where angle or stroke is not known."""
    stroke = _stroke(e)
    closing = inlet_closing(e)
    if closing is None or not stroke:
        return None
    rod = e.rod.si if e.rod else ROD_OVER_STROKE * stroke
    crank = stroke / 2
    angle = math.radians(180 + closing)
    reach = math.sqrt(max(rod**2 - (crank * math.sin(angle)) ** 2, 0.0))
    left = (crank * (1 - math.cos(angle)) + rod - reach) / stroke
    return 1 + (e.compression_ratio.si - 1) * left


def _power(build: Build, bsfc: float, stoich: float, run: RunResult | None) -> list[PowerEstimate]:
    """Power by the target, by the air that the head lets in at sea level, and by what the car should do."""
    e = build.engine
    found = [PowerEstimate(key="target", low=e.power.si, middle=e.power.si, high=e.power.si)]
    boost = 1 + (e.boost.si / air.P_SEA_LEVEL if e.boost else 0.0)
    tracts = TUNED_TRACTS if e.layout == "individual_throttles" else 1.0
    per_filling = air.air_flow(1.0, air.density(air.P_SEA_LEVEL, SEA_TEMPERATURE), e.displacement.si, e.power_speed.si)
    fillings = [f * tracts * boost for f in (*FILLING_BAND[e.valve_train], PEAK_FILLING[e.valve_train])]
    low, high, middle = (per_filling * f / (stoich * build.tune.full_lambda) / bsfc for f in fillings)
    found.append(PowerEstimate(key="air", low=low, middle=middle, high=high))
    if run and run.middle is not None:
        found.append(PowerEstimate(key="run", low=run.low or run.middle, middle=run.middle, high=run.high))
    return found


def estimate(result: EngineResult, key: str) -> PowerEstimate | None:
    """One of the ways to tell the power, where it is known."""
    return next((p for p in result.power if p.key == key), None)


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
_AIR = (
    "/engine/displacement",
    "/engine/power_speed",
    "/engine/valve_train",
    "/engine/layout",
    "/engine/boost",
    "/engine/bsfc",
    "/engine/fuel",
    "/tune/full_lambda",
)


def _of(key: str, end: str) -> Callable[[EngineResult], float | None]:
    def take(result: EngineResult) -> float | None:
        found = estimate(result, key)
        value: float | None = getattr(found, end) if found else None
        return value

    return take


FIGURES = (
    Spec("engine.ambient_pressure", "kPa", "Ambient pressure at home", ("/engine/altitude",), "ISO 2533", lambda r: r.ambient_pressure_pa),
    Spec("engine.bmep", "bar", "Mean effective pressure at the power target", (*_SIZE, "/engine/power", "/engine/power_speed"),
         "bmep = 2 P / (Vd n); Heywood, ch. 2.7", lambda r: r.bmep_pa),
    Spec("engine.piston_speed", "m/s", "Mean piston speed at the rev limit", ("/engine/stroke", "/engine/bore", *_SIZE, "/engine/cylinders", "/engine/firing_order", "/engine/rev_limit"),
         "2 s n; Heywood, ch. 2.2", lambda r: r.piston_speed_m_s),
    Spec("engine.air_mass_flow", "kg/h", "Air at full power", ("engine.fuel_mass_flow", "/tune/full_lambda"),
         "fuel flow times air-fuel ratio", lambda r: r.air_mass_flow_kg_s),
    Spec("engine.fuel_mass_flow", "kg/h", "Fuel at full power", ("/engine/power", "/engine/bsfc", "/engine/fuel"),
         "P times BSFC; Heywood, ch. 2.8", lambda r: r.fuel_mass_flow_kg_s),
    Spec("engine.idle_manifold_pressure", "kPa", "Manifold pressure at idle, absolute", ("/engine/cam", "engine.ambient_pressure"),
         "usual for the cam; Heywood, ch. 6.2", lambda r: r.idle_manifold_pressure_pa),
    Spec("engine.idle_fuel_mass_flow", "kg/h", "Fuel at idle",
         ("engine.idle_manifold_pressure", *_SIZE, "/engine/idle_speed", "/engine/valve_train", "/engine/compression_ratio", "/engine/fuel", "/tune/idle_lambda"),
         "filling with residual gas; Heywood, ch. 6.2", lambda r: r.idle_fuel_mass_flow_kg_s),
    Spec("engine.compression.spread", "1", "Compression spread, (highest - lowest) / highest", ("/engine/compression", "/engine/cylinders", "/engine/firing_order"),
         "compression test", lambda r: r.compression_spread, share=True),
    Spec("engine.compression.expected", "kPa", "Compression to expect, cranking, gauge", ("/engine/compression_ratio", *_GEOMETRY, "engine.ambient_pressure"),
         "p CR^1.2 less leakage, polytropic compression", lambda r: r.compression_expected_pa),
    *(Spec(f"engine.power.from_{key}{suffix}", "kW", f"Power {words}{more}", uses, source, _of(key, end))
      for key, words, uses, source in (("air", "from the air it can draw", _AIR, "air over air-fuel ratio over BSFC"), ("run", "from what the car should do", ("/engine/run", "/engine/cam", "/engine/idle_speed", "/engine/power_speed", "/engine/rev_limit"), "kinetic energy over time and the share that arrives"))
      for suffix, end, more in (("", "middle", ""), (".p05", "low", ", at least"), (".p95", "high", ", at most"))),
    Spec("engine.inlet.closing", "deg", "Inlet shuts, after bottom dead centre", ("/engine/inlet_closing", "/engine/cam_card"), "centre plus half the duration less 180", lambda r: r.inlet_closing_deg),
    Spec("engine.cam.overlap", "deg", "Both valves open", ("/engine/cam_card",), "half durations less centres", lambda r: r.overlap_deg),
    Spec("engine.inlet.mach", "1", "Inlet Mach index at full power", (*_GEOMETRY, "/engine/inlet_valve", "/engine/inlet_valves", "/engine/power_speed"), "Taylor, vol. 1, ch. 6", lambda r: r.mach_index),
    Spec("engine.leak_down", "1", "Worst leak-down", ("/engine/compression",), "leak-down test", lambda r: r.leak_down_worst, share=True),
    Spec("engine.vacuum", "kPa", "Manifold vacuum at idle, last reading", ("/engine/health",), "gauge, warm", lambda r: r.vacuum_pa),
    Spec("engine.vacuum.expected", "kPa", "Manifold vacuum to expect at idle", ("engine.idle_manifold_pressure", "engine.ambient_pressure"), "usual for the cam, less at altitude", lambda r: r.vacuum_expected_pa),
)  # fmt: skip
