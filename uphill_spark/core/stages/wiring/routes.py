"""What runs beside what, and whether it passes: classes of noise along shared branches, bundles in their holes."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping

from ...circuit.conductors import Made, outside_diameter
from ...figures import Result
from ...given import Build
from ...physics.electric import bundle_diameter

_BESIDE_ITS_SIGNAL = ("_ground", "_5v", "_12v")  # run with the signal, which is the one that hears
_TOLD = {"twisted_shielded": "twisted_shielded", "twisted": "twisted", "none": "none", "not_looked_at": None}
LOOM_WALL = 0.0008  # m, of the tape or tube about a bundle


class BesideRow(Result):
    """Two wires, one that makes noise and one that hears it, that lie side by side for a length [m], and where."""

    loud: str
    quiet: str
    length_m: float
    branches: list[str]
    shielded: bool | None


class HoleRow(Result):
    """A hole, the bundle in it with its wrapping, and its largest connector [m]."""

    key: str
    branch: str
    diameter_m: float
    bundle_m: float
    connector_m: float | None


def beside(build: Build, made: Mapping[str, Made]) -> list[BesideRow]:
    """For each wire that hears, the loud one (class B) that it lies beside longest, in any branch they share; longest first."""
    lengths = {key: b.length.si for key, b in build.wiring.branches.items()}
    loud = [m for m in made.values() if m.wire.noise == "B"]
    found = []
    for m in made.values():
        if m.wire.noise != "E" or m.wire.key.endswith(_BESIDE_ITS_SIGNAL):
            continue
        longest: tuple[float, str, list[str]] = (0.0, "", [])
        for other in loud:
            shared = [branch for branch in m.route if branch in other.route]
            length = sum(lengths[branch] for branch in shared)
            if length > longest[0] + 1e-9:
                longest = (length, other.wire.label, shared)
        if longest[0] > 0:
            own = build.wiring.fitted.get(m.wire.key)
            twist = own.twist if own and own.twist is not None else _TOLD[build.wiring.pairs]
            found.append(
                BesideRow(
                    loud=longest[1], quiet=m.wire.key, length_m=longest[0], branches=longest[2],
                    shielded=None if twist is None else twist == "twisted_shielded",
                )
            )  # fmt: skip
    return sorted(found, key=lambda row: -row.length_m)


def bundles(made: Mapping[str, Made]) -> dict[str, float]:
    """Diameter [m] of the bundle in each branch, without its wrapping."""
    sizes: defaultdict[str, list[tuple[int, float]]] = defaultdict(list)
    for m in made.values():
        for branch in m.route:
            sizes[branch].append((1, outside_diameter(m.area_m2)))
    return {branch: bundle_diameter(wires) for branch, wires in sizes.items()}


def holes(build: Build, across: Mapping[str, float]) -> list[HoleRow]:
    """Every hole with what has to pass it; `across` is the diameter [m] of the bundle in each branch."""
    return [
        HoleRow(
            key=key, branch=h.branch, diameter_m=h.diameter.si, bundle_m=wrapped(across.get(h.branch, 0.0)),
            connector_m=h.connector.si if h.connector is not None else None,
        )
        for key, h in build.wiring.holes.items()
    ]  # fmt: skip


def wrapped(diameter_m: float) -> float:
    """A bundle's diameter [m] with its wrapping; nothing where no wire runs."""
    return diameter_m + 2 * LOOM_WALL if diameter_m else 0.0


def at_firewall(build: Build, across: Mapping[str, float]) -> float:
    """The largest bundle [m] that has to pass the firewall: of the branches that end at it."""
    return wrapped(max((across.get(key, 0.0) for key, b in build.wiring.branches.items() if "firewall" in (b.start, b.end)), default=0.0))
