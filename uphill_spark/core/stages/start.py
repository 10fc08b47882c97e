"""First start: the steps, each with the figures to expect on this build, the caution at the step, what to do when it is off."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING, Literal, cast

from ..figures import Band, Figure, Result
from ..given.readings_start import READINGS, ReadingKey, read
from ..given.start import Taken
from ..scales import in_unit, scale
from ..units import from_si, printed, si
from .sensors.keyon import KELVIN, THROTTLE

if TYPE_CHECKING:
    from ..worked import Worked


Verdict = Literal["open", "in", "low", "high"]
REASON = 12  # characters that a reason has at least


class Expected(Result):
    """A reading to take: the band that it should lie in, where it is a number; the same in words; whether it is worked out from this build or usual. Of one that is taken: as it was typed, when, whether by a person or off the bus, whether it lies in
    its band, and how far it is off."""

    what: str
    band: Band | None
    shown: str
    worked_out: bool
    key: str = ""
    got: str = ""
    when: str = ""
    source: str = ""
    verdict: Verdict = "open"
    off: str = ""


class SheetStep(Result):
    """A step of the first start as the sheet has it, and what was signed. `signed` is the person's word; `done`, that it stands: a reading that is off asks for a reason."""

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
    signed: bool
    why: str
    off: list[str]


class StartResult(Result):
    """The steps, and how many of them are signed as done."""

    steps: list[SheetStep]
    done: int


def _gauge(w: Worked, *pa: float) -> tuple[Band, str]:
    """A gauge's reading between the least and the most of these pressures, in the person's unit, and in the other that gauges have."""
    own, other = scale(w.build, w.units, "pressure"), in_unit("pressure", "psi")
    if own.unit == other.unit:
        other = in_unit("pressure", "kPa")
    low, high = (round(own.of(p), own.digits) for p in (min(pa), max(pa)))
    behind = other.bare(min(pa)) + (f" to {other.bare(max(pa))}" if high > low else "")
    return Band(low, high, own.unit), f"({behind} {other.unit})"


def work_out(w: Worked) -> StartResult:
    """Steps 0 to 8 with this build's figures."""
    return of_steps([one(w, n) for n in range(STEPS)])


def of_steps(steps: list[SheetStep]) -> StartResult:
    """The sheet of its steps."""
    return StartResult(steps=steps, done=sum(s.done for s in steps))


def one(w: Worked, number: int) -> SheetStep:
    """One step with this build's figures, its readings judged."""
    title, cautions, do, expect, if_off = _drafts()[number](w)
    s = w.build.start.steps.get(str(number))
    judged = [_judged(w, e, s.readings.get(cast(ReadingKey, e.key)) if s else None) for e in expect]
    off = [f"{e.what}: {e.off}" for e in judged if e.verdict in ("low", "high")]
    stands = bool(s and s.done) and (not off or len(s.why.strip() if s else "") >= REASON)
    return SheetStep(
        number=number, title=title, cautions=cautions, do=do, expect=judged, if_off=if_off, done=stands, by=s.by if s else "", when=s.when if s else "", reading=s.reading if s else "",
        signed=bool(s and s.done), why=s.why if s else "", off=off,
    )  # fmt: skip


def figures(w: Worked, step: SheetStep) -> dict[str, Figure]:
    """The bands of a step as figures, each end by its name where there are two, in the fixed unit of the reading."""
    told: dict[str, Figure] = {}
    if w.units != "as_written":  # a band is rounded in the unit that it is told in
        step = one(replace(w, units="as_written"), step.number)
    for e in step.expect:
        if not e.key or e.band is None:
            continue
        ends = {".low": e.band.low, ".high": e.band.high} if e.band.low != e.band.high else {"": e.band.low}
        kind = READINGS[cast(ReadingKey, e.key)]
        for end, value in ends.items():
            if value is not None:
                fixed = value if kind.dimension is None else from_si(si(f"{value} {e.band.unit}", kind.dimension), kind.unit)
                told[f"start.expected.{step.number}.{e.key}{end}"] = _figure(round(fixed, 4), kind.unit, e.what, e.shown)
    return told


def rehearsal(w: Worked) -> dict[str, Figure]:
    """Of a rehearsal that was kept, how many of its starts caught and idled."""
    kept = w.build.start.rehearsed
    if kept is None:
        return {}
    return {
        "start.rehearsal.catch": _figure(kept.catch, "1", "Starts that caught, rehearsed", f"{kept.catch * 100:.0f} %"),
        "start.rehearsal.idle": _figure(kept.idle, "1", "Starts that idled in bounds, rehearsed", f"{kept.idle * 100:.0f} %"),
    }


