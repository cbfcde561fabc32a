"""Promise: log lines are read as their formats say, visits end after thirty minutes, and nothing is guessed."""

from datetime import UTC, datetime, timedelta
from uuid import uuid4

import apachelogs
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.site.logs import LogReader, combined
from dakika_core.site.visits import Sessions, arrival_of, channel_of, reaches

# The line that the Apache documentation explains (from memory).
APACHE = (
    '127.0.0.1 - frank [10/Oct/2000:13:55:36 -0700] "GET /apache_pb.gif HTTP/1.0" 200 2326 '
    '"http://www.example.com/start.html" "Mozilla/4.08 [en] (Win98; I ;Nav)"'
)
# The sample of the W3C's working draft on the extended format (from memory), with a date.
W3C = """#Version: 1.0
#Date: 1996-01-12 00:00:00
#Fields: time cs-method cs-uri
00:34:23 GET /foo/bar.html
12:21:16 GET /foo/bar.html
12:45:52 GET /foo/bar.html
12:57:34 GET /foo/bar.html
"""
START = datetime(2026, 11, 1, 10, tzinfo=UTC)


def test_the_documentations_own_line() -> None:
    hit = combined(APACHE)
    assert hit is not None
    assert hit.at == datetime(2000, 10, 10, 20, 55, 36, tzinfo=UTC)
    assert (hit.address, hit.method, hit.target, hit.status) == ("127.0.0.1", "GET", "/apache_pb.gif", 200)
    assert (hit.referrer, hit.agent) == ("http://www.example.com/start.html", "Mozilla/4.08 [en] (Win98; I ;Nav)")


@pytest.mark.parametrize(
    "line",
    [
        APACHE, '::1 - - [29/Feb/2024:23:59:59 +0530] "GET /a?b=1&c=%20 HTTP/2.0" 304 - "-" "x \\"quoted\\" y"',
        '203.0.113.9 - jo [01/Jan/2026:00:00:00 +0000] "POST /x HTTP/1.1" 201 17 "-" "-"',
    ],
)  # fmt: skip
def test_lines_are_read_as_the_reference_package_reads_them(line: str) -> None:
    """Held against the package apachelogs."""
    told = apachelogs.LogParser(apachelogs.COMBINED).parse(line)
    hit = combined(line)
    assert hit is not None
    assert hit.at == told.request_time.astimezone(UTC)
    assert f"{hit.method} {hit.target}" == told.request_line.rpartition(" ")[0]
    assert hit.status == told.final_status
    assert (hit.agent or None) == told.headers_in["User-Agent"]
    assert (hit.referrer or None) == told.headers_in["Referer"]


def test_the_extended_format_names_its_own_fields() -> None:
    reader = LogReader()
    hits = list(reader.hits(W3C.splitlines()))
    assert [h.at.strftime("%H:%M:%S") for h in hits] == ["00:34:23", "12:21:16", "12:45:52", "12:57:34"]
    assert {h.target for h in hits} == {"/foo/bar.html"}
    longer = (
        "#Fields: date time c-ip cs-method cs-uri-stem cs-uri-query sc-status cs(User-Agent) cs(Referer)\n"
        '2026-11-01 10:00:00 192.0.2.1 GET /a dk=1 200 Mozilla/5.0+(X) -\n2026-11-01 10:00:01 192.0.2.1 GET "/b c" - 404 x -\nbroken\n'
    )
    hits = list(reader.hits(longer.splitlines()))
    assert [(h.target, h.agent, h.referrer) for h in hits] == [("/a?dk=1", "Mozilla/5.0 (X)", "")]
    assert (reader.not_pages, reader.unreadable) == (1, 1)


def test_only_pages_that_were_delivered_count() -> None:
    lines = [
        APACHE.replace("apache_pb.gif", target).replace("200 2326", f"{status} 5").replace('"GET', f'"{method}')
        for method, target, status in [
            ("GET", "", 200), ("GET", "x.html?a=b.png", 200), ("GET", "pic.PNG", 200), ("GET", "app.js?v=1", 200),
            ("GET", "x", 404), ("GET", "x", 302), ("GET", "x", 304), ("POST", "x", 200), ("HEAD", "x", 200),
        ]
    ]  # fmt: skip
    reader = LogReader()
    assert [h.target for h in reader.hits([*lines, "nonsense", ""])] == ["/", "/x.html?a=b.png", "/x"]
    assert (reader.read, reader.not_pages, reader.unreadable) == (10, 6, 1)


@given(st.text(max_size=200))
def test_no_line_brings_it_down(line: str) -> None:
    list(LogReader().hits([line, "#Fields: time cs-uri", line]))


def test_a_break_of_thirty_minutes_ends_a_visit_and_so_does_being_brought_anew() -> None:
    sessions, over = Sessions(), []
    click = uuid4()
    asked = [
        (b"a", 0, "/"), (b"b", 1, "/tickets"), (b"a", 29, "/tickets"), (b"a", 59, "/thanks"), (b"a", 90, "/"),
        (b"a", 91, f"/?dk={click.hex}"), (b"a", 92, "/tickets"),
    ]  # fmt: skip
    for visitor, minutes, target in asked:
        over += sessions.add(visitor, START + timedelta(minutes=minutes), arrival_of(target, ""))
    over += sessions.rest()
    found = sorted((v.visitor, (v.started - START).seconds // 60, v.pages, v.paths) for v in over)
    assert found == [
        (b"a", 0, 3, ["/", "/tickets", "/thanks"]), (b"a", 90, 1, ["/"]), (b"a", 91, 2, ["/", "/tickets"]),
        (b"b", 1, 1, ["/tickets"]),
    ]  # fmt: skip
    assert [v.arrival.click for v in over if v.started == START + timedelta(minutes=91)] == [click]


def test_where_a_visit_belongs() -> None:
    by_source, by_host = {"brevi": "brevi"}, {"commons.example": "commons"}
    own = ("orrery.example",)

    def channel(address: str, referrer: str = "", network: str = "") -> str:
        return channel_of(arrival_of(address, referrer, own), network, by_source, by_host)

    assert (
        channel("/?utm_source=x", "https://commons.example/a", network="guildhall") == "guildhall"
    )  # the click knows best
    assert channel("/?utm_source=Brevi", "https://commons.example/a") == "brevi"
    assert channel("/?utm_source=letter") == "letter"
    assert channel("/", "https://www.commons.example/a") == "commons"
    assert channel("/", "https://search.example/?q=clock") == "search.example"
    assert channel("/x", "https://orrery.example/") == "direct"
    assert channel("/x", "http://[::1") == "direct"
    assert arrival_of("/?dk=nonsense", "").click is None


def test_page_goals_take_a_path_or_a_pattern() -> None:
    assert reaches("/thanks", ["/", "/thanks/"])
    assert reaches("/orders/*/done", ["/orders/17/done"])
    assert not reaches("/thanks", ["/thanks-a-lot"])
