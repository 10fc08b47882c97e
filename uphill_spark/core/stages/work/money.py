"""What the parts cost: spent, still to pay, what comes back, and a reserve for what is not known better, in the currency of the build."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ...figures import Result
from ...given.money import Money, read_money
from ...given.work import MoneyBook
from .parts import PartRow

#: States in which a line is paid.
PAID = ("ordered", "arrived", "fitted")
#: By how much a price that was told as one figure may still move [share]: postage, a rise, a second order. One that is paid moves no more.
TOLD_WITHIN = 0.10
#: A sum of several doubts is held with this many standard deviations in nine of ten cases (normal distribution).
NINE_IN_TEN = 1.2816
#: Width of an even spread over its standard deviation.
_EVEN = math.sqrt(12.0)


class MoneyResult(Result):
    """Sums in the currency of the build (its name; empty where none is chosen): spent, to pay, what comes back, all in all, the reserve that covers nine of ten cases, the budget. How many lines have no price; prices in a currency of which nobody said what it is worth."""

    currency: str
    spent: float
    to_pay: float
    back: float
    cost: float
    reserve: float
    budget: float | None
    unpriced: int
    priced: int
    strange: list[str]


def work_out(book: MoneyBook, rows: Sequence[PartRow]) -> MoneyResult:
    """The sums over all lines that are wanted or were bought. A price in another currency counts once it is said what that is worth."""
    home = book.currency or _only([r.price for r in rows if r.price])
    spent = to_pay = back = spread = 0.0
    priced = unpriced = 0
    strange: dict[str, None] = {}
    for r in rows:
        credit = _in_home(read_money(r.credit), home, book) if r.credit else None
        if credit is not None:
            back += float(credit.middle)
        if r.state == "not_wanted":
            continue
        if not r.price:
            unpriced += r.state in ("to_order", "ordered")
            continue
        price = read_money(r.price)
        known = _in_home(price, home, book)
        if known is None:
            strange[price.currency] = None
            continue
        priced += 1
        middle = float(known.middle)
        if r.state in PAID or r.state in ("have", "returned"):
            spent += middle
        else:
            to_pay += middle
            width = float(known.high - known.low) or 2 * TOLD_WITHIN * middle
            spread += (width / _EVEN) ** 2
    budget = _in_home(read_money(book.budget), home, book) if book.budget else None
    return MoneyResult(
        currency=home, spent=round(spent, 2), to_pay=round(to_pay, 2), back=round(back, 2), cost=round(spent + to_pay - back, 2), reserve=round(NINE_IN_TEN * math.sqrt(spread), 2),
        budget=float(budget.middle) if budget is not None else None, unpriced=unpriced, priced=priced, strange=list(strange),
    )  # fmt: skip


def _only(prices: Sequence[str]) -> str:
    """The one currency in which prices were told, where it is one and no other."""
    told = {read_money(p).currency for p in prices} - {""}
    return told.pop() if len(told) == 1 else ""


def _in_home(price: Money, home: str, book: MoneyBook) -> Money | None:
    if price.currency in ("", home) or not home:
        return price if price.currency in ("", home) else None
    rate = book.rates.get(price.currency)
    if rate is None:
        return None
    worth = type(price.low)(str(rate))
    return Money(price.low * worth, price.high * worth, home)
