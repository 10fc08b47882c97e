"""A change to the build, tried: worked out as a whole build, with what it does to the margin and to the findings."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from ...errors import BuildError, NotConverged
from ...figures import Result
from ...given import apply_edit
from ...given.edit import Patch
from ...worked import FiguresAsAsked, Worked, work_out
from ..engine import work_out as work_out_engine
from . import FuelResult
from . import work_out as work_out_fuel

Cost = Literal["none", "low", "middle", "high"]
COSTS: tuple[Cost, ...] = ("none", "low", "middle", "high")
_RANKS = ("stop", "sort_out", "watch")


@dataclass(frozen=True, slots=True)
class Change:
    """A change that could be made: the patch that makes it, hours it usually takes, and about what it costs."""

    title: str
    patch: Patch
    hours: float
    cost: Cost


class Effect(Result):
    """What a change does once it is solved: margin at full power, codes cleared, eased, and brought or worsened, Stops left."""

    margin: float
    cleared: list[str]
    eased: list[str]
    raised: list[str]
    stops: int
    told: str


def tried(document: dict[str, Any], patch: Any) -> FuelResult:
    """The fuel system with a patch applied, engine and fuel stage only: what a drawing needs while something is dragged, without the doubt.

    Raises PatchError or BuildError as an edit does.
    """
    build = apply_edit(document, patch)[2]
    return work_out_fuel(build, work_out_engine(build), band=False)


class Trial:
    """A build against which changes are tried."""

    def __init__(self, document: dict[str, Any], worked: Worked) -> None:
        self.document, self.worked = document, worked
        self.before = _open(worked)

    def of(self, patch: Patch) -> Effect | None:
        """The effect of a patch; None where the build would no longer be one."""
        try:
            after = work_out(apply_edit(self.document, patch)[2], drawn=False)
        except (BuildError, NotConverged):
            return None
        before, now = self.before, _open(after)
        cleared = sorted(code for code in before if code not in now and code.startswith("FUEL"))
        eased = sorted(code for code in before if code in now and now[code] > before[code] and code.startswith("FUEL"))
        worse = sorted(code for code in now if now[code] < before.get(code, 9))
        old, new = self.worked.fuel.margin_full, after.fuel.margin_full
        told = [f"margin {old:.2f} → {new:.2f}"] if abs(new - old) > 0.005 * max(old, new) else []
        told += [f"clears {', '.join(cleared)}"] if cleared else []
        told += [f"eases {', '.join(eased)}"] if eased else []
        told += [f"{'worsens' if code in before else 'brings'} {code}" for code in worse]
        return Effect(
            margin=new, cleared=cleared, eased=eased, raised=worse, stops=sum(rank == 0 for rank in now.values()), told="; ".join(told)
        )


def _open(worked: Worked) -> dict[str, int]:
    """The worst that each code says, as a rank: 0 a Stop, 2 a Watch."""
    from ...findings import judge  # the catalogue imports the stages; here, on asking, it may be looked into

    found: dict[str, int] = {}
    for x in judge(worked, FiguresAsAsked(worked)):
        if x.severity in _RANKS:
            found[x.code] = min(found.get(x.code, 9), _RANKS.index(x.severity))
    return found
