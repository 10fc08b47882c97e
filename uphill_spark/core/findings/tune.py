"""TUNE: constants that match the build, tables that pump and injectors can follow."""

from __future__ import annotations

from collections.abc import Iterator

from ..units import from_si
from ..worked import Worked
from .base import Finding, Say, check

TYPED_OFF = 0.02  # share by which a constant typed in may differ from the build
OPEN = 1.0  # of the time: an injector that never shuts


@check(
    "TUNE-01",
    "/tune/typed",
    "Constants typed in",
    source="the control unit must be told what is on the car",
    rests=("/engine/displacement", "/engine/cylinders", "injectors.nominal", "/fuel/regulator/set_pressure"),
)
def constants(w: Worked, say: Say) -> Iterator[Finding]:
    typed, b = w.build.tune.typed, w.build
    pairs: list[tuple[str, str, float | None, float, str]] = [
        ("displacement", "displacement", typed.displacement.si if typed.displacement else None, b.engine.displacement.si, "cc"),
        ("cylinders", "cylinders", typed.cylinders, b.engine.cylinders, "1"),
        (
            "injector_flow",
            "injector figure",
            typed.injector_flow.si if typed.injector_flow else None,
            w.injectors.flow_nominal_kg_s,
            "g/min",
        ),
        (
            "base_pressure",
            "fuel pressure",
            typed.base_pressure.si if typed.base_pressure else None,
            b.fuel.regulator.set_pressure.si,
            "kPa",
        ),
    ]
    missing = [name for _, name, given, _, _ in pairs if given is None]
    wrong = [
        (key, name, given, want, unit) for key, name, given, want, unit in pairs if given is not None and abs(given / want - 1) > TYPED_OFF
    ]
    for key, name, given, want, unit in wrong:
        off = given / want - 1
        effect = (
            f"every cell would be {abs(off):.0%} {'rich' if (off > 0) == (key != 'injector_flow') else 'lean'}"
            if key in ("displacement", "injector_flow")
            else "fuel would be wrong everywhere"
        )
        yield say("stop", f"{name.capitalize()} typed in is {from_si(given, unit):.4g}{'' if unit == '1' else ' ' + unit}, the build says {from_si(want, unit):.4g}: {effect}.",
                  f"Type {from_si(want, unit):.4g}{'' if unit == '1' else ' ' + unit}.", at=f"/tune/typed/{key}")  # fmt: skip
    if missing:
        yield say(
            "unknown",
            f"Not noted as typed in yet: {', '.join(missing)}.",
            "Type each constant into the control unit, then note here what you typed.",
            settle="a look at the unit's settings",
        )
    if not missing and not wrong:
        yield say("sound", f"All four constants agree with the build within {TYPED_OFF * 100:g} %.")


@check(
    "TUNE-02",
    "/tune",
    "Tables against pump and injectors",
    figure="tune.table_duty.full",
    source="fuel asked at full power against capacity",
    rests=("fuel.margin.full",),
)
def reach(w: Worked, say: Say) -> Iterator[Finding]:
    t, full = w.tune, w.fuel.points["full"]
    asked = t.table_fuel_full_kg_s / (w.engine.fuel_mass_flow_kg_s / w.fuel.need_m3_s)
    if t.table_duty_full > OPEN:
        yield say(
            "stop",
            f"The table asks the injectors to be open {t.table_duty_full:.0%} of the time at full power.",
            "Fit larger injectors, or lower the rev limit and the filling at the top.",
            limit=OPEN,
        )
    elif asked > full.capacity_m3_s:
        yield say("stop", f"The table asks for {asked * 3.6e6:.0f} L/h at full power, the pump gives {full.capacity_m3_s * 3.6e6:.0f} L/h.", "Mend the pump, its wire or its line first.", at="/fuel/pump",
                  figure="fuel.pump.flow.full", limit=round(asked * 3.6e6, 3))  # fmt: skip
    else:
        yield say(
            "sound",
            f"The table asks for {asked * 3.6e6:.0f} L/h and {t.table_duty_full:.0%} duty at full power; pump and injectors have it.",
            limit=OPEN,
        )
