"""What the engine takes in each state at which the fuel system is solved."""

from __future__ import annotations

import math
from typing import Literal

from ...circuit.states import KeyState
from ...given import Build
from ..engine import EngineResult, fuel_data

StateName = Literal["full", "cruise", "idle", "hot_idle", "prime", "crank"]
STATES: tuple[StateName, ...] = ("full", "cruise", "idle", "hot_idle", "prime", "crank")
#: The state of key and engine in which each of them finds the harness.
KEY_STATE: dict[StateName, KeyState] = {
    "full": "full",
    "cruise": "night",
    "idle": "idle",
    "hot_idle": "idle",
    "prime": "prime",
    "crank": "crank",
}
#: Shares of full-power fuel: while cranked, and on a level road.
CRANK_SHARE, CRUISE_SHARE = 0.05, 0.18
#: Shares of idle vacuum on a level road and at a hot idle; fuel of a hot idle, fan running, over that of a cold one.
CRUISE_VACUUM, HOT_VACUUM, HOT_FUEL = 0.7, 0.9, 1.2


def need(build: Build, engine: EngineResult) -> float:
    """Fuel needed at full power [m3/s], second users of the line among it."""
    return engine.fuel_mass_flow_kg_s / fuel_data(build.engine).density + second_users(build, "full_power")


def second_users(build: Build, when: str) -> float:
    """What second users of the line take [m3/s] always and at full power, or while cranking: through a jet, with the root of the pressure that it gets."""
    f = build.fuel
    pressure = f.regulator.set_pressure.si
    return float(sum(u.flow.si * math.sqrt(pressure / u.sized_at.si) for u in f.users if u.runs in ("always", when) and u.sized_at.si > 0))


def demands(build: Build, engine: EngineResult) -> dict[StateName, tuple[float, float]]:
    """Fuel that the engine takes [m3/s] and manifold less ambient pressure [Pa] in each state."""
    density = fuel_data(build.engine).density
    full = need(build, engine)
    burnt, always = engine.fuel_mass_flow_kg_s / density, second_users(build, "always")
    idle = engine.idle_fuel_mass_flow_kg_s / density + always
    boost = build.engine.boost.si if build.engine.boost else 0.0
    vacuum = engine.idle_manifold_pressure_pa - engine.ambient_pressure_pa
    return {
        "full": (full, boost),
        "cruise": (burnt * CRUISE_SHARE + always, vacuum * CRUISE_VACUUM),
        "idle": (idle, vacuum),
        "hot_idle": (idle * HOT_FUEL, vacuum * HOT_VACUUM),
        "prime": (0.0, 0.0),
        "crank": (CRANK_SHARE * burnt + second_users(build, "cranking"), 0.0),
    }
