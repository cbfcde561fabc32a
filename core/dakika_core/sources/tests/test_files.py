"""Promise: somebody's own file is read as it was meant, and what cannot be read is said by row."""

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.sources.cells import (
    CellError,
    check_instant,
    from_serial,
    neutralise,
    parse_count,
    parse_instant,
    parse_number,
)
from dakika_core.sources.delimited import FileError, decode, detect_delimiter, rows_of
from dakika_core.sources.mapping import problems_of_mapping, propose_mapping
from dakika_core.sources.posts_file import read_posts

LISBON = ZoneInfo("Europe/Lisbon")
NOW = datetime(2026, 11, 24, 12, tzinfo=UTC)


@pytest.mark.parametrize(
    ("text", "rows"),
    [
        # RFC 4180, section 2, its own examples.
        ("aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n", [["aaa", "bbb", "ccc"], ["zzz", "yyy", "xxx"]]),
        ("aaa,bbb,ccc\r\nzzz,yyy,xxx", [["aaa", "bbb", "ccc"], ["zzz", "yyy", "xxx"]]),
        ('"aaa","b\r\nbb","ccc"\r\nzzz,yyy,xxx', [["aaa", "b\r\nbb", "ccc"], ["zzz", "yyy", "xxx"]]),
        ('"aaa","b""bb","ccc"', [["aaa", 'b"bb', "ccc"]]),
    ],
)
def test_csv_as_the_standard_has_it(text: str, rows: list[list[str]]) -> None:
    assert list(rows_of(text, ",")) == rows


@pytest.mark.parametrize("delimiter", [",", ";", "\t", "|"])
def test_the_delimiter_is_found(delimiter: str) -> None:
    lines = ["Date", "Text; or, so", "Likes"], ["2026-01-01", "a", "3"], ["2026-01-02", "b", "4"]
    text = "\n".join(delimiter.join(f'"{cell}"' for cell in line) for line in lines)
    assert detect_delimiter(text) == delimiter


@pytest.mark.parametrize(
    ("data", "encoding"),
    [("é".encode(), "utf-8"), ("é".encode("utf-8-sig"), "utf-8"), ("é".encode("utf-16"), "utf-16"), ("é".encode("cp1252"), "windows-1252")],
)  # fmt: skip
def test_encodings_are_told_apart(data: bytes, encoding: str) -> None:
    assert decode(data) == ("é", encoding)


@pytest.mark.parametrize("data", ["é ".encode() + b"\xff\xfe ab", b"a\x00b", b"\xff\xfea"])
def test_broken_encoding_gets_a_clear_answer(data: bytes) -> None:
    with pytest.raises(FileError):
        decode(data)


def test_a_field_of_megabytes_is_refused() -> None:
    with pytest.raises(FileError, match="cannot be read"):
        list(rows_of("a," + "x" * (1 << 21), ","))


@pytest.mark.parametrize(
    ("cell", "number"),
    [("1,234", 1234), ("1.234", 1234), ("1 234 567", 1234567), ("1.5k", 1500), ("2M", 2e6), ("3,5", 3.5), ("12", 12),
     ("1,234.5", 1234.5), ("", None), ("abc", None), (None, None), (7, 7), (float("nan"), None)],
)  # fmt: skip
def test_numbers_as_people_write_them(cell: object, number: float | None) -> None:
    assert parse_number(cell) == number


@pytest.mark.parametrize("cell", ["-3", "1.5", "=A1+1", "many", str(2**63), -1, "@x"])
def test_what_is_no_count_is_refused(cell: object) -> None:
    with pytest.raises(CellError):
        parse_count(cell)


def test_empty_is_missing_not_zero() -> None:
    assert parse_count("") is None
    assert parse_count("–") is None
    assert parse_count("0") == 0


@pytest.mark.parametrize(
    "cell",
    ["2026-03-04T09:30:00Z", "2026-03-04 09:30", "04/03/2026 09:30", "04.03.2026 9:30 AM", 1772616600, "1772616600000"],
)
def test_dates_as_tools_write_them(cell: object) -> None:
    # Lisbon keeps UTC in March before the change of clocks.
    assert parse_instant(cell, zone=LISBON) == datetime(2026, 3, 4, 9, 30, tzinfo=UTC)


