"""The work: what a person does to the tasks and parts that the build asks for, people and their hours, money, what has come off the car."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..units import Of, Quantity
from .base import Name, Note, Part, Photos
from .calendar import AwayDays, Busy, FullDay, Week
from .money import Currency, Price
from .wiring import Key

Short = Annotated[str, Field(max_length=200, pattern=r"^[^\x00-\x1f\x7f]*$")]
Hours = Annotated[Quantity, Of("time", "0 h", "400 h", "3 h")]
Days = Annotated[Quantity, Of("time", "0 day", "400 day", "10 day")]
#: A part by its name: the room it is of, a point, what it is.
PartKey = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_.-]{0,79}$")]
#: Four letters and figures that nobody takes for others.
Code = Annotated[str, Field(pattern=r"^[a-hjkmnp-z2-9]{4}$")]
#: A task in the order that was taken, and behind a sign who does it.
Turn = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,39}(@[a-z][a-z0-9_]{0,39})?$")]
Access = Literal["drivable", "standing", "engine_out"]
TaskState = Literal["open", "done", "left_out", "taken_in"]
PartState = Literal["to_order", "have", "ordered", "arrived", "fitted", "returned", "not_wanted"]
Place = Literal["top", "left", "right", "front", "rear", "bulkhead", "cabin", "underneath", "tank", "not_noted"]
BUSY_MOST = 600


class Person(Part):
    """Somebody who works on the car: the free hours of a usual week, days away, and what a calendar says."""

    name: Name = Field(title="Name")
    free: Week = Field(default="", title="Free, each week", description="Day and hours.", examples=["Tue Thu 19:00-22:00; Sat 9:00-17:00"])
    away: AwayDays = Field(default="", title="Away", examples=["2027-02-14 to 2027-02-21"])
    busy: list[Busy] = Field(default=[], max_length=BUSY_MOST, title="Busy, by the calendar")
    calendar: Short = Field(default="", title="Calendar that was read")


class TaskNote(Part):
    """What a person did to a task. Hours that are empty are usual ones."""

    state: TaskState = Field(default="open", title="Stands")
    done: FullDay | None = Field(default=None, title="Done on")
    by: Short = Field(default="", title="Done by")
    quick: Hours | None = Field(default=None, title="If all goes well")
    usual: Hours | None = Field(default=None, title="Usually")
    slow: Hours | None = Field(default=None, title="If it fights back")
    left: Hours | None = Field(default=None, title="Hours left", description="Of one that is begun, as you judge it.")
    who: Key | None = Field(default=None, title="Who")
    not_before: FullDay | None = Field(default=None, title="Not before")
    after: list[Key] = Field(default=[], max_length=20, title="Only after")
    shop: Days | None = Field(default=None, title="Days at a shop")
    words: Short = Field(default="", title="Remark")


class OwnTask(TaskNote):
    """A task of the person's own."""

    what: Name = Field(title="What")
    access: Access = Field(default="drivable", title="The car after it")
    work: Literal["plain", "fuel", "hot"] = Field(
        default="plain", title="Kind of work", description="Fuel open, and welding or grinding, never on one evening."
    )
    helper: bool = Field(default=False, title="Wants two")


class PartNote(Part):
    """What a person did about a part. A price is for all of the line."""

    state: PartState = Field(default="to_order", title="Stands")
    supplier: Name | None = Field(default=None, title="From")
    price: Price | None = Field(default=None, title="Price, for all of it", description="40 to 60 where it is not known better.")
    credit: Price | None = Field(default=None, title="Comes back", description="Deposit, return, what the old one sells for.")
    lead: Days | None = Field(default=None, title="Takes to come")
    ordered: FullDay | None = Field(default=None, title="Ordered on")
    due: FullDay | None = Field(default=None, title="Promised for")
    bought_as: Short = Field(default="", title="Bought as")
    count: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)] | None = Field(default=None, title="How many bought")
    words: Short = Field(default="", title="Supplier's words")


class OwnPart(PartNote):
    """A line of the person's own."""

    what: Name = Field(title="What")
    quantity: Annotated[float, Field(gt=0, le=100_000, allow_inf_nan=False)] = Field(default=1, title="How many")
    unit: Annotated[str, Field(min_length=1, max_length=12, pattern=r"^[^\x00-\x1f\x7f]+$")] = Field(default="piece", title="of")
    task: Key | None = Field(default=None, title="For the task")


class MoneyBook(Part):
    """The currency of the build, what may be spent, and what others are worth."""

    currency: Currency | None = Field(default=None, title="Currency", description="Three letters, like EUR.")
    budget: Price | None = Field(default=None, title="Budget")
    rates: dict[Currency, Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]] = Field(
        default={}, max_length=20, title="One of the other is worth", description="In the currency of the build."
    )


class TakenOff(Part):
    """Something that comes off the car: photographed and labelled before it does, and where it goes back."""

    what: Name = Field(title="What")
    place: Place = Field(default="not_noted", title="Place on the car")
    goes: Short = Field(default="", title="Goes back to")
    bag: Short = Field(default="", title="Bag")
    box: Short = Field(default="", title="Box or shelf")
    photos: Photos = []
    state: Literal["on", "off", "back", "missing", "replaced"] = Field(default="on", title="Stands")
    off: FullDay | None = Field(default=None, title="Came off on")
    back: FullDay | None = Field(default=None, title="Back on")
    words: Note = Field(default="", title="Remark")


class Work(Part):
    """The work of a winter."""

    begin: FullDay | None = Field(default=None, title="Work begins")
    matters: FullDay | None = Field(
        default=None, title="Date that matters", description="An inspection, a trip: an evening stays free before it."
    )
    matters_for: Short = Field(default="", title="What is then")
    shops: Literal["weekdays", "saturdays_too", "every_day"] = Field(
        default="weekdays", title="Shops and post", description="On other days nothing comes, and no shop is done with anything."
    )
    people: dict[Key, Person] = Field(default={}, max_length=2, title="People")
    tasks: dict[Key, TaskNote] = Field(default={}, max_length=200, title="Tasks")
    own: dict[Key, OwnTask] = Field(default={}, max_length=120, title="Tasks of your own")
    parts: dict[PartKey, PartNote] = Field(default={}, max_length=500, title="Parts")
    lines: dict[Key, OwnPart] = Field(default={}, max_length=200, title="Parts of your own")
    money: MoneyBook = Field(default=MoneyBook(), title="Money")
    order: list[Turn] = Field(default=[], max_length=320, title="Order that was taken")
    on_road_until: FullDay | None = Field(default=None, title="Stays on the road until")
    off: dict[Code, TakenOff] = Field(default={}, max_length=400, title="Taken off")
