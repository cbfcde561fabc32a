"""Promise: the past that the demo starts from is the world's own, told as the networks would have told it day by day."""

from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from datetime import date, datetime, timedelta
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from starlette.testclient import TestClient

from dakika_standins.app import create_app
from dakika_standins.archive import LEFT_OUT, READING_AGES_HOURS, Names, archived_post
from dakika_standins.state import State
from dakika_standins.tests.conftest import NOW
from dakika_standins.world.clicks import AGENTS, BOT_AGENTS, HOMES, clicks_on, links_of
from dakika_standins.world.model import CLUMSY_WORDS, HISTORY_DAYS, kinds_of_reactions
from dakika_standins.world.rules import RULES
from dakika_standins.world.visits import ARRIVE, GOALS, SLOW

EVERGREEN, STORMED = 2, 9


@pytest.fixture(scope="module")
def state(tmp_path_factory: pytest.TempPathFactory) -> State:
    path: Path = tmp_path_factory.mktemp("world") / "state.json"
    return State(path, fixed_now=NOW)


@pytest.fixture(scope="module")
def archive(state: State) -> Iterator[dict[str, Any]]:
    with TestClient(create_app(state, has_audience=False)) as client:
        yield client.get("/control/archive").json()


def when(text: str) -> datetime:
    return datetime.fromisoformat(text)


def own(archive: dict[str, Any], network: str) -> dict[str, Any]:
    found = [p for p in archive["profiles"] if p["network"] == network and p["owner"] == "orrery"]
    return next(p for p in found if p["handle"] == "orreryhouse")


def test_it_has_the_size_that_the_demo_speaks_of(archive: dict[str, Any]) -> None:
    posts = [p for profile in archive["profiles"] for p in profile["posts"]]
    readings = sum(len(p["readings"]) for p in posts)
    clicks = sum(len(link["clicks"]) for link in archive["links"])
    assert 2_000 <= len(posts) <= 4_000
    assert 30_000 <= readings <= 60_000
    assert 15_000 <= clicks <= 40_000
    assert {p["network"] for p in archive["profiles"]} >= set(RULES) - {"activitypub"}


def test_what_the_demo_leaves_for_its_user_is_left(archive: dict[str, Any], state: State) -> None:
    told = {(p["network"], p["handle"].split("@")[0]) for p in archive["profiles"]}
    for key in LEFT_OUT:
        account = state.world.accounts[key]
        assert (account.network, account.handle) not in told
    assert all(not state.world.accounts[k].is_personal for k in state.world.accounts if k.endswith("orreryhouse"))


def test_nothing_of_it_lies_ahead(archive: dict[str, Any]) -> None:
    for profile in archive["profiles"]:
        assert max(day for day, *_ in profile["days"]) == str(NOW.date())
        for post in profile["posts"]:
            assert when(post["at"]) <= NOW
            assert all(when(at) <= NOW for at, *_ in post["readings"])
            assert all(when(at) <= NOW for *_, at in post["comments"])
    assert all(when(click["at"]) <= NOW for link in archive["links"] for click in link["clicks"])
    assert all(when(visit["at"]) <= NOW for visits in archive["visits"].values() for visit in visits)


def test_a_post_is_read_at_the_usual_ages_and_its_counters_only_grow(archive: dict[str, Any]) -> None:
    post = own(archive, "commons")["posts"][0]
    ages = [(when(at) - when(post["at"])).total_seconds() / 3600 for at, *_ in post["readings"]]
    assert ages == list(READING_AGES_HOURS)
    counters = np.array([values for _, *values in post["readings"]])
    assert (np.diff(counters, axis=0) >= 0).all()


def test_it_agrees_with_what_the_network_says_now(archive: dict[str, Any], state: State) -> None:
    """A counter of today is at least what the archive's last reading had, and its final never passed."""
    account = state.world.accounts["brevi-orreryhouse"]
    names = RULES["brevi"].own
    for post in state.posts(account.key)[:40]:
        told = archived_post(state, account, post, Names())
        now = state.counters(post)
        for at, *values in told["readings"]:
            then = dict(zip(names, values, strict=True))
            assert then == {k: state.world.counters(post, when(at))[k] for k in names}
            assert all(then[k] <= now[k] <= post.finals[k] for k in names)


