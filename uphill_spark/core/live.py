"""What comes over a bus from a control unit: quantities that are known here, how a person's own signals are taken for them, and which reading of a step each gives, and when."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from .figures import Result
from .given.readings_start import ReadingKey

Quantity = Literal[
    "speed", "advance", "teeth", "in_step", "runs", "starter", "pump", "manifold", "throttle", "coolant", "air", "lambda", "pulse", "rail", "valve", "volts", "oil", "exhaust", "knock", "key",
    "target", "lambda_2", "trim", "road_speed", "outside", "fan", "fault",
]  # fmt: skip


class QuantityInfo(Result):
    """A quantity of a control unit: its word, unit, and the range in which it can be believed."""

    key: Quantity
    word: str
    unit: str
    low: float
    high: float


#: Quantities with the words by which signals of other makers' files are guessed.
_ROWS: tuple[tuple[Quantity, str, str, float, float, str], ...] = (
    ("speed", "Engine speed", "rpm", 0, 12000, r"eng(ine)?_?(speed|rpm)|\brpm\b|^n_?mot|revs|^speed$"), ("advance", "Advance", "deg", -90, 90, r"advance|ignit(ion)?_?angle|spark|timing"),
    ("teeth", "Teeth in a turn", "", 0, 240, r"teeth"), ("in_step", "In step", "", 0, 1, r"in_?step|sync"), ("runs", "Runs", "", 0, 1, r"(engine_?)?run(s|ning)"), ("starter", "Starter", "", 0, 1, r"starter|crank(ing)?_?on"),
    ("pump", "Fuel pump", "", 0, 1, r"pump"), ("manifold", "Manifold pressure", "kPa", 0, 400, r"manifold|\bmap\b|(inlet|intake)_?press|boost"), ("throttle", "Throttle", "%", -50, 150, r"throttle|\btps\b|pedal|plate"),
    ("target", "Lambda target", "", 0.4, 2, r"(lam(bda)?|afr|mix(ture)?).*(target|wanted|cmd|command|desired)|(target|wanted|cmd|command(ed)?|desired).*(lam(bda)?|afr|mix(ture)?)"),
    ("lambda_2", "Lambda, second bank", "", 0, 4, r"(lam(bda)?|afr|o2)_?(sensor)?_?(2|b|bank_?2|right)$"), ("trim", "Trim in use", "%", -60, 60, r"trim|(ego|lambda|fuel|short).*corr|closed_?loop_?(factor|corr)"),
    ("road_speed", "Road speed", "km/h", 0, 400, r"(road|vehicle|wheel|gps|car)_?speed|\bvss\b|^km_?h$"), ("outside", "Pressure outside", "kPa", 40, 115, r"baro|ambient_?press|outside_?press|atmos"),
    ("fan", "Fan", "", 0, 1, r"\bfan\b"), ("fault", "Fault flag", "", 0, 65535, r"fault|\bdtc\b|error_?(flag|code)|\bmil\b"),
    ("coolant", "Coolant", "degC", -60, 200, r"cool(ant)?|\bclt\b|\bect\b|water|head_?temp|engine_?temp"), ("air", "Intake air", "degC", -60, 200, r"(intake|inlet|air|charge)_?_?(air_?)?temp|\biat\b|\bmat\b|\bact\b|^(intake|inlet)_?air$|^air$"),
    ("lambda", "Lambda", "", 0, 4, r"lam(bda)?|\bafr\b|\bego\b|oxygen|\bo2\b"), ("pulse", "Injector pulse", "ms", 0, 300, r"pulse|inj(ector)?_?(time|width|dur)|\bpw\b"), ("rail", "Rail pressure", "kPa", 0, 1500, r"rail|fuel_?press"),
    ("valve", "Idle valve", "%", 0, 100, r"idle_?(valve|duty|air)|\biac\b"), ("volts", "Volts at the unit", "V", 0, 30, r"volt|batt|\bvbat\b|supply"), ("oil", "Oil pressure", "kPa", 0, 1200, r"oil"),
    ("exhaust", "Exhaust", "degC", -60, 1300, r"exh(aust)?|\begt\b"), ("knock", "Knocks counted", "", 0, 255, r"knock"),
    ("key", "Key of the stand-in", "", 0, 3, r"$^"),
)  # fmt: skip
QUANTITIES: dict[Quantity, QuantityInfo] = {
    key: QuantityInfo(key=key, word=word, unit=unit, low=low, high=high) for key, word, unit, low, high, _ in _ROWS
}
#: Those that a log may hold and the stand-in does not say on its bus.
OF_LOGS: frozenset[Quantity] = frozenset({"target", "lambda_2", "trim", "road_speed", "outside", "fan", "fault"})
#: How signals are told in other units: factor and offset to ours. A stoichiometric ratio is not known of an air-fuel ratio: it is asked for.
_UNITS: dict[tuple[str, str], tuple[float, float]] = {
    ("kPa", "bar"): (100.0, 0.0), ("kPa", "mbar"): (0.1, 0.0), ("kPa", "hpa"): (0.1, 0.0), ("kPa", "pa"): (1e-3, 0.0), ("kPa", "psi"): (6.894757, 0.0), ("degC", "k"): (1.0, -273.15),
    ("degC", "degf"): (5 / 9, -160 / 9), ("degC", "°f"): (5 / 9, -160 / 9), ("degC", "f"): (5 / 9, -160 / 9), ("V", "mv"): (1e-3, 0.0), ("ms", "us"): (1e-3, 0.0), ("ms", "µs"): (1e-3, 0.0), ("ms", "s"): (1e3, 0.0),
    ("rpm", "1/s"): (60.0, 0.0), ("rpm", "hz"): (60.0, 0.0), ("kPa", "inhg"): (3.386389, 0.0), ("kPa", "mmhg"): (0.1333224, 0.0), ("km/h", "mph"): (1.609344, 0.0), ("km/h", "m/s"): (3.6, 0.0), ("km/h", "kph"): (1.0, 0.0),
    ("km/h", "kmh"): (1.0, 0.0),
}  # fmt: skip


class SignalTaken(Result):
    """A signal taken for a quantity: its name, and by which factor and offset it becomes that."""

    signal: str
    quantity: Quantity
    factor: float = 1.0
    offset: float = 0.0


def guessed(signals: Sequence[tuple[str, str]]) -> list[SignalTaken]:
    """Which signals (name, unit) are which quantities, by their names and units; each quantity once, the plainest name first."""
    found: dict[Quantity, SignalTaken] = {}
    for name, unit in sorted(signals, key=lambda s: len(s[0])):
        plain = re.sub(r"[\s.\-]+", "_", re.sub(r"([a-z])([A-Z])", r"\1_\2", name)).lower()
        for key, _, own, _, _, pattern in _ROWS:
            scaled = _scale(own, unit)
            whole = re.sub(r"\\b(\w+)\\b", r"(?<![a-z])\1(?![a-z])", pattern)  # a word ends where letters do
            if key not in found and scaled is not None and re.search(whole, plain):
                found[key] = SignalTaken(signal=name, quantity=key, factor=scaled[0], offset=scaled[1])
                break
    return [found[key] for key in QUANTITIES if key in found]


def _scale(own: str, unit: str) -> tuple[float, float] | None:
    """Factor and offset from a signal's unit to ours; None where it cannot be that quantity."""
    plain = unit.strip().lower().replace("°c", "degc").replace("u/min", "rpm").replace("1/min", "rpm").replace("min-1", "rpm")
    if plain in ("", own.lower(), {"degC": "c"}.get(own, "-")):
        return 1.0, 0.0
    return _UNITS.get((own, plain))


