"""The air side: throttle body, the way from pedal to plate, vacuum ports and what hangs on them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..units import Of, Quantity
from .base import Name, Part, Photos, Volts

Travel = Annotated[Quantity, Of("length", "0 mm", "300 mm", "60 mm")]
Small = Annotated[Quantity, Of("length", "0 mm", "60 mm", "3 mm")]
HoseBore = Annotated[Quantity, Of("length", "1 mm", "40 mm", "8 mm")]
Opening = Annotated[Quantity, Of("angle", "30 deg", "100 deg", "82 deg")]
Source = Literal["full_manifold", "ported", "filtered_air", "vacuum_pump"]
ConsumerKind = Literal[
    "brake_booster", "pressure_sensor", "regulator_reference", "crankcase_valve", "crankcase_breather", "distributor_advance", "gearbox_modulator",
    "heater_controls", "canister_purge",
]  # fmt: skip


class Throttle(Part):
    """The throttle body or bodies."""

    name: Name = Field(title="Throttle body")
    bores: Annotated[int, Field(ge=1, le=12)] | None = Field(default=None, title="Bores")
    bore: Annotated[Quantity, Of("length", "15 mm", "120 mm", "52 mm")] | None = Field(default=None, title="Bore at the plate")
    shaft: Small = Field(default=Quantity("8 mm", 8e-3), title="Shaft", validate_default=True)
    closed: Annotated[Quantity, Of("angle", "0 deg", "20 deg", "6 deg")] = Field(
        default=Quantity("6 deg", 6.0), title="Plate angle, closed", validate_default=True
    )
    second_shaft: Literal["none", "shut", "held_open", "not_looked_at"] = Field(
        default="not_looked_at", title="Second shaft, foot off", description="Of a progressive body: its own stop screw may hold it open."
    )
    flow: Annotated[Quantity, Of("volume flow", "10 m3/h", "6000 m3/h", "650 cfm")] | None = Field(
        default=None, title="Rated air flow", description="All bores together; empty: worked out from the bores."
    )
    rated_drop: Annotated[Quantity, Of("pressure", "1 kPa", "30 kPa", "1.5 inHg")] = Field(
        default=Quantity("1.5 inHg", 5079.58), title="Rated at a drop of", description="Four-barrel 1.5 inHg, one and two-barrel 3.0 inHg.", validate_default=True
    )  # fmt: skip


class Linkage(Part):
    """From the pedal to the plate."""

    pedal_travel: Travel | None = Field(default=None, title="Pedal travel, at the pad")
    pedal_ratio: Annotated[Quantity, Of("ratio", "1:1", "12:1", "4:1")] | None = Field(
        default=None, title="Pedal ratio", description="Pad travel over cable pull."
    )
    lever: Annotated[Quantity, Of("length", "8 mm", "120 mm", "24 mm")] | None = Field(
        default=None, title="Lever at the throttle", description="Radius at which the cable pulls."
    )
    slack: Small | None = Field(default=None, title="Slack, foot off", description="Of the cable: 2 to 3 mm.")
    needed: Opening = Field(default=Quantity("82 deg", 82.0), title="Plate turns, stop to stop", validate_default=True)
    springs: Annotated[int, Field(ge=0, le=6)] | None = Field(default=None, title="Return springs of its own")
    body_spring_shuts: bool | None = Field(default=None, title="The body's spring shuts it alone", description="From full open, cable off.")
    moves: Literal["free", "binds", "not_tried"] = Field(
        default="not_tried", title="Moves", description="Engine off: full travel by hand, and by the pedal."
    )
    cable_angle: Annotated[Quantity, Of("angle", "0 deg", "90 deg", "10 deg")] | None = Field(
        default=None, title="Cable pulls askew by", description="Against the lever's own line, half way."
    )
    clearance: Small | None = Field(default=None, title="Least clearance over the travel", description="Bonnet shut: clay shows it.")
    gearbox_cable: Literal["none", "set", "not_set"] | None = Field(
        default=None, title="Kick-down or pressure cable", description="Of an automatic gearbox."
    )


class Tracks(Part):
    """Two tracks that tell one position, read at three places of its travel: they must agree, or the throttle goes to its limp opening."""

    first_rest: Volts | None = Field(default=None, title="First track, at rest")
    first_half: Volts | None = Field(default=None, title="half way")
    first_full: Volts | None = Field(default=None, title="at full")
    second_rest: Volts | None = Field(default=None, title="Second track, at rest")
    second_half: Volts | None = Field(default=None, title="half way")
    second_full: Volts | None = Field(default=None, title="at full")

    @property
    def apart(self) -> float | None:
        """By how much of the travel [-] the tracks differ half way; None before all six were read, or where one does not move."""
        shares: list[float] = []
        for rest, half, full in (
            (self.first_rest, self.first_half, self.first_full),
            (self.second_rest, self.second_half, self.second_full),
        ):
            if rest is None or half is None or full is None or full.si == rest.si:
                return None
            shares.append((half.si - rest.si) / (full.si - rest.si))
        return abs(shares[0] - shares[1])


class ByWire(Part):
    """A throttle that a motor opens: no cable, no return springs of ours, no idle valve."""

    pedal: Tracks = Tracks()
    plate: Tracks = Tracks()
    brake: Literal["wired", "none", "not_noted"] = Field(
        default="not_noted", title="Brake switch to the unit", description="The brake wins over the pedal."
    )
    limp: Annotated[Quantity, Of("ratio", "0 %", "40 %", "8 %")] | None = Field(
        default=None, title="Opening without power", description="The body's own springs hold it at about 7 to 10 %."
    )
    limp_test: Literal["went_limp", "stayed", "not_done"] = Field(
        default="not_done", title="One track pulled, key on", description="Pull a plug of pedal or plate: it must go to its limp opening."
    )


class Height(Part):
    """What stands on the manifold, before and now, under the bonnet."""

    old: Annotated[Quantity, Of("length", "0 mm", "500 mm", "180 mm")] | None = Field(
        default=None, title="Carburettor with its filter, high"
    )
    room: Annotated[Quantity, Of("length", "0 mm", "300 mm", "25 mm")] | None = Field(
        default=None, title="Room over it, bonnet shut", description="Clay on the filter's lid shows it."
    )
    adapter: Annotated[Quantity, Of("length", "0 mm", "200 mm", "25 mm")] | None = Field(default=None, title="Adapter and gaskets, high")
    new: Annotated[Quantity, Of("length", "0 mm", "500 mm", "170 mm")] | None = Field(default=None, title="Body with its filter, high")

    @property
    def left(self) -> float | None:
        """Room [m] left over what is new; None before all four were measured."""
        if self.old is None or self.room is None or self.adapter is None or self.new is None:
            return None
        return self.old.si + self.room.si - self.adapter.si - self.new.si


class Port(Part):
    """A vacuum port or an air connection on body, manifold or air filter."""

    source: Source | None = Field(default=None, title="Gives")
    bore: HoseBore | None = Field(default=None, title="Bore")
    capped: bool = Field(default=False, title="Capped")
    central: bool = Field(default=False, title="Serves all cylinders alike", description="In the plenum, not one runner.")


class Consumer(Part):
    """What draws on a port, and where its hose goes."""

    kind: ConsumerKind = Field(title="Hose of")
    bore: HoseBore | None = Field(default=None, title="Bore")
    port: Name | None = Field(default=None, title="Goes to port", description="The port's name; empty: left off.")
    check_valve: bool | None = Field(default=None, title="Own check valve")
    was: Name | None = Field(default=None, title="Was on", description="On the carburettor, before it came off.")
    photos: Photos = []


PortName = Annotated[str, Field(pattern=r"^[A-Za-z0-9][A-Za-z0-9 _-]{0,39}$")]


class Air(Part):
    """Throttle, linkage, vacuum. Each empty until it is known."""

    throttle: Throttle | None = Field(default=None, title="Throttle body")
    linkage: Linkage | None = Field(default=None, title="Linkage")
    by_wire: ByWire | None = Field(default=None, title="Throttle by wire")
    height: Height | None = Field(default=None, title="Height under the bonnet")
    ports: dict[PortName, Port] = Field(default={}, max_length=30, title="Ports")
    consumers: list[Consumer] = Field(default=[], max_length=30, title="Consumers")
    balance: Literal["none", "joined"] = Field(
        default="none", title="Balance manifold", description="One throttle per cylinder: small hoses from every runner, joined."
    )
    manifolds: Annotated[int, Field(ge=1, le=6)] | None = Field(
        default=None, title="Manifolds that are not joined", description="Two carburettors on manifolds of their own: 2."
    )
    left_in: Literal["nothing", "rag_or_tape", "not_looked_at"] = Field(
        default="not_looked_at", title="Left in the manifold", description="What the ports were plugged with while they stood open."
    )
    blanked: Literal["all", "open_hole", "not_looked_at"] = Field(
        default="not_looked_at",
        title="Holes of what came off",
        description="Mechanical pump, choke, heat riser: blanked with a plate and a gasket.",
    )
    reservoir: Annotated[Quantity, Of("volume", "0.2 L", "20 L", "4 L")] | None = Field(
        default=None, title="Vacuum reservoir", description="With its check valve, before brakes and heater."
    )
    booster: Annotated[Quantity, Of("volume", "0.1 L", "5 L", "0.8 L")] = Field(
        default=Quantity("0.8 L", 0.8e-3),
        title="Air that the booster takes",
        description="Each full application of the brake.",
        validate_default=True,
    )

    @model_validator(mode="after")
    def _joined(self) -> Air:
        kinds = [c.kind for c in self.consumers]
        twice = next((k for k in kinds if kinds.count(k) > 1), None)
        if twice:
            raise ValueError(f"/consumers|two of {twice.replace('_', ' ')}|each consumer once")
        for i, c in enumerate(self.consumers):
            if c.port is not None and c.port not in self.ports:
                known = ", ".join(self.ports) or "none yet"
                raise ValueError(f"/consumers/{i}/port|{c.port}|a port that is described: {known}")
        capped = next((name for name, p in self.ports.items() if p.capped and any(c.port == name for c in self.consumers)), None)
        if capped:
            raise ValueError(f"/ports/{capped}/capped|capped, with a hose on it|either a cap or a hose")
        return self
