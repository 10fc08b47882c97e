"""Prices as people are told them: an amount or a range of amounts, with a currency or in that of the build."""

from __future__ import annotations

import re
from decimal import Decimal
from functools import lru_cache
from typing import Annotated, NamedTuple

from pydantic import AfterValidator, Field

from ..errors import UnitError

_EXAMPLE = "129.50, 129.50 EUR, or 40 to 60 EUR"
MOST = Decimal(10_000_000)
_AMOUNT = r"\d{1,3}(?:[ '’]\d{3})+(?:[.,]\d{1,2})?|\d+(?:[.,]\d+)*"
_PRICE = re.compile(
    rf"(?P<before>[A-Za-z]{{3}})?\s*(?P<low>{_AMOUNT})(?:\s*(?:-|–|to)\s*(?P<high>{_AMOUNT}))?\s*(?P<behind>[A-Za-z]{{3}})?"
)


class Money(NamedTuple):
    """An amount between two ends (the same for a price that is known), and its currency by ISO 4217; empty for that of the build."""

    low: Decimal
    high: Decimal
    currency: str

    @property
    def middle(self) -> Decimal:
        """What it is reckoned with."""
        return (self.low + self.high) / 2


@lru_cache(maxsize=2048)
def read_money(text: str) -> Money:
    """A price. Raises UnitError with what would do.

    >>> read_money("1.250,00 EUR").low, read_money("40 to 60").middle
    (Decimal('1250.00'), Decimal('50'))
    """
    m = _PRICE.fullmatch(text.strip())
    if m is None or (m["before"] and m["behind"]):
        raise UnitError(f"{text.strip()[:40]!r} is no price: write {_EXAMPLE}")
    low = _amount(m["low"])
    high = _amount(m["high"]) if m["high"] else low
    if high < low:
        raise UnitError(f"{text.strip()[:40]!r} ends below its beginning: write {_EXAMPLE}")
    if high > MOST:
        raise UnitError(f"{text.strip()[:40]!r} is more than a car costs: at most {MOST:,}")
    return Money(low, high, (m["before"] or m["behind"] or "").upper())


def _amount(text: str) -> Decimal:
    """Point or comma: the last of two kinds, and one before one or two digits, is the decimal one; before three it groups."""
    plain = re.sub(r"[ '’]", "", text)
    last = max(plain.rfind("."), plain.rfind(","))
    if last >= 0:
        mark, other = plain[last], {".": ",", ",": "."}[plain[last]]
        behind = len(plain) - last - 1
        if other in plain or (plain.count(mark) == 1 and behind != 3):
            plain = plain[:last].replace(other, "") + "." + plain[last + 1 :]
        elif plain.count(mark) >= 1 and all(len(x) == 3 for x in plain.split(mark)[1:]):
            plain = plain.replace(mark, "")
    try:
        return Decimal(plain)
    except ArithmeticError as error:
        raise UnitError(f"{text[:40]!r} is no amount: write {_EXAMPLE}") from error


def _checked(text: str) -> str:
    try:
        read_money(text)
    except UnitError as error:
        raise ValueError(str(error)) from error
    return text


Price = Annotated[
    str, Field(min_length=1, max_length=40, pattern=r"^[^\x00-\x1f\x7f]+$", examples=["129.50 EUR"]), AfterValidator(_checked)
]
Currency = Annotated[str, Field(pattern=r"^[A-Z]{3}$", examples=["EUR"])]
