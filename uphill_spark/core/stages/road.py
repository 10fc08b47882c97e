"""Road: the newest reading of a drive, held against what the control unit runs on now and against the reading before."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence

import numpy as np

from ..figures import Result, Spec
from ..given import Build
from ..given.road import Drive, RoadCause
from .engine import EngineResult
from .injectors import InjectorsResult
from .tune import Table, TuneResult
from .tune.in_use import InUse, tables_in_use


class CauseNow(Result):
    """A cause of the newest drive: size and doubt in its own unit, share that it explains, whether it is named."""

    key: RoadCause
    size: float
    doubt: float
    share: float
    named: bool


class RoadResult(Result):
    """The newest drive: its place in the list (None: there is none), whether the unit runs on something else since, the error before it (None: it is the first), and what it said; power [W] that is aimed at, and its speed [rpm]."""

    newest: int | None
    ran_now: str
    changed: bool
    before: float | None
    error: float | None
    causes: list[CauseNow]
    scale: float | None
    dead_time_s: float | None
    lag_s: float | None
    coverage: float | None
    power_w: float | None
    target_w: float
    target_rpm: float


READS = ("road", "engine.power", "engine.power_speed", "fuel.regulator.reference", "fuel.regulator.set_pressure", "tune.kept")
LOOKS = {
    "engine": ("ambient_pressure_pa",),
    "injectors": ("dead_time", "flow_nominal_kg_s"),
}  # fmt: skip


def work_out(build: Build, engine: EngineResult, injectors: InjectorsResult, tune: TuneResult, in_use: InUse) -> RoadResult:
    """What the road has said."""
    drives, aim = build.road.drives, {"target_w": build.engine.power.si, "target_rpm": build.engine.power_speed.si * 60}
    ran = runs_on(build, injectors, tables_in_use(tune.tables, in_use))
    if not drives:
        return RoadResult(
            newest=None,
            ran_now=ran,
            changed=False,
            before=None,
            error=None,
            causes=[],
            scale=None,
            dead_time_s=None,
            lag_s=None,
            coverage=None,
            power_w=None,
            **aim,
        )
    d = drives[-1]
    scale, dead = d.causes.get("scale"), d.causes.get("dead_time")
    return RoadResult(
        newest=len(drives) - 1, ran_now=ran, changed=d.ran != ran, before=_before(drives, d), error=d.error,
        causes=[CauseNow(key=key, size=c.size, doubt=c.doubt, share=c.share, named=c.named) for key, c in d.causes.items()],
        scale=float(np.exp(-scale.size)) if scale else None, dead_time_s=dead.size / 1e3 if dead else None, lag_s=d.lag.si, coverage=d.coverage, power_w=d.power.si if d.power else None, **aim,
    )  # fmt: skip


def _before(drives: Sequence[Drive], now: Drive) -> float | None:
    """How far off the last drive was that ran on something else."""
    return next((d.error for d in reversed(drives[:-1]) if d.ran != now.ran), None)


def runs_on(build: Build, injectors: InjectorsResult, tables: Sequence[Table]) -> str:
    """A sum over what the control unit runs on: its tables, its injector figure, its dead time, what its regulator sees."""
    said = (
        [(t.key, t.x, t.y, t.rows) for t in tables if t.key not in ("advance", "dwell", "fan")],
        f"{injectors.flow_nominal_kg_s:.8g}", [f"{v:.6g}" for v in injectors.dead_time.values()], build.fuel.regulator.reference, f"{build.fuel.regulator.set_pressure.si:.6g}",
    )  # fmt: skip
    return hashlib.sha256(repr(said).encode()).hexdigest()[:16]


_DRIVE = ("/road/drives",)
FIGURES = (
    Spec("road.scale", "1", "Flow of the injectors, over the figure typed in", _DRIVE, "robust regression of the log", lambda r: r.scale, quiet=True),
    Spec("road.dead_time", "ms", "Dead time, longer than typed in by", _DRIVE, "robust regression of the log", lambda r: r.dead_time_s, quiet=True),
    Spec("road.error.median", "1", "Mixture off on the road, in the middle", _DRIVE, "measured over wanted lambda, what is believed of the log", lambda r: r.error, share=True),
    Spec("road.lag", "ms", "Mixture comes late by", _DRIVE, "pipe and sensor, or the lag at which measured and wanted agree best", lambda r: r.lag_s, quiet=True),
    Spec("road.coverage", "1", "Cells of the road that were driven enough", _DRIVE, "visits with their doubt", lambda r: r.coverage, share=True, quiet=True),
    Spec("road.power", "kW", "Power on the road, in standard air", _DRIVE, "pull in a gear, ISO 1585", lambda r: r.power_w, quiet=True),
)  # fmt: skip
