"""Questions that decide the rest of the work: where the injectors sit, who times the spark. Every answer is tried on this build."""

from __future__ import annotations

import math

from ..given import Build
from ..given.edit import Patch, assumed, put, take_out
from ..stages.engine import work_out
from ..stages.engine.kept import KEPT
from .ways import Option, Question, Ways

DUTY = 0.70  # that new injectors are sized for
BOOST = "50 kPa"


def questions(ways: Ways) -> list[Question]:
    """Where injectors and throttles sit, who times the spark."""
    return [_layout(ways), timing(ways)]


def _layout(ways: Ways) -> Question:
    build = ways.build
    e = build.engine
    boosted = e.boost is not None and e.boost.si > 0
    injected = "injectors" in e.carried_over
    now = "already_injected" if injected else "boosted" if boosted else e.layout
    usual = (
        "already_injected"
        if injected
        else "boosted"
        if boosted
        else "throttle_body"
        if "intake_manifold" in e.carried_over
        else "port_plenum"
    )
    options = [
        Option(
            key="throttle_body", title="Throttle body in the carburettor's place", patch=_to_body(build),
            says="Two to eight injectors in one body on the old manifold: the least to make; a wet manifold wants its heat and more fuel when cold",
        ),
        Option(
            key="port_plenum", title="One injector at each port, one plenum", patch=_to_ports(build, []),
            says="Fuel where it is used, even from cylinder to cylinder; a manifold with bosses and a rail",
        ),
        Option(
            key="individual_throttles", title="One throttle for each cylinder", patch=_to_throttles(build),
            says="Quick to answer and good at full load; no steady vacuum for brakes and sensor, so the throttle tells the load",
        ),
        Option(
            key="boosted", title="Ports, with a blower", patch=_to_ports(build, assumed("/engine/boost", BOOST)),
            says="Air under pressure: the regulator must see the manifold, the sensor must read past one bar, octane decides",
        ),
        Option(
            key="already_injected", title="It was injected from new: renew the control", patch=_to_ports(build, [put("/engine/carried_over", _with_injection(build))]),
            says="Manifold, throttle, tank, lines and injectors stay, once measured; the control unit, its sensors and harness are new",
        ),
    ]  # fmt: skip
    return ways.question(
        "layout", "Where do injectors and throttles sit?",
        "What the manifold that is there allows: a body on a kept manifold, ports where a manifold with bosses can be had.", now, usual, options,
    )  # fmt: skip


def _flow(build: Build, count: int) -> Patch:
    """Injectors of a size for this many, in pencil."""
    each = max(round(work_out(build).fuel_mass_flow_kg_s * 6e4 / count / DUTY / 5) * 5, 20)
    return [
        put("/injectors/count", count), *assumed("/injectors/flow", f"{each} g/min"), *assumed("/injectors/name", f"injector {each}"), put("/injectors/per_driver", 1),
        put("/injectors/outputs", []), put("/injectors/dead_time", []),
    ]  # fmt: skip


def _unblown(build: Build) -> Patch:
    return [take_out("/engine/boost")] if build.engine.boost is not None else []


def _without_injection(build: Build) -> Patch:
    rest = [k for k in build.engine.carried_over if k != "injectors"]
    return [put("/engine/carried_over", rest)] if len(rest) != len(build.engine.carried_over) else []


def _with_injection(build: Build) -> list[str]:
    return sorted({*build.engine.carried_over, "injectors", "fuel_tank", "fuel_lines", "intake_manifold", "throttle"}, key=list(KEPT).index)


def _second_off(build: Build) -> Patch:
    return [take_out("/injectors/second")] if build.injectors.second is not None else []


def _enters(build: Build, where: str) -> Patch:
    """Where fuel enters with another layout, in pencil, and no correction of the unit's that does not belong to it."""
    i = build.injectors
    return (assumed("/injectors/enters", where) if i.enters != where else []) + (
        [put("/injectors/unit_compensates", False)] if where == "above_plates" and i.unit_compensates else []
    )


def _to_body(build: Build) -> Patch:
    e = build.engine
    return [
        put("/engine/layout", "throttle_body"), *_unblown(build), *_without_injection(build), *_second_off(build), *_flow(build, 2 if e.cylinders <= 4 else 4),
        put("/injectors/firing", "every_turn"), *_enters(build, "above_plates"), put("/fuel/regulator/reference", "open_air"), put("/wiring/profile", "throttle_body_unit"),
        put("/tune/load", "by_layout"), *_throttle(build, 2 if e.cylinders <= 4 else 4, 55.0), *_balance(build, "none"),
    ]  # fmt: skip


