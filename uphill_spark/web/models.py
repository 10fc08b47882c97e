"""Requests and answers."""

from __future__ import annotations

import datetime as dt
import uuid
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, create_model

from ..core.asked import Answer, Subject
from ..core.figures import Figure
from ..core.findings import Finding, Severity
from ..core.given import Build
from ..core.given.cells import Act as CellAct
from ..core.given.fields import FieldInfo
from ..core.next import Act
from ..core.plan import Stages, StationState
from ..core.ripple import Ripple
from ..core.scales import KINDS, Scale
from ..core.stages.engine.fitness import Fitness
from ..core.stations import StationKey
from .schema_once import SchemaOnce

Who = Annotated[str, Field(max_length=80, pattern=r"^[^\x00-\x1f\x7f]*$")]


class Strict(SchemaOnce):
    """Base of what is asked: unknown keys are refused."""

    model_config = ConfigDict(extra="forbid")


class BuildPath(SchemaOnce):
    """A build in the address."""

    build_id: uuid.UUID


class AskedPath(BuildPath):
    """A build, and what is asked of it."""

    subject: Subject


class AskedAnswer(SchemaOnce):
    """What takes a while: `ready` with its answer (none where the build has nothing of the kind), `running` (ask again; how far it is, 0 to 1, none while it waits its turn), `failed` and why, or
    `cancelled` by somebody."""

    revision: int
    state: Literal["ready", "running", "failed", "cancelled"]
    answer: Answer | None = None
    why: str = ""
    progress: float | None = None


#: Names of stages, comma between.
StageNames = Annotated[str, Field(max_length=200, pattern=r"^([a-z_]+(,[a-z_]+)*)?$")]
Number = Annotated[int, Field(ge=1, le=2**31 - 1)]


class StateQuery(SchemaOnce):
    """Which revision, and the stages that the page shows; `light`, to five digits and without the cells of kept tables, which a page has from the tables in use."""

    revision: Number | None = None
    shown: StageNames = ""
    light: bool = False

    def stages(self) -> list[str]:
        """The stages by name."""
        return [name for name in self.shown.split(",") if name]


class JournalQuery(BaseModel):
    """Below which revision the journal is read on; from the newest without one."""

    below: Number | None = None


class TablePath(BuildPath):
    """A table of the tune, by its key."""

    key: Annotated[str, Field(max_length=40)]


class FontPath(BaseModel):
    """Letters of the papers, by their file's name."""

    key: Annotated[str, Field(max_length=40)]


class PaperQuery(SchemaOnce):
    """Which revision a paper is printed from; the newest if not given."""

    revision: int | None = Field(default=None, ge=1, le=2**31 - 1)


#: An id that makes what is sent twice count once.
EditId = Annotated[str, Field(min_length=8, max_length=64, pattern=r"^[A-Za-z0-9-]+$")] | None


class NewBuild(Strict):
    """A new build from a few answers."""

    who: Who = ""
    edit_id: EditId = None
    answers: dict[str, Any]


class DemoRequest(Strict):
    """Put the demo cars in the garage, afresh."""

    who: Who = ""
    edit_id: Annotated[str, Field(min_length=8, max_length=48, pattern=r"^[A-Za-z0-9-]+$")] | None = None


class ImportQuery(BaseModel):
    """Who takes the file in, and the id under which it counts once."""

    who: Who = ""
    edit_id: EditId = None


class CellsAct(Strict):
    """What is done to cells of a kept table, from one to another [row, column]."""

    do: CellAct
    from_: Annotated[list[int], Field(min_length=2, max_length=2)] | None = Field(default=None, alias="from")
    to: Annotated[list[int], Field(min_length=2, max_length=2)] | None = None
    typed: Annotated[str, Field(max_length=60_000)] | None = None


class Operation(Strict):
    """An operation of JSON Patch (RFC 6902). In place of `value`, `typed` holds the text of a field, which the core reads (`sure`: it is meant, however far from what stood there); `usual` takes the field's usual value; `cells` is what is done to cells of a kept table, `stands` that
    the kept tune stands in the unit."""

    op: Literal["add", "remove", "replace", "move", "copy", "test"]
    path: Annotated[str, Field(max_length=300)]
    from_: Annotated[str, Field(max_length=300)] | None = Field(default=None, alias="from")
    value: Any = None
    typed: Annotated[str, Field(max_length=400)] | None = None
    usual: bool | None = None
    sure: bool | None = None
    cells: CellsAct | None = None
    stands: bool | None = None

    def told(self) -> dict[str, Any]:
        """The operation as it was sent."""
        return self.model_dump(by_alias=True, exclude_unset=True)


