"""Promise: columns are known by their names in seven languages, by parts of names and by what stands in them, and it is said how surely."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest

from dakika_core.sources.files.formats import as_of
from dakika_core.sources.files.head import find_head, head_at
from dakika_core.sources.files.identifiers import address_key, are_rounded, identifier_of, is_damaged, text_key
from dakika_core.sources.files.kinds import COUNTED, KINDS
from dakika_core.sources.files.mapping import Looks, Sure, columns_of, looks_of, propose_kind, propose_mapping
from dakika_core.sources.files.shapes import Shape, TooLarge, shape_of, turned

ROW = ["2026-10-25 10:00", "A long text about clocks and stars", "12", "3"]


def found(header: list[str], *rows: list[object], kind: str = "posts") -> dict[str, tuple[int, Sure]]:
    return {p.field: (p.column, p.reason) for p in propose_mapping(KINDS[kind], header, rows or [ROW])}


@pytest.mark.parametrize(
    ("head", "field"),
    [
        ("favorite_count", "reactions"), ("like_count", "reactions"), ("public_metrics.like_count", "reactions"),
        ("reposts", "shares"), ("reshares", "shares"), ("boosts", "shares"), ("forwards", "shares"),
        ("replies", "comments"), ("seen", "impressions"), ("saved", "saves"), ("bookmarks", "saves"),
        ("Gefällt mir", "reactions"), ("Curtidas", "reactions"), ("Μου αρέσει", "reactions"), ("Me gusta", "reactions"),
        ("J’aime", "reactions"), ("Beğeni", "reactions"), ("Reichweite", "reach"), ("Alcance", "reach"),
        ("Portée", "reach"), ("Erişim", "reach"), ("Απήχηση", "reach"), ("Kommentare", "comments"),
        ("Comentários", "comments"), ("Σχόλια", "comments"), ("Commentaires", "comments"), ("Yorum", "comments"),
        ("Total Likes", "reactions"), ("Likes (lifetime)", "reactions"), ("LinkClicks", "link_clicks"),
    ],
)  # fmt: skip
def test_counts_are_known_by_their_names(head: str, field: str) -> None:
    assert found(["Date", "Text", head, "Other"])[field][0] == 2


@pytest.mark.parametrize("head", ["Engagement rate", "Likes per post", "Reach change", "Cost per click", "CTR (clicks)",
                                  "Interaktionsrate", "Taxa de alcance", "% Reach"])  # fmt: skip
def test_a_rate_or_a_cost_is_no_count(head: str) -> None:
    fields = {f.key for f in KINDS["posts"].fields if f.read in COUNTED}
    assert not fields & set(found(["Date", "Text", head, "Other"]))


@pytest.mark.parametrize(
    ("head", "field"),
    [("Unfollows", "lost"), ("Lost followers", "lost"), ("Neue Follower", "gained"), ("Novos seguidores", "gained"),
     ("Takipçi sayısı", "followers"), ("Ακόλουθοι", "followers"), ("Abonnés", "followers")],
)  # fmt: skip
def test_figures_of_profiles_are_known_by_their_names(head: str, field: str) -> None:
    mapping = found(["Date", head], ["2026-10-25", "12"], kind="profile_readings")
    assert mapping[field][0] == 1


def test_how_surely_a_column_is_known_is_told() -> None:
    rows: list[list[object]] = [
        [f"2026-10-{d} 10:00", f"18493849384{d}", "Words that are long enough to be read", d] for d in (25, 26, 27)
    ]
    mapping = found(["When it was", "Key of it", "What was said in it", "All the likes of it"], *rows)
    assert mapping["published_at"] == (0, Sure.PART) or mapping["published_at"] == (0, Sure.CONTENT)
    assert mapping["external_id"] == (1, Sure.CONTENT)
    assert mapping["text"] == (2, Sure.CONTENT)
    assert mapping["reactions"] == (3, Sure.PART)


@pytest.mark.parametrize(
    ("cells", "looks"),
    [
        (["1849384938493", "1849384938494"], Looks.IDENTIFIERS), (["12", "7", "12", "900"], Looks.COUNTS),
        (["1.5", "2.25"], Looks.NUMBERS), (["25/10/2026", "26/10/2026"], Looks.DATES), (["10:30", "9:05"], Looks.TIMES),
        (["https://a.example/1"], Looks.ADDRESSES), (["yes", "no"], Looks.WORDS), (["", None, "n/a"], Looks.EMPTY),
        (["A text that is as long as a post's"], Looks.TEXTS),
    ],
)  # fmt: skip
def test_what_stands_in_a_column_is_told_from_its_cells(cells: list[object], looks: Looks) -> None:
    assert looks_of(cells) is looks


def test_every_column_of_a_file_is_listed_also_twins_and_those_nothing_uses() -> None:
    header = ["Date", "Likes", "Likes", "Sparkles", "Notes"]
    rows: list[list[object]] = [["2026-10-25", "1", "2", "3", "x"], ["2026-10-26", "1", "2", "9", "y"]]
    columns = columns_of(KINDS["posts"], header, rows, {"published_at": [0], "reactions": [1, 3]})
    assert [(c.field, c.sure) for c in columns] == [
        ("published_at", "name"), ("reactions", "name"), ("", ""), ("reactions", "told"), ("", ""),
    ]  # fmt: skip
    assert columns[2].note == "has the same name as column 2"
    assert columns_of(KINDS["posts"], header, rows, {})[3].note == "numbers that nothing uses yet"


def test_a_file_in_another_language_is_known_for_what_it_is() -> None:
    german = ["Datum", "Follower", "Neue Follower", "Verlorene Follower"]
    assert propose_kind(german, [["25.10.2026", "300", "2", "1"]]) == "profile_readings"
    assert (
        propose_kind(["Bestellnummer", "Datum", "Ziel", "Umsatz"], [["A1", "25.10.2026", "Karte", "12,50"]])
        == "conversions"
    )


# -- where the table begins


def test_the_head_is_found_below_a_title_and_over_two_lines() -> None:
    data = ["2026-10-25", "Text of a post", "3"]
    head = find_head([["Report"], [], ["Date", "Post", "Likes"], data])
    assert (head.row, head.lines, head.names) == (3, 1, ("Date", "Post", "Likes"))
    two = find_head(
        [["", "", "Engagement", "", "Reach"], ["Date", "Post", "Likes", "Comments", "Organic"], [*data, 1, 2]]
    )
    assert (two.row, two.lines) == (1, 2)
    assert two.names[2:] == ("Engagement: Likes", "Engagement: Comments", "Reach: Organic")
    assert find_head([["A", "B", "C"], ["2026-10-01", "x y", "7"]]).row == 1
    assert head_at([["a", "b"], ["c", "d"], ["e", "f"]], 2).names == ("c", "d")
    assert find_head([]).names == ()


# -- other layouts


def test_a_table_of_figures_is_turned_into_days() -> None:
    header = ["Date", "Metric", "Value"]
    rows: list[list[object]] = [
        ["2026-10-25", "Followers", 300],
        ["2026-10-26", "Followers", 302],
        ["2026-10-25", "Reach", 40],
    ]
    shape = shape_of(header, rows)
    assert shape == Shape(layout="long", names=1, values=2)
    assert turned(shape, header, enumerate(rows, 2)) == (
        ["Date", "Followers", "Reach"], [(2, ["2026-10-25", 300, 40]), (3, ["2026-10-26", 302, None])],
    )  # fmt: skip


def test_a_column_for_each_day_is_turned_into_days() -> None:
    header = ["Metric", "1 Oct 2026", "2 Oct 2026", "3 Oct 2026", "4 Oct 2026"]
    rows: list[list[object]] = [["Followers", 1, 2, 3, 4], ["Reach", 5, 6, 7]]
    shape = shape_of(header, rows)
    assert shape.layout == "wide"
    names, made = turned(shape, header, enumerate(rows, 2))
    assert names == ["date", "Followers", "Reach"]
    assert [row for _, row in made][-1] == ["4 Oct 2026", 4, None]


def test_a_table_too_large_to_be_turned_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("dakika_core.sources.files.shapes.MOST_ROWS", 2)
    with pytest.raises(TooLarge):
        turned(Shape(layout="long", names=0, values=1), ["m", "v"], [(i, ["reach", 1]) for i in range(3)])


@pytest.mark.parametrize("header", [["2024", "2025", "2026", "2027", "2028"], ["Date", "Likes"], ["a"], []])
def test_what_only_looks_a_little_like_days_stays_as_it_is(header: list[str]) -> None:
    assert shape_of(header, [["1"] * len(header)]).layout == "rows"


# -- identifiers


@pytest.mark.parametrize("cell", ["6.82703E+17", "6,82703E+17", "1E+18", 6.82703e17, 682703123456789000])
def test_an_identifier_that_became_a_number_is_known_as_damaged(cell: object) -> None:
    assert is_damaged(cell)


@pytest.mark.parametrize("cell", ["1849384938493849301", "p1", "12", 12, 12.0, True, None, ""])
def test_a_whole_identifier_is_not(cell: object) -> None:
    assert not is_damaged(cell)


def test_rounding_shows_over_a_whole_column() -> None:
    whole = [str(1849384938493849301 + 7 * i) for i in range(5)]
    assert are_rounded([i[:15] + "0000" for i in whole])
    assert not are_rounded(whole)
    assert not are_rounded(["1849384938493849000", "12"])
    assert (identifier_of(12.0), identifier_of("12.0"), identifier_of("v1.0.0"), identifier_of(None)) == (
        "12", "12", "v1.0.0", "",
    )  # fmt: skip


@pytest.mark.parametrize(
    "same",
    ["https://a.example/p/1", "http://www.a.example/p/1/", "https://m.a.example/p//1", "https://A.example/p/1?utm_source=x",
     "https://a.example/p/1#top", "https://a.example:443/p/1?utm_campaign=y&utm_medium=z"],
)  # fmt: skip
def test_an_address_is_one_whatever_its_trimmings(same: str) -> None:
    assert address_key(same) == "a.example/p/1"


def test_different_addresses_stay_apart() -> None:
    assert address_key("https://a.example/p?id=1") != address_key("https://a.example/p?id=2")
    assert address_key("https://a.example/P/1") != address_key("https://a.example/p/1")
    assert address_key("https://a.example/") == address_key("not an address") == address_key("http://[") == ""
    assert text_key("  A  Clock… ") == text_key("a clock")


# -- as of when


LISBON = ZoneInfo("Europe/Lisbon")
NOW = datetime(2026, 11, 27, 12, tzinfo=UTC)


@pytest.mark.parametrize(
    ("name", "newest", "day", "why"),
    [
        ("export_2026-10-31.csv", NOW - timedelta(days=40), "2026-10-31", "name"),
        ("posts 31.10.2026.xlsx", NOW - timedelta(days=40), "2026-10-31", "name"),
        ("2026-09-01_2026-10-31.csv", NOW - timedelta(days=40), "2026-10-31", "name"),
        ("posts.csv", NOW - timedelta(days=27), "2026-10-31", "newest"),
        ("posts.csv", NOW - timedelta(hours=5), "2026-11-27", "now"),
        ("posts.csv", None, "2026-11-27", "now"),
        # A day in the name before the newest row, or one to come, is not that of the export.
        ("since 2026-01-01.csv", NOW - timedelta(days=27), "2026-10-31", "newest"),
        ("plan 2027-01-01.csv", NOW, "2026-11-27", "now"),
    ],
)  # fmt: skip
def test_a_file_says_as_of_when_its_figures_are(name: str, newest: datetime | None, day: str, why: str) -> None:
    found = as_of(name, newest, now=NOW, zone=LISBON)
    assert (found.at.astimezone(LISBON).date().isoformat(), found.why) == (day, why)
    assert found.at <= NOW
