"""Promise: what a code leads to is answered from the local copy alone, and no visitor sees a bare error."""

import asyncio
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from dakika_core.links.countries import Countries

from dakika_redirect.app import Redirect, host_of, new_key
from dakika_redirect.config import Config
from dakika_redirect.copy_of_links import BrandFace, CopyOfLinks, Link, Page
from dakika_redirect.journal import PAGE_VIEW, Written, read_pieces
from dakika_redirect.salts import Salts

AGENT = b"Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Mobile Safari/537.36"
HOST = "go.dakika.example"


class Asked:
    """An application with its copy filled, asked without a network."""

    def __init__(self, folder: Path) -> None:
        self.redirect = Redirect(Config(folder=folder, address=f"https://{HOST}", proxies="127.0.0.1"))
        copy = self.redirect.copy
        self.redirect.follower.ask = self.nobody_knows  # type: ignore[method-assign]
        copy.put("brand", "1", BrandFace(id=1, name="Orrery <House>", home="https://orrery.example/"))
        copy.put("host", "clock.example", 1)
        copy.put("link", "open", Link(id=7, brand=1, target="https://orrery.example/tickets?a=1#top"))
        copy.put("link", "plain", Link(id=8, brand=1, target="https://orrery.example/", keeps_query=False))
        copy.put("link", "paused", Link(id=9, brand=1, target="https://orrery.example/", is_paused=True))
        copy.put("link", "ended", Link(id=10, brand=1, target="https://orrery.example/", ends=1.0))
        copy.put("link", "others", Link(id=11, brand=2, target="https://lantern.example/"))
        copy.put("page", "orrery", Page(id=3, brand=1, title="Now & here", entries=[["open", "Tickets <b>"]]))

    async def nobody_knows(self, code: str) -> None:
        if code == "away":
            raise ConnectionError

    async def ask(
        self, path: str, query: str = "", method: str = "GET", **headers: str
    ) -> tuple[int, dict[str, str], str]:
        sent: list[Any] = []

        async def send(message: Any) -> None:
            sent.append(message)

        given = {"host": HOST, "user-agent": AGENT.decode()} | {k.replace("_", "-"): v for k, v in headers.items()}
        scope = {
            "type": "http", "method": method, "path": path, "query_string": query.encode(), "client": ("192.0.2.7", 1),
            "headers": [(k.encode(), v.encode("latin-1")) for k, v in given.items()],
        }  # fmt: skip
        await self.redirect(scope, None, send)
        head = {k.decode(): v.decode() for k, v in sent[0]["headers"]}
        return sent[0]["status"], head, sent[1]["body"].decode()

    def written(self) -> list[Written]:
        return [c for piece in read_pieces(self.redirect.journal.path, 0) for c in piece.clicks]


def asked(folder: Path, *requests: dict[str, Any]) -> tuple[list[tuple[int, dict[str, str], str]], list[Written]]:
    async def work() -> Any:
        made = Asked(folder)
        answers = [await made.ask(**request) for request in requests]
        found = made.written()
        made.redirect.journal.close()
        made.redirect.copy.close()
        return answers, found

    return asyncio.run(work())


def test_a_click_is_written_before_the_answer_and_carries_its_key(tmp_path: Path) -> None:
    (answer,), (click,) = asked(
        tmp_path,
        {"path": "/open", "query": "b=2&a=9", "referer": "https://Brevi.example/x?secret=1",
         "accept_language": "en;q=0.5, pt-PT"},
    )  # fmt: skip
    status, head, _ = answer
    assert status == 302
    assert head["location"] == f"https://orrery.example/tickets?a=1&b=2&dk={click.key}#top"
    assert head["cache-control"] == "no-store, private"
    assert (click.link, click.referrer, click.language, click.reason) == (7, "brevi.example", "pt", "")
    assert "192.0.2.7" not in repr(click)


def test_heads_prefetches_and_nameless_requests_are_told_apart(tmp_path: Path) -> None:
    _, written = asked(
        tmp_path, {"path": "/open", "method": "HEAD"}, {"path": "/open", "sec_purpose": "prefetch"},
        {"path": "/open", "user_agent": ""},
    )  # fmt: skip
    assert [c.reason for c in written] == ["method", "prefetch", "no_agent"]


def test_the_query_is_left_behind_where_the_link_says_so(tmp_path: Path) -> None:
    (answer,), (click,) = asked(tmp_path, {"path": "/plain", "query": "b=2"})
    assert answer[1]["location"] == f"https://orrery.example/?dk={click.key}"


@pytest.mark.parametrize("code", ["paused", "ended"])
def test_a_link_that_is_over_shows_the_brands_page_and_is_counted_apart(code: str, tmp_path: Path) -> None:
    ((status, head, text),), (click,) = asked(tmp_path, {"path": f"/{code}"})
    assert (status, click.is_over) == (410, True)
    assert "Orrery &lt;House&gt;" in text
    assert "https://orrery.example/" in text
    assert "location" not in head


@pytest.mark.parametrize(
    "path", ["/nothing", "/../etc/passwd", "/" + "x" * 500, "/p/none/", "/p/orrery/open/x", "/%00"]
)
def test_unknown_addresses_lead_nowhere_and_are_not_written(path: str, tmp_path: Path) -> None:
    (answer,), written = asked(tmp_path, {"path": path})
    assert answer[0] == 404
    assert "not known" in answer[2]
    assert written == []