Patch = Annotated[list[Operation], Field(min_length=1, max_length=200)]
Shown = Annotated[list[Annotated[str, Field(max_length=20)]], Field(max_length=20)]


class EditRequest(Strict):
    """A change made on revision `base`. `edit_id` makes a change that is sent twice count once; `shown` names the stages that the page shows."""

    base: Number
    patch: Patch
    who: Who = ""
    reason: Annotated[str, Field(max_length=600, pattern=r"^[^\x00]*$")] = ""
    edit_id: EditId = None
    shown: Shown = []


class AgainRequest(Strict):
    """Who wants something worked out once more."""

    who: Who = ""


class TrialRequest(Strict):
    """A change to try on revision `base`; nothing is stored."""

    base: Number
    patch: Patch


class ReadRequest(Strict):
    """Quantities that stand in no build, as they were typed. A bare number takes `unit`."""

    dimension: Annotated[str, Field(max_length=40)]
    unit: Annotated[str, Field(max_length=20)] = ""
    texts: Annotated[list[Annotated[str, Field(max_length=60)]], Field(max_length=60)]


class ReadQuantity(BaseModel):
    """A quantity as the core read it, or what would do."""

    written: str
    si: float | None
    wants: str = ""


class ReadAnswer(BaseModel):
    """Quantities as the core read them, in the order asked."""

    read: list[ReadQuantity]


class TableKind(BaseModel):
    """A kind of table that can be pasted."""

    kind: Annotated[str, Field(max_length=40)]


class BuildTablePath(BuildPath, TableKind):
    """A build, and a kind of table."""


class TableText(Strict):
    """A table as text, comma, semicolon or tab between its columns. `columns` says which column of the text is which, by number from nought, where its heading does not; `points`
    what a point before three digits means."""

    text: Annotated[str, Field(max_length=40_000)]
    columns: Annotated[dict[Annotated[str, Field(max_length=40)], Annotated[int, Field(ge=0, le=100)]], Field(max_length=40)] | None = None
    points: Literal["decimal", "thousands"] | None = None


class TableRows(BaseModel):
    """Rows of a table, as the build document has them."""

    rows: list[dict[str, Any]]


class PhotoPath(BaseModel):
    """A photograph, by its key."""

    key: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class PhotoKept(BaseModel):
    """A photograph that is kept: its key, by which a build shows it, and its size in pixels."""

    key: str
    width: int
    height: int


class StepRequest(Strict):
    """Undo or redo from revision `base`; `edit_id` makes one that is sent twice count once."""

    base: Number
    who: Who = ""
    edit_id: EditId = None
    shown: Shown = []


class NextInGarage(BaseModel):
    """What is next on a car, as the garage tells it."""

    says: str
    station: str
    bench: str
    minutes: int


class GarageRow(BaseModel):
    """A build in the garage: its climb in small and what blocks it, or why it cannot be worked out."""

    id: uuid.UUID
    name: str
    notes: str
    demo: str | None
    revision: int
    changed: dt.datetime
    put_away: dt.datetime | None
    removable: bool
    pending: bool
    verdict: str
    stations: list[StationState]
    blocking: list[str]
    next: NextInGarage | None = None
    trouble: str = ""


class Keeping(BaseModel):
    """How the store is kept: whether anybody watches, when it was last written to a backup and read back, whether disk is short."""

    watched: bool
    backup: dt.datetime | None = None
    backup_trouble: str = ""
    low_disk: bool = False


class Garage(BaseModel):
    """A page of the garage: how many builds there are in all, behind which place there are more, how many are being worked out afresh."""

    builds: list[GarageRow]
    count: int
    more: int | None
    pending: int
    keeping: Keeping


class GarageQuery(BaseModel):
    """Which part of the garage is shown."""

    search: Annotated[str, Field(max_length=80)] = ""
    after: Annotated[int, Field(ge=0, le=2**62)] = 0
    limit: Annotated[int, Field(ge=1, le=200)] = 60
    away: bool = False


class FigureSeen(BaseModel):
    """A figure as a page shows it; where it comes from is in the list of figures."""

    value: float | None
    unit: str
    shown: str
    also: str | None = None
    label: str
    station: StationKey
    assumed: list[str] = []

    @classmethod
    def of(cls, figure: Figure) -> FigureSeen:
        """Its part that moves."""
        return cls.model_construct(
            value=figure.value, unit=figure.unit, shown=figure.shown, label=figure.label, station=figure.station, **_also(figure)
        )  # fmt: skip


