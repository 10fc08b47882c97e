"""Stages as a graph: what each reads of the build, what it takes from other stages, and in which order they are worked out.

A stage says so in its own module: `READS` names places in the build ("engine.boost"), the parameters of `work_out` name the stages whose results it
takes, `LOOKS` what it looks at of them where that is not all, `BESIDE` that neither a finding nor another stage rests on it. Nothing else tells the order, and what has not changed is not worked out again.
"""

from __future__ import annotations

import inspect
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from graphlib import TopologicalSorter
from types import ModuleType
from typing import Any

from .figures import Spec
from .given import Build

#: Parameters of `work_out` that are no stages.
_NOT_STAGES = ("build", "drawn")


@dataclass(frozen=True, slots=True)
class Stage:
    """A stage: its name, what it reads, whose results it takes, how it is worked out, the figures taken from its result."""

    name: str
    reads: tuple[str, ...]
    takes: tuple[str, ...]
    looks: Mapping[str, tuple[str, ...]]
    run: Callable[..., Any]
    drawn: bool
    beside: bool
    figures: tuple[Spec, ...]

    @classmethod
    def of(cls, name: str, module: ModuleType) -> Stage:
        """A stage as its module describes it."""
        parameters = inspect.signature(module.work_out).parameters
        takes = tuple(p for p in parameters if p not in _NOT_STAGES)
        return cls(
            name, module.READS, takes, getattr(module, "LOOKS", {}), module.work_out, "drawn" in parameters, getattr(module, "BESIDE", False),
            getattr(module, "FIGURES", ()),
        )  # fmt: skip

    def work_out(self, build: Build, results: Mapping[str, Any], *, drawn: bool) -> Any:
        """Its result. `results` holds those of the stages it takes."""
        more = {"drawn": drawn} if self.drawn else {}
        return self.run(build, **{name: results[name] for name in self.takes}, **more)


def in_order(stages: tuple[Stage, ...]) -> tuple[Stage, ...]:
    """The stages, each after those it takes; where that leaves a choice, as they were given. Raises graphlib.CycleError for a ring."""
    by_name = {s.name: s for s in stages}
    sorter = TopologicalSorter({s.name: s.takes for s in stages})
    sorter.prepare()
    found: list[Stage] = []
    ready: list[str] = []
    while sorter.is_active():
        ready += sorter.get_ready()
        first = min(ready, key=list(by_name).index)
        ready.remove(first)
        found.append(by_name[first])
        sorter.done(first)
    return tuple(found)
