"""The closed part of a cycle, from the inlet's closing to the exhaust's opening: compression, Wiebe's burn, Woschni's heat, work, and whether it knocks.

Each lane is one cylinder at one speed and load with one spark. Sources: Heywood, ch. 9.2 (Wiebe), 9.3 and table 9.3 (flame speed), 12.4 (Woschni), 9.6
(Livengood and Wu, Douaud and Eyzat), 2.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..network import Array
from .gas import BURNED, CV, UNBURNED, R, energy, heat
from .geometry import Cylinder

WIEBE_A, WIEBE_M = 5.0, 2.0
HALF = float((np.log(2) / WIEBE_A) ** (1 / (WIEBE_M + 1)))  # of its duration, when half is burned
#: Duration of the burn [deg] at 50 rev/s, full load, lambda 0.9, seven per cent residual, by chamber: so long that the best spark lies where such chambers want it.
DURATION = {"wedge": 86.0, "hemispherical": 80.0, "pent_roof": 67.0, "flat_head": 72.0}
BY_SPEED = 0.15  # exponent of speed in the duration: turbulence grows with speed and makes up for most of it
BY_FLAME = 0.75  # exponent of the laminar flame speed in it
_FLAME_BEST, _FLAME_FALL, _FLAME_RICH = 0.305, 0.549, 1.21  # m/s, m/s, fuel-air ratio of the fastest flame: petrol (Heywood, table 9.3)
_RESIDUAL, _RESIDUAL_POWER = 2.06, 0.77  # how residual slows it (Heywood, eq. 9.53)
KNOCK_MS, KNOCK_OCTANE, KNOCK_PRESSURE, KNOCK_KELVIN = 17.68, 3.402, 1.7, 3800.0  # Douaud and Eyzat
KNOCKS_BEFORE = 0.90  # burned: what little is left when the integral fills later is not heard
_GAMMA_UNBURNED = 1.33
WOSCHNI = 3.26  # W/(m2 K), with bore in m, pressure in kPa, gas speed in m/s
EXCHANGE, COMPRESSION, COMBUSTION = 6.18, 2.28, 3.24e-3
COMPLETE = 0.97  # of the fuel's heat is set free, lean of the mixture that has air for all of it


@dataclass(frozen=True, slots=True)
class Charge:
    """What is shut in, by lane: kg, K, share of it that is burned already, lambda, fuel [kg], its heat [J/kg], octane; wall [K]."""

    mass: Array
    temperature: Array
    residual: Array
    lamda: Array
    fuel: Array
    heating: float
    octane: float
    wall: float
    gases: tuple[CV, CV] = (UNBURNED, BURNED)
    heat_scale: float = 1.0


@dataclass(frozen=True, slots=True)
class Closed:
    """What came of it, by lane: work [J], the state when the exhaust opens [K], the highest pressure [Pa] and its angle [deg], heat to the walls [J], the angle by
    which half is burned [deg], how full the knock integral is (1: it knocks), heat set free [J]; the angles [deg] of its steps, by lane where cylinders differ, and the trace [Pa]
    by step where it was asked for."""

    work: Array
    end_k: Array
    highest_pa: Array
    highest_deg: Array
    lost: Array
    half_deg: Array
    knock: Array
    freed: Array
    degrees: Array
    trace: Array | None


def flame(lamda: Array, residual: Array) -> Array:
    """Laminar flame speed [m/s] at room conditions over lambda and residual: petrol (Rhodes and Keck; Heywood, eq. 9.52 and 9.53)."""
    clean = np.maximum(_FLAME_BEST - _FLAME_FALL * (1 / lamda - _FLAME_RICH) ** 2, 0.06)
    return np.asarray(clean * np.maximum(1 - _RESIDUAL * np.maximum(residual, 0.0) ** _RESIDUAL_POWER, 0.12), dtype=np.float64)


_USUAL_FLAME = float(flame(np.array([0.9]), np.array([0.07]))[0])


def duration(chamber: str, rev_s: Array, lamda: Array, residual: Array) -> Array:
    """Duration of the burn [deg]."""
    return np.asarray(
        DURATION[chamber] * (rev_s / 50.0) ** BY_SPEED * (_USUAL_FLAME / flame(lamda, residual)) ** BY_FLAME, dtype=np.float64
    )


def set_free(lamda: Array) -> Array:
    """Share of the fuel's heat that is set free: rich, there is air for one part in 1/lambda of it (Heywood, fig. 3-9)."""
    return np.asarray(COMPLETE * np.minimum(lamda, 1.0), dtype=np.float64)