def test_month_first_when_said_or_when_nothing_else_fits() -> None:
    assert parse_instant("03/04/2026", is_day_first=False) == datetime(2026, 3, 4, tzinfo=UTC)
    assert parse_instant("03/25/2026") == datetime(2026, 3, 25, tzinfo=UTC)
    assert parse_instant("31/31/2026") is None


def test_spreadsheet_serials() -> None:
    # The 1900 system: 59 = 1900-02-28, 61 = 1900-03-01, 43831 = 2020-01-01.
    assert [from_serial(n).date().isoformat() for n in (59, 61, 43831)] == ["1900-02-28", "1900-03-01", "2020-01-01"]


@pytest.mark.parametrize("year", [1, 1970, 2099, 9999])
def test_impossible_years_are_refused(year: int) -> None:
    with pytest.raises(CellError):
        check_instant(datetime(year, 1, 1, tzinfo=UTC), now=NOW)


@pytest.mark.parametrize("text", ["=1+1", "+x", "-x", "@cmd", "\tx", "\rx"])
def test_exports_do_not_carry_formulas(text: str) -> None:
    # Common practice, from memory of a security guide.
    assert neutralise(text) == "'" + text
    assert neutralise("-5") == "-5"
    assert neutralise(-5) == -5


HEADER = ["Post date", "Message", "Permalink", "Likes", "Comments", "Total impressions"]
ROW = ["2026-10-01 10:00", "A clock", "https://a.example/1", "12", "3", "1,200"]


def test_a_mapping_is_proposed_from_names() -> None:
    found = {p.field: p.column for p in propose_mapping(HEADER, [ROW])}
    assert found == {"published_at": 0, "text": 1, "url": 2, "reactions": 3, "comments": 4, "impressions": 5}


def test_a_date_column_is_known_by_what_stands_in_it() -> None:
    found = propose_mapping(["When it went out", "Herzen"], [["2026-10-01 10:00", "3"], ["2026-10-02 11:00", "4"]])
    assert found[0].field == "published_at"
    assert found[0].reason == "content"


def test_a_file_without_dates_or_figures_says_so() -> None:
    assert "date of publishing" in problems_of_mapping({"text": 0}, ["a"])[0]
    assert "used twice" in problems_of_mapping({"published_at": 0, "reactions": 0}, ["a"])[0]


def read(rows: list[list[object]]) -> tuple:
    mapping = {"published_at": 0, "text": 1, "url": 2, "reactions": 3, "comments": 4, "impressions": 5}
    return read_posts(rows, header=HEADER, mapping=mapping, zone=LISBON, is_day_first=True, now=NOW)


def test_every_problem_is_told_by_row_and_column() -> None:
    bad: list[list[object]] = [
        ROW, ["", *ROW[1:]], ["soon", *ROW[1:]], [*ROW[:3], "-4", "", ""], [*ROW[:3], "=A1", "", ""], ROW,
        ["9999-01-01", *ROW[1:]],
    ]  # fmt: skip
    posts, problems = read(bad)
    assert len(posts) == 1
    assert [(p.row, p.column) for p in problems] == [
        (3, "Post date"), (4, "Post date"), (5, "Likes"), (6, "Likes"), (7, ""), (8, "Post date"),
    ]  # fmt: skip


def test_the_same_row_has_the_same_identifier_whenever_it_is_read() -> None:
    assert read([ROW])[0][0].external_id == read([ROW])[0][0].external_id
    assert read([ROW])[0][0].counts == {"reactions": 12, "comments": 3, "impressions": 1200}


@given(
    st.lists(st.lists(st.one_of(st.text(max_size=20), st.integers(), st.none(), st.floats()), max_size=8), max_size=8)
)
def test_any_table_is_read_or_refused_by_row(rows: list[list[object]]) -> None:
    posts, problems = read(rows)
    assert len(posts) + len(problems) == len(rows)