def test_followers_of_a_day_are_those_before_and_who_came_less_who_went(archive: dict[str, Any]) -> None:
    for profile in archive["profiles"]:
        assert len(profile["days"]) == HISTORY_DAYS + 1
        for (_, before, *_), (_, total, came, went) in zip(profile["days"], profile["days"][1:], strict=False):
            assert total == before + came - went


def test_others_show_what_is_public_and_nothing_more(archive: dict[str, Any]) -> None:
    for profile in archive["profiles"]:
        rules = RULES[profile["network"]]
        if profile["owner"]:
            kinds = [name for name in profile["metrics"] if name.startswith("reactions_")]
            assert [name for name in profile["metrics"] if name not in kinds] == list(rules.own)
            assert bool(kinds) == (profile["network"] == "commons")
        else:
            assert profile["metrics"] == list(rules.public)
            assert (profile["audience"], [p for p in profile["posts"] if p["comments"]]) == ([], [])
            assert {p["boosted"] for p in profile["posts"]} <= {None}


def test_make_up_of_an_audience_adds_up_to_all_of_it(archive: dict[str, Any]) -> None:
    for _, parts in own(archive, "commons")["audience"]:
        for dimension, shares in parts.items():
            total = sum(shares.values())
            assert total == pytest.approx(1.0, abs=0.02), dimension
            assert all(share >= 0 for share in shares.values())


def test_hours_online_are_a_week_of_people_that_there_are(archive: dict[str, Any]) -> None:
    profile = own(archive, "commons")
    assert len(profile["online"]) == 7 * 24
    assert 0 < max(profile["online"]) < profile["days"][-1][1]
    assert sum(profile["zones"].values()) == pytest.approx(1.0)
    # People sleep at four in the morning, wherever most of them live.
    week = np.array(profile["online"]).reshape(7, 24)
    assert week[:, 20].mean() > 3 * week[:, 4].mean()


def test_links_stand_in_posts_that_carry_links(archive: dict[str, Any], state: State) -> None:
    posts = {p["id"]: p for profile in archive["profiles"] for p in profile["posts"]}
    codes = [link["code"] for link in archive["links"]]
    assert len(set(codes)) == len(codes) > 50
    for link in archive["links"]:
        assert len(link["code"]) == 6
        if link["post"] in posts:
            assert posts[link["post"]]["format"] == "link"
            assert when(link["created_at"]) < when(posts[link["post"]]["at"])


def test_clicks_are_peoples_and_bots_apart_and_none_comes_from_a_real_address(archive: dict[str, Any]) -> None:
    kinds = Counter()
    for link in archive["links"]:
        for click in link["clicks"]:
            is_person = click["agent"] in AGENTS
            assert is_person or click["agent"] in BOT_AGENTS
            # RFC 5737: addresses kept for documentation, people's from one block and bots' from another.
            assert click["address"].startswith("198.51.100." if click["country"] else "203.0.113.")
            assert click["referrer"] in ("", "search.example", f"{link['network']}.example")
            kinds["people" if click["country"] else "bots"] += 1
    assert 0.05 < kinds["bots"] / kinds["people"] < 0.5


def test_one_link_is_clicked_for_ever_and_one_was_stormed(archive: dict[str, Any]) -> None:
    def of_days(link: dict[str, Any]) -> Counter[date]:
        return Counter(when(c["at"]).date() for c in link["clicks"])

    evergreen, stormed = archive["links"][EVERGREEN], archive["links"][STORMED]
    late = [c for c in evergreen["clicks"] if when(c["at"]) > when(evergreen["created_at"]) + timedelta(days=20)]
    assert len(late) > len(evergreen["clicks"]) / 2
    assert max(of_days(stormed).values()) > 1_000
    ordinary = archive["links"][EVERGREEN + 1]
    assert max(of_days(ordinary).values()) < 1_000


