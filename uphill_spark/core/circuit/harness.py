"""The harness as a list: its netlist with every pin named. What it is made of and what flows in it come after."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from ..given import Build
from . import netlist as net
from .joints import joined
from .netlist import Netlist, SensorOnHarness
from .overlay import overlaid, placed
from .pins import PinRow, assign

if TYPE_CHECKING:  # the sensors that were chosen; what else a stage knows of them is no business of the list
    from ..stages.sensors import SensorsResult


@dataclass(frozen=True, slots=True)
class Harness:
    """Netlist, pins of the control unit, labels of signals left without one."""

    netlist: Netlist
    pins: list[PinRow]
    pins_short: list[str]


#: What the list reads of the build, and of the stages that it takes.
READS = (
    "air.by_wire", "engine.cylinders", "fuel.lift", "fuel.pump.control", "ignition.coil.current", "ignition.coil.kind", "ignition.igniter", "ignition.kind", "ignition.speed_signal", "ignition.timed_by_unit", "injectors.count",
    "injectors.per_driver", "wiring.added", "wiring.charging", "wiring.extras", "wiring.gearbox", "wiring.grounds", "wiring.left_out", "wiring.names", "wiring.old", "wiring.own", "wiring.sits", "wiring.profile", "wiring.unit",
)  # fmt: skip
LOOKS = {"sensors": ("rows",)}


def work_out(build: Build, sensors: SensorsResult) -> Harness:
    """The list of a build."""
    on_harness = [SensorOnHarness(row.kind, row.label, row.two_wire, row.feed) for row in sensors.rows if row.on_harness]
    circuits = net.circuits(build, on_harness)
    pins, short = assign(build, circuits)
    placed(build, circuits)
    whole = joined(build, circuits, on_harness, {row.pin: row.kind for row in pins})
    return Harness(overlaid(build, whole, pins), pins, short)
