"""Many rows between PostgreSQL and numpy at once."""

from collections.abc import Mapping
from typing import Any

import numpy as np
from numpy.typing import NDArray

# A binary copy begins with this, flags and the length of an extension (PostgreSQL's documentation, COPY).
_SIGNATURE = b"PGCOPY\n\xff\r\n\x00" + bytes(8)


# How PostgreSQL sends a value of each type in binary, and what numpy calls it.
_SENT = {"int2": ">i2", "int4": ">i4", "int8": ">i8", "float8": ">f8"}


def fetch_rows(
    cursor: Any, source: str, parameters: Mapping[str, Any], columns: Mapping[str, tuple[str, str]]
) -> NDArray[Any]:
    """Rows as a structured array, shape (n,). As one value of bytes, since a row at a time takes longer than the query.

    source: what stands after FROM. columns: types (int2, int4, int8, float8) and expressions by name; none may be NULL.
    """
    sent = " || ".join(f"{kind}send(({value})::{kind})" for kind, value in columns.values())
    cursor.execute(f"SELECT string_agg({sent}, ''::bytea) FROM {source}", parameters)
    told = cursor.fetchone()[0] or b""
    return np.frombuffer(told, dtype=np.dtype([(name, _SENT[kind]) for name, (kind, _) in columns.items()]))


def send_rows(cursor: Any, table: str, columns: Mapping[str, tuple[str, NDArray[Any]]]) -> None:
    """Copy arrays of one length, shape (n,) each, into a table by the names of its columns.

    columns: big-endian types and values. Nothing can be NULL; a missing number comes in as NaN.
    """
    count = len(next(iter(columns.values()))[1])
    fields: list[tuple[str, str]] = [("columns", ">i2")]
    for name, (kind, _) in columns.items():
        fields += [(f"size of {name}", ">i4"), (name, kind)]
    rows = np.empty(count, dtype=np.dtype(fields))
    rows["columns"] = len(columns)
    for name, (kind, values) in columns.items():
        rows[f"size of {name}"] = np.dtype(kind).itemsize
        rows[name] = values
    with cursor.copy(f"COPY {table} ({', '.join(columns)}) FROM STDIN (FORMAT BINARY)") as copy:
        copy.write(_SIGNATURE + rows.tobytes() + b"\xff\xff")


def number(value: float) -> str:
    """A number as COPY takes it in."""
    return "\\N" if value != value else repr(value)
