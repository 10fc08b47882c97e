"""The trigger wheel, the sensor that reads it, the phase signal, and what was measured on them by hand and by light."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..units import Of, Quantity
from .base import CrankAngle, Day, Name, Part, Volts

SensorType = Literal["hall", "variable_reluctance"]
Gap = Annotated[Quantity, Of("length", "0.05 mm", "5 mm", "0.8 mm")]
LightAngle = Annotated[Quantity, Of("angle", "-60 deg", "90 deg", "10 deg")]
WheelAngle = Annotated[Quantity, Of("angle", "0 deg", "360 deg", "30 deg")]


class Window(Part):
    """One window (or vane) of a distributor's wheel, in degrees of that wheel, in the direction in which it turns."""

    opens: WheelAngle = Field(title="Opens at")
    width: Annotated[Quantity, Of("angle", "1 deg", "180 deg", "30 deg")] = Field(title="Width")


class Phase(Part):
    """The signal that tells the two turns of a cycle apart."""

    sensor: SensorType = Field(title="Sensor type")
    at: Annotated[Quantity, Of("angle", "0 deg", "720 deg", "400 deg")] | None = Field(
        default=None, title="Comes at", description="Crank degrees after top dead centre of number one on compression."
    )
    width: Annotated[Quantity, Of("angle", "2 deg", "500 deg", "60 deg")] = Field(
        default=Quantity("60 deg", 60.0), title="Lasts", description="Crank degrees.", validate_default=True
    )
    events: int = Field(default=1, ge=1, le=8, title="Events in a turn of the cam", description="Evenly spaced; one is usual.")


class Level(Part):
    """What the meter showed as one tooth went by, the wheel turned by hand."""

    over: Volts = Field(title="Over the tooth")
    between: Volts = Field(title="In the gap after it")


class SharedSignal(Part):
    """Another unit that reads the crank sensor too, with a pull-up of its own."""

    name: Name = Field(title="Also read by", examples=["old ignition box"])
    pull_up: Annotated[Quantity, Of("resistance", "100 ohm", "1000 kohm", "2200 ohm")] = Field(title="Its pull-up")
    supply: Volts = Field(default=Quantity("12 V", 12.0), title="to", validate_default=True)
    powers: Literal["other", "unit", "not_noted"] = Field(
        default="not_noted", title="Sensor is fed by", description="Read it from the one that feeds it: with that one off nothing comes."
    )


class HandTurn(Part):
    """The bench test of a Hall sensor: every tooth shown, one turn, by hand."""

    pull_up: Literal["in_sensor", "for_the_test", "none", "not_looked_at"] = Field(
        default="not_looked_at",
        title="Pull-up",
        description="An open collector reads 0 V for ever without one: 1 to 5 kΩ to plus, for the test.",
    )

    when: Day = Field(title="Day", examples=["2026-05-02"])
    supply: Volts | None = Field(default=None, title="Supply at the sensor")
    levels: list[Level] = Field(default=[], max_length=120, title="Tooth by tooth")
    finished: bool = Field(default=False, title="A whole turn, back to the gap")


class SpinTest(Part):
    """The bench test of a variable-reluctance sensor: its coil, and what it gives when spun."""

    coil: Annotated[Quantity, Of("resistance", "10 ohm", "10 kohm", "850 ohm")] | None = Field(default=None, title="Coil")
    volts: Annotated[Quantity, Of("voltage", "1 mV", "100 V", "0.8 V")] | None = Field(
        default=None, title="Alternating volts", description="Effective, as a meter shows."
    )
    speed: Annotated[Quantity, Of("speed", "20 rpm", "3000 rpm", "250 rpm")] | None = Field(default=None, title="Spun at")