def closed(
    cylinder: Cylinder, rev_s: Array, charge: Charge, spark: Array, lasts: Array, *, trace: bool = False, step: float = 1.0
) -> Closed:
    """The closed part for sparks [deg after top] and durations [deg]."""
    start, end = cylinder.inlet.shuts - 720.0, cylinder.exhaust.opens
    n = max(int(np.ceil(np.max((end - start) / step))), 1)
    degrees = np.linspace(start, end, n + 1)
    middle = (degrees[1:] + degrees[:-1]) / 2
    volume, half_volume = cylinder.volume(degrees), cylinder.volume(middle)
    walls = cylinder.walls(middle)
    seconds = (degrees[1] - degrees[0]) / 360.0 / rev_s
    m, temperature = charge.mass, charge.temperature
    fresh = 1 - charge.residual
    freed = charge.fuel * charge.heating * set_free(charge.lamda)
    speed = cylinder.piston_speed(rev_s)
    first_pa = m * R * temperature / volume[0]
    first_k = temperature
    motored = first_pa / 1e3 * volume[0] ** _GAMMA_UNBURNED
    stir = COMBUSTION * cylinder.swept * first_k / (first_pa * volume[0])
    film = charge.heat_scale * WOSCHNI * cylinder.bore**-0.2
    octane = (charge.octane / 100) ** KNOCK_OCTANE * KNOCK_MS / 1e3
    work, lost, knock = np.zeros_like(m), np.zeros_like(m), np.zeros_like(m)
    highest, highest_at = first_pa, np.full_like(m, start)
    shown = [first_pa] if trace else None
    before = np.zeros_like(m)
    p = first_pa
    cv = heat(temperature, charge.residual, charge.gases)
    for i in range(n):
        x = (degrees[i + 1] - spark) / lasts
        after = np.where(x > 0, 1 - np.exp(-WIEBE_A * np.clip(x, 0, 1.2) ** (WIEBE_M + 1)), 0.0)
        burned = charge.residual + fresh * (before + after) / 2
        firing = degrees[i] > spark
        gas = COMPRESSION * speed + np.where(firing, stir * np.maximum(p - motored * 1e3 / half_volume[i] ** _GAMMA_UNBURNED, 0.0), 0.0)
        h = film * (p / 1e3 * gas) ** 0.8 * temperature**-0.55
        wall = h * walls[i] * (temperature - charge.wall) * seconds
        grown = volume[i + 1] - volume[i]
        # energy: what burns and what the walls take, the work at the pressure half way; the second pass knows that pressure
        heated = (
            freed * (after - before)
            - wall
            - m
            * fresh
            * (after - before)
            * (energy(temperature, np.ones_like(m), charge.gases) - energy(temperature, np.zeros_like(m), charge.gases))
        )
        tried = temperature + (heated - p * grown) / (m * cv)
        cv = heat((temperature + tried) / 2, burned, charge.gases)
        next_pa = m * R * tried / volume[i + 1]
        mean_pa = (p + next_pa) / 2
        then = temperature + (heated - mean_pa * grown) / (m * cv)
        next_pa = m * R * then / volume[i + 1]
        mean_pa = (p + next_pa) / 2
        then = temperature + (heated - mean_pa * grown) / (m * cv)
        next_pa = m * R * then / volume[i + 1]
        work += (p + next_pa) / 2 * grown
        lost += wall
        unburned = first_k * np.maximum((p + next_pa) / 2 / first_pa, 1e-3) ** (1 - 1 / _GAMMA_UNBURNED)
        pressure_atm = (p + next_pa) / 2 / 101325.0
        knock += np.where(after < KNOCKS_BEFORE, seconds / (octane * pressure_atm**-KNOCK_PRESSURE * np.exp(KNOCK_KELVIN / unburned)), 0.0)
        higher = next_pa > highest
        highest, highest_at = np.where(higher, next_pa, highest), np.where(higher, degrees[i + 1], highest_at)
        temperature, p, before = then, next_pa, after
        if shown is not None:
            shown.append(p)
    return Closed(
        work=work, end_k=temperature, highest_pa=highest, highest_deg=highest_at, lost=lost, half_deg=spark + HALF * lasts, knock=knock, freed=freed * before,
        degrees=degrees, trace=np.array(shown) if shown is not None else None,
    )  # fmt: skip
