"""The steps of the first start, 0 to 8: of each what to beware of, what to do, what to expect on this build, what to look at where it is off."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from ...figures import Band
from ...scales import scale
from ..sensors.keyon import KELVIN, THROTTLE
from .expected import Expected, gauge, usual, worked_out

if TYPE_CHECKING:
    from ...worked import Worked


#: Title, cautions, what to do, what to expect, what to do when it is off.
Draft = tuple[str, list[str], list[str], list[Expected], list[str]]
#: Usual readings, whatever the build: workshop practice for 12 V petrol cars.
BATTERY_RESTED = Band(12.4, None, "V")
FEED_RUN = Band(12.0, None, "V")
GROUND_PIN = Band(None, 0.1, "V")
AGREE = Band(None, KELVIN, "K")
ROOM, WARM = 293.15, 348.15  # K, at which a sender is told, from which an engine is warm
PEDAL_DOWN = Band(95, None, "%")
STILL = Band(0, 0, "rpm")
GAUGE_OFF = 0.05  # of the pressure, by which a gauge may read otherwise
COLD_IDLE = 25e3  # Pa, by which a cold idle holds more in the manifold
FALLS = 20e3  # Pa at most, in five minutes after the pump stops
CRANKING = Band(120, 300, "rpm")
CRANKING_UNIT = 9.5  # V at the unit while cranking
LIGHT = Band(9, 11, "deg")  # timing locked at 10 degrees
CATCHES = Band(None, 5, "s")
OIL_CRANKING = 100e3  # Pa over ambient, at least, within fifteen seconds of cranking
CHARGING = Band(13.5, 14.6, "V")
IDLE_VALVE = Band(5, 20, "%")
LAMBDA_OFF = 0.05


def _falls(w: Worked) -> Band:
    own = scale(w.build, w.units, "pressure")
    return Band(None, round(own.of(FALLS), own.digits), own.unit)


def _degrees(w: Worked, kelvin: float) -> str:
    return scale(w.build, w.units, "temperature").tell(kelvin)


def _by_air(w: Worked) -> bool:
    """Whether there is no coolant to speak of."""
    return w.build.engine.cooling == "air"


#: Circuits whose fuses stay out until their own step, and in which step they go in.
_OUT = {"pump": "Prime", "lift": "Prime", "coils": "Crank", "injectors": "Start"}


def _fuses(w: Worked, step: str | None = None) -> list[str]:
    """Fuses of this build that stay out until a step of their own, or those that go in at one step."""
    there = {f.key for f in w.wiring.fuses}
    return [key for key, when in _OUT.items() if key in there and (step is None or when == step)]


def _named(keys: list[str]) -> str:
    return " and ".join([", ".join(keys[:-1]), keys[-1]]) if len(keys) > 1 else keys[0]


def _stand(w: Worked) -> bool:
    return w.build.engine.stands == "on_stand"


def _unplugged(w: Worked) -> list[str]:
    """What has no fuse to take out, and is unplugged in its place."""
    there = _fuses(w)
    found = ["the pump at its plug"] if "pump" not in there else []
    return found + (["injectors off in the unit, or their plug in the body"] if "injectors" not in there else [])


def _go(w: Worked) -> Draft:
    where = (
        ["On a stand: a real switch-off in reach of both, the stand chained down, nothing loose near the front of the engine."]
        if _stand(w)
        else ["Wheels chocked, neutral, hand brake on; loose tools, sleeves and hair away from fan and belts."]
    )
    out, plugs = _fuses(w), _unplugged(w)
    return (
        "Go or no-go",
        ["Fuel under pressure: outdoors or doors open, no flame, no smoking, extinguisher within reach, helper at the battery.", *where],
        [
            "Every Stop cleared or signed for.",
            f"Fuses out until their own step: {_named(out)}." + (f" Unplugged: {' and '.join(plugs)}." if plugs else ""),
            f"{'Oil' if _by_air(w) else 'Oil, coolant'} and fuel filled; the return led into a can, so that swarf ends there and not in the tank.",
            *(["Temporary feed fused at the battery; no charging here; water in before it runs longer than 30 s."] if _stand(w) else []),
            *[f"Temporary, until undone: {row.what}." for row in w.build.start.temporary if row.undone is None],
            "Local rules for fuel, noise and emissions checked; licensed person where they ask for one.",
        ],
        [
            usual("battery_rest", "Battery, at rest, charger on", BATTERY_RESTED),
            worked_out("fuse_pump", "Fuse in the pump circuit", *_fuse(w, "pump")),
            worked_out("fuse_unit", "Fuse in the unit's feed", *_fuse(w, "unit")),
        ],
        ["Flat battery: charge first. Never write the unit's memory on a flat battery."],
    )


def _fuse(w: Worked, key: str) -> tuple[Band | None, str]:
    row = next((f for f in w.wiring.fuses if f.key == key), None)
    return (None, "none in this build") if row is None or row.fitted_a is None else (Band(row.fitted_a, row.fitted_a, "A"), "")


def _key_on(w: Worked) -> Draft:
    unit = next(c for c in w.wiring.circuits if c.key == "unit")
    run = None if w.wiring.run_v is None else round(w.wiring.run_v, 1)
    return (
        "Key on, unit unplugged, then plugged",
        ["Hot wire or smoke: helper takes the battery terminal off at once."],
        [
            "Meter from the unit's feed pin to its ground pin, unit unplugged.",
            f"Plug the unit in, fuses of {_named(_fuses(w))} still out: nothing primes. Wait a minute; feel for heat, smell.",
            "Its screen or link stays up.",
        ],
        [
            worked_out("feed_drop", "Permanent feed at the plug, below the battery", Band(None, round(unit.drop_v, 1), "V")),
            usual("ignition_feed", "Ignition feed, key on", FEED_RUN)
            if run is None
            else worked_out("ignition_feed", "Ignition feed, key on", Band(run, run, "V"), "as measured"),
            usual("ground_pin", "Ground pin to battery minus", GROUND_PIN),
        ],
        ["No volts: fuse, then relay, then the wire end to end under 0.5 Ω."],
    )


def _sensors(w: Worked) -> Draft:
    by_wire = w.build.air.by_wire is not None
    expect = [
        usual("agree", f"{'Head' if _by_air(w) else 'Coolant'}, air and the air outside differ by", AGREE),
        usual("throttle_up", "Throttle, pedal up", THROTTLE),
        usual("throttle_down", "Throttle, pedal down", PEDAL_DOWN),
        usual("speed_still", "Engine speed", STILL),
    ]
    if any(row.kind == "manifold_pressure" and row.state != "struck" for row in w.sensors.rows):
        still = w.sensors.still
        expect.insert(
            1,
            worked_out(
                "manifold_still",
                "Manifold pressure, engine still",
                Band(round(still.low or 0.0), round(still.high or 0.0), "kPa"),
                "absolute",
            ),
        )
    if w.sensors.coolant is not None:
        at_20 = round(w.sensors.coolant.at_20c_v, 2)
        expect.append(
            worked_out(
                "coolant_signal", f"{'Head' if _by_air(w) else 'Coolant'} sensor's signal at {_degrees(w, ROOM)}", Band(at_20, at_20, "V")
            )
        )
    return (
        "Sensors, engine off and cold",
        ["Oxygen sensor runs at several hundred degrees once heated: hands off."],
        [
            "Read every sensor on the unit's own screen.",
            *(["Pull one plug of the pedal, then one of the plate, hands clear: the throttle goes limp each time."] if by_wire else []),
        ],
        expect,
        ["One that reads full scale is open or shorted; two that move together share a ground that is not the unit's."],
    )


def _idle_gauge(w: Worked) -> tuple[Band, str]:
    return gauge(w, w.fuel.points["idle"].rail_pressure_pa)


def _cold_gauge(w: Worked) -> tuple[Band, str]:
    """At a cold idle the manifold holds more than at a warm one, and a regulator that follows it as much."""
    warm = w.fuel.points["idle"].rail_pressure_pa
    return gauge(w, warm * (1 - GAUGE_OFF), warm * (1 + GAUGE_OFF) + (COLD_IDLE if w.build.fuel.regulator.reference == "manifold" else 0.0))


def _prime(w: Worked) -> Draft:
    prime, fuses = w.fuel.points["prime"], _fuses(w, "Prime")
    set_pa = prime.rail_pressure_pa
    return (
        "Prime",
        ["Fuel sprays from a loose joint at this pressure. Eye protection; rag and can ready; key off before touching a joint."],
        [
            "First run of new plumbing: the return ends in the can, the helper watches it.",
            f"Fuse{'s' if len(fuses) > 1 else ''} in: {_named(fuses)}." if fuses else "Plug the pump in.",
            "Key on: the pump runs a short prime and stops by itself.",
            "Eyes and nose on every joint from tank to rail and back. Then the return to the tank.",
        ],
        [
            worked_out("rail_prime", "Rail gauge, pump running, engine off", *gauge(w, set_pa * (1 - GAUGE_OFF), set_pa * (1 + GAUGE_OFF))),
            worked_out(
                "pump_volts", "Volts at the pump, about", Band(round(prime.volts, 1), round(prime.volts, 1), "V"), "on a rested battery"
            ),
            usual("loss_prime", "Loss in five minutes after it stops", _falls(w)),
        ],
        ["No pressure: is the pump turning, is it filled. Pressure falls off: check valve, regulator seat or a leaking injector."],
    )


def _jumps(w: Worked) -> bool:
    """Whether nothing keeps the starter from turning in gear."""
    box = w.build.wiring.gearbox
    return not _stand(w) and (box is None or box.neutral_switch != "wired")


def _crank(w: Worked) -> Draft:
    crank_v = w.wiring.crank_v
    teeth = w.trigger
    coils = _fuses(w, "Crank")
    oil = scale(w.build, w.units, "pressure")
    expect = [
        usual("speed_crank", "Cranking speed, steady", CRANKING),
        usual("oil_crank", "Oil pressure within 15 s of cranking", Band(round(oil.of(OIL_CRANKING), oil.digits), None, oil.unit)),
        usual("unit_crank", "Volts at the unit", Band(CRANKING_UNIT, None, "V"))
        if crank_v is None
        else worked_out("unit_crank", "Volts at the unit", Band(max(round(crank_v - 0.3, 1), CRANKING_UNIT), None, "V")),
    ]
    if teeth is not None:
        expect.append(
            worked_out(
                "teeth",
                "Teeth seen in a turn",
                Band(teeth.teeth_per_turn, teeth.teeth_per_turn, "1"),
                f"of {teeth.teeth}, in step within two turns",
            )
        )
    if w.build.ignition.timed_by_unit:
        expect.append(usual("light_locked", "Light on number one, timing locked at 10°", LIGHT))
    return (
        "Crank, injectors disabled",
        ["High voltage at coils and leads: do not touch them.", "Fan and belts turn: stand out of line with the fan."],
        [
            *(
                [
                    f"Fuse in: {_named(coils)}. That of the injectors stays out."
                    if "injectors" in _fuses(w)
                    else f"Fuse in: {_named(coils)}. Injectors stay off."
                ]
                if coils
                else ["Injectors stay off."]
            ),
            *(["Neutral, clutch down: nothing else keeps it from jumping in gear."] if _jumps(w) else []),
            "Crank ten seconds at most, rest thirty.",
            "Oil pressure rises while cranking; no pressure, no start.",
        ],
        expect,
        [
            "No speed: gap, polarity, wiring of the trigger. Light shows another angle: correct the trigger angle by the difference."
            if teeth is not None
            else "No speed: the wire from the ignition, its filter, the pulses a turn that are set.",
        ],
    )


def _start(w: Worked) -> Draft:
    first = round(w.tune.full_cylinder_pulse_s * 1e3 * 1.2, 1)
    return (
        "Start",
        ["Extinguisher in the helper's hand. A cough back through the throttle can light fuel: nobody leans over it."],
        [
            "Fuse of the injectors in. Crank ten seconds at most, rest thirty."
            if "injectors" in _fuses(w)
            else "Injectors on. Crank ten seconds at most, rest thirty.",
            "Wet plugs: pedal to the floor clears it while cranking.",
            "Do not hold it wide open.",
        ],
        [
            usual("catches", "Catches after", CATCHES),
            usual("oil_start", "Oil pressure after", CATCHES, "or stop the engine"),
            worked_out(
                "pulse_first",
                f"First cranking pulse at {_degrees(w, ROOM)}, about",
                Band(first, first, "ms"),
                f"plus {w.injectors.dead_time['10'] * 1e3:.1f} ms dead time",
            ),
        ],
        ["Coughs back: timing or order. Wet: too much fuel. Nothing: trigger."],
    )


def _first_minute(w: Worked) -> Draft:
    return (
        "First minute",
        ["Exhaust gas kills indoors: doors open, hose on the pipe.", "Hot exhaust, moving fan."],
        [
            *(["A dry run from cold lasts 30 s at most: water in before longer."] if _stand(w) else []),
            "Hold 1,200 to 1,500 rpm; a new cam at its own break-in speed.",
            "Look along every fuel joint again. Watch for smoke.",
        ],
        [
            *([] if _stand(w) else [usual("charging", "Charging", CHARGING)]),
            worked_out("rail_first", "Rail gauge at idle, cold", *_cold_gauge(w)),
            usual(None, "Temperatures", None, "move upward"),
        ],
        ["Leak: key off at once."] if _stand(w) else ["No charge: exciter lamp or its wire. Leak: key off at once."],
    )


def _warm(w: Worked) -> Draft:
    e = w.engine
    idle, pulse, lam = round(w.build.engine.idle_speed.si * 60), round(w.injectors.pulse_idle_s * 1e3, 1), w.build.tune.idle_lambda
    rail, psi = _idle_gauge(w)
    lower = ", lower than engine off is right" if w.build.fuel.regulator.reference == "manifold" else ""
    expect = [
        worked_out("speed_idle", "Idle speed", Band(idle, idle, "rpm")),
        worked_out("rail_idle", "Rail gauge at idle", rail, f"{psi}{lower}"),
        worked_out("pulse_idle", "Injector pulse at idle, effective, about", Band(pulse, pulse, "ms")),
        worked_out("lambda_idle", "Lambda at idle", Band(round(lam - LAMBDA_OFF, 2), round(lam + LAMBDA_OFF, 2), "1")),
    ]
    if w.build.air.by_wire is None:
        expect.append(usual("air_valve", "Air valve", IDLE_VALVE, "of its range"))
    if w.tune.load_signal == "manifold_pressure":
        expect.insert(
            1,
            worked_out(
                "manifold_idle",
                "Manifold pressure at idle",
                Band(round(e.idle_manifold_pressure_pa / 1e3 - 5), round(e.idle_manifold_pressure_pa / 1e3 + 8), "kPa"),
                "absolute",
            ),
        )
    return (
        "Warm, after ten minutes' driving or idling" if _by_air(w) else f"Warm, coolant over {_degrees(w, WARM)}",
        ["Hot head, hot exhaust: hands off."] if _by_air(w) else ["Hot coolant under pressure: cap stays on. Hot exhaust."],
        [
            "Timing again, locked.",
            *(
                []
                if w.build.air.by_wire is not None
                else [
                    "Idle air by the screw until the air valve sits low in its range.",
                    "Re-zero the throttle sensor after the stop screw moved.",
                ]
            ),
        ],
        expect,
        ["Manifold pressure high: air leak, late timing, or a tight valve."],
    )


def _shut_down(w: Worked) -> Draft:
    return (
        "Shut down",
        ["Fuel stays under pressure: release it before opening a joint."],
        ["Key off: engine stops at once, pump stops.", "Look at every joint once more.", "Save the unit's file as a new revision."],
        [
            worked_out(
                None,
                "Pump after key off",
                None,
                "silent" if w.build.fuel.pump.control != "key" else "silent; it is fed from the key in this build",
            ),
            usual("loss_off", "Loss in five minutes", _falls(w)),
        ],
        ["Runs on: exciter or relay feeds back into the ignition feed."],
    )


#: What makes each step, in their order.
DRAFTS: tuple[Callable[[Worked], Draft], ...] = (_go, _key_on, _sensors, _prime, _crank, _start, _first_minute, _warm, _shut_down)
