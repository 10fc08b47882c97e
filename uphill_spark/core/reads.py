"""What of a worked build somebody looked at: for judgements that need not be made again while that is as it was."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, cast

from .given import Build
from .worked import Worked


@dataclass(frozen=True, slots=True)
class Reads:
    """Stages whose results, and sections of the build, that were looked at."""

    stages: frozenset[str]
    sections: frozenset[str]


class Reader:
    """A worked build that notes what is looked at. What is made from it by a pure function stays as it is while that does not change."""

    def __init__(self, worked: Worked) -> None:
        self._stages: set[str] = set()
        self._sections: set[str] = set()
        build = cast(Build, _Sections(worked.build, self._sections))
        self.worked = Worked(build, _Results(worked.results, self._stages), worked.drawn, worked.units)

    def taken(self) -> Reads:
        """What was looked at since this was asked last."""
        found = Reads(frozenset(self._stages), frozenset(self._sections))
        self._stages.clear()
        self._sections.clear()
        return found


class _Results(dict[str, Any]):
    """Results by stage; each that is looked up is noted."""

    def __init__(self, results: dict[str, Any], seen: set[str]) -> None:
        super().__init__(results)
        self._seen = seen

    def __getitem__(self, stage: str) -> Any:
        self._seen.add(stage)
        return super().__getitem__(stage)


class _Sections:
    """A build; each section that is looked at is noted. A method that looks at several goes by the name of the method, which never counts as unchanged."""

    __slots__ = ("_build", "_seen")

    def __init__(self, build: Build, seen: set[str]) -> None:
        self._build, self._seen = build, seen

    def __getattr__(self, section: str) -> Any:
        self._seen.add(section)
        return getattr(self._build, section)


@dataclass(slots=True)
class Since:
    """Whether what was looked at is as it was `then`. Holds what was compared already."""

    now: Worked
    then: Worked
    _same: dict[str, bool] = field(default_factory=dict)

    def unchanged(self, reads: Reads) -> bool:
        """Whether all of it is as it was: results are the same objects, sections say the same."""
        now, then = self.now.results, self.then.results
        return all(stage in now and now[stage] is then.get(stage) for stage in reads.stages) and all(map(self._section, reads.sections))

    def _section(self, name: str) -> bool:
        if name not in self._same:
            a, b = self.now.build, self.then.build
            self._same[name] = name in Build.model_fields and (a is b or getattr(a, name) == getattr(b, name))
        return self._same[name]
