"""Text of a delimited or JSON file into rows, in a stream (RFC 4180, RFC 8259, and what is written in their stead)."""

import csv
import io
import json
import re
from collections import Counter
from collections.abc import Iterable, Iterator
from contextlib import suppress

DELIMITERS = (",", ";", "\t", "|")
# Written in files without a mark, in the order in which they are tried.
EIGHT_BIT = {"windows-1252": "cp1252", "iso-8859-9": "iso8859-9", "windows-1253": "cp1253", "windows-1251": "cp1251"}
ENCODINGS = {"utf-8": "utf-8-sig", "utf-16": "utf-16", **EIGHT_BIT}
LARGEST_FIELD = 1 << 20
# So much is looked at before it is decided whether an object is a row or only wraps the rows.
LARGEST_WRAPPER = 4096
_BETWEEN = re.compile(r"[\s,\[\]\ufeff]*")


class FileError(ValueError):
    """A file that cannot be read at all; the text says what to do."""


def detect_encoding(data: bytes, *, is_whole: bool = True) -> str:
    """Name of the encoding of a file from its beginning: UTF-8, UTF-16 with its mark, else the common western one.

    Raises FileError when it is none of them, or not text.
    """
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        try:
            (data if is_whole else data[: len(data) // 4 * 4]).decode("utf-16")
        except UnicodeDecodeError:
            raise FileError("The file begins like UTF-16 but is broken. Save it anew as CSV UTF-8.") from None
        return "utf-16"
    if b"\x00" in data:
        raise FileError("This is not a text file. Save the table as CSV or XLSX and try again.")
    try:
        data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        # A character cut at the end of the sample is no error.
        if not is_whole and error.start >= len(data) - 3:
            return "utf-8"
        # Broken UTF-8 among much that is right is a damaged file, not another encoding.
        if any(byte >= 0x80 for byte in data[: error.start]):
            raise FileError(f"The file is UTF-8 up to byte {error.start:,} and broken there. Export it anew.") from None
    else:
        return "utf-8"
    return _eight_bit(data)


# Bytes that make up most of a text, by encoding: the commonest letters of Greek and Russian (from memory), and the
# six letters that set Turkish apart, which in the western encoding are Icelandic ones.
_GREEK, _CYRILLIC, _TURKISH = (
    frozenset(text.encode(code))
    for text, code in (("αοιετσνηυρςάίόκλπμ", "cp1253"), ("оеаинтсрвлкмдпу", "cp1251"), ("ışğİŞĞ", "iso8859-9"))
)
_RUNS = 0.5
_TURKISH_SHARE = 0.2


def _eight_bit(data: bytes) -> str:
    """Which encoding of eight bits: letters that stand in runs are a script of their own, lonely ones are accents."""
    high = [i for i, byte in enumerate(data) if byte >= 0xC0]
    in_runs = sum(i + 1 < len(data) and data[i + 1] >= 0xC0 for i in high)
    order = ["windows-1252", "iso-8859-9", "windows-1253", "windows-1251"]
    if high and in_runs >= _RUNS * len(high):
        greek, cyrillic = (sum(data[i] in letters for i in high) for letters in (_GREEK, _CYRILLIC))
        order.insert(0, "windows-1253" if greek >= cyrillic else "windows-1251")
    elif high and sum(data[i] in _TURKISH for i in high) >= _TURKISH_SHARE * len(high):
        order.insert(0, "iso-8859-9")
    for name in order:
        try:
            data.decode(EIGHT_BIT[name])
        except UnicodeDecodeError:
            continue
        return name
    raise FileError("The file's encoding is not known. Save it as CSV UTF-8 and try again.")


def decode(data: bytes) -> tuple[str, str]:
    """Text and encoding of a whole file. Raises FileError when it cannot be read."""
    name = detect_encoding(data)
    return data.decode(ENCODINGS[name]), name


_SEPARATOR = re.compile(r'^\ufeff?"?sep=(.)"?\r?\n?$', re.IGNORECASE)


def told_delimiter(line: str) -> str:
    """The delimiter that a first line such as sep=; tells spreadsheets, empty if it is no such line."""
    found = _SEPARATOR.match(line)
    return found[1] if found else ""


def detect_delimiter(text: str) -> str:
    """The delimiter that cuts most of the first lines into the same number of fields, more than one."""
    head = [line.rstrip("\r\n") for _, line in zip(range(40), io.StringIO(text, newline=""), strict=False)]
    if head and told_delimiter(head[0]):
        return told_delimiter(head[0])
    best, best_score = ",", 0
    for delimiter in DELIMITERS:
        widths: Counter[int] = Counter()
        with suppress(csv.Error):
            widths.update(len(row) for row in csv.reader(io.StringIO("\n".join(head)), delimiter=delimiter) if row)
        score = max((count * width for width, count in widths.items() if width > 1), default=0)
        if score > best_score:
            best, best_score = delimiter, score
    return best


def rows_of(text: str | Iterable[str], delimiter: str) -> Iterator[list[str]]:
    """Rows of fields, empty lines left out; from a text or its lines with their ends. Raises FileError as below."""
    return (row for _, row in numbered_rows(text, delimiter))


def numbered_rows(text: str | Iterable[str], delimiter: str) -> Iterator[tuple[int, list[str]]]:
    """Rows of fields with their number, as a spreadsheet counts them: empty lines count, and are left out.

    Raises FileError when quotes do not match, a field is larger than a mebibyte, or the text is
    not in the encoding that it began in.
    """
    csv.field_size_limit(LARGEST_FIELD)
    lines = io.StringIO(text, newline="") if isinstance(text, str) else text
    reader = csv.reader(lines, delimiter=delimiter)
    try:
        for number, row in enumerate(reader, 1):
            if any(row) and any(field.strip() for field in row):
                yield number, row
    except csv.Error as error:
        raise FileError(f"The table cannot be read at line {reader.line_num:,}: {error}.") from None
    except UnicodeDecodeError:
        raise FileError(
            f"The file is broken after line {reader.line_num:,}: other bytes than its beginning. Export it anew."
        ) from None


_WITHIN = re.compile(r"[\s,]*")
# An object around the array of rows, as programs answer: {"data": [{...}, ...]}.
_WRAPPED = re.compile(r'^[\s\ufeff]*\{[^\[\]{}]*"[^"\\]{1,60}"\s*:\s*\[\s*(?=\{)')


def objects_of(pieces: Iterable[str]) -> Iterator[dict[str, object]]:
    """Objects of a JSON array or of JSON Lines, one at a time, whatever the length of the whole.

    An object that only wraps an array of objects gives those. Raises FileError for anything but
    objects, and for one larger than a mebibyte.
    """
    decoder, source = json.JSONDecoder(), iter(pieces)
    buffer, at, is_over, is_wrapped, is_first = "", 0, False, False, True
    while True:
        if is_first and (len(buffer) >= LARGEST_WRAPPER or is_over):
            is_first = False
            wrapped = _WRAPPED.match(buffer)
            if wrapped:
                at, is_wrapped = wrapped.end(), True
        at = (_WITHIN if is_wrapped else _BETWEEN).match(buffer, at).end()  # type: ignore[union-attr]
        if is_wrapped and buffer[at : at + 1] == "]":
            return
        if at < len(buffer) and not is_first:
            try:
                value, end = decoder.raw_decode(buffer, at)
            except (ValueError, RecursionError) as error:
                if is_over or len(buffer) - at > LARGEST_FIELD or not isinstance(error, json.JSONDecodeError):
                    raise FileError("The file is not JSON that can be read: an array or lines of objects.") from None
            else:
                if not isinstance(value, dict):
                    raise FileError("The file's JSON does not hold objects, one for each row.")
                inner = _within(value) if not is_wrapped else None
                for one in [value] if inner is None else inner:
                    yield _flat(one)
                at = end
                continue
        elif is_over and not is_first:
            return
        try:
            buffer, at = buffer[at:] + next(source), 0
        except StopIteration:
            is_over = True
        except UnicodeDecodeError:
            raise FileError("The file is not JSON in UTF-8.") from None


def _within(value: dict[str, object]) -> list[dict[str, object]] | None:
    """The rows that an object wraps: its only list of several objects, where it says nothing of its own as a row."""
    lists = [v for k, v in value.items() if isinstance(v, list) and v and all(isinstance(one, dict) for one in v)]
    named = [v for v in lists if not _is_named(v)]
    if len(named) == 1 and (len(named[0]) > 1 or len(value) <= 2):
        return named[0]
    return None


def _is_named(values: list[dict[str, object]]) -> bool:
    """Whether a list holds named values: [{"name": "likes", "value": 3}, ...]."""
    return all({"name", "metric", "key"} & set(one) and {"value", "values"} & set(one) for one in values)


def _flat(value: dict[str, object], before: str = "") -> dict[str, object]:
    """Inner objects as names with a dot: {"a": {"b": 1}} as a.b. Named values as their names, other lists as JSON."""
    found: dict[str, object] = {}
    for name, inner in value.items():
        if isinstance(inner, dict) and before.count(".") < 3:
            found |= _flat(inner, f"{before}{name}.")
        elif isinstance(inner, list) and inner and all(isinstance(one, dict) for one in inner) and _is_named(inner):
            for one in inner:
                told = next(str(one[key]) for key in ("name", "metric", "key") if key in one)
                found[f"{before}{name}.{told}"] = _single(one.get("value", one.get("values")))
        else:
            found[f"{before}{name}"] = json.dumps(inner) if isinstance(inner, dict | list) else inner
    return found


def _single(value: object) -> object:
    while isinstance(value, list) and len(value) == 1:
        value = value[0]
    if isinstance(value, dict) and "value" in value:
        value = value["value"]
    return json.dumps(value) if isinstance(value, dict | list) else value
