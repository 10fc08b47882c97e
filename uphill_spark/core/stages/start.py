"""First start: the steps, each with the figures to expect on this build, the caution at the step, what to do when it is off."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..figures import Result

if TYPE_CHECKING:
    from ..worked import Worked


class Expected(Result):
    """A reading to take: the band it should fall in, in words, worked out from this build."""

    what: str
    band: str
    worked_out: bool


class SheetStep(Result):
    number: int
    title: str
    cautions: list[str]
    do: list[str]
    expect: list[Expected]
    if_off: list[str]
    done: bool
    by: str
    when: str
    reading: str


class StartResult(Result):
    steps: list[SheetStep]
    done: int


def _kpa(pa: float) -> str:
    return f"{pa / 1e3:.0f} kPa ({pa / 6894.757:.1f} psi)"


def work_out(w: Worked) -> StartResult:
    """Steps 0 to 8 with this build's figures."""
    drafts = (_go(w), _key_on(w), _sensors(w), _prime(w), _crank(w), _start(w), _first_minute(w), _warm(w), _shut_down(w))
    signed = w.build.start.steps
    steps = []
    for n, (title, cautions, do, expect, if_off) in enumerate(drafts):
        s = signed.get(str(n))
        steps.append(
            SheetStep(
                number=n,
                title=title,
                cautions=cautions,
                do=do,
                expect=expect,
                if_off=if_off,
                done=bool(s and s.done),
                by=s.by if s else "",
                when=s.when if s else "",
                reading=s.reading if s else "",
            )
        )
    return StartResult(steps=steps, done=sum(s.done for s in steps))


Draft = tuple[str, list[str], list[str], list[Expected], list[str]]


def _is(what: str, band: str) -> Expected:
    return Expected(what=what, band=band, worked_out=True)


def _usual(what: str, band: str) -> Expected:
    return Expected(what=what, band=band, worked_out=False)


def _go(w: Worked) -> Draft:
    return (
        "Go or no-go",
        [
            "Fuel under pressure: outdoors or doors open, no flame, no smoking, extinguisher within reach, helper at the battery.",
            "Wheels chocked, neutral, hand brake on; loose tools, sleeves and hair away from fan and belts.",
        ],
        [
            "Every Stop cleared or signed for.",
            "Oil, coolant and fuel filled; the first fuel goes into a can, not the tank.",
            "Local rules for fuel, noise and emissions checked; licensed person where they ask for one.",
        ],
        [
            _usual("Battery, at rest, charger on", "over 12.4 V"),
            _is("Fuse in the pump circuit", _fuse(w, "pump")),
            _is("Fuse in the unit's feed", _fuse(w, "unit")),
        ],
        ["Flat battery: charge first. Never write the unit's memory on a flat battery."],
    )


def _fuse(w: Worked, key: str) -> str:
    row = next((f for f in w.wiring.fuses if f.key == key), None)
    return "none in this build" if row is None or row.fitted_a is None else f"{row.fitted_a:g} A"


def _key_on(w: Worked) -> Draft:
    unit = next(c for c in w.wiring.circuits if c.key == "unit")
    return (
        "Key on, unit unplugged, then plugged",
        ["Hot wire or smoke: helper takes the battery terminal off at once."],
        [
            "Meter from the unit's feed pin to its ground pin, unit unplugged.",
            "Plug the unit in; wait a minute; feel for heat, smell.",
            "Its screen or link stays up.",
        ],
        [
            _is("Permanent feed at the plug", f"within {unit.drop_v:.1f} V of the battery"),
            _is("Ignition feed, key on", "over 12.0 V" if w.wiring.run_v is None else f"{w.wiring.run_v:.1f} V as measured"),
            _usual("Ground pin to battery minus", "under 0.1 V"),
        ],
        ["No volts: fuse, then relay, then the wire end to end under 0.5 Ω."],
    )


def _sensors(w: Worked) -> Draft:
    ambient = w.engine.ambient_pressure_pa
    expect = [
        _usual("Coolant, air and the air outside agree", "within 3 K"),
        _usual("Throttle, pedal up and down", "0 ± 1 % and over 95 %"),
        _usual("Engine speed", "0"),
    ]
    if any(row.kind == "manifold_pressure" and row.state != "struck" for row in w.sensors.rows):
        expect.insert(1, _is("Manifold pressure, engine still", f"{(ambient - 2e3) / 1e3:.0f} to {(ambient + 2e3) / 1e3:.0f} kPa absolute"))
    if w.sensors.coolant is not None:
        expect.append(_is("Coolant signal at 20 °C", f"{w.sensors.coolant.at_20c_v:.2f} V"))
    return (
        "Sensors, engine off and cold",
        ["Oxygen sensor runs at several hundred degrees once heated: hands off."],
        ["Read every sensor on the unit's own screen."],
        expect,
        ["One that reads full scale is open or shorted; two that move together share a ground that is not the unit's."],
    )


def _idle_gauge(w: Worked) -> str:
    return _kpa(w.fuel.points["idle"].rail_pressure_pa)


