"""Half a year of the world as a collection would have found it, for whoever shows the product with invented figures."""

import json
import sys
import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from dakika_standins import boosts
from dakika_standins.state import State
from dakika_standins.world.clicks import PATHS, WorldLink, clicks_on, links_of, page_visits
from dakika_standins.world.model import BOOSTING_NETWORKS, FEELINGS, WorldPost, kinds_of_reactions, seed_of
from dakika_standins.world.rules import RULES
from dakika_standins.world.scenario import CAMPAIGNS, Account
from dakika_standins.world.visits import visits_of

READING_AGES_HOURS = (1, 3, 6, 12, 24, 36, 48, 72, 96, 120, 168, 240, 336, 504, 672, 1000, 1440, 2160, 3600)
# What the demo leaves for its user to connect and to follow.
LEFT_OUT = {"commons-orreryshop", "commons-portaldoussky", "brevi-brassandbeam", "vignette-gnomongallery",
            "activitypub-gnomongallery", "longplay-gnomongallery"}  # fmt: skip
# The museum's boosts: where, which of the posts of that day or before, when it began, how long, cents, and to whom.
BOOSTED = (
    ("commons", 0, 24, 6, 6000, []), ("commons", 2, 12, 5, 4000, ["PT"]), ("pictor", 0, 18, 7, 5000, []),
    ("pictor", 1, 3, 6, 3000, ["PT", "BR"]), ("commons", 1, 2, 5, 3500, []),
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Names:
    """What accounts, their posts and pictures are called from outside; as the world itself calls them without APIs."""

    account: Callable[[Account], str] = lambda account: account.key
    handle: Callable[[Account], str] = lambda account: account.handle
    post: Callable[[Account, WorldPost], str] = lambda _, post: post.id
    account_picture: Callable[[Account], str] = lambda _: ""
    post_picture: Callable[[WorldPost], str] = lambda _: ""


def told_of(account: Account) -> list[str]:
    """What the network tells of an account's posts; Commons tells its owners the kinds of reactions too."""
    rules = RULES[account.network]
    kinds = [f"reactions_{kind}" for kind in ("like", *FEELINGS)] if account.network == "commons" else []
    return [*rules.own, *kinds] if account.owner else list(rules.public)


def archived_post(state: State, account: Account, post: WorldPost, names: Names) -> dict[str, Any]:
    """A post with the readings that a collection at the usual ages would have made of it."""
    counters = told_of(account)
    readings = []
    for age in READING_AGES_HOURS:
        at = post.published_at + timedelta(hours=age)
        if at <= state.now() and counters:
            seen = state.world.counters(post, at)
            kinds = kinds_of_reactions(post, seen.get("reactions", 0))
            seen |= {f"reactions_{kind}": count for kind, count in kinds.items()}
            readings.append([at.isoformat(), *[seen[name] for name in counters]])
    return {
        "id": names.post(account, post), "at": post.published_at.isoformat(), "format": post.format, "text": post.text,
        "topic": post.topic, "campaign": post.campaign, "language": post.language, "picture": names.post_picture(post),
        "boosted": post.is_boosted if account.owner and account.network in BOOSTING_NETWORKS else None,
        "url": f"https://{account.network}.example/{account.handle}/{post.id}", "readings": readings,
        "comments": [[c.id, c.author, c.text, c.at.isoformat()] for c in state.comments(post)] if account.owner else [],
    }  # fmt: skip


def archive_of(state: State, names: Names) -> dict[str, Any]:
    """All of it: profiles with posts, days and audiences, links with clicks, campaigns, visits, boosts."""
    world, now = state.world, state.now()
    profiles = []
    for account in world.accounts.values():
        if account.is_personal or account.key in LEFT_OUT:
            continue
        days = [world.begins + timedelta(days=i) for i in range((now.date() - world.begins).days + 1)]
        profiles.append({
            "network": account.network, "id": names.account(account), "name": account.name,
            "handle": names.handle(account),
            "owner": account.owner, "subject": account.subject, "picture": names.account_picture(account),
            "metrics": told_of(account),
            "audience": [[str(d), world.audience(account.key, d)] for d in days[::30]] if account.owner else [],
            "days": [[str(d), world.followers(account.key, d), *world.followers_moved(account.key, d)] for d in days],
            "zones": account.zones,
            "online": [round(v) for v in world.activity(account.key, now.date()) * world.followers(account.key, now.date())],
            "posts": [archived_post(state, account, p, names) for p in state.world.posts_of(account.key, now)],
        })  # fmt: skip
    links = links_of(world)
    by_post = {p.id: p for key in world.accounts for p in world.posts_of(key, now)}
    rows, clicked = [], []
    for i, link in enumerate(links):
        final = round(by_post[link.post].finals["link_clicks"] * 1.15) if link.post in by_post else 20
        clicks = clicks_on(world, link, final, is_evergreen=i == 2, is_stormed=i == 9, until=now)
        rows.append({**vars(link), "created_at": link.created_at.isoformat(), "clicks": clicks})
        clicked.append((link, clicks))
    boosted = _boosted(state, rows, clicked)
    midnight = datetime.combine(world.anchor, datetime.min.time(), tzinfo=UTC)
    campaigns = [
        {"owner": c.owner, "name": c.name, "colour": c.colour,
         "first": str((midnight - timedelta(days=c.start_days_ago)).date()),
         "last": str((midnight - timedelta(days=c.end_days_ago)).date())}
        for c in CAMPAIGNS
    ]  # fmt: skip
    visits = {owner: visits_of(world, owner, clicked, now) for owner in PATHS}
    return {
        "anchor": str(world.anchor), "profiles": profiles, "links": rows, "campaigns": campaigns, "visits": visits,
        "page_visits": page_visits(world, now), "boosts": boosted,
    }  # fmt: skip


def _boosted(state: State, rows: list[dict[str, Any]], clicked: list[Any]) -> list[dict[str, Any]]:
    """Boosts of the museum's in the last weeks, with what each had told by the day; their links join the others."""
    now, found = state.now(), []
    for network, nth, days_ago, days, cents, countries in BOOSTED:
        account = f"{network}-orreryhouse"
        posts = [p for p in state.posts(account) if not p.is_boosted and (now - p.published_at).days >= days_ago]
        if len(posts) <= nth:
            continue
        post = posts[nth]
        key = f"demo-{network}-{nth}-{days_ago}"
        starts = now.replace(hour=9, minute=0, second=0, microsecond=0) - timedelta(days=days_ago)
        known = next((one for one in boosts.boosts(state).values() if one["key"] == key), None)
        boost = known or boosts.plant(
            state, post, cents=cents, starts=starts, ends=starts + timedelta(days=days), countries=countries, ages=[],
            link="a link of the demo's", key=key,
        )  # fmt: skip
        link = WorldLink(
            code=f"{seed_of(state.world.seed, key) % 36**6:06d}"[:6], owner="orrery", name=post.text[:60].rstrip(),
            path="tickets", network=network, campaign=post.campaign, post="", created_at=starts - timedelta(hours=2),
        )  # fmt: skip
        final = boosts.told(state, boost)["link_clicks"]
        clicks = clicks_on(state.world, link, final, is_evergreen=False, is_stormed=False, until=now)
        # Nobody clicks on what is not shown any more.
        until = min(now, datetime.fromisoformat(boost["ends"])) + timedelta(hours=12)
        clicks = [one for one in clicks if datetime.fromisoformat(one["at"]) <= until]
        rows.append({**vars(link), "created_at": link.created_at.isoformat(), "clicks": clicks, "is_paid": True})
        clicked.append((link, clicks))
        at, readings = starts + timedelta(hours=6), []
        while at < min(now, until):
            seen = boosts.told(state, boost, at)
            readings.append(
                [at.isoformat(), *(seen[name] for name in ("cents", "impressions", "reactions", "link_clicks"))]
            )
            at += timedelta(hours=6)
        found.append({**boost, "network": network, "code": link.code, "readings": readings,
                      "reach": boosts.told(state, boost)["reach"], "status": boosts.status(state, boost)})  # fmt: skip
    return found


def main() -> None:
    """Write it as JSON to where the first argument says, without any network: `python -m dakika_standins.archive FILE`."""
    with tempfile.TemporaryDirectory() as folder:
        made = archive_of(State(Path(folder) / "state.json"), Names())
    Path(sys.argv[1]).write_text(json.dumps(made))


if __name__ == "__main__":
    main()
