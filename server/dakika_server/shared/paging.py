"""Pages by cursor: what comes after the last row that was seen, however many came before it in the meantime.

In the trade's words: pagination, keyset, infinite list.
"""

import base64
import json
from bisect import bisect_right
from collections.abc import Callable, Sequence
from datetime import date, datetime
from typing import Any, TypeVar

from django.db.models import F, Model, Q, QuerySet
from rest_framework import serializers
from rest_framework.request import Request

from dakika_server.shared.errors import field_errors
from dakika_server.shared.parsers import read

M = TypeVar("M", bound=Model)
T = TypeVar("T")
# A name of the longest kind, written in any script.
LONGEST = 2000


def paged(rows: QuerySet[M], order: Sequence[str], cursor: str | None, limit: int) -> tuple[list[M], str | None]:
    """A page of rows and the cursor of the next one, None at the end.

    order: columns such as "-created_at", the last of them unique, so that no row is told twice or left out. The page
    is found by the index of these columns, not by counting. Raises ValidationError for a cursor that is none.
    """
    if cursor:
        rows = _filtered(rows, _after(order, _read(cursor, len(order))))
    return _page(rows.order_by(*order), order, limit)


def paged_by_value(
    rows: QuerySet[M], order: Sequence[str], cursor: str | None, limit: int
) -> tuple[list[M], str | None]:
    """The same where the first column of the order is a value that may be missing: what misses it comes last."""
    first = order[0].removeprefix("-")
    if cursor:
        values = _read(cursor, len(order))
        if values[0] is None:
            after = Q(**{f"{first}__isnull": True}) & _after(order[1:], values[1:])
        else:
            after = _after(order, values) | Q(**{f"{first}__isnull": True})
        rows = _filtered(rows, after)
    value = F(first)
    by_value = value.desc(nulls_last=True) if order[0].startswith("-") else value.asc(nulls_last=True)
    return _page(rows.order_by(by_value, *order[1:]), order, limit)


def paged_list(
    rows: Sequence[T], key: Callable[[T], Sequence[int]], cursor: str | None, limit: int
) -> tuple[list[T], str | None]:
    """The same for rows that are there already, in the rising order of their keys, each of which is one row's alone."""
    keys = [list(key(row)) for row in rows]
    begins = 0
    if cursor and keys:
        last = _read(cursor, len(keys[0]))
        if not all(isinstance(part, int) for part in last):
            raise _no_cursor()
        begins = bisect_right(keys, last)
    ends = begins + limit
    following = _write(keys[ends - 1]) if ends < len(rows) else None
    return list(rows[begins:ends]), following


class PartSerializer(serializers.Serializer[Any]):
    """Which part of a list: how many rows at most, and the cursor of the part before."""

    cursor = serializers.CharField(required=False, max_length=LONGEST)
    limit = serializers.IntegerField(required=False, min_value=1, max_value=500)


def part_of(
    request: Request, rows: QuerySet[M], order: Sequence[str], most: int, *, by_value: bool = False
) -> tuple[list[M], dict[str, str]]:
    """The part of a list that was asked for, and the headers that lead to the next (RFC 8288, rel="next").

    most: how many where nothing is said. by_value: what the order begins with may be missing.
    """
    asked = read(PartSerializer, request.query_params)
    how = paged_by_value if by_value else paged
    found, following = how(rows, order, asked.get("cursor"), asked.get("limit", most))
    return found, next_part(request, following)


def next_part(request: Request, following: str | None) -> dict[str, str]:
    """The header that leads to the next part of what was asked; none at the end."""
    if following is None:
        return {}
    query = request._request.GET.copy()
    query["cursor"] = following
    return {"Link": f'<{request._request.path}?{query.urlencode()}>; rel="next"'}


def _filtered(rows: QuerySet[M], after: Q) -> QuerySet[M]:
    try:
        return rows.filter(after)
    except (TypeError, ValueError):
        # Values of another kind than the columns'.
        raise _no_cursor() from None


def _page(rows: QuerySet[M], order: Sequence[str], limit: int) -> tuple[list[M], str | None]:
    found = list(rows[: limit + 1])
    if len(found) <= limit:
        return found, None
    last = found[limit - 1]
    return found[:limit], _write([getattr(last, column.removeprefix("-")) for column in order])


def _after(order: Sequence[str], values: Sequence[Any]) -> Q:
    """What comes after some values: further in the first column, or as far in it and further in the others."""
    if values[0] is None:
        raise _no_cursor()
    column, value = order[0], values[0]
    name, verb = column.removeprefix("-"), "lt" if column.startswith("-") else "gt"
    found = Q(**{f"{name}__{verb}": value})
    return found if len(order) == 1 else found | Q(**{name: value}) & _after(order[1:], values[1:])


def _write(values: Sequence[Any]) -> str:
    # An instant or a day stands in a list of its own, so that no name is taken for one.
    told = [[value.isoformat()] if isinstance(value, date) else value for value in values]
    written = json.dumps(told, separators=(",", ":"), ensure_ascii=False)
    return base64.urlsafe_b64encode(written.encode()).decode().rstrip("=")


def _read(cursor: str, count: int) -> list[Any]:
    try:
        if len(cursor) > LONGEST:
            raise ValueError(cursor)
        values = json.loads(base64.urlsafe_b64decode(cursor + "=" * (-len(cursor) % 4)))
        if not isinstance(values, list) or len(values) != count:
            raise ValueError(cursor)
        return [_value(value) for value in values]
    except (TypeError, ValueError, RecursionError):
        raise _no_cursor() from None


def _value(value: Any) -> Any:
    if isinstance(value, list):
        (told,) = value
        if isinstance(told, str) and len(told) == len("2026-11-30"):
            return date.fromisoformat(told)
        instant = datetime.fromisoformat(told)
        if instant.tzinfo is None:
            raise ValueError(value)
        return instant
    is_known = value is None or isinstance(value, int | float | str)
    if isinstance(value, bool) or not is_known or (isinstance(value, str) and "\x00" in value):
        raise ValueError(value)
    if isinstance(value, int | float) and not abs(value) < 2**63:
        raise ValueError(value)
    # Halves of characters cannot be asked for.
    return value.encode().decode() if isinstance(value, str) else value


def _no_cursor() -> Exception:
    return field_errors({"cursor": "This is no place in the list. Begin at its beginning."})
