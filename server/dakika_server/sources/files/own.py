"""Dakika's own exports: each says what it is in a line or sheet of its own, and is known by it when it comes back."""

from collections.abc import Sequence

from dakika_core.sources.files.delimited import FileError
from dakika_core.sources.files.kinds import KINDS

MARK = "Dakika export"
ABOUT = "About this export"
# What an export can be that no file can bring: what to do instead.
_INSTEAD = {
    "profiles": "Profiles are connected or followed in Sources; bring in the export's posts and figures.",
    "comments": "Comments are collected from the networks and cannot be brought in.",
    "links": "Tracked links are made in Links; bring in the export's clicks.",
}


def mark_line(table: str, brand: str, day: str) -> list[str]:
    """The first line of an export."""
    return [MARK, table, brand, day]


def table_of(first_row: Sequence[object]) -> str:
    """Which table of ours a first row says the file is; empty for other people's files."""
    cells = [str(cell or "").strip().lstrip("\ufeff") for cell in first_row[:2]]
    return cells[1] if len(cells) == 2 and cells[0] == MARK else ""


def require_readable(table: str) -> None:
    """Raise FileError, by name, for an export of ours that is no way in."""
    if table and table not in KINDS:
        what = table.replace("_", " ").replace(".", ", ")
        instead = _INSTEAD.get(
            table, "It shows figures that were worked out. Bring in the export of Sources: posts and their metrics."
        )
        raise FileError(f"This is Dakika's own export of {what}, which cannot be brought in. {instead}")
