"""Promise: somebody's own file is read as it was meant, and what cannot be read is said by row."""

import json
from datetime import UTC, datetime
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.sources.files.cells import CellError, check_instant
from dakika_core.sources.files.dates import from_serial, parse_instant
from dakika_core.sources.files.delimited import FileError, decode, detect_delimiter, objects_of, rows_of
from dakika_core.sources.files.formats import Written, how_written
from dakika_core.sources.files.guard import neutralise
from dakika_core.sources.files.identifiers import made_up_id
from dakika_core.sources.files.kinds import KINDS
from dakika_core.sources.files.mapping import problems_of_mapping, propose_kind, propose_mapping
from dakika_core.sources.files.numbers import parse_count, parse_number, parse_share
from dakika_core.sources.files.rows import ReadOptions, RowError, RowReader

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
    assert parse_instant("03/04/2026", order="mdy") == datetime(2026, 3, 4, tzinfo=UTC)
    assert parse_instant("03/25/2026") is None  # the day comes first, as was said: nothing is turned round silently
    assert parse_instant("31/31/2026") is None


def test_spreadsheet_serials() -> None:
    # The 1900 system: 59 = 1900-02-28, 61 = 1900-03-01, 43831 = 2020-01-01.
    assert [from_serial(n).date().isoformat() for n in (59, 61, 43831)] == ["1900-02-28", "1900-03-01", "2020-01-01"]


@pytest.mark.parametrize("year", [1, 1970, 2099, 9999])
def test_impossible_years_are_refused(year: int) -> None:
    with pytest.raises(CellError):
        check_instant(datetime(year, 1, 1, tzinfo=UTC), now=NOW)


@pytest.mark.parametrize(
    "text", ["=1+1", "+x", "-x", "@cmd", "\tx", "\rx", " =1", "\n=1", "\u00a0=1", "＝1", "＋x", "－x", "＠x"]
)
def test_exports_do_not_carry_formulas(text: str) -> None:
    # Common practice, from memory of a security guide.
    assert neutralise(text) == "'" + text
    assert neutralise("-5") == "-5"
    assert neutralise(-5) == -5


POSTS_HEADER = ["Post date", "Message", "Permalink", "Likes", "Comments", "Total impressions"]
ROW = ["2026-10-01 10:00", "A clock", "https://a.example/1", "12", "3", "1,200"]
MAPPING = {"published_at": [0], "text": [1], "url": [2], "reactions": [3], "comments": [4], "impressions": [5]}


def mapping_of(kind: str, header: list[str], *rows: list[object]) -> dict[str, list[int]]:
    return {p.field: [p.column] for p in propose_mapping(KINDS[kind], header, rows)}


def test_a_mapping_is_proposed_from_names() -> None:
    assert mapping_of("posts", POSTS_HEADER, ROW) == MAPPING


def test_a_date_column_is_known_by_what_stands_in_it() -> None:
    found = propose_mapping(
        KINDS["posts"], ["Gone out", "Herzen"], [["2026-10-01 10:00", "3"], ["2026-10-02 11:00", "4"]]
    )
    assert found[0].field == "published_at"
    assert found[0].reason == "content"


@pytest.mark.parametrize(
    ("header", "row", "kind"),
    [
        (POSTS_HEADER, ROW, "posts"),
        (["id", "read at", "likes"], ["p1", "2026-10-01", "3"], "post_readings"),
        (["Date", "Followers", "New followers"], ["2026-10-01", "300", "2"], "profile_readings"),
        (["Date", "Dimension", "Group", "Share"], ["2026-10-01", "age", "18-24", "0.2"], "audience"),
        (["Clicked at", "Short code", "Referrer"], ["2026-10-01", "abc", ""], "clicks"),
        (["What", "Ever"], ["x", "y"], "posts"),
    ],
)
def test_the_kind_is_known_by_its_columns(header: list[str], row: list[object], kind: str) -> None:
    assert propose_kind(header, [row]) == kind


@pytest.mark.parametrize("kind", KINDS)
def test_the_names_of_an_export_are_read_as_themselves(kind: str) -> None:
    header = [field.key for field in KINDS[kind].fields]
    assert mapping_of(kind, header) == {key: [i] for i, key in enumerate(header)}


def test_a_file_without_dates_or_figures_says_so() -> None:
    assert "date of publishing" in problems_of_mapping(KINDS["posts"], {"text": [0]}, ["a"])[0]
    assert "used twice" in problems_of_mapping(KINDS["posts"], {"published_at": [0], "reactions": [0]}, ["a"])[0]
    assert "not in the file" in problems_of_mapping(KINDS["posts"], {"published_at": [0], "text": [9]}, ["a"])[0]


