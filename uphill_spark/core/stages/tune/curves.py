"""What a control unit is told besides its grids: curves over coolant, air, volts, and single figures.

Each begins at what is usual (Heywood, ch. 7 and 13; Aquino, SAE 810494, for fuel on the wall) and says how far off that may be; a cold engine's own are found at its first cold starts.
"""

from __future__ import annotations

from ...figures import Result
from ...given import Build
from ...physics.air import P_SEA_LEVEL
from ..engine import EngineResult, boost_of
from ..ignition import IgnitionResult
from ..injectors import InjectorsResult
from .axes import Load
from .tables import Table, curve

COOLANT = [-20.0, 0.0, 20.0, 40.0, 60.0, 75.0]
WARM_UP = [1.60, 1.38, 1.20, 1.10, 1.04, 1.00]
WET_MORE = 1.3  # times as much more for warming up, where fuel runs along a manifold
CRANK_COOLANT = [-20.0, 0.0, 20.0, 40.0, 80.0]
CRANKING = [2.6, 1.8, 1.2, 0.9, 0.55]
ALCOHOL_COLD = [2.2, 1.6]  # factor on cold cranking fuel of E85 at -20 and 0 C
PRIME_SHARE = 0.8  # of the cranking fuel: one squirt before the first turn, on a dry wall
AFTER_START, AFTER_START_S = (35.0, 10.0), (15.0, 4.0)  # per cent and s, at -20 and at 80 C
#: Share of a squirt that wets the wall, and s in which that dries, cold and hot, by where fuel enters (Aquino; Heywood, ch. 7.6).
TIP_IN_COOLANT = [-20.0, 20.0, 50.0, 85.0]
TIP_IN_SHARE = {"below_plates": [0.55, 0.40, 0.28, 0.18], "above_plates": [0.70, 0.55, 0.42, 0.30]}
TIP_IN_TIME = {"below_plates": [1.6, 0.9, 0.5, 0.25], "above_plates": [2.5, 1.6, 1.0, 0.6]}
AIR = [-20.0, 0.0, 20.0, 40.0, 60.0, 80.0]  # degC
AIR_AT, SOAKS = 20.0, 0.5  # degC at which nothing is changed; share of the change over 50 degC that is heat of the sensor, not of the air
SOAKS_FROM = 50.0
OUTSIDE = [60.0, 70.0, 80.0, 90.0, 101.3, 105.0]  # kPa
BACK_HELPS = 0.08  # share of filling that a lower pressure behind the exhaust gives back, for a manifold that has its own gauge
IDLE_COOLANT = [-20.0, 0.0, 20.0, 50.0, 80.0]
IDLE_MORE = [450.0, 300.0, 200.0, 80.0, 0.0]  # rpm
IDLE_AIR = [65.0, 52.0, 43.0, 34.0, 28.0]  # per cent of what the valve can pass
IDLE_OFF = [-200.0, -100.0, 0.0, 100.0, 200.0]  # rpm over the target
IDLE_TRIM = [6.0, 3.0, 0.0, -3.0, -6.0]  # deg
FAN = [(-5.0, 0.0), (2.0, 0.0), (5.0, 40.0), (10.0, 70.0), (15.0, 100.0)]  # K over where the thermostat opens, per cent
THERMOSTAT = 85.0  # degC at which a usual one opens
OVER_RUN_OUT, OVER_RUN_IN = 600.0, 900.0  # rpm over idle at which fuel comes back on the over-run, and at which it may be cut
SOFT_LIMIT = 200.0  # rpm under the limit, where spark is taken back first
FLOOD_CLEAR = 0.80  # of the throttle while cranking, from where on no fuel is given
CUT_OVER = 15e3  # Pa over the boost, at which fuel is cut: the gate sticks or a hose is off


class Constant(Result):
    """A single figure to type in: what it is called, its value in its unit, why so."""

    key: str
    title: str
    value: float
    unit: str
    why: str


