"""Pages by cursor: what comes after the last row that was seen, however many came before it in the meantime."""

import base64
import json
from collections.abc import Sequence
from datetime import datetime
from typing import Any, TypeVar

from django.db.models import Model, Q, QuerySet

from dakika_server.shared.errors import field_errors

M = TypeVar("M", bound=Model)
LONGEST = 200


def paged(rows: QuerySet[M], order: Sequence[str], cursor: str | None, limit: int) -> tuple[list[M], str | None]:
    """A page of rows and the cursor of the next one, None at the end.

    order: columns such as "-created_at", the last of them unique, so that no row is told twice or left out. The page
    is found by the index of these columns, not by counting. Raises ValidationError for a cursor that is none.
    """
    if cursor:
        after = _after(order, _read(cursor, len(order)))
        try:
            rows = rows.filter(after)
        except (TypeError, ValueError):
            # Values of another kind than the columns'.
            raise _no_cursor() from None
    found = list(rows.order_by(*order)[: limit + 1])
    if len(found) <= limit:
        return found, None
    last = found[limit - 1]
    return found[:limit], _write([getattr(last, column.removeprefix("-")) for column in order])


def _after(order: Sequence[str], values: Sequence[Any]) -> Q:
    """What comes after some values: further in the first column, or as far in it and further in the others."""
    column, value = order[0], values[0]
    name, verb = column.removeprefix("-"), "lt" if column.startswith("-") else "gt"
    found = Q(**{f"{name}__{verb}": value})
    return found if len(order) == 1 else found | Q(**{name: value}) & _after(order[1:], values[1:])


def _write(values: Sequence[Any]) -> str:
    told = [value.isoformat() if isinstance(value, datetime) else value for value in values]
    return base64.urlsafe_b64encode(json.dumps(told, separators=(",", ":")).encode()).decode().rstrip("=")


def _read(cursor: str, count: int) -> list[Any]:
    try:
        if len(cursor) > LONGEST:
            raise ValueError(cursor)
        values = json.loads(base64.urlsafe_b64decode(cursor + "=" * (-len(cursor) % 4)))
        if not isinstance(values, list) or len(values) != count:
            raise ValueError(cursor)
        return [_value(value) for value in values]
    except ValueError:
        raise _no_cursor() from None


def _value(value: Any) -> Any:
    if isinstance(value, bool) or not isinstance(value, int | str) or (isinstance(value, int) and abs(value) >= 2**63):
        raise ValueError(value)
    return datetime.fromisoformat(value) if isinstance(value, str) and value[4:5] == "-" else value


def _no_cursor() -> Exception:
    return field_errors({"cursor": "This is no place in the list. Begin at its beginning."})