def read(rows: list[list[object]]) -> tuple[list[dict], list[tuple[int, str]]]:
    reader = RowReader(KINDS["posts"], POSTS_HEADER, MAPPING, ReadOptions(zone=LISBON), now=NOW)
    good, bad = [], []
    for number, row in enumerate(rows, start=2):
        try:
            good.append(reader.read(row))
        except RowError as error:
            bad.append((number, error.column))
    return good, bad


def test_every_problem_is_told_by_row_and_column() -> None:
    good, bad = read([
        ROW, ["", *ROW[1:]], ["soon", *ROW[1:]], [*ROW[:3], "-4", "", ""], [*ROW[:3], "=A1", "", ""],
        ["9999-01-01", *ROW[1:]], ["0001-01-01", *ROW[1:]], [ROW[0], "x" * 20_001, "", "", "", ""],
    ])  # fmt: skip
    # A row goes where it cannot be told what it is about; a bad figure or text only empties its cell.
    assert bad == [(3, "Post date"), (4, "Post date"), (7, "Post date"), (8, "Post date")]
    assert [(v["reactions"], v["text"]) for v in good[1:]] == [(None, "A clock"), (None, "A clock"), (None, None)]


def test_a_row_says_what_it_says_and_no_more() -> None:
    (values,), _ = read([ROW])
    assert (values["reactions"], values["comments"], values["impressions"], values["reach"]) == (12, 3, 1200, None)
    (short,), _ = read([ROW[:3]])
    assert short["reactions"] is None
    assert read([ROW[:2]]) == ([], [(2, "")])
    assert made_up_id(NOW, "a", "") == made_up_id(NOW, "a", "")


@given(
    st.lists(st.lists(st.one_of(st.text(max_size=20), st.integers(), st.none(), st.floats()), max_size=8), max_size=8)
)
def test_any_table_is_read_or_refused_by_row(rows: list[list[object]]) -> None:
    good, bad = read(rows)
    assert len(good) + len(bad) == len(rows)


@pytest.mark.parametrize(
    ("cells", "sign"),
    [(["1.234,5"], ","), (["1,234.5"], "."), (["1.234.567"], ","), (["3,5"], ","), (["3.5"], "."), (["1,234"], ""),
     (["12"], ""), (["12,5%"], ",")],
)  # fmt: skip
def test_the_decimal_sign_is_found_where_it_shows(cells: list[object], sign: str) -> None:
    found = how_written(
        KINDS["posts"],
        ["d", "n"],
        {"published_at": [0], "reactions": [1]},
        [["2026-10-01", c] for c in cells],
        now=NOW,
    )
    assert found.decimal == sign


@pytest.mark.parametrize(
    ("cells", "order"), [(["25/10/2026", "01/02/2026"], "dmy"), (["10/25/2026"], "mdy"), (["01/02/2026"], "")]
)
def test_the_order_of_dates_is_found_where_it_shows(cells: list[object], order: str) -> None:
    found = how_written(KINDS["posts"], ["d"], {"published_at": [0]}, [[c] for c in cells], now=NOW)
    assert found.order.chosen == order


def test_zones_are_found_in_the_instants_or_in_the_head() -> None:
    def found(head: str, cell: str) -> Written:
        return how_written(KINDS["posts"], [head], {"published_at": [0]}, [[cell]], now=NOW)

    assert found("Date", "2026-10-01T10:00+02:00").has_offsets
    assert found("Date (UTC)", "2026-10-01 10:00").zone == "UTC"
    assert found("Date (Europe/Athens)", "2026-10-01 10:00").zone == "Europe/Athens"
    assert found("Date (Nowhere/Land)", "2026-10-01 10:00").zone == ""


def test_a_known_decimal_sign_is_followed() -> None:
    assert parse_number("1.234", ",") == 1234
    assert parse_number("1.234", ".") == 1.234
    assert parse_number("1 234,50", ",") == 1234.5
    assert parse_share("12,5%", ",") == 0.125


@given(st.lists(st.dictionaries(st.text(max_size=5), st.one_of(st.text(max_size=9), st.integers(), st.none()), min_size=1)),
       st.integers(1, 7))  # fmt: skip
def test_json_in_pieces_gives_the_same_objects(objects: list[dict], size: int) -> None:
    text = json.dumps(objects)
    lines = "\n".join(map(json.dumps, objects))
    assert list(objects_of(text[i : i + size] for i in range(0, len(text), size))) == objects
    assert list(objects_of(lines[i : i + size] for i in range(0, len(lines), size))) == objects


def test_inner_objects_are_named_with_a_dot() -> None:
    assert list(objects_of(['{"a": {"b": 1, "c": [2]}}'])) == [{"a.b": 1, "a.c": "[2]"}]


@pytest.mark.parametrize("text", ["3", '{"a": 1', '[{"a": 1}, "x"]', "nope", '{"a": 1} x'])
def test_what_is_no_json_of_objects_is_said(text: str) -> None:
    with pytest.raises(FileError):
        list(objects_of([text]))
