"""What a change moved: figures from old to new, findings that appeared, worsened, eased or went, and one sentence to say it."""

from __future__ import annotations

import re
from typing import Any, Literal, cast

from .figures import Result
from .findings import AT_REST, SEVERITIES, WORDS, Finding
from .given.edit import escape, standing
from .given.fields import label
from .given.kept import MADE, TABLES, TableKey
from .plan import Plan
from .reference import tasks
from .stations import StationKey
from .worked import SPECS

UNSEEN = 2e-5  # of a figure
_NAMED = 4  # places that an edit took along, told by name
Move = Literal["appeared", "worsened", "eased", "went"]
#: Figures told first when they moved: one a station, in the order of work.
_TOLD_FIRST = (
    "fuel.need", "fuel.margin.full", "injectors.duty.full", "injectors.nominal", "wiring.fuse.injectors", "wiring.fuse.coils", "wiring.fuse.pump", "tune.full_cylinder_pulse",
)  # fmt: skip


class MovedFigure(Result):
    """A figure before and after a change."""

    name: str
    label: str
    station: StationKey
    unit: str
    before: float | None
    after: float | None
    shown_before: str
    shown_after: str
    change: float | None


class MovedFinding(Result):
    """A finding before and after a change: its severity, None where it was not there."""

    code: str
    at: str
    title: str
    station: StationKey
    move: Move
    before: str | None
    after: str | None


class Ripple(Result):
    """The consequences of one change."""

    sentence: str
    figures: list[MovedFigure]
    findings: list[MovedFinding]
    stations: list[StationKey]


def ripple(before: Plan, after: Plan, change: str = "") -> Ripple:
    """What moved from one plan to the next. `change` names the edit for the sentence."""
    figures = [m for name in after.figures if name in SPECS and (m := _moved(name, before, after))]  # what steps expect follows from these
    figures.sort(key=lambda m: _TOLD_FIRST.index(m.name) if m.name in _TOLD_FIRST else 99)
    findings = _findings(before.findings, after.findings)
    stations = list(dict.fromkeys([*(m.station for m in figures), *(m.station for m in findings)]))
    return Ripple(sentence=_sentence(change, figures, findings), figures=figures, findings=findings, stations=stations)


def differs(before: float | None, after: float | None) -> bool:
    """Whether a figure [any one unit] has moved: by less than nobody sees, it has not. A milliampere more in a ground that many share moves much by very little."""
    if before is None or after is None:
        return before is not after
    return abs(before - after) > UNSEEN * max(abs(before), abs(after))


def _moved(name: str, before: Plan, after: Plan) -> MovedFigure | None:
    new = after.figures[name]
    old = before.figures.get(name)
    a, b = (old.value if old else None), new.value
    if not differs(a, b) or (old is not None and old.shown == new.shown):
        return None  # as it is told it has not moved
    change = b / a - 1 if a and b is not None else None
    return MovedFigure(
        name=name,
        label=new.label,
        station=new.station,
        unit=new.unit,
        before=a,
        after=b,
        shown_before=old.shown if old else "not known",
        shown_after=new.shown,
        change=change,
    )


def _findings(before: list[Finding], after: list[Finding]) -> list[MovedFinding]:
    """Findings by code and place. Sound and note count as nothing to do, so a finding that eases to sound has gone."""

    def weighty(findings: list[Finding]) -> dict[tuple[str, str], Finding]:
        return {(f.code, f.at): f for f in findings if f.severity not in AT_REST}

    old, new = weighty(before), weighty(after)
    moved = []
    for key in dict.fromkeys([*new, *old]):
        a, b = old.get(key), new.get(key)
        if a and b and a.severity == b.severity:
            continue
        move: Move = "appeared"
        if a and b:
            move = "worsened" if SEVERITIES.index(b.severity) < SEVERITIES.index(a.severity) else "eased"
        elif a:
            move = "went"
        one = b or a
        if one is not None:
            moved.append(
                MovedFinding(
                    code=one.code,
                    at=one.at,
                    title=one.title,
                    station=one.station,
                    move=move,
                    before=WORDS[a.severity] if a else None,
                    after=WORDS[b.severity] if b else None,
                )
            )
    return moved


def _sentence(change: str, figures: list[MovedFigure], findings: list[MovedFinding]) -> str:
    told = [f"{m.label[0].lower()}{m.label[1:]} {m.shown_before} → {m.shown_after}" for m in figures[:3]]
    more = len(figures) - len(told)
    if more > 0:
        told.append(f"{more} other {'figure' if more == 1 else 'figures'}")
    news = [f"{m.after or m.before} {m.code} {'has gone' if m.move == 'went' else m.move}" for m in findings[:3]]
    if len(findings) > 3:
        news.append(f"{len(findings) - 3} more findings moved")
    body = "; ".join([", ".join(told), *news] if told else news) or "nothing else moved"
    return f"{change}: {body}." if change else f"{body[0].upper()}{body[1:]}."


