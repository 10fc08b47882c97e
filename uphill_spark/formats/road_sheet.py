"""Papers of the road: what is still to be driven, for the passenger; and what a log said, for the folder of the car."""

from __future__ import annotations

from collections.abc import Mapping

from ..core.given import Build
from ..core.given.own import told
from ..core.plan import Plan
from ..core.road.coverage import FULL, PASSENGER
from ..core.road.reading import LogSaid
from ..core.road.words import NAMES
from .station_sheet import Block, Sheet

#: What a log put right, in the fewest words.
DONE = {"scale": "injector figure", "air": "air temperature", "cells": "cells of the fuel table", "tip_in": "fuel on the wall"}


def to_drive(plan: Plan, said: LogSaid, name: str) -> Sheet:
    """The drive plan: a row a stretch, to tick."""
    rows = [
        (leg.what, f"{leg.seconds:.0f} s", f"{leg.km_h[0]:.0f} to {leg.km_h[1]:.0f} km/h" if leg.km_h else "–", leg.why)
        for leg in said.to_drive
    ]
    cautions = [PASSENGER]
    if any(leg.caution == FULL for leg in said.to_drive):
        cautions.append(FULL)
    return Sheet(
        station="road",
        title="To drive",
        lead=f"After the log '{name}': {said.where.coverage * 100:.0f} % of the cells that are driven in were visited enough",
        cautions=cautions,
        figures=(),
        blocks=[Block("Stretches", rows, ("What", "for", "road speed", "why"), tick=True)] if rows else [],
        codes="-",
    )


def reading(plan: Plan, said: LogSaid, name: str, day: str) -> Sheet:
    """What a log said: causes, what is left, snags, pulls, idle."""
    blocks = []
    if said.split:
        blocks.append(
            Block(
                "What is off",
                [(c.name, c.words, f"{c.share * 100:.0f} %" if c.share else "–", c.do) for c in said.split.causes if c.named]
                or [("Nothing", said.split.words, "–", "–")],
                ("Cause", "found", "share", "what to do"),
            )
        )
        blocks.append(
            Block("Looked for and not named", [(c.name, c.words) for c in said.split.causes if not c.named], note="Each with its doubt.")
        )
    blocks.append(
        Block(
            "Snags of the day",
            [(s.what, f"{s.at_s:.0f} s", s.do) for s in said.snags] or [("None seen", "–", "–")],
            ("What", "at", "do"),
            note=said.day_words,
        )
    )
    if said.pulls:
        blocks.append(Block("Pulls", [(f"at {p.from_s:.0f} s", p.words) for p in said.pulls]))
    blocks.append(
        Block(
            "Cold, foot, idle, sensor",
            [
                ("Cold", said.cold.words),
                ("Foot down", said.tip_ins.words),
                ("Idle", said.idle.words),
                ("Sensor", said.sensor.words),
                ("Lag", said.lag.words),
                ("Day", said.weather.words),
            ],
        )
    )
    blocks.append(Block("What was believed", [(s.word, f"{s.took:,}", s.why) for s in said.funnel], ("Rule", "rows taken away", "because")))
    return Sheet(
        station="road",
        title=f"What the log '{name}' of {day} says",
        lead=said.split.words if said.split else said.why_not,
        cautions=["Spark is never learned from the mixture. Nothing at high load is made leaner without somebody's word."],
        figures=(),
        blocks=blocks,
        codes="-",
    )


def sheet(plan: Plan, build: Build, photos: Mapping[str, bytes]) -> Sheet:
    """Every drive that was read, in the order in which they were taken: what was off, what was put right by it, whether it worked."""
    rows = [
        (
            d.name,
            d.day,
            f"{d.error * 100:.1f} %",
            ", ".join(NAMES[key].lower() for key, c in d.causes.items() if c.named) or ("the table" if d.rest_is else "nothing"),
            ", ".join(DONE.get(x, x.replace("_", " ")) for x in d.did) or "–",
            f"{d.coverage * 100:.0f} %",
            f"{told(d.power, plan.units)} ± {(d.power_doubt or 0) * 100:.0f} %" if d.power else "–",
        )
        for d in build.road.drives
    ]
    blocks = (
        [Block("Drives", rows, ("Log", "day", "off in the middle", "because of", "put right", "cells covered", "power"), long=True)]
        if rows
        else []
    )
    return Sheet(
        station="road",
        title="The road",
        lead=f"{len(rows)} drive{'' if len(rows) == 1 else 's'} read" if rows else "No log of a drive has been read yet",
        cautions=["A passenger works the laptop, never whoever drives. Nothing at high load is made leaner without somebody's word."],
        figures=("road.error.median", "road.scale", "road.dead_time", "road.coverage", "road.lag", "road.power"),
        blocks=blocks,
    )
