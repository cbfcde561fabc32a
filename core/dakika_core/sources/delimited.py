"""Text of a delimited or JSON file into rows, in a stream (RFC 4180, RFC 8259, and what is written in their stead)."""

import csv
import io
import json
import re
from collections.abc import Iterable, Iterator

DELIMITERS = (",", ";", "\t", "|")
# Written in files without a mark, in the order in which they are tried.
EIGHT_BIT = {"windows-1252": "cp1252", "iso-8859-9": "iso8859-9", "windows-1253": "cp1253", "windows-1251": "cp1251"}
ENCODINGS = {"utf-8": "utf-8-sig", "utf-16": "utf-16", **EIGHT_BIT}
LARGEST_FIELD = 1 << 20
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
    try:
        data.decode("cp1252")
    except UnicodeDecodeError:
        raise FileError("The file's encoding is not known. Save it as CSV UTF-8 and try again.") from None
    return "windows-1252"


def decode(data: bytes) -> tuple[str, str]:
    """Text and encoding of a whole file. Raises FileError when it cannot be read."""
    name = detect_encoding(data)
    return data.decode(ENCODINGS[name]), name


def detect_delimiter(text: str) -> str:
    """The delimiter that cuts the first lines into the same number of fields, more than one."""
    head = [line.rstrip("\r\n") for _, line in zip(range(20), io.StringIO(text), strict=False)]
    best, best_score = ",", 0
    for delimiter in DELIMITERS:
        widths = [len(row) for row in csv.reader(io.StringIO("\n".join(head)), delimiter=delimiter) if row]
        if widths and widths[0] > 1:
            score = sum(width == widths[0] for width in widths) * widths[0]
            if score > best_score:
                best, best_score = delimiter, score
    return best


def rows_of(text: str | Iterable[str], delimiter: str) -> Iterator[list[str]]:
    """Rows of fields, empty lines left out; from a text or its lines with their ends.

    Raises FileError when quotes do not match, a field is larger than a mebibyte, or the text is
    not in the encoding that it began in.
    """
    csv.field_size_limit(LARGEST_FIELD)
    lines = io.StringIO(text, newline="") if isinstance(text, str) else text
    reader = csv.reader(lines, delimiter=delimiter)
    try:
        for row in reader:
            if any(row) and any(field.strip() for field in row):
                yield row
    except csv.Error as error:
        raise FileError(f"The table cannot be read at line {reader.line_num:,}: {error}.") from None
    except UnicodeDecodeError:
        raise FileError(
            f"The file is broken after line {reader.line_num:,}: other bytes than its beginning. Export it anew."
        ) from None


def objects_of(pieces: Iterable[str]) -> Iterator[dict[str, object]]:
    """Objects of a JSON array or of JSON Lines, one at a time, whatever the length of the whole.

    Raises FileError for anything but objects, and for one larger than a mebibyte.
    """
    decoder, source = json.JSONDecoder(), iter(pieces)
    buffer, at, is_over = "", 0, False
    while True:
        at = _BETWEEN.match(buffer, at).end()  # type: ignore[union-attr]
        if at < len(buffer):
            try:
                value, end = decoder.raw_decode(buffer, at)
            except (json.JSONDecodeError, RecursionError) as error:
                if is_over or len(buffer) - at > LARGEST_FIELD or isinstance(error, RecursionError):
                    raise FileError("The file is not JSON that can be read: an array or lines of objects.") from None
            else:
                if not isinstance(value, dict):
                    raise FileError("The file's JSON does not hold objects, one for each row.")
                yield _flat(value)
                at = end
                continue
        elif is_over:
            return
        try:
            buffer, at = buffer[at:] + next(source), 0
        except StopIteration:
            is_over = True
        except UnicodeDecodeError:
            raise FileError("The file is not JSON in UTF-8.") from None


def _flat(value: dict[str, object], before: str = "") -> dict[str, object]:
    """Inner objects as names with a dot: {"a": {"b": 1}} as a.b. Lists stand as their JSON."""
    found: dict[str, object] = {}
    for name, inner in value.items():
        if isinstance(inner, dict) and before.count(".") < 3:
            found |= _flat(inner, f"{before}{name}.")
        else:
            found[f"{before}{name}"] = json.dumps(inner) if isinstance(inner, dict | list) else inner
    return found