def curves(build: Build, load: Load, injectors: InjectorsResult, ignition: IgnitionResult, keeps: str) -> list[Table]:
    """Every curve, in the order in which a unit asks for them. `keeps` says why the spark's own are not typed in, where a distributor keeps it."""
    enters = build.injectors.enters
    wet = WET_MORE if build.engine.layout == "throttle_body" else 1.0
    cold = ALCOHOL_COLD if build.engine.fuel == "E85" else [1.0, 1.0]
    crank = [c * (cold[k] if k < len(cold) else 1.0) for k, c in enumerate(CRANKING)]
    hot = build.engine.idle_speed.si * 60
    dwell = [row for row in ignition.dwell if row.dwell_s is not None]
    trim = "± 2 deg; small, or it hunts"
    return [
        curve("prime", CRANK_COOLANT, [c * PRIME_SHARE for c in crank], "± 40 %; none where it starts at once"),
        curve("cranking", CRANK_COOLANT, crank, "± 30 %; trim at the first cold starts"),
        curve("after_start", CRANK_COOLANT, _between(AFTER_START), "± 30 %"),
        curve("after_start_time", CRANK_COOLANT, _between(AFTER_START_S), "± 40 %"),
        curve("warm_up", COOLANT, [1 + (w - 1) * wet for w in WARM_UP], "± 8 %"),
        curve("tip_in_share", TIP_IN_COOLANT, TIP_IN_SHARE[enters], "± 40 %; by a log of quick openings"),
        curve("tip_in_time", TIP_IN_COOLANT, TIP_IN_TIME[enters], "± 50 %; by a log of quick openings"),
        curve("air_temperature", AIR, [_by_air(t) for t in AIR], "± 3 %; heat that soaks into the sensor is half of what it shows over 50 °C"),
        curve("altitude", OUTSIDE, [_by_outside(p, load) for p in OUTSIDE], "± 2 %"),
        curve("idle_speed", IDLE_COOLANT, [round((hot + more) / 10) * 10.0 for more in IDLE_MORE], "a choice, not a measurement"),
        curve("idle_air", IDLE_COOLANT, IDLE_AIR, "± 15 of 100; the stop's own gap counts"),
        curve("idle_trim", IDLE_OFF, IDLE_TRIM, trim, keeps),
        curve("dwell", [r.volts for r in dwell], [(r.dwell_s or 0) * 1e3 for r in dwell], "from the coil's figures"),
        curve(
            "dead_time", [float(v) for v in injectors.dead_time], [t * 1e3 for t in injectors.dead_time.values()],
            "assumed, ± 0.2 ms" if injectors.dead_time_assumed else "from the injector's table",
        ),
        curve("fan", [THERMOSTAT + over for over, _ in FAN], [duty for _, duty in FAN], f"a thermostat that opens at {THERMOSTAT:.0f} °C"),
    ]  # fmt: skip


def constants(build: Build, engine: EngineResult) -> list[Constant]:
    """Every single figure that is a limit or a switch."""
    e = build.engine
    idle, limit = e.idle_speed.si * 60, e.rev_limit.si * 60
    found = [
        Constant(key="rev_limit", title="Rev limit, fuel and spark", value=round(limit), unit="rpm", why="the engine's own"),
        Constant(key="soft_limit", title="Spark taken back from", value=round(limit - SOFT_LIMIT), unit="rpm", why="warns before it cuts"),
        Constant(
            key="over_run_cut", title="Over-run: fuel cut over", value=round((idle + OVER_RUN_IN) / 50) * 50, unit="rpm", why="throttle shut, warm"
        ),
        Constant(
            key="over_run_back", title="Over-run: fuel back at", value=round((idle + OVER_RUN_OUT) / 50) * 50, unit="rpm", why="before it falls under idle"
        ),
        Constant(key="flood_clear", title="No fuel while cranking with throttle over", value=FLOOD_CLEAR * 100, unit="%", why="dries a flooded engine"),
    ]  # fmt: skip
    if cut := fuel_cut(build, engine):
        found.append(
            Constant(
                key="boost_cut",
                title="Fuel cut over, absolute",
                value=round(cut / 1e3),
                unit="kPa",
                why="the gate sticks, or a hose is off",
            )
        )
    return found


def fuel_cut(build: Build, engine: EngineResult) -> float | None:
    """Manifold pressure over which fuel is cut [Pa]; None without a blower."""
    boost = boost_of(build.engine)
    return engine.ambient_pressure_pa + boost + CUT_OVER if boost else None


def _between(ends: tuple[float, float]) -> list[float]:
    """Straight from the coldest to the hottest of the cranking axis."""
    first, last = CRANK_COOLANT[0], CRANK_COOLANT[-1]
    return [ends[0] + (ends[1] - ends[0]) * (t - first) / (last - first) for t in CRANK_COOLANT]


def _by_air(celsius: float) -> float:
    """Fuel by air temperature [degC]: density by 1/T, half of it where the sensor's own heat begins."""
    taken = min(celsius, SOAKS_FROM) + max(celsius - SOAKS_FROM, 0.0) * SOAKS
    return (AIR_AT + 273.15) / (taken + 273.15)


def _by_outside(kpa: float, load: Load) -> float:
    """Fuel by the pressure outside [kPa]: a throttle's opening knows nothing of it, a manifold's gauge all but what the exhaust gains."""
    share = kpa * 1e3 / P_SEA_LEVEL
    return share if load == "throttle" else 1 + BACK_HELPS * (1 - share)