def test_clicks_come_soon_after_the_post_as_its_network_lives(state: State) -> None:
    """Half of the people are there within a few half-lives; asked twice, the same clicks come."""
    world = state.world
    link = next(x for x in links_of(world) if x.network == "brevi" and x.created_at < NOW - timedelta(days=30))
    asked = [clicks_on(world, link, 400, is_evergreen=False, is_stormed=False, until=NOW) for _ in range(2)]
    assert asked[0] == asked[1]
    people = [when(c["at"]) for c in asked[0] if c["country"]]
    ages = sorted((at - link.created_at).total_seconds() / 3600 - 2 for at in people)
    assert ages[len(ages) // 2] < 6
    assert people == sorted(people)


@pytest.mark.parametrize("owner", ["orrery", "lantern"])
def test_who_arrives_is_who_clicked_and_had_the_patience(owner: str, archive: dict[str, Any]) -> None:
    clicks = {link["code"]: link for link in archive["links"] if link["owner"] == owner}
    came: Counter[str] = Counter()
    for visit in archive["visits"][owner]:
        if visit["click"]:
            code, place = visit["click"]
            click = clicks[code]["clicks"][place]
            assert timedelta(0) < when(visit["at"]) - when(click["at"]) < timedelta(seconds=5)
            assert (visit["agent"], visit["country"]) == (click["agent"], click["country"])
            came[clicks[code]["path"]] += 1
    asked = Counter(
        {
            path: sum(1 for x in clicks.values() if x["path"] == path for c in x["clicks"] if c["country"])
            for path in came
        }
    )
    for path, count in asked.items():
        if count > 200:
            assert came[path] / count == pytest.approx(SLOW.get(path, ARRIVE), abs=0.08), path


@pytest.mark.parametrize("owner", ["orrery", "lantern"])
def test_what_is_reached_can_be_reached_from_that_page_and_has_its_price(owner: str, archive: dict[str, Any]) -> None:
    reached = [v for v in archive["visits"][owner] if v["reached"]]
    assert len(reached) > 50
    for visit in reached:
        goal, _, cents = GOALS[owner][visit["page"]]
        assert (visit["reached"], visit["cents"]) == (goal, cents)
        assert len(visit["pages"]) == 2
        assert visit["pages"][1].endswith(goal)
    assert all(v["cents"] == 0 for v in archive["visits"][owner] if not v["reached"])


def test_homes_are_as_often_as_the_world_has_them(archive: dict[str, Any]) -> None:
    for owner, homes in HOMES.items():
        people = [
            (c["country"], c["language"])
            for link in archive["links"] if link["owner"] == owner for c in link["clicks"] if c["country"]
        ]  # fmt: skip
        counted = Counter(people)
        for home, share in homes:
            # Three standard errors of a share, which one world in some hundred would miss.
            error = 3 * (share * (1 - share) / len(people)) ** 0.5
            assert counted[home] / len(people) == pytest.approx(share, abs=error + 0.005)


def test_campaigns_lie_in_the_half_year_or_reach_beyond_it_and_end_after_they_begin(archive: dict[str, Any]) -> None:
    for campaign in archive["campaigns"]:
        assert date.fromisoformat(campaign["first"]) <= date.fromisoformat(campaign["last"])
    named = {p["campaign"] for profile in archive["profiles"] for p in profile["posts"]} - {""}
    assert named <= {campaign["name"] for campaign in archive["campaigns"]}


def test_every_reaction_has_one_kind(archive: dict[str, Any]) -> None:
    page = next(p for p in archive["profiles"] if (p["network"], p["owner"]) == ("commons", "orrery"))
    at = {name: i + 1 for i, name in enumerate(page["metrics"])}
    kinds = [i for name, i in at.items() if name.startswith("reactions_")]
    for post in page["posts"]:
        for reading in post["readings"]:
            assert sum(reading[i] for i in kinds) == reading[at["reactions"]]


def test_the_clumsy_post_dismays_people(state: State) -> None:
    post, *_ = state.world.posts_of("commons-orreryhouse", NOW)
    clumsy = replace(post, text=f"Rainy Sundays are for {CLUMSY_WORDS}.")
    assert kinds_of_reactions(post, 1000)["dismay"] < 20
    assert kinds_of_reactions(clumsy, 1000)["dismay"] > 500


def test_people_open_the_page_of_links_and_some_go_on(archive: dict[str, Any]) -> None:
    rows = archive["page_visits"]
    assert len(rows) > 800
    assert {row["entry"] for row in rows} == {-1, 0, 1, 2, 3}
    people = [row for row in rows if row["address"].startswith("198.51.100.")]
    assert 0.3 < sum(row["entry"] >= 0 for row in people) / len(people) < 0.5
    assert not any(row["entry"] >= 0 for row in rows if row not in people)