def test_what_nobody_can_tell_at_the_moment_is_not_called_unknown(tmp_path: Path) -> None:
    (answer,), written = asked(tmp_path, {"path": "/away"})
    assert (answer[0], answer[1]["retry-after"], written) == (503, "5", [])


def test_chosen_words_are_found_however_they_are_written(tmp_path: Path) -> None:
    (answer,), _ = asked(tmp_path, {"path": "/OPEN"})
    assert answer[0] == 302


def test_other_methods_are_refused(tmp_path: Path) -> None:
    (answer,), written = asked(tmp_path, {"path": "/open", "method": "POST"})
    assert (answer[0], answer[1]["allow"], written) == (405, "GET, HEAD", [])


def test_a_brands_own_domain_leads_to_its_own_links_alone(tmp_path: Path) -> None:
    answers, written = asked(
        tmp_path, {"path": "/open", "host": "clock.example"}, {"path": "/others", "host": "clock.example"},
        {"path": "/others"},
    )  # fmt: skip
    assert [a[0] for a in answers] == [302, 404, 302]
    assert [c.link for c in written] == [7, 11]


def test_a_page_lists_links_and_its_clicks_are_its_own(tmp_path: Path) -> None:
    answers, written = asked(
        tmp_path, {"path": "/p/orrery"}, {"path": "/p/orrery/"}, {"path": "/p/orrery/open"}, {"path": "/p/orrery/plain"}
    )
    assert [a[0] for a in answers] == [308, 200, 302, 302]
    assert answers[0][1]["location"] == "/p/orrery/"
    assert "Now &amp; here" in answers[1][2]
    assert 'href="open"' in answers[1][2]
    assert "Tickets &lt;b&gt;" in answers[1][2]
    # The page was opened once; the address that leads to it with a stroke is no view of it.
    assert [(c.link, c.page) for c in written] == [(PAGE_VIEW, 3), (7, 3), (8, 0)]


def test_no_header_can_be_broken_out_of(tmp_path: Path) -> None:
    (answer,), _ = asked(tmp_path, {"path": "/open", "query": "x=%0d%0aSet-Cookie:1&y=\r\nSet-Cookie:2"})
    assert "\r" not in answer[1]["location"]
    assert "\n" not in answer[1]["location"]


def test_the_copy_outlives_the_process_and_damage(tmp_path: Path) -> None:
    path = tmp_path / "links.sqlite"
    first = CopyOfLinks(path)
    first.put_many([("link", f"c{i}", Link(id=i, brand=1, target="https://a.example/")) for i in range(20)], 1)
    first.put_many([("link", f"c{i}", Link(id=i, brand=1, target="https://b.example/")) for i in range(5)], 2)
    assert first.drop_older(2) == 15
    first.close()
    again = CopyOfLinks(path)
    assert again.link("c3") == Link(id=3, brand=1, target="https://b.example/")
    assert again.link("c9") is None
    again.put("link", "c3", None, 3)
    assert again.link("c3") is None
    again.close()
    for left in tmp_path.glob("links.sqlite*"):
        left.unlink()
    path.write_bytes(b"this is no database" * 100)
    assert CopyOfLinks(path).link("c3") is None


def test_a_new_place_begins_with_what_another_process_knows(tmp_path: Path) -> None:
    first = CopyOfLinks(tmp_path / "links-0.sqlite")
    first.put("link", "open", Link(id=1, brand=1, target="https://a.example/"))
    assert CopyOfLinks(tmp_path / "links-1.sqlite").link("open") == first.link("open")
    (tmp_path / "links-2.sqlite").write_bytes(b"damaged" * 50)
    assert CopyOfLinks(tmp_path / "links-3.sqlite").link("open") == first.link("open")


def test_keys_are_of_version_7_and_grow_with_time() -> None:
    """RFC 9562, 5.7: 48 bits of milliseconds, version 7, variant 10."""
    keys = [new_key(1_764_000_000 + i) for i in range(50)]
    assert {(key.version, key.variant) for key in keys} == {(7, "specified in RFC 4122")}
    assert keys == sorted(keys)
    assert keys[0].int >> 80 == 1_764_000_000_000
    assert len({new_key(1.0) for _ in range(1000)}) == 1000


def test_a_day_has_one_salt_for_all_processes_and_none_when_it_is_over(tmp_path: Path) -> None:
    today, tomorrow = date(2026, 11, 25), date(2026, 11, 26)
    first, second = Salts(tmp_path), Salts(tmp_path)
    salt = first.of(today)
    assert second.of(today) == salt
    second.keep(today, b"another that comes too late " * 2)
    assert second.of(today) == salt
    first.keep(tomorrow, b"x" * 32)
    first.forget_before(tomorrow)
    assert [p.name for p in tmp_path.glob("salt-*")] == ["salt-2026-11-26.key"]
    assert first.of(tomorrow) == b"x" * 32


def test_referrers_are_hosts_and_countries_come_from_a_packaged_table() -> None:
    assert host_of("https://a.example:8080/secret?x=1") == "a.example"
    assert host_of("http://[::1") == ""
    countries = Countries()
    # Addresses that the table's own documentation gives as examples; private ones belong to no country.
    assert countries.of("8.8.8.8") == "US"
    assert (countries.of("192.168.1.1"), countries.of("nonsense"), countries.of("")) == ("", "", "")
    assert "2024" in countries.source