def _figure(value: float, unit: str, label: str, shown: str) -> Figure:
    return Figure(
        value=value,
        unit=unit,
        shown=shown,
        also=None,
        label=label,
        station="start",
        assumed=[],
        uses=[],
        source="first start: expected on this build",
    )


STEPS = 9


def _drafts() -> tuple[Callable[[Worked], Draft], ...]:
    """What makes each step, in their order."""
    return (_go, _key_on, _sensors, _prime, _crank, _start, _first_minute, _warm, _shut_down)


def live(w: Worked, step: SheetStep, typed: dict[ReadingKey, str]) -> list[Expected]:
    """The readings of a step as they come over a bus, each as it would have been typed, held against its band. What does not come is left as it stands."""
    return [
        _judged(w, e.model_copy(update={"got": "", "when": "", "verdict": "open", "off": ""}), Taken(typed=typed[key], source="bus"))
        if (key := cast(ReadingKey, e.key)) in typed
        else e
        for e in step.expect
    ]


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


def _is(key: ReadingKey | None, what: str, band: Band | None, more: str = "") -> Expected:
    return _expected(key, what, band, more, worked_out=True)


def _usual(key: ReadingKey | None, what: str, band: Band | None, more: str = "") -> Expected:
    return _expected(key, what, band, more, worked_out=False)


def _expected(key: ReadingKey | None, what: str, band: Band | None, more: str, *, worked_out: bool) -> Expected:
    shown = " ".join(x for x in (str(band) if band else "", more) if x)
    return Expected(key=key or "", what=what, band=band, shown=shown, worked_out=worked_out)


def _judged(w: Worked, expected: Expected, taken: Taken | None) -> Expected:
    """A reading held against its band: a single figure has its own nearness, as it is measured."""
    if taken is None or not expected.key or expected.band is None:
        return expected
    key = cast(ReadingKey, expected.key)
    kind, band = READINGS[key], expected.band
    value = read(key, taken.typed) if kind.dimension is None else from_si(read(key, taken.typed), band.unit)
    low, high = band.low, band.high
    if low is not None and low == high:
        near = max(
            kind.share * abs(low),
            kind.within
            if kind.dimension is None or band.unit == kind.unit
            else from_si(si(f"{kind.within} {kind.unit}", kind.dimension), band.unit),
        )
        low, high = low - near, low + near
    under, over = (low - value if low is not None else 0.0), (value - high if high is not None else 0.0)
    verdict: Verdict = "low" if under > SAME else "high" if over > SAME else "in"
    apart = max(under, over)
    off = "" if verdict == "in" else f"{apart:.3g}{_behind(band.unit)} {'under' if verdict == 'low' else 'over'}"
    return expected.model_copy(update={"got": taken.typed, "when": taken.when, "source": taken.source, "verdict": verdict, "off": off})


def _behind(unit: str) -> str:
    return "" if unit == "1" else f" {printed(unit)}"


SAME = 1e-9  # by which a reading may miss the end of its band


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
            _usual("battery_rest", "Battery, at rest, charger on", BATTERY_RESTED),
            _is("fuse_pump", "Fuse in the pump circuit", *_fuse(w, "pump")),
            _is("fuse_unit", "Fuse in the unit's feed", *_fuse(w, "unit")),
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
            _is("feed_drop", "Permanent feed at the plug, below the battery", Band(None, round(unit.drop_v, 1), "V")),
            _usual("ignition_feed", "Ignition feed, key on", FEED_RUN)
            if run is None
            else _is("ignition_feed", "Ignition feed, key on", Band(run, run, "V"), "as measured"),
            _usual("ground_pin", "Ground pin to battery minus", GROUND_PIN),
        ],
        ["No volts: fuse, then relay, then the wire end to end under 0.5 Ω."],
    )


