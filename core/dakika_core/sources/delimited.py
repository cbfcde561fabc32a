"""Text of a delimited file into rows (RFC 4180, and what is written in its stead)."""

import csv
import io
from collections.abc import Iterator

DELIMITERS = (",", ";", "\t", "|")
ENCODINGS = ("utf-8-sig", "utf-16", "cp1252")


class FileError(ValueError):
    """A file that cannot be read at all; the text says what to do."""


def decode(data: bytes) -> tuple[str, str]:
    """Text and encoding of a file: UTF-8, UTF-16 with its mark, else the common western eight-bit one.

    Raises FileError when it is none of them, or not text.
    """
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        try:
            return data.decode("utf-16"), "utf-16"
        except UnicodeDecodeError:
            raise FileError("The file begins like UTF-16 but is broken. Save it anew as CSV UTF-8.") from None
    if b"\x00" in data:
        raise FileError("This is not a text file. Save the table as CSV or XLSX and try again.")
    try:
        return data.decode("utf-8-sig"), "utf-8"
    except UnicodeDecodeError as error:
        # Broken UTF-8 among much that is right is a damaged file, not another encoding.
        valid = data[: error.start]
        if any(byte >= 0x80 for byte in valid):
            raise FileError(f"The file is UTF-8 up to byte {error.start:,} and broken there. Export it anew.") from None
    try:
        return data.decode("cp1252"), "windows-1252"
    except UnicodeDecodeError:
        raise FileError("The file's encoding is not known. Save it as CSV UTF-8 and try again.") from None


def detect_delimiter(text: str) -> str:
    """The delimiter that cuts the first lines into the same number of fields, more than one."""
    head = list(_lines(text, 20))
    best, best_score = ",", 0
    for delimiter in DELIMITERS:
        widths = [len(row) for row in csv.reader(io.StringIO("\n".join(head)), delimiter=delimiter) if row]
        if widths and widths[0] > 1:
            score = sum(width == widths[0] for width in widths) * widths[0]
            if score > best_score:
                best, best_score = delimiter, score
    return best


def _lines(text: str, count: int) -> Iterator[str]:
    for i, line in enumerate(io.StringIO(text)):
        if i >= count:
            return
        yield line.rstrip("\r\n")


def rows_of(text: str, delimiter: str) -> Iterator[list[str]]:
    """Rows of fields, empty lines left out.

    Raises FileError when quotes do not match or a field is larger than a mebibyte.
    """
    csv.field_size_limit(1 << 20)
    try:
        for row in csv.reader(io.StringIO(text, newline=""), delimiter=delimiter):
            if any(field.strip() for field in row):
                yield row
    except csv.Error as error:
        raise FileError(f"The table cannot be read: {error}.") from None