Sample = tuple[float, Mapping[Quantity, float]]
HOLDS = 3.0  # s that a reading has to stay in its band before a step goes on by itself
WINDOW = 40.0  # s of samples that readings are taken from
STILL_RPM, TURNS_RPM, IDLE_RPM, WARM = 30.0, 60.0, 450.0, 75.0
UP, DOWN = 15.0, 85.0  # % of the throttle under and over which the pedal is up or down


@dataclass(frozen=True, slots=True)
class Live:
    """A reading from the bus: its value [unit of its kind, as typed], and the words that a person would have typed."""

    value: float
    typed: str


Turning = Literal["still", "cranking", "running"]


def turning(now: Mapping[Quantity, float]) -> Turning:
    """What the engine does by what is shown now [the units of the quantities]."""
    if now.get("starter", 0.0) > 0.5 and now.get("runs", 0.0) < 0.5:
        return "cranking"
    return "running" if now.get("runs", 0.0) > 0.5 or now.get("speed", 0.0) > IDLE_RPM else "still"


def _last(samples: Sequence[Sample], key: Quantity, when: Callable[[Mapping[Quantity, float]], bool] = lambda _: True) -> list[float]:
    return [row[key] for _, row in samples if key in row and when(row)]


def _turns(row: Mapping[Quantity, float]) -> bool:
    return row.get("starter", 0.0) > 0.5 and TURNS_RPM < row.get("speed", 0.0) < IDLE_RPM


def _still(row: Mapping[Quantity, float]) -> bool:
    return row.get("speed", 0.0) < STILL_RPM and row.get("starter", 0.0) < 0.5