def _sensors(w: Worked) -> Draft:
    by_wire = w.build.air.by_wire is not None
    expect = [
        _usual("agree", f"{'Head' if _by_air(w) else 'Coolant'}, air and the air outside differ by", AGREE),
        _usual("throttle_up", "Throttle, pedal up", THROTTLE),
        _usual("throttle_down", "Throttle, pedal down", PEDAL_DOWN),
        _usual("speed_still", "Engine speed", STILL),
    ]
    if any(row.kind == "manifold_pressure" and row.state != "struck" for row in w.sensors.rows):
        still = w.sensors.still
        expect.insert(
            1,
            _is(
                "manifold_still",
                "Manifold pressure, engine still",
                Band(round(still.low or 0.0), round(still.high or 0.0), "kPa"),
                "absolute",
            ),
        )
    if w.sensors.coolant is not None:
        at_20 = round(w.sensors.coolant.at_20c_v, 2)
        expect.append(
            _is("coolant_signal", f"{'Head' if _by_air(w) else 'Coolant'} sensor's signal at {_degrees(w, ROOM)}", Band(at_20, at_20, "V"))
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
    return _gauge(w, w.fuel.points["idle"].rail_pressure_pa)


def _cold_gauge(w: Worked) -> tuple[Band, str]:
    """At a cold idle the manifold holds more than at a warm one, and a regulator that follows it as much."""
    warm = w.fuel.points["idle"].rail_pressure_pa
    return _gauge(
        w, warm * (1 - GAUGE_OFF), warm * (1 + GAUGE_OFF) + (COLD_IDLE if w.build.fuel.regulator.reference == "manifold" else 0.0)
    )


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
            _is("rail_prime", "Rail gauge, pump running, engine off", *_gauge(w, set_pa * (1 - GAUGE_OFF), set_pa * (1 + GAUGE_OFF))),
            _is("pump_volts", "Volts at the pump, about", Band(round(prime.volts, 1), round(prime.volts, 1), "V"), "on a rested battery"),
            _usual("loss_prime", "Loss in five minutes after it stops", _falls(w)),
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
        _usual("speed_crank", "Cranking speed, steady", CRANKING),
        _usual("oil_crank", "Oil pressure within 15 s of cranking", Band(round(oil.of(OIL_CRANKING), oil.digits), None, oil.unit)),
        _usual("unit_crank", "Volts at the unit", Band(CRANKING_UNIT, None, "V"))
        if crank_v is None
        else _is("unit_crank", "Volts at the unit", Band(max(round(crank_v - 0.3, 1), CRANKING_UNIT), None, "V")),
    ]
    if teeth is not None:
        expect.append(
            _is(
                "teeth",
                "Teeth seen in a turn",
                Band(teeth.teeth_per_turn, teeth.teeth_per_turn, "1"),
                f"of {teeth.teeth}, in step within two turns",
            )
        )
    if w.build.ignition.timed_by_unit:
        expect.append(_usual("light_locked", "Light on number one, timing locked at 10°", LIGHT))
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
            _usual("catches", "Catches after", CATCHES),
            _usual("oil_start", "Oil pressure after", CATCHES, "or stop the engine"),
            _is(
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
            *([] if _stand(w) else [_usual("charging", "Charging", CHARGING)]),
            _is("rail_first", "Rail gauge at idle, cold", *_cold_gauge(w)),
            _usual(None, "Temperatures", None, "move upward"),
        ],
        ["Leak: key off at once."] if _stand(w) else ["No charge: exciter lamp or its wire. Leak: key off at once."],
    )


def _warm(w: Worked) -> Draft:
    e = w.engine
    idle, pulse, lam = round(w.build.engine.idle_speed.si * 60), round(w.injectors.pulse_idle_s * 1e3, 1), w.build.tune.idle_lambda
    rail, psi = _idle_gauge(w)
    lower = ", lower than engine off is right" if w.build.fuel.regulator.reference == "manifold" else ""
    expect = [
        _is("speed_idle", "Idle speed", Band(idle, idle, "rpm")),
        _is("rail_idle", "Rail gauge at idle", rail, f"{psi}{lower}"),
        _is("pulse_idle", "Injector pulse at idle, effective, about", Band(pulse, pulse, "ms")),
        _is("lambda_idle", "Lambda at idle", Band(round(lam - LAMBDA_OFF, 2), round(lam + LAMBDA_OFF, 2), "1")),
    ]
    if w.build.air.by_wire is None:
        expect.append(_usual("air_valve", "Air valve", IDLE_VALVE, "of its range"))
    if w.tune.load_signal == "manifold_pressure":
        expect.insert(
            1,
            _is(
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
            _is(
                None,
                "Pump after key off",
                None,
                "silent" if w.build.fuel.pump.control != "key" else "silent; it is fed from the key in this build",
            ),
            _usual("loss_off", "Loss in five minutes", _falls(w)),
        ],
        ["Runs on: exciter or relay feeds back into the ignition feed."],
    )
