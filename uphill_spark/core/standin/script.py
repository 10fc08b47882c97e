"""What each fault looks like: a cold start and a warm idle run through with it, and what a person would see, read and find at every look."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from ..physics.air import Array
from ..reference import looks
from .ails import Ails, lanes_of
from .case import Case, Impossible, Made
from .engine import STEP
from .faults_electric import FAULTS as ELECTRIC
from .faults_fuel import FAULTS as FUEL
from .faults_sensors import FAULTS as SENSORS
from .faults_spark import FAULTS as SPARK
from .plant import plant_of, quick
from .running import OFF, RUN, START, Plant, Running
from .start import CRANKS_MOST

#: Every fault by its key, with what makes it.
MAKES = {**ELECTRIC, **SPARK, **FUEL, **SENSORS}

COLD_C, WARM_C = 15.0, 85.0  # coolant of a cold start, of a warm idle
STOOD_S, FOLLOWED_S = 7.0, 25.0  # from key on to the starter, from key on to the end
PRIMED_S = 1.9  # after key on: the gauge is looked at
WARM_FROM, WARM_TO = 7.0, 11.0  # s, between which a warm idle is judged
OPENS_S, LIFTS_S, KEY_OFF_S = 11.0, 15.0, 22.0  # pedal down, pedal lifted, key off
OPENED = 0.10  # of the pedal
HUNTS, STALLS = 0.09, 250.0  # swing of the speed as a share; rpm under which it does not stay
UNEVEN = 0.7  # of the best cylinder's work, under which one is out
DRY_OVER = 1.3  # lambda of what came while cranking, over which a plug stays dry
MISFIRES, FADES, PINGS = 0.8, 1.08, 7.0  # share lit at full load; lambda over what is wanted; deg too early
LATE_FADES = -7.0  # deg too late

Value = float | str | None  # None: it cannot be looked at, the engine does not run
Seen = dict[str, Value]


@dataclass(frozen=True, slots=True)
class Tried:
    """Faults of a car with what each looks like; those that it cannot have, with why."""

    sound: Seen
    seen: dict[str, Seen]
    impossible: dict[str, str]


def makes(case: Case, key: str) -> Made:
    """A fault by its key, made in a car. Raises Impossible where this car cannot have it, or nobody knows it."""
    if key not in MAKES:
        raise Impossible(f"no such fault is known: one of {', '.join(sorted(MAKES)[:5])} and so on")
    return MAKES[key](case)


def made(case: Case) -> tuple[dict[str, Made], dict[str, str]]:
    """Every fault made in a car, and why some cannot be."""
    found: dict[str, Made] = {}
    impossible: dict[str, str] = {}
    for key, make in MAKES.items():
        try:
            found[key] = make(case)
        except Impossible as error:
            impossible[key] = str(error)
    return found, impossible


def tried(case: Case, told: Callable[[float], None] = lambda _: None) -> Tried:
    """All faults of a car run through; `told` hears how far it is [share]. The car is taken as in order but for the fault: what its Stops say is told elsewhere."""
    found, impossible = made(case)
    rows = [case.sound, *found.values()]
    cold, warm = _run(plant_of(case.w, quick(case.w), tidy=True), [m.ails for m in rows], case.cylinders, told)
    seen = [_seen(case, m, cold, warm, i) for i, m in enumerate(rows)]
    return Tried(seen[0], dict(zip(found, seen[1:], strict=True)), impossible)


def _run(plant: Plant, ails: list[Ails], cylinders: int, told: Callable[[float], None]) -> tuple[dict[str, Array], dict[str, Array]]:
    """Each lane twice: started cold, and warm from a running idle."""
    n = len(ails)
    target = float(plant.unit.over("idle_speed", np.array([WARM_C]))[0]) / 60
    coolant = np.array([COLD_C] * n + [WARM_C] * n)
    car = Running(plant, lanes_of([*ails, *ails], cylinders), coolant, np.full(2 * n, 20.0), np.array([0.0] * n + [target] * n))
    is_cold = np.arange(2 * n) < n
    kept: dict[str, Array] = {
        key: np.full(2 * n, np.nan)
        for key in ("rail_prime", "coolant_shown", "manifold_still", "throttle_up", "after", "died", "pulse", "rail_stood")
    }
    sums: dict[str, Array] = {
        key: np.zeros(2 * n)
        for key in (
            "turning",
            "turned_s",
            "speed",
            "speed2",
            "manifold",
            "lambda",
            "valve",
            "rail",
            "counted",
            "lowest",
            "cranked",
            "cranked_s",
        )
    }
    sums["lowest"] += 1e9
    steps = int(FOLLOWED_S / STEP)
    for k in range(steps):
        t = k * STEP
        starts = is_cold & (t >= STOOD_S) & np.isnan(kept["after"]) & (t < STOOD_S + CRANKS_MOST)
        key = np.where(starts, START, RUN)
        key = np.where(~is_cold & (t >= KEY_OFF_S), OFF, key)
        pedal = np.where(~is_cold & (t >= OPENS_S) & (t < LIFTS_S), OPENED, 0.0)
        car.step(key, pedal)
        shown = car.shown
        if k == int(PRIMED_S / STEP):
            kept |= {
                "rail_prime": car.rail(),
                "coolant_shown": shown["coolant"],
                "manifold_still": shown["manifold"],
                "throttle_up": shown["throttle"] - plant.opened,
            }
        if k == int((STOOD_S - 0.1) / STEP):
            kept["rail_stood"] = car.rail()
        turning = starts & (car.lanes.rev_s > 1.0) & (car.lanes.rev_s < 5.5)
        sums["turning"] += np.where(turning, car.lanes.rev_s * 60, 0.0)
        sums["turned_s"] += turning
        sums["cranked"] += np.where(starts & (car.turned > 2.5), np.clip(car.lanes.lamda, 0.0, 3.0), 0.0)
        sums["cranked_s"] += starts & (car.turned > 2.5)
        sums["lowest"] = np.where(starts & (shown["awake"] > 0), np.minimum(sums["lowest"], shown["volts"]), sums["lowest"])
        pulse = shown["meant"] * plant.unit.cylinders / plant.flow_kg_s * 1e3
        kept["pulse"] = np.where(starts & (pulse > 0) & np.isnan(kept["pulse"]), pulse, kept["pulse"])
        kept["after"] = np.where(is_cold & car.running & np.isnan(kept["after"]), t - STOOD_S, kept["after"])
        kept["died"] = np.where(is_cold & ~np.isnan(kept["after"]) & ~car.running & np.isnan(kept["died"]), t - STOOD_S, kept["died"])
        if WARM_FROM <= t < WARM_TO:
            speed = car.lanes.rev_s * 60
            sums["speed"] += speed
            sums["speed2"] += speed**2
            sums["counted"] += 1
            for name in ("manifold", "lambda", "valve"):
                sums[name] += shown[name]
            sums["rail"] += car.rail() / 1e3
        if k == int((KEY_OFF_S - 0.1) / STEP):
            kept["lifted"] = car.lanes.rev_s * 60
        if k % 100 == 0:
            told(k / steps)
    counted = sums["counted"]
    mean = {name: sums[name] / counted for name in ("speed", "manifold", "lambda", "valve", "rail")}
    swing = np.sqrt(np.maximum(sums["speed2"] / counted - mean["speed"] ** 2, 0.0))
    everything = kept | mean | {
        "swing": swing, "speed_crank": sums["turning"] / np.maximum(sums["turned_s"], 1.0), "unit_crank": sums["lowest"], "coughs": car.coughs, "end": car.lanes.rev_s * 60,
        "mixture": sums["cranked"] / np.maximum(sums["cranked_s"], 1.0), "fuelled_s": sums["cranked_s"],
    }  # fmt: skip
    return {name: v[:n] for name, v in everything.items()}, {name: v[n:] for name, v in everything.items()}


def _seen(case: Case, m: Made, cold: Mapping[str, Any], warm: Mapping[str, Any], i: int) -> Seen:
    """Every look at one lane."""
    a = m.ails
    after, died = float(cold["after"][i]), float(cold["died"][i])
    caught, mean = not np.isnan(after), float(warm["speed"][i])
    shown: Seen = {name: look.sound for name, look in looks().items() if look.answers}
    shown |= {
        "battery_rest": a.rested_v, "unit_crank": 0.0 if not a.wakes else min(float(cold["unit_crank"][i]), a.crank_v), "speed_crank": float(cold["speed_crank"][i]),
        "rail_prime": float(cold["rail_prime"][i]) / 1e3, "loss_prime": _loss(case, m, cold, i), "coolant_shown": float(cold["coolant_shown"][i]), "manifold_still": float(cold["manifold_still"][i]),
        "throttle_up": float(cold["throttle_up"][i]), "throttle_down": _down(a), "catches": after if caught else CRANKS_MOST, "cranking_pulse": float(np.nan_to_num(cold["pulse"][i])),
        "lambda_idle": float(warm["lambda"][i]), "speed_idle": mean, "manifold_idle": float(warm["manifold"][i]), "air_valve": float(warm["valve"][i]), "rail_idle": float(warm["rail"][i]),
        "light_locked": 10.0 + a.angle + a.early_s * 360 * 200 / 60, "light_3000": 10.0 + a.angle + a.drift * 3 + a.early_s * 360 * 50, "light_idle": 12.0 + a.angle, "compression": 94.0,
        "rail_load": a.full_pa * _set_kpa(case), "lambda_load": _lambda_load(case, a), "teeth": float(case.w.trigger.teeth_per_turn) if case.w.trigger else 0.0,
    }  # fmt: skip
    shown |= m.volts
    shown["pump_sound"] = a.pump
    seen = float(cold["speed_crank"][i]) / 60 >= a.seen_from
    shown["speed_shown"] = "resets" if not a.wakes or a.crank_v < 6.5 else "steady" if seen else "none"
    shown["starts"] = _starts(a, cold, i, caught=caught, died=died)
    shown["plugs"] = _plugs(cold, i, caught=caught)
    swing = float(warm["swing"][i])
    shown["idle_hunts"] = "stalls" if mean <= STALLS else "hunts" if swing > HUNTS * mean else "steady"
    shown["shake"] = _shake(case.cylinders, a) if mean > STALLS else "even"
    shown["load"] = _load(case, a)
    shown["lift"] = "dies" if a.resumes < 5.0 or (mean > STALLS > float(warm["lifted"][i])) else "settles"
    shown["key_off"] = "runs" if float(warm["end"][i]) > STALLS else "stops"
    shown["speed_idle_shown"] = "spikes" if a.spikes else "steady"
    shown |= m.finds
    if shown["starts"] in ("nothing", "coughs") or (shown["starts"] == "dies" and (a.dies_s < 60 or mean < STALLS)):
        shown |= {name: None for name, look in looks().items() if look.runs}
    return shown


def _set_kpa(case: Case) -> float:
    return case.b.fuel.regulator.set_pressure.si / 1e3


def _loss(case: Case, m: Made, cold: Mapping[str, Any], i: int) -> float:
    """What the gauge loses in five minutes [kPa]."""
    if m.ails.empties_s < 60:
        return max(float(cold["rail_prime"][i] - cold["rail_stood"][i]) / 1e3, 0.0)
    return min(float(cold["rail_prime"][i]) / 1e3, 8.0)


def _down(a: Ails) -> float:
    """Throttle with the pedal down [%]."""
    if not np.isnan(a.throttle):
        return a.throttle
    return -a.throttle_off if a.reversed else 100 + a.throttle_off


def _starts(a: Ails, cold: Mapping[str, Any], i: int, *, caught: bool, died: float) -> str:
    """What a try at starting is, in a word."""
    if caught:
        if not np.isnan(died) or float(cold["end"][i]) < STALLS:
            return "dies"
        return (
            "rough"
            if a.wrong > 0 or (a.lit and min(a.lit) < UNEVEN) or (a.fuel and min(a.fuel) < 0.5) or (a.air and min(a.air) < 0.5)
            else "runs"
        )
    return "coughs" if float(cold["coughs"][i]) > 0.3 else "nothing"


def _plugs(cold: Mapping[str, Any], i: int, *, caught: bool) -> str:
    """Plugs after a try: wet where fuel came and did not burn, dry where too little came to burn."""
    mixture = float(cold["mixture"][i])
    if caught:
        return "usual"
    return "dry" if float(cold["fuelled_s"][i]) < 5 or mixture > DRY_OVER else "wet"


def _shake(cylinders: int, a: Ails) -> str:
    """How many cylinders are out."""
    if not (a.lit or a.fuel or a.air):
        return "even"
    lit, fuel, air = (np.array(row or (1.0,) * cylinders) for row in (a.lit, a.fuel, a.air))
    share = lit * np.minimum(fuel, air) * np.clip(1 - np.maximum(air / np.maximum(fuel, 1e-3) - 1.2, 0) * 2, 0, 1)
    out = int((share < UNEVEN * share.max()).sum())
    return "even" if out == 0 else "one" if out == 1 else "more"


def _lambda_load(case: Case, a: Ails) -> float:
    """Mixture at full load [lambda]: what was meant over what came."""
    meant = case.b.tune.full_lambda
    known = a.gain if np.isnan(a.manifold) else 1.0
    pulse = case.w.injectors.pulse_full_s
    dead = max(1 - a.dead_s / pulse, 0.1) if pulse > 0 else 1.0
    came = a.typed * a.flow * max(a.full_pa, 1e-3) ** 0.5 * (known if case.w.tune.load_signal != "throttle" else 1.0) * dead
    return min(meant * a.filling / max(came, 0.05) * a.lamda, 3.0) if np.isnan(a.lamda_stuck) else a.lamda_stuck


def _load(case: Case, a: Ails) -> str:
    """What full throttle is like, in a word."""
    if a.energy < MISFIRES * 0.55 or a.spikes or (a.lit and min(a.lit) < UNEVEN):
        return "misfires"
    early = a.angle + a.drift * 3
    if early > PINGS:
        return "pings"
    lean = _lambda_load(case, a) / (a.lamda * case.b.tune.full_lambda) if np.isnan(a.lamda_stuck) else 1.0
    return "fades" if lean > FADES or early < LATE_FADES or a.back > 0.3 or a.filling < 0.85 else "pulls"