def _also(figure: Figure) -> dict[str, Any]:
    """What stands behind a figure and what of it is assumed, where something does and is."""
    return ({"also": figure.also} if figure.also else {}) | ({"assumed": figure.assumed} if figure.assumed else {})


class FigureSource(BaseModel):
    """Where a figure comes from: its formula or standard, and the figures and fields it uses."""

    source: str
    uses: list[str]


class FigureSources(BaseModel):
    """Source of each figure, and of each check by its code."""

    figures: dict[str, FigureSource]
    checks: dict[str, str]


#: How each kind of thing is told to the person.
Scales = create_model("Scales", **dict.fromkeys(KINDS, (Scale, ...)))  # type: ignore[call-overload]


class PlanHead(BaseModel):
    """A plan without the stages' results, which are asked for when they are shown."""

    name: str
    verdict: str
    fitness: Fitness
    figures: dict[str, FigureSeen]
    findings: list[Finding]
    pencil: dict[str, str]
    next: list[Act]
    stations: list[StationState]
    scales: Scales  # type: ignore[valid-type]


#: Results of stages, those that were asked for.
SomeStages = create_model(
    "SomeStages",
    **{name: (field.annotation | None, None) for name, field in Stages.model_fields.items()},  # type: ignore[call-overload, operator]
)


class StagesShown(BaseModel):
    """Results of the stages asked for, at a revision, and what of the document comes with them."""

    revision: int
    stages: SomeStages  # type: ignore[valid-type]
    sections: dict[str, Any] = {}


class StandsAt(SchemaOnce):
    """Where a build stands in its journal."""

    id: uuid.UUID
    revision: int
    head: int
    can_undo: bool
    can_redo: bool


#: SI value and unit as written; where the person is told otherwise, or something stands behind it: what the field shows, and the other.
ReadPair = tuple[float, str] | tuple[float, str, str, str]


class State(StandsAt):
    """A build at one revision with what the core read in it, its plan, and the stages that are shown."""

    build: Build
    read: dict[str, ReadPair]
    plan: PlanHead
    stages: SomeStages  # type: ignore[valid-type]


class Changed(StandsAt):
    """What a change moved against revision `against`; None stands for what went.

    `order` places the findings: one that was there by its number in the old list, one of `findings` as -1, -2 ... `stale` names stages whose results moved.
    """

    against: int
    summary: str
    ripple: Ripple
    sections: dict[str, Any]
    read: dict[str, ReadPair | None]
    verdict: str
    fitness: Fitness
    figures: dict[str, FigureSeen]
    findings: list[Finding]
    order: list[int]
    pencil: dict[str, str]
    next: list[Act]
    stations: list[StationState]
    scales: Scales | None  # type: ignore[valid-type]
    stages: SomeStages  # type: ignore[valid-type]
    stale: list[str]


class RevisionLine(BaseModel):
    """A line of the journal."""

    number: int
    kind: str
    summary: str
    who: str
    reason: str
    written: dt.datetime


class Journal(BaseModel):
    """Lines of the journal, newest first."""

    revisions: list[RevisionLine]
    more: bool


class Health(BaseModel):
    """Whether application and store are there."""

    store: bool


class Fields(BaseModel):
    """What every field is called and takes, of one station or of all."""

    fields: dict[str, FieldInfo]


class FieldsQuery(BaseModel):
    """Fields of some stations, or of a part of one like wiring/fitted, comma between; of all if none is named."""

    stations: Annotated[str, Field(max_length=200, pattern=r"^([a-z]+(/[a-z_]+)*(,[a-z]+(/[a-z_]+)*)*)?$")] = ""


class BenchEntry(BaseModel):
    """A bench as the program has it: its name, what is asked, places in the build entered on it, the figure that rules it, its groups of fields with their titles."""

    key: str
    title: str
    asks: str
    places: list[str]
    figure: str | None
    groups: dict[str, str]


class StationEntry(BaseModel):
    """A station as the program has it: what is asked there, the stages seen there, sections of the build entered there, its benches, the overview first."""

    key: StationKey
    title: str
    asks: str
    stages: list[str]
    sections: list[str]
    benches: list[BenchEntry]


class SeverityWord(BaseModel):
    """A severity and its word; `at_rest`: nothing is to be done about it."""

    key: Severity
    word: str
    at_rest: bool


class PhotoLimits(BaseModel):
    """The largest file, and how many to an entry."""

    bytes: int
    most: int


class Catalogue(BaseModel):
    """What the program itself has, whatever the build: stations, severities worst first, zones and how hot they get [K], what is kept of photographs."""

    stations: list[StationEntry]
    severities: list[SeverityWord]
    zones: dict[str, float]
    photographs: PhotoLimits