def _idles(row: Mapping[Quantity, float]) -> bool:
    return row.get("speed", 0.0) > IDLE_RPM and row.get("throttle", 0.0) < UP and row.get("starter", 0.0) < 0.5


def _warm(row: Mapping[Quantity, float]) -> bool:
    return _idles(row) and row.get("coolant", 0.0) > WARM


def readings(samples: Sequence[Sample]) -> dict[ReadingKey, Live]:
    """Readings of the steps that the samples (time [s], values) give, each only from moments in which it means something."""
    found: dict[ReadingKey, Live] = {}

    def put(
        key: ReadingKey, values: list[float], unit: str, take: Callable[[list[float]], float] = lambda v: v[-1], digits: int = 1
    ) -> None:
        good = [v for v in values if math.isfinite(v)]
        if good:
            value = round(take(good), digits)
            found[key] = Live(value, f"{value:g} {unit}".strip())

    recent = [s for s in samples if samples and s[0] >= samples[-1][0] - 2.0]
    put("manifold_still", _last(recent, "manifold", _still), "kPa")
    put("throttle_up", _last(recent, "throttle", lambda r: _still(r) and r["throttle"] < UP), "%")
    put("throttle_down", _last(samples, "throttle", lambda r: _still(r) and r["throttle"] > DOWN), "%", max)
    put("speed_still", _last(recent, "speed", lambda r: r.get("starter", 0.0) < 0.5 and r.get("runs", 0.0) < 0.5), "rpm", digits=0)
    agree = [abs(row["coolant"] - row["air"]) for _, row in recent if "coolant" in row and "air" in row and _still(row)]
    put("agree", agree, "K")
    put("rail_prime", _last(samples, "rail", lambda r: _still(r) and r.get("pump", 0.0) > 0.5), "kPa", max)
    put("speed_crank", _last(samples, "speed", _turns), "rpm", _middle, 0)
    put("unit_crank", _last(samples, "volts", _turns), "V", min, 2)
    put("oil_crank", _last(samples, "oil", _turns), "kPa", max, 0)
    put("teeth", _last(samples, "teeth", _turns), "", max, 0)
    put("charging", _last(recent, "volts", lambda r: r.get("speed", 0.0) > IDLE_RPM and r.get("starter", 0.0) < 0.5), "V", digits=2)
    put("rail_first", _last(recent, "rail", _idles), "kPa")
    for key, quantity, unit, digits in (("speed_idle", "speed", "rpm", 0), ("manifold_idle", "manifold", "kPa", 1), ("rail_idle", "rail", "kPa", 1), ("pulse_idle", "pulse", "ms", 2), ("lambda_idle", "lambda", "", 3), ("air_valve", "valve", "%", 1)):  # fmt: skip
        put(key, _last(recent, quantity, _warm), unit, _middle, digits)  # type: ignore[arg-type]
    caught = _catches(samples)
    if caught is not None:
        put("catches", [caught], "s")
    oil = _oil_after(samples)
    if oil is not None:
        put("oil_start", [oil], "s")
    pulses = _last(samples, "pulse", _turns)
    put("pulse_first", [v for v in pulses if v > 0][:1], "ms", digits=2)
    return found


def _middle(values: list[float]) -> float:
    return sorted(values)[len(values) // 2]


def _catches(samples: Sequence[Sample]) -> float | None:
    """Seconds from the starter to the engine that runs by itself, in the last try."""
    begun = None
    found = None
    for t, row in samples:
        if row.get("starter", 0.0) > 0.5:
            if begun is None or found is not None:
                begun, found = t, None
        elif begun is not None and found is None:
            if row.get("runs", 0.0) > 0.5 or row.get("speed", 0.0) > IDLE_RPM:
                found = t - begun
            elif row.get("speed", 0.0) < STILL_RPM:
                begun = None
        if begun is not None and found is None and row.get("runs", 0.0) > 0.5:
            found = t - begun
    return found


OIL_UP = 100.0  # kPa, from which there is oil pressure


def _oil_after(samples: Sequence[Sample]) -> float | None:
    """Seconds from running to oil pressure, in the last try."""
    begun = None
    for t, row in samples:
        if row.get("runs", 0.0) > 0.5 and begun is None:
            begun = t
        if row.get("runs", 0.0) < 0.5:
            begun = None
        if begun is not None and row.get("oil", 0.0) >= OIL_UP:
            return max(t - begun, 0.0)
    return None


def stale(age_s: float | None) -> bool:
    """Whether the last frame is so old [s] that nothing of it may stand as a reading of now."""
    return age_s is None or age_s > STALE


STALE = 1.0  # s without a frame
