"""What of a worked build somebody looked at: for judgements that need not be made again while that is as it was."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import Any, TypeVar, cast

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


class Since:
    """Whether what was looked at is as it was `then`: results are the same objects, sections say the same."""

    def __init__(self, now: Worked, then: Worked) -> None:
        a, b = now.build, then.build
        self._stages = frozenset(name for name, found in now.results.items() if found is then.results.get(name))
        self._sections = frozenset(name for name in Build.model_fields if getattr(a, name) == getattr(b, name))

    def unchanged(self, reads: Reads) -> bool:
        """Whether all of it is as it was."""
        return reads.stages <= self._stages and reads.sections <= self._sections


@dataclass(frozen=True, slots=True)
class Kept:
    """What was made of a worked build piece by piece, by name, each with what was looked at for it."""

    worked: Worked
    pieces: dict[Hashable, tuple[Any, Reads]]


T = TypeVar("T")


class Recall:
    """Makes pieces of a worked build, and takes over those of `before` that rest on nothing that has changed."""

    def __init__(self, worked: Worked, before: Kept | None = None) -> None:
        self.worked = worked
        self._reader = Reader(worked)
        self._before = before.pieces if before is not None else {}
        self._since = Since(worked, before.worked) if before is not None else None
        self._pieces: dict[Hashable, tuple[Any, Reads]] = {}

    def of(self, name: Hashable, make: Callable[[Worked], T]) -> T:
        """A piece by its name. `make` makes it of nothing but the worked build that it is handed, and of what its name says."""
        old = self._before.get(name)
        if old is None or self._since is None or not self._since.unchanged(old[1]):
            value = make(self._reader.worked)
            old = value, self._reader.taken()
        self._pieces[name] = old
        return cast(T, old[0])

    def kept(self) -> Kept:
        """All pieces, for the next build."""
        return Kept(self.worked, self._pieces)