def _to_ports(build: Build, more: Patch) -> Patch:
    e = build.engine
    same = e.layout == "port_plenum"
    blown, kept = (any(op["path"] == path for op in more) for path in ("/engine/boost", "/engine/carried_over"))
    return [
        put("/engine/layout", "port_plenum"), *([] if blown else _unblown(build)), *([] if kept else _without_injection(build)),
        *([] if same else _second_off(build) + _flow(build, e.cylinders)), put("/fuel/regulator/reference", "manifold"), *_enters(build, "below_plates"), *_profile(build),
        put("/tune/load", "by_layout"), *([] if same else _throttle(build, 1, 62.0)), *_balance(build, "none"), *more,
    ]  # fmt: skip


def _to_throttles(build: Build) -> Patch:
    e = build.engine
    each = e.displacement.si / e.cylinders
    bore = math.sqrt(4 * each * 2 * e.power_speed.si / 80.0 / math.pi) * 1e3  # 80 m/s at full power
    return [
        put("/engine/layout", "individual_throttles"), *_unblown(build), *_without_injection(build), *_second_off(build), *_flow(build, e.cylinders),
        put("/fuel/regulator/reference", "manifold"), *_enters(build, "below_plates"), *_profile(build), put("/tune/load", "by_layout"), *_throttle(build, e.cylinders, round(bore)),
        *_balance(build, "joined"),
    ]  # fmt: skip


def _profile(build: Build) -> Patch:
    return (
        [put("/wiring/profile", "small_4" if build.engine.cylinders <= 4 else "medium_8")]
        if build.wiring.profile == "throttle_body_unit"
        else []
    )


def _throttle(build: Build, bores: int, bore: float) -> Patch:
    """Another throttle body, in pencil, where one was described."""
    return assumed("/air/throttle", {"name": "throttle body", "bores": bores, "bore": f"{bore:g} mm"}) if build.air.throttle else []


def _balance(build: Build, word: str) -> Patch:
    return [put("/air/balance", word)] if build.air.balance != word else []


def timing(ways: Ways) -> Question:
    """Who times the spark: the distributor, the unit through it, or the unit from a crank wheel."""
    build = ways.build
    g, e = build.ignition, build.engine
    now = "distributor" if not g.timed_by_unit else "locked" if g.kind == "timed_distributor" else "wheel"
    usual = "distributor" if e.layout == "throttle_body" else "wheel"
    wheel = assumed("/sensors/trigger", {"teeth": 36, "missing": 1, "sensor": "hall"}) if build.sensors.trigger is None else []
    off = [take_out("/sensors/trigger")] if build.sensors.trigger is not None else []
    pairs = "wasted_spark" if e.cylinders % 2 == 0 else "coil_per_plug"
    coil = assumed("/ignition/coil", {"kind": "smart", "resistance": "0.55 ohm", "inductance": "3.6 mH", "current": "7.5 A"})
    fresh = [
        put("/ignition/outputs", []),
        put("/ignition/letters", []),
        put("/ignition/ballast", False),
        put("/ignition/multi_spark", False),
    ]
    options = [
        Option(
            key="distributor", title="The distributor keeps its advance", says="Fewer things to go wrong on day one; half of the gain left for later",
            patch=[
                put("/ignition/kind", "electronic_distributor"), put("/ignition/speed_signal", "tach_output"), put("/ignition/timed_by_unit", False),
                put("/ignition/advance", "working"), *fresh, *off,
            ],
        ),
        Option(
            key="locked", title="The control unit, through the distributor", says="One coil and the old cap; advance locked, rotor phased, and it must have a wheel to time by",
            patch=[
                put("/ignition/kind", "timed_distributor"), put("/ignition/speed_signal", "trigger_wheel"), put("/ignition/timed_by_unit", True),
                put("/ignition/advance", "locked"), *fresh, *wheel,
            ],
        ),
        Option(
            key="wheel", title="The control unit, from a crank trigger", says="No moving parts, spark to a degree; a wheel, a bracket, coils and their wires",
            patch=[
                put("/ignition/kind", pairs), put("/ignition/speed_signal", "trigger_wheel"), put("/ignition/timed_by_unit", True),
                put("/ignition/advance", "none"), *fresh, *wheel, *(coil if g.coil.kind != "smart" else []),
            ],
        ),
    ]  # fmt: skip
    return ways.question(
        "timing",
        "Who times the spark?",
        "The distributor first for a throttle body, timing as a second step; a crank trigger otherwise.",
        now,
        usual,
        options,
    )