class Trigger(Part):
    """A toothed wheel and the sensor that reads it."""

    pattern: Literal["missing", "added", "windows"] = Field(
        default="missing", title="Wheel", description="Teeth less some; teeth and one more; windows of a distributor."
    )
    teeth: int = Field(ge=1, le=120, title="Teeth, counting the missing", description="N of an N-M wheel.")
    missing: int = Field(ge=0, le=4, title="Missing teeth")
    windows: list[Window] = Field(default=[], max_length=16, title="Windows")
    on: Literal["crank", "distributor"] = Field(default="crank", title="Turns with", description="The distributor turns at half the speed.")
    sensor: SensorType = Field(title="Sensor type")
    reach: Literal["in_reach", "out_of_reach", "not_looked_at"] = Field(
        default="not_looked_at", title="Front of the crank", description="Whether a wheel and a stiff bracket find room there."
    )
    mount: Literal["outside_bracket", "behind_pulley", "not_chosen"] = Field(
        default="not_chosen",
        title="Sensor sits",
        description="Outside it can be reached; behind the pulley it is out of harm's way and of reach.",
    )
    diameter: Annotated[Quantity, Of("length", "20 mm", "500 mm", "150 mm")] | None = Field(default=None, title="Wheel, over the teeth")
    tip: Annotated[Quantity, Of("length", "1 mm", "30 mm", "5 mm")] | None = Field(
        default=None, title="Sensor's tip, across", description="Of a variable-reluctance sensor; a Hall cell wants 4 mm."
    )
    gaps: list[Gap | None] = Field(
        default=[], max_length=12, title="Gap, round the wheel", description="At four places, a quarter turn apart."
    )
    shims: Annotated[Quantity, Of("length", "0 mm", "10 mm", "0.5 mm")] | None = Field(
        default=None, title="Shims under it now", description="Thickness in all."
    )
    travel: Annotated[Quantity, Of("length", "0 mm", "30 mm", "1 mm")] | None = Field(default=None, title="Bracket can still move in by")
    overlap: Annotated[Quantity, Of("length", "0 mm", "30 mm", "5 mm")] | None = Field(
        default=None, title="Its tip lies over the rim by", description="Along the axle: as much of the tip as faces the teeth."
    )
    face: Literal["as_made", "turned_over", "not_looked_at"] = Field(
        default="not_looked_at", title="Face of the wheel", description="Turned over, its teeth come in the other order."
    )
    index_shift: Annotated[Quantity, Of("angle", "-180 deg", "180 deg", "0 deg")] | None = Field(
        default=None, title="On another index hole, turned by", description="Crank degrees, in the direction of rotation."
    )
    figure_from: Literal["counted", "maker", "not_noted"] = Field(
        default="not_noted", title="Typed angle comes from", description="A maker's figure holds for its wheel as made, on its own hole."
    )
    shared: SharedSignal | None = Field(default=None, title="Shared crank signal")
    gap_least: Gap | None = Field(default=None, title="Gap by its sheet, from")
    gap_most: Gap | None = Field(default=None, title="Gap at most", description="Empty: 0.5 to 1.0 mm, a Hall cell to 1.5 mm.")
    wants: Literal["5 V", "12 V", "none", "not_read"] = Field(
        default="not_read", title="Supply by its sheet", description="Never guess: twelve volts kill a five-volt part."
    )
    given: Literal["5 V", "12 V", "none", "not_connected"] = Field(default="not_connected", title="Supply that it gets")
    input: Literal["logic_pull_up", "logic_bare", "zero_crossing", "not_read"] = Field(
        default="not_read", title="Input of the control unit", description="Logic, with or without its pull-up; or for a bare coil."
    )
    input_rate: Annotated[Quantity, Of("frequency", "100 Hz", "200 kHz", "10 kHz")] | None = Field(
        default=None, title="Input takes at most", description="Teeth a second."
    )
    low_most: Volts | None = Field(default=None, title="Low over a tooth, at most", description="From its sheet. Empty: 0.5 V.")
    threshold: Annotated[Quantity, Of("voltage", "10 mV", "10 V", "0.3 V")] = Field(
        default=Quantity("0.3 V", 0.3), title="Input switches at", description="Peak volts of a bare coil.", validate_default=True
    )
    polarity: Literal["as_drawn", "swapped", "not_checked"] = Field(default="not_checked", title="Polarity, on a scope")
    cranking: Annotated[Quantity, Of("speed", "40 rpm", "600 rpm", "180 rpm")] = Field(
        default=Quantity("180 rpm", 3.0), title="Cranks at", validate_default=True
    )
    turns: Literal["clockwise", "anticlockwise"] = Field(default="clockwise", title="Turns, seen from the front")
    seen_from: Literal["front", "rear"] = Field(default="front", title="You look from the")
    tooth_at_top: Annotated[float, Field(ge=0, le=120, allow_inf_nan=False)] | None = Field(
        default=None,
        title="Tooth under the sensor at top",
        description="Counted from the first tooth after the gap, which is 0, in the order in which they pass. Parts of a tooth may be told.",
    )
    angle: CrankAngle | None = Field(
        default=None,
        title="Trigger angle",
        description="Crank degrees from the first tooth after the gap to top dead centre of number one. Empty: from the tooth counted. In a distributor: its maker's phasing figure.",
    )
    doubt: Annotated[Quantity, Of("angle", "0 deg", "30 deg", "2 deg")] | None = Field(
        default=None, title="Sure to within", description="Empty: a quarter tooth where it was counted."
    )
    top_by: Literal["positive_stop", "dial_gauge", "mark", "not_checked"] = Field(default="not_checked", title="Top found by")
    stop_before: CrankAngle | None = Field(
        default=None,
        title="Piston stops, before the mark",
        description="Positive stop, degree wheel at 0 on your mark: so many degrees before it.",
    )
    stop_after: CrankAngle | None = Field(default=None, title="and after the mark")
    stroke: Literal["compression", "exhaust", "not_checked"] = Field(default="not_checked", title="Set on number one's")
    light_commanded: LightAngle | None = Field(default=None, title="Timing locked at")
    light_observed: LightAngle | None = Field(default=None, title="Light shows")
    hand_turn: HandTurn | None = Field(default=None, title="Hand-turn test")
    spin: SpinTest | None = Field(default=None, title="Spin test")
    phase: Phase | None = Field(default=None, title="Phase signal")

    @property
    def gaps_read(self) -> list[float]:
        """The gaps [m] that were measured."""
        return [g.si for g in self.gaps if g is not None]

    @model_validator(mode="after")
    def _possible(self) -> Trigger:
        if self.missing and self.missing * 2 >= self.teeth:
            raise ValueError(f"/missing|{self.teeth}-{self.missing}|fewer than half of the teeth missing, like 36-1 or 60-2")
        if self.pattern == "added" and self.missing:
            raise ValueError(f"/missing|{self.missing}|none missing on a wheel with one tooth more, like 4+1")
        if self.gap_least and self.gap_most and self.gap_least.si > self.gap_most.si:
            raise ValueError(f"/gap_most|{self.gap_most}|a gap of at least {self.gap_least}, where the range begins")
        rows = sorted(self.windows, key=lambda x: x.opens.si)
        if self.pattern == "windows":
            if len(rows) < 2:
                raise ValueError(f"/windows|{len(rows)} windows|two windows at least, as many as the wheel has")
            for i, row in enumerate(rows):
                until = rows[i + 1].opens.si if i + 1 < len(rows) else rows[0].opens.si + 360
                if row.opens.si + row.width.si >= until:
                    at = self.windows.index(row)
                    raise ValueError(f"/windows/{at}/width|{row.width} from {row.opens}|windows that end before the next one opens")
        return self
