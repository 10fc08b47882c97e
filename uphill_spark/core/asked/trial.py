"""A changed build, tried: worked out whole from the one that stands, as far as the change reaches. Everything that is asked "what if" goes through here."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from ..carried import edited
from ..errors import BuildError, NotConverged
from ..findings import Finding, judge
from ..given import Build
from ..given.edit import Patch
from ..given.pencil import pencilled
from ..plan import Evaluated, Plan, judged
from ..reads import Recall
from ..stages.fuel import FuelResult
from ..worked import FiguresAsAsked, Worked, resting_on, work_out

_FOR_FUEL = resting_on("fuel")


@dataclass(frozen=True)
class Tried:
    """A build after a change, worked out."""

    worked: Worked
    before: Evaluated

    @property
    def build(self) -> Build:
        """The build with the change in it."""
        return self.worked.build

    @cached_property
    def findings(self) -> list[Finding]:
        """What the catalogue says of it."""
        return judge(Recall(self.worked, self.before.kept), FiguresAsAsked(self.worked), pencilled(self.worked.build))

    @cached_property
    def plan(self) -> Plan:
        """Its whole plan."""
        return judged(self.worked, self.before).plan


@dataclass(frozen=True, slots=True)
class Trial:
    """A build as it stands, against which changes are tried."""

    document: dict[str, Any]
    stands: Evaluated
    #: What was asked of it already and is asked again by others, by its name.
    asked: dict[str, Any] = field(default_factory=dict, compare=False, repr=False)

    @property
    def worked(self) -> Worked:
        """All that is worked out from it."""
        return self.stands.worked

    @property
    def plan(self) -> Plan:
        """Its plan."""
        return self.stands.plan

    @property
    def findings(self) -> list[Finding]:
        """What the catalogue says of it as it stands; of its work nothing: that is tried by nothing here."""
        return self.stands.findings

    @property
    def build(self) -> Build:
        """The build that stands."""
        return self.worked.build

    def of(self, patch: Patch, *, drawn: bool = True) -> Tried:
        """The build with a patch in it. Raises PatchError, BuildError or NotConverged where there would be none."""
        return Tried(work_out(edited(self.document, patch, self.build)[2], self.worked, drawn=drawn), self.stands)

    def attempt(self, patch: Patch, *, drawn: bool = True) -> Tried | str:
        """The same; where it would not be a build that can be worked out, the reason in words."""
        try:
            return self.of(patch, drawn=drawn)
        except (BuildError, NotConverged) as error:
            problems = getattr(error, "problems", ())
            return problems[0].sentence() if problems else str(error)


def under_the_hand(document: dict[str, Any], worked: Worked, patch: Patch) -> FuelResult:
    """The fuel system while something is dragged: the stages that it rests on and no more. Raises PatchError or BuildError as an edit does."""
    return work_out(edited(document, patch, worked.build)[2], worked, only=_FOR_FUEL).fuel
