"""What the worked engine rests on: of which build its tables were made, and whether that build still stands."""

from __future__ import annotations

import hashlib
from dataclasses import fields, is_dataclass

import numpy as np

from ...given import Build
from ...physics.air import P_SEA_LEVEL
from ...stages.air import AirResult
from ..engine import EngineResult, boost_of
from ..engine.measures import measures
from . import mixture
from .axes import axes_of, plate_area


def rests_on(build: Build, engine: EngineResult, intake: AirResult) -> str:
    """A sum over all that the worked engine rests on: measures told and guessed, where it is worked, what it burns. Raises NoEngine for measures that make none."""
    e, axes, ambient = build.engine, axes_of(build, engine), engine.ambient_pressure_pa
    plates = plate_area(build, np.array(axes.load) / 100).tolist() if axes.by == "throttle" else []
    lamda = mixture(build, axes.manifold_pa / ambient, axes.rev_s).tolist()
    said = (
        measures(build), e.cam, e.fuel, e.chamber, e.cylinders, e.idle_speed.si, axes.rpm.tolist(), axes.load, axes.by, plates, lamda, ambient, intake.drop_full_pa, engine.charge_k,
        engine.full_air_kg_s, target_w(build, engine), build.tune.step,
    )  # fmt: skip
    return hashlib.sha256(_told(said).encode()).hexdigest()[:16]


def _told(part: object) -> str:
    """A part in words, numbers to nine digits: another machine's last bit is no other engine."""
    if isinstance(part, float):
        return f"{part:.9g}"
    if is_dataclass(part):
        return _told([getattr(part, f.name) for f in fields(part)])
    return "(" + ",".join(map(_told, part)) + ")" if isinstance(part, (list, tuple)) else repr(part)


def target_w(build: Build, engine: EngineResult) -> float:
    """The power that is aimed at, here where the car lives [W]."""
    e = build.engine
    return e.power.si if e.power_basis == "here" or boost_of(e) else e.power.si * engine.ambient_pressure_pa / P_SEA_LEVEL
