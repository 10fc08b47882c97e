"""FUEL, heat: what the tank settles at on a hot day, and what the rail does after key-off."""

from __future__ import annotations

from collections.abc import Iterator

from ..stages.fuel import SOAK
from ..worked import Worked
from . import owners
from .base import Finding, Say, check

IN_HAND = 5.0  # K between where the fuel settles and the hottest that the pump takes


@check(
    "FUEL-17",
    "/fuel/tank/volume",
    "Fuel warms in the tank",
    figure="fuel.settles",
    source="pump power and the rail's heat against what the tank sheds; Incropera, ch. 7",
    rests=("fuel.hottest",),
)
def warming(w: Worked, say: Say) -> Iterator[Finding]:
    settles, takes = w.fuel.settles_k, w.fuel.inlet.hottest_k
    if settles is None or takes is None or not w.fuel.inlet.known:
        return
    left = takes - settles
    why = f"On the hottest day it settles at {owners.heat(w, settles)} driving; the pump's inlet takes {owners.heat(w, takes)}."
    if left >= IN_HAND:
        yield say("sound", why, limit=round(takes - IN_HAND - 273.15, 3))
    else:
        yield say(
            "watch" if left >= 0 else "sort_out",
            why,
            "A smaller pump, the regulator at the tank, a larger or cooler tank, or do not run it low in heat.",
            limit=round(takes - (IN_HAND if left >= 0 else 0) - 273.15, 3),
            settle="fuel temperature in the tank after an hour on a hot day",
        )


@check(
    "FUEL-20",
    "/fuel/path",
    "Hot soak",
    figure="fuel.soak.liquid",
    source="a rail at 80 to 100 C stays liquid while its pressure is over the fuel's vapour pressure",
)
def soak(w: Worked, say: Say) -> Iterator[Finding]:
    held, mild, bad = w.fuel.soak_liquid_k, *SOAK
    up_to, lost = owners.heat(w, held), owners.heat(w, w.fuel.soak_open_k)
    if held < bad:
        yield say(
            "watch" if held >= mild else "sort_out",
            f"After key-off the rail comes to {mild - 273.15:.0f} to {owners.heat(w, bad)} and stays liquid up to {up_to} at best: it boils, and a hot restart is slow.",
            "A higher base pressure, a shield under the rail, a longer prime.",
            limit=round((bad if held >= mild else mild) - 273.15, 3),
        )
    elif w.fuel.keeps_pressure:
        yield say("sound", f"Behind its check valve the rail stays liquid up to {up_to}.", limit=round(bad - 273.15, 3))
    else:
        yield say(
            "note",
            f"Whether the rail keeps its pressure after key-off is not known: kept, it stays liquid up to {up_to}; lost, it boils from {lost}.",
            "A check valve in the pump or behind it.",
            settle="the gauge five minutes after key-off",
        )
