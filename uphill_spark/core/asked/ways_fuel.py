"""Questions on which good practitioners disagree, each answer solved on this car: what appears, what goes, what it does."""

from __future__ import annotations

from ..given.edit import put
from ..given.path import Scheme
from ..stages.fuel.paths import PumpPlace, placed, restrung
from .ways import Option, Question, Ways

PRESSURES = (300, 350, 400)  # kPa


def questions(ways: Ways) -> list[Question]:
    """The four questions of the fuel system, every answer tried as a whole build."""
    return [_plumbing(ways), _pump_place(ways), _base_pressure(ways), _reference(ways)]


def _plumbing(ways: Ways) -> Question:
    build, f = ways.build, ways.build.fuel
    told: tuple[tuple[Scheme, str, str, float], ...] = (
        ("return", "Return from the rail", "cool and steady, the rail is flushed; two lines the length of the car", 6.0),
        ("tank_regulator", "Regulator at the tank", "one line, simpler, the tank stays cooler; the rail sits below the set value by what the line loses", 5.0),
        ("dead_head", "Dead-head, no return", "one line and no bleed; the pump stands against its own limit and hot fuel stays in the rail", 5.0),
    )  # fmt: skip
    usual = "return" if build.engine.power.si > 100e3 or f.scheme == "return" else "tank_regulator"
    options = [
        Option(
            key=key, title=title, says=says, hours=hours,
            patch=[*restrung(f, key), *([put("/fuel/regulator/reference", "open_air")] if key == "tank_regulator" else [])],
        )
        for key, title, says, hours in told
    ]  # fmt: skip
    why = "A return for a new installation over 100 kW or in a hot climate; otherwise either."
    return ways.question("plumbing", "Return or not?", why, f.scheme, usual, options)


def _pump_place(ways: Ways) -> Question:
    f = ways.build.fuel
    now: PumpPlace = "in_tank" if f.pump.place == "in_tank" else "surge_tank" if f.lift else "external"
    told: tuple[tuple[PumpPlace, str, str, float], ...] = (
        ("in_tank", "In the tank", "cool, primed and quiet; wants an opening, hose made to lie in fuel, the right seal", 5.0),
        ("external", "Outside, low and near", "can be reached; pushes well and pulls badly: low, short, no elbow, a coarse strainer only", 4.0),
        ("surge_tank", "Surge tank, filled by a lift pump", "no air in long bends with an old tank; two pumps, one tank more, a second place to leak", 8.0),
    )  # fmt: skip
    options = [Option(key=key, title=title, says=says, patch=placed(f, key), hours=hours) for key, title, says, hours in told]
    return ways.question("pump_place", "Where does the pump sit?", "In the tank wherever the tank can be opened.", now, "in_tank", options)


def _base_pressure(ways: Ways) -> Question:
    build = ways.build
    now = build.fuel.regulator.set_pressure.si / 1e3
    rated = build.injectors.rated_at.si / 1e3
    says = {
        300: "the old standard: most parts are rated at it",
        350: "between the two",
        400: "a finer spray and less vapour; less flow from the pump, more from the injectors",
    }
    near = next((p for p in PRESSURES if abs(p - now) <= 5), round(now))
    rows = sorted({*PRESSURES, near})
    options = [
        Option(key=str(kpa), title=f"{kpa} kPa", says=says.get(kpa, "as it is set"), patch=[put("/fuel/regulator/set_pressure", f"{kpa} kPa")], hours=0.5)
        for kpa in rows
    ]  # fmt: skip
    usual = min(rows, key=lambda kpa: abs(kpa - rated))
    why = f"What the injectors are rated at: {build.injectors.rated_at}."
    return ways.question("base_pressure", "Which base pressure?", why, str(near), str(usual), options)


def _reference(ways: Ways) -> Question:
    build = ways.build
    now = build.fuel.regulator.reference
    boosted = build.engine.boost is not None and build.engine.boost.si > 0
    above = build.injectors.enters == "above_plates"
    usual = (
        ("duct" if boosted and now == "duct" else "open_air")
        if above
        else "manifold"
        if boosted or build.engine.layout == "individual_throttles"
        else "open_air"
        if build.fuel.scheme == "tank_regulator"
        else now
    )
    told = (
        ("manifold", "To the manifold", "the difference across the injector stays the same at any load"),
        ("open_air", "Open to air", "right where fuel enters above the plates; below them one hose less, and the control unit works the difference out from its own reading"),
        *((("duct", "To the duct before the plates", "a blower presses there on injectors that spray above the plates"),) if above and boosted else ()),
    )  # fmt: skip
    options = [
        Option(key=key, title=title, says=says, patch=[put("/fuel/regulator/reference", key)], hours=0.5) for key, title, says in told
    ]
    why = "What the injectors spray into: above the plates the open air, below them the manifold when boosted or with one throttle per cylinder off a balance manifold; otherwise either."
    return ways.question("reference", "What does the regulator's spring side see?", why, now, usual, options)