def describe(before: dict[str, Any], patch: list[dict[str, Any]]) -> str:
    """An edit in a few words: "Power target 118 kW → 140 kW"."""
    told = [op for op in patch if not op["path"].startswith("/marks")]
    if not told:
        return "Marked as sure" if any(op["op"] == "remove" for op in patch) else "Marked"
    strung = _strung(before, told) or _tuned(before, told) or _stepped(told) or _done(before, told)
    if strung:
        return strung
    carried = [op for op in told[1:] if put_in_pencil(op["path"], patch)]
    told = [op for op in told if op not in carried]
    first = told[0]
    name = label(first["path"])
    text = (
        f"{name} {_brief(standing(before, first['path']))} → {_brief(first.get('value'))}"
        if first["op"] in ("replace", "add")
        else f"{name} removed"
    )
    more = f" and {len(told) - 1} more" if len(told) > 1 else ""
    return text + more + _followed(before, carried)


def put_in_pencil(path: str, patch: list[dict[str, Any]]) -> bool:
    """Whether a patch puts what it writes at a place in pencil."""
    return any(op["path"] == f"/marks/{escape(path)}" and op.get("value") == {"kind": "assumed"} for op in patch)


def _followed(before: dict[str, Any], carried: list[dict[str, Any]]) -> str:
    """What an edit took along in pencil, in words; what had been stated and could not stay stands first."""
    if not carried:
        return ""
    marks = before.get("marks", {})
    stated = [
        op
        for op in carried
        if standing(before, op["path"]) is not None
        and not any(op["path"].startswith(p) for p, m in marks.items() if m.get("kind") == "assumed")
    ]
    gave_way = [f"{label(op['path'])} {_brief(standing(before, op['path']))} could not stay" for op in stated]
    names = [label(op["path"]) for op in carried if op not in stated]
    listed = ", ".join(names[:_NAMED]) + (f" and {len(names) - _NAMED} more" if len(names) > _NAMED else "")
    return "".join(f"; {said}" for said in [*gave_way, *([f"in pencil after it: {listed}"] if names else [])])


def _strung(before: dict[str, Any], told: list[dict[str, Any]]) -> str:
    """A change of the fuel's path in words: what was put on it, taken off it, or moved. Empty for any other change."""
    if not any(op["path"].startswith("/fuel/path") for op in told):
        return ""
    words = []
    for op in told:
        tokens = op["path"].split("/")
        if tokens[1:3] == ["fuel", "parts"] and len(tokens) == 4:
            words.append(f"{tokens[3].replace('_', ' ')} {'taken off' if op['op'] == 'remove' else 'put on'} the path")
    now, old = next((op.get("value") for op in told if op["path"] == "/fuel/path"), None), standing(before, "/fuel/path")
    if not words and isinstance(now, list) and isinstance(old, list) and sorted(now) == sorted(old):
        words = ["the fuel's path in another order"]
    more = len([op for op in told if not op["path"].startswith(("/fuel/path", "/fuel/parts"))])
    text = ", ".join(words or ["the fuel's path strung anew"]) + (f" and {more} more" if more else "")
    return text[0].upper() + text[1:]


#: Of the work, parts of the document whose entries go by a name of their own.
_ENTRIES = ("tasks", "own", "parts", "lines", "off")


def _done(before: dict[str, Any], told: list[dict[str, Any]]) -> str:
    """A change of the work in words: which task is done, which part ordered, what came off. Empty for any other change, and where nothing of that is said."""
    entries: dict[tuple[str, str], dict[str, Any]] = {}
    for op in told:
        tokens = op["path"].split("/")
        if tokens[1] != "work" or len(tokens) < 3 or tokens[2] not in _ENTRIES:
            return ""
        if len(tokens) == 3:
            continue  # the list itself, made so that something can be put into it
        said = entries.setdefault((tokens[2], tokens[3]), {})
        if len(tokens) == 4:
            said |= {"gone": True} if op["op"] == "remove" else dict(op.get("value") or {})
        elif len(tokens) == 5:
            said[tokens[4]] = op.get("value")
    words = []
    for (kind, key), said in entries.items():
        there = standing(before, f"/work/{kind}/{key}")
        name = _named_as(kind, key, {**(there if isinstance(there, dict) else {}), **said})
        state = said.get("state")
        if said.get("gone"):
            words.append(f"{name}: taken out")
        elif isinstance(state, str):
            words.append(f"{name}: {state.replace('_', ' ')}")
        elif there is None and "what" in said:
            words.append(f"{name}: {'labelled' if kind == 'off' else 'added'}")
        else:
            moved = [k for k in said if said[k] != (there or {}).get(k)] or list(said)
            field, old = moved[0], (there or {}).get(moved[0])
            words.append(f"{name}: {label(f'/work/{kind}/{key}/{field}').lower()} {_brief(old)} → {_brief(said[field])}")
    more = len(words) - _NAMED
    return "; ".join(words[:_NAMED]) + (f" and {more} more" if more > 0 else "")


