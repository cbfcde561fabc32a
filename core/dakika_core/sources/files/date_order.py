"""Which number of a written date is the day? Found out from all dates of a file, or asked."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from dakika_core.sources.files.dates import ORDERS, in_order, numeric_part


@dataclass(frozen=True, kw_only=True)
class Order:
    """In which order a file's dates are written. chosen is empty where the person must say; fits are all that can be.

    told: whether the dates leave no doubt by themselves. why: what decided, in words.
    """

    chosen: str
    fits: tuple[str, ...]
    told: bool
    why: str


_LEAST_DAYS, _TIMES_AS_WIDE = 3, 8.0


def order_of(cells: Sequence[object], *, now: datetime) -> Order:
    """The order of day, month and year in the dates of a file.

    Every order is tried on every date. One that cannot read one of them is out; so is one that puts
    dates into the future while another does not, one under which the dates are unsorted while they
    are sorted under another, and one that spreads them eight times as wide. What is left in doubt
    is asked: nothing is decided by a majority.
    """
    numeric = [n for cell in cells if isinstance(cell, str) and (n := numeric_part(cell)) is not None]
    # What is a date in no order tells nothing of the others: it is a bad cell.
    numeric = [numbers for numbers in numeric if any(in_order(numbers, order) for order in ORDERS)]
    if not numeric:
        return Order(chosen="dmy", fits=("dmy",), told=True, why="")
    days = {order: [in_order(numbers, order) for numbers in numeric] for order in ORDERS}
    if all(len(numbers[0]) != 2 or len(numbers[2]) == 4 for numbers in numeric):
        del days["ymd"]
    fits = [order for order, read in days.items() if None not in read]
    if not fits:
        return Order(
            chosen="", fits=tuple(days), told=False, why="the dates are written in two orders: no order reads all"
        )
    same = {tuple(days[order]) for order in fits}
    if len(fits) == 1 or len(same) == 1:
        return Order(chosen=fits[0], fits=(fits[0],), told=True, why="no other order reads all dates")
    dates = {order: [date(*day) for day in days[order] if day is not None] for order in fits}
    left, why = _sifted(fits, dates, now)
    if len(left) == 1:
        return Order(chosen=left[0], fits=tuple(fits), told=True, why=why)
    return Order(chosen="", fits=tuple(fits), told=False, why="the dates can be read in more than one order")


def _sifted(fits: list[str], dates: dict[str, list[date]], now: datetime) -> tuple[list[str], str]:
    tomorrow = now.date() + timedelta(days=1)
    left = [order for order in fits if max(dates[order]) <= tomorrow] or fits
    if len(left) == 1:
        return left, "the other order puts dates into the future"
    several = {order: len(set(dates[order])) >= _LEAST_DAYS for order in left}
    if not all(several.values()):
        return left, ""
    in_row = [order for order in left if _is_sorted(dates[order])]
    if in_row and len(in_row) < len(left):
        left = in_row
    if len(left) == 1:
        return left, "only so the dates stand in order"
    wide = {order: max((max(dates[order]) - min(dates[order])).days, 1) for order in left}
    narrowest = min(wide.values())
    near = [order for order in left if wide[order] < _TIMES_AS_WIDE * narrowest]
    return near, "the other order spreads them over far more time"


def _is_sorted(days: Sequence[date]) -> bool:
    return list(days) == sorted(days) or list(days) == sorted(days, reverse=True)