def _prime(w: Worked) -> Draft:
    prime = w.fuel.points["prime"]
    set_pa = prime.rail_pressure_pa
    return (
        "Prime",
        ["Fuel sprays from a loose joint at this pressure. Eye protection; rag and can ready; key off before touching a joint."],
        [
            "Key on: the pump runs a short prime and stops by itself.",
            "Eyes and nose on every joint from tank to rail and back.",
            "First run of new plumbing: return into a can.",
        ],
        [
            _is("Rail gauge, pump running, engine off", f"{_kpa(set_pa * 0.95)} to {_kpa(set_pa * 1.05)}"),
            _is("Volts at the pump", f"about {prime.volts:.1f} V on a rested battery"),
            _usual("Loss in five minutes after it stops", "20 kPa at most"),
        ],
        ["No pressure: is the pump turning, is it filled. Pressure falls off: check valve, regulator seat or a leaking injector."],
    )


def _crank(w: Worked) -> Draft:
    crank_v = w.wiring.crank_v
    teeth = w.trigger
    expect = [
        _usual("Cranking speed, steady", "120 to 300 rpm"),
        _is("Volts at the unit", "9.5 V or more" if crank_v is None else f"{max(crank_v - 0.3, 0):.1f} V or more, never under 9.5 V"),
    ]
    if teeth is not None:
        expect.append(_is("Teeth seen in a turn", f"{teeth.teeth_per_turn} of {teeth.teeth}, in step within two turns"))
    if w.build.ignition.timed_by_unit:
        expect.append(_usual("Light on number one, timing locked at 10°", "10° ± 1°"))
    return (
        "Crank, injectors disabled",
        ["High voltage at coils and leads: do not touch them.", "Fan and belts turn: stand out of line with the fan."],
        ["Unplug the injectors.", "Crank ten seconds at most, rest thirty.", "Oil pressure rises."],
        expect,
        ["No speed: gap, polarity, wiring of the trigger. Light shows another angle: correct the trigger angle by the difference."],
    )


def _start(w: Worked) -> Draft:
    required = w.tune.required_pulse_s * 1e3
    return (
        "Start",
        ["Extinguisher in the helper's hand. A cough back through the throttle can light fuel: nobody leans over it."],
        [
            "Plug the injectors in. Crank ten seconds at most, rest thirty.",
            "Wet plugs: pedal to the floor clears it while cranking.",
            "Do not hold it wide open.",
        ],
        [
            _usual("Catches", "within 5 s"),
            _usual("Oil pressure", "within 5 s, or stop"),
            _is(
                "First cranking pulse at 20 °C", f"about {required * 1.2:.1f} ms plus {w.injectors.dead_time['10'] * 1e3:.1f} ms dead time"
            ),
        ],
        ["Coughs back: timing or order. Wet: too much fuel. Nothing: trigger."],
    )


def _first_minute(w: Worked) -> Draft:
    return (
        "First minute",
        ["Exhaust gas kills indoors: doors open, hose on the pipe.", "Hot exhaust, moving fan."],
        ["Hold 1,200 to 1,500 rpm; a new cam at its own break-in speed.", "Look along every fuel joint again. Watch for smoke."],
        [
            _usual("Charging", "13.5 to 14.6 V"),
            _is("Rail gauge at idle", _idle_gauge(w)),
            _usual("Temperatures", "move upward"),
        ],
        ["No charge: exciter lamp or its wire. Leak: key off at once."],
    )


def _warm(w: Worked) -> Draft:
    e = w.engine
    expect = [
        _is("Idle speed", f"{w.build.engine.idle_speed.si * 60:.0f} rpm"),
        _is(
            "Rail gauge at idle",
            f"{_idle_gauge(w)}, lower than engine off is right" if w.build.fuel.regulator.reference == "manifold" else _idle_gauge(w),
        ),
        _is("Injector pulse at idle, effective", f"about {w.injectors.pulse_idle_s * 1e3:.1f} ms"),
        _is("Lambda at idle", f"{w.build.tune.idle_lambda:.2f} ± 0.05"),
        _usual("Air valve", "5 to 20 % of its range"),
    ]
    if w.tune.load_signal == "manifold_pressure":
        expect.insert(
            1,
            _is(
                "Manifold pressure at idle",
                f"{e.idle_manifold_pressure_pa / 1e3 - 5:.0f} to {e.idle_manifold_pressure_pa / 1e3 + 8:.0f} kPa absolute",
            ),
        )
    return (
        "Warm, coolant over 75 °C",
        ["Hot coolant under pressure: cap stays on. Hot exhaust."],
        [
            "Timing again, locked.",
            "Idle air by the screw until the air valve sits low in its range.",
            "Re-zero the throttle sensor after the stop screw moved.",
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
            _is("Pump after key off", "silent" if w.build.fuel.pump.control != "key" else "silent; it is fed from the key in this build"),
            _usual("Loss in five minutes", "20 kPa at most"),
        ],
        ["Runs on: exciter or relay feeds back into the ignition feed."],
    )
