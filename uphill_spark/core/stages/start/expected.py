"""What a step of the first start expects to be read: its band, its words, and a reading that was taken held against it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, cast

from ...figures import Band, Result
from ...given.readings_start import READINGS, ReadingKey, read
from ...given.start import Taken
from ...scales import in_unit, scale
from ...units import from_si, printed, si

if TYPE_CHECKING:
    from ...worked import Worked


Verdict = Literal["open", "in", "low", "high"]
SAME = 1e-9  # by which a reading may miss the end of its band


class Expected(Result):
    """A reading to take: the band that it should lie in, where it is a number; the same in words; whether it is worked out from this build or usual. Of one that is taken: as it was typed, when, whether by a person or off the bus, whether it lies in
    its band, and how far it is off."""

    what: str
    band: Band | None
    shown: str
    worked_out: bool
    key: str = ""
    got: str = ""
    when: str = ""
    source: str = ""
    verdict: Verdict = "open"
    off: str = ""


def worked_out(key: ReadingKey | None, what: str, band: Band | None, more: str = "") -> Expected:
    """A reading whose band is worked out from this build."""
    return _expected(key, what, band, more, worked_out=True)


def usual(key: ReadingKey | None, what: str, band: Band | None, more: str = "") -> Expected:
    """A reading whose band is workshop practice, whatever the build."""
    return _expected(key, what, band, more, worked_out=False)


def _expected(key: ReadingKey | None, what: str, band: Band | None, more: str, *, worked_out: bool) -> Expected:
    shown = " ".join(x for x in (str(band) if band else "", more) if x)
    return Expected(key=key or "", what=what, band=band, shown=shown, worked_out=worked_out)


def gauge(w: Worked, *pa: float) -> tuple[Band, str]:
    """A gauge's reading between the least and the most of these pressures, in the person's unit, and in the other that gauges have."""
    own, other = scale(w.build, w.units, "pressure"), in_unit("pressure", "psi")
    if own.unit == other.unit:
        other = in_unit("pressure", "kPa")
    low, high = (round(own.of(p), own.digits) for p in (min(pa), max(pa)))
    behind = other.bare(min(pa)) + (f" to {other.bare(max(pa))}" if high > low else "")
    return Band(low, high, own.unit), f"({behind} {other.unit})"


def judged(expected: Expected, taken: Taken | None) -> Expected:
    """A reading held against its band: a single figure has its own nearness, as it is measured."""
    if taken is None or not expected.key or expected.band is None:
        return expected
    key = cast(ReadingKey, expected.key)
    kind, band = READINGS[key], expected.band
    value = read(key, taken.typed) if kind.dimension is None else from_si(read(key, taken.typed), band.unit)
    low, high = band.low, band.high
    if low is not None and low == high:
        near = max(
            kind.share * abs(low),
            kind.within
            if kind.dimension is None or band.unit == kind.unit
            else from_si(si(f"{kind.within} {kind.unit}", kind.dimension), band.unit),
        )
        low, high = low - near, low + near
    under, over = (low - value if low is not None else 0.0), (value - high if high is not None else 0.0)
    verdict: Verdict = "low" if under > SAME else "high" if over > SAME else "in"
    apart = max(under, over)
    off = "" if verdict == "in" else f"{apart:.3g}{_behind(band.unit)} {'under' if verdict == 'low' else 'over'}"
    return expected.model_copy(update={"got": taken.typed, "when": taken.when, "source": taken.source, "verdict": verdict, "off": off})


def _behind(unit: str) -> str:
    return "" if unit == "1" else f" {printed(unit)}"
