"""Questions on which good practitioners disagree, each answer solved on this car: what appears, what goes, what it does."""

from __future__ import annotations

from typing import Any

from ...build.path import Scheme
from ...figures import Result
from ...worked import Worked
from .changes import Change, Patch, Trial, put
from .paths import PumpPlace, placed, restrung

PRESSURES = (300, 350, 400)  # kPa


class Answer(Result):
    """One answer: what its school says, whether this build has it, parts that appear and go, and what it does here."""

    key: str
    title: str
    says: str
    now: bool
    usual: bool
    appear: list[str]
    go: list[str]
    effect: str
    margin: float | None
    stops: int | None
    hours: float
    cost: str
    patch: list[dict[str, Any]]


class Question(Result):
    """A question with its answers and the reason for the usual one."""

    key: str
    title: str
    why_usual: str
    answers: list[Answer]


def questions(document: dict[str, Any], w: Worked) -> list[Question]:
    """The four questions of the fuel system, every answer tried as a whole build."""
    trial = Trial(document, w)
    return [_plumbing(trial), _pump_place(trial), _base_pressure(trial), _reference(trial)]


def _answer(trial: Trial, key: str, change: Change, says: str, now: bool, usual: bool) -> Answer:
    patch: Patch = [] if now else change.patch
    effect = trial.of(patch) if patch else None
    writes = [op for op in patch if op["path"].startswith("/fuel/parts/") and op["path"].count("/") == 3]
    appear = [_word(op["path"]) for op in writes if op["op"] == "add"]
    go = [_word(op["path"]) for op in writes if op["op"] == "remove"]
    for op in patch:
        if op["path"] == "/fuel/lift":
            (appear if op["op"] == "add" else go).append("lift pump and surge tank")
    return Answer(
        key=key, title=change.title, says=says, now=now, usual=usual, appear=appear, go=go,
        effect="as it is" if now else effect.told or "nothing else moves" if effect else "does not fit this build",
        margin=trial.worked.fuel.margin_full if now else effect.margin if effect else None,
        stops=effect.stops if effect else None, hours=change.hours, cost=change.cost, patch=patch if effect else [],
    )  # fmt: skip


def _word(pointer: str) -> str:
    return pointer.rsplit("/", 1)[-1].replace("_", " ")


def _plumbing(trial: Trial) -> Question:
    build, f = trial.worked.build, trial.worked.build.fuel
    told: tuple[tuple[Scheme, str, str, float], ...] = (
        ("return", "Return from the rail", "cool and steady, the rail is flushed; two lines the length of the car", 6.0),
        ("tank_regulator", "Regulator at the tank", "one line, simpler, the tank stays cooler; the rail sits below the set value by what the line loses", 5.0),
        ("dead_head", "Dead-head, no return", "one line and no bleed; the pump stands against its own limit and hot fuel stays in the rail", 5.0),
    )  # fmt: skip
    usual = "return" if build.engine.power.si > 100e3 or f.scheme == "return" else "tank_regulator"
    answers = []
    for key, title, says, hours in told:
        extra = [put("/fuel/regulator/reference", "open_air")] if key == "tank_regulator" else []
        answers.append(
            _answer(trial, key, Change(title, [*restrung(f, key), *extra], hours, "middle"), says, f.scheme == key, key == usual)
        )
    return Question(
        key="plumbing", title="Return or not?", answers=answers,
        why_usual="A return for a new installation over 100 kW or in a hot climate; otherwise either.",
    )  # fmt: skip


def _pump_place(trial: Trial) -> Question:
    f = trial.worked.build.fuel
    now: PumpPlace = "in_tank" if f.pump.place == "in_tank" else "surge_tank" if f.lift else "external"
    told: tuple[tuple[PumpPlace, str, str, float], ...] = (
        ("in_tank", "In the tank", "cool, primed and quiet; wants an opening, hose made to lie in fuel, the right seal", 5.0),
        ("external", "Outside, low and near", "can be reached; pushes well and pulls badly: low, short, no elbow, a coarse strainer only", 4.0),
        ("surge_tank", "Surge tank, filled by a lift pump", "no air in long bends with an old tank; two pumps, one tank more, a second place to leak", 8.0),
    )  # fmt: skip
    return Question(
        key="pump_place", title="Where does the pump sit?", why_usual="In the tank wherever the tank can be opened.",
        answers=[_answer(trial, key, Change(title, placed(f, key), hours, "middle"), says, key == now, key == "in_tank") for key, title, says, hours in told],
    )  # fmt: skip


def _base_pressure(trial: Trial) -> Question:
    build = trial.worked.build
    now = build.fuel.regulator.set_pressure.si / 1e3
    rated = build.injectors.rated_at.si / 1e3
    says = {
        300: "the old standard: most parts are rated at it",
        350: "between the two",
        400: "a finer spray and less vapour; less flow from the pump, more from the injectors",
    }
    others = [p for p in PRESSURES if abs(p - now) > 5]
    rows = sorted({*others, round(now)})
    answers = []
    for kpa in rows:
        here = abs(kpa - now) <= 5
        change = Change(f"{kpa} kPa", [put("/fuel/regulator/set_pressure", f"{kpa} kPa")], 0.5, "none")
        answers.append(_answer(trial, str(kpa), change, says.get(kpa, "as it is set"), here, abs(kpa - rated) <= 25))
    return Question(
        key="base_pressure", title="Which base pressure?", answers=answers,
        why_usual=f"What the injectors are rated at: {build.injectors.rated_at}.",
    )  # fmt: skip


def _reference(trial: Trial) -> Question:
    build = trial.worked.build
    now = build.fuel.regulator.reference
    boosted = build.engine.boost is not None and build.engine.boost.si > 0
    usual = (
        "manifold"
        if boosted or build.engine.layout == "individual_throttles"
        else "open_air"
        if build.fuel.scheme == "tank_regulator"
        else now
    )
    told = (
        ("manifold", "To the manifold", "the difference across the injector stays the same at any load"),
        ("open_air", "Open to air", "one hose less; the control unit works the difference out from its own reading"),
    )
    answers = [
        _answer(trial, key, Change(title, [put("/fuel/regulator/reference", key)], 0.5, "none"), says, key == now, key == usual)
        for key, title, says in told
    ]
    return Question(
        key="reference", title="What does the regulator's spring side see?", answers=answers,
        why_usual="The manifold when boosted or with one throttle per cylinder off a balance manifold; otherwise either.",
    )  # fmt: skip
