"""The engine sheet: verdict, what to test next, compression before and after, the health log, ways to tell the power."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.given import Build
from ..core.given.own import told
from ..core.plan import Plan
from .station_sheet import Block, Pictures, Sheet, words

VERDICTS = {
    "fit": "Fit for injection", "with_care": "Fit, with something to watch", "mend_first": "Mend first", "not_fit": "Not fit as it is", "not_known": "Not known yet",
}  # fmt: skip
_FIGURES = (
    "engine.compression.spread", "engine.compression.expected", "engine.leak_down", "engine.vacuum", "engine.vacuum.expected", "engine.bmep", "engine.piston_speed",
    "engine.fuel_mass_flow",
)  # fmt: skip
_POWER = {
    "target": "wanted",
    "air": "from the air it can draw",
    "road": "on the rolling road, at the crank",
    "run": "from what the car should do",
}


def sheet(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """The engine's sheet."""
    e, fit, stage = build.engine, plan.fitness, plan.stages.engine
    verdict = [("Verdict", f"{VERDICTS[fit.word]}. {fit.reason}")]
    verdict += [(c.how_sure, f"{c.label}. {c.mend}") for c in fit.causes]
    if fit.next_test:
        verdict.append(
            ("Test next", f"{fit.next_test.label}, about {fit.next_test.hours:g} h. {fit.next_test.how} Tells {fit.next_test.tells}.")
        )
    scale, kw = plan.scales["compression"], plan.scales["power"]

    def pressure(pa: float | None) -> str:
        return "" if pa is None else scale.tell(pa)

    bars = [
        (
            str(b.cylinder), pressure(b.dry_pa), pressure(b.before_pa), pressure(b.wet_pa),
            "" if b.leak_down is None else f"{b.leak_down * 100:.0f} %", "" if b.leak_down is None else words(b.escapes),
        )
        for b in stage.compression
    ]  # fmt: skip
    power = [
        (kw.tell(p.middle), _POWER[p.key], "" if p.key == "target" else f"{kw.bare(p.low)} to {kw.tell(p.high) if p.high is not None else 'more than can be told'}")
        for p in stage.power
    ]  # fmt: skip
    health = [
        (h.when, "" if h.vacuum is None else told(h.vacuum, plan.units), "" if h.oil_pressure is None else told(h.oil_pressure, plan.units), f"{words(h.smoke)} smoke", "uses oil" if h.uses_oil else "", "loses coolant" if h.loses_coolant else "")
        for h in sorted(e.health, key=lambda h: h.when)
    ]  # fmt: skip
    return Sheet(
        station="engine", title="Engine", lead=f"{e.cylinders} cylinders, {told(e.displacement, plan.units)}, {e.compression_ratio}, {e.fuel}, fires {'-'.join(map(str, e.firing_order))}",
        cautions=[
            "Compression: coil and injectors unplugged, nobody near belts and fan. Leak-down: gear out and a spanner off the crank before the air goes on, it turns "
            "the engine. Radiator cap only when cold."
        ],
        figures=_FIGURES,
        blocks=[
            Block("Is it fit", verdict),
            Block("Compression", bars, ("Cylinder", "now", "before", "with oil", "leak-down", "comes out at")),
            Block("Health log", health, ("Day", "vacuum", "oil pressure", "smoke", "oil", "coolant")),
            Block("Power", power),
        ],
        pictures=[Pictures("As it looked", [(key, h.when) for h in e.health for key in h.photos])],
        photos=photos, drawing="engine",
    )  # fmt: skip