def _named_as(kind: str, key: str, said: dict[str, Any]) -> str:
    if kind == "tasks":
        return tasks()[key].what if key in tasks() else key.replace("_", " ")
    name = str(said.get("what") or said.get("bought_as") or key.partition(".")[2] or key).replace("_", " ")
    return name[:1].upper() + name[1:]


def _tuned(before: dict[str, Any], told: list[dict[str, Any]]) -> str:
    """A change of the kept tune in words: of what it was made, how many cells of which table changed. Empty for any other change."""
    words = []
    for op in told:
        path, value = op["path"], op.get("value")
        if not path.startswith(("/tune/kept", "/tune/found")):
            return ""
        if path == "/tune/kept":
            words.append(
                "Kept tune taken out" if op["op"] == "remove" else f"Tune kept, of {MADE.get((value or {}).get('made', ''), 'tables')}"
            )
        elif path == "/tune/found":
            words.append("As found taken out" if op["op"] == "remove" else f"As found: {len((value or {}).get('tables', {}))} tables")
        elif path == "/tune/kept/in_unit":
            words.append("The kept tune stands in the unit")
        elif path.startswith("/tune/kept/tables/") and path.count("/") == 4:
            words.append(_cells(path, standing(before, path), value if op["op"] != "remove" else None))
        else:
            words.append(f"{label(path)} {_brief(value)}")
    return "; ".join(words[:_NAMED])


_READING = re.compile(r"/start/steps/(?P<step>\d)/readings/(?P<key>[a-z_]+)(/typed)?")
_SIGNED = re.compile(r"/start/steps/(?P<step>\d)/done")


def _stepped(told: list[dict[str, Any]]) -> str:
    """A reading taken at a step of the first start, or a step signed, in words. Empty for any other change."""
    told = [op for op in told if op.get("value") != {}]  # what has to be there before something can be put in it
    if not all(op["path"].startswith("/start/steps/") for op in told):
        return ""
    for op in reversed(told):
        if (found := _READING.fullmatch(op["path"])) and (op["op"] == "remove" or isinstance(op.get("value"), str)):
            what = f"Step {found['step']}, {found['key'].replace('_', ' ')}"
            return f"{what} taken out" if op["op"] == "remove" else f"{what}: {op['value']}"
        if found := _SIGNED.fullmatch(op["path"]):
            by = next((o.get("value") for o in told if o["path"] == f"/start/steps/{found['step']}/by"), "")
            return (
                f"Step {found['step']} signed{f' by {by}' if by else ''}"
                if op.get("value")
                else f"Step {found['step']}: signature taken back"
            )
    return ""


def _cells(path: str, old: Any, new: Any) -> str:
    kind = TABLES.get(cast(TableKey, path.rsplit("/", 1)[-1]))
    title = kind.title if kind else label(path)
    if not isinstance(new, dict):
        return f"{title} taken out"
    if not isinstance(old, dict) or old.get("x") != new.get("x") or old.get("y") != new.get("y"):
        return f"{title}: new axes" if isinstance(old, dict) else f"{title} kept"
    pairs = [(a, b) for row_a, row_b in zip(old["rows"], new["rows"], strict=False) for a, b in zip(row_a, row_b, strict=False) if a != b]
    if not pairs:
        return f"{title}: cells marked"
    if len(pairs) == 1:
        return f"{title}: {pairs[0][0]:g} → {pairs[0][1]:g} in one cell"
    most = max((b - a for a, b in pairs), key=abs)
    return f"{title}: {len(pairs)} cells, by up to {most:+.3g}"


def _brief(value: Any) -> str:
    if value is None:
        return "empty"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, list) and value and all(isinstance(v, int) for v in value):
        return "-".join(map(str, value))
    if isinstance(value, (list, dict)):
        return f"{len(value)} entries"
    text = str(value).replace("_", " ")
    return text if len(text) <= 40 else text[:37] + "..."
