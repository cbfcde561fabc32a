"""The hand on the world: faults, what Dakika would have collected in the past half-year, the truth for tests."""

from datetime import UTC, datetime, timedelta
from typing import Any

from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins import boosts
from dakika_standins.fediverse import actor_address, fedi_handle, note_address
from dakika_standins.http import NetworkApi, state_of
from dakika_standins.networks.brevi.api import Brevi
from dakika_standins.networks.commons.api import Commons
from dakika_standins.networks.corkboard.api import Corkboard
from dakika_standins.networks.doorstep.api import Doorstep
from dakika_standins.networks.guildhall.api import Guildhall
from dakika_standins.networks.longplay.api import Longplay
from dakika_standins.networks.pictor.api import Pictor
from dakika_standins.networks.vignette.api import Vignette
from dakika_standins.sites.drawings import picture_of
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
APIS: dict[str, NetworkApi] = {
    api.key: api for api in (Commons(), Brevi(), Pictor(), Guildhall(), Vignette(), Corkboard(), Longplay(), Doorstep())
}
# The museum's boosts: where, which of the posts of that day or before, when it began, how long, cents, and to whom.
BOOSTED = (
    ("commons", 0, 24, 6, 6000, []), ("commons", 2, 12, 5, 4000, ["PT"]), ("pictor", 0, 18, 7, 5000, []),
    ("pictor", 1, 3, 6, 3000, ["PT", "BR"]), ("commons", 1, 2, 5, 3500, []),
)  # fmt: skip


def external_id(state: State, account: Account) -> str:
    """Identifier of an account as its network's API gives it."""
    if account.network == "activitypub":
        return actor_address(account, state.address)
    return APIS[account.network].account_id(account)


def post_id(account: Account, post: WorldPost, state: State) -> str:
    """Identifier of a post as its network's API gives it."""
    if account.network == "guildhall":
        return f"tag:guildhall.example,2026:update/{post.id}"
    return note_address(account, post, state.address) if account.network == "activitypub" else post.id


def told_of(account: Account) -> list[str]:
    """What the network tells of an account's posts; Commons tells its owners the kinds of reactions too."""
    rules = RULES[account.network]
    kinds = [f"reactions_{kind}" for kind in ("like", *FEELINGS)] if account.network == "commons" else []
    return [*rules.own, *kinds] if account.owner else list(rules.public)


def archived_post(state: State, account: Account, post: WorldPost) -> dict[str, Any]:
    """A post with the readings that a collection at the usual ages would have made of it."""
    names = told_of(account)
    readings = []
    for age in READING_AGES_HOURS:
        at = post.published_at + timedelta(hours=age)
        if at <= state.now() and names:
            seen = state.world.counters(post, at)
            kinds = kinds_of_reactions(post, seen.get("reactions", 0))
            seen |= {f"reactions_{kind}": count for kind, count in kinds.items()}
            readings.append([at.isoformat(), *[seen[name] for name in names]])
    return {
        "id": post_id(account, post, state), "at": post.published_at.isoformat(), "format": post.format, "text": post.text,
        "topic": post.topic, "campaign": post.campaign, "language": post.language, "picture": picture_of(post),
        "boosted": post.is_boosted if account.owner and account.network in BOOSTING_NETWORKS else None,
        "url": f"https://{account.network}.example/{account.handle}/{post.id}", "readings": readings,
        "comments": [[c.id, c.author, c.text, c.at.isoformat()] for c in state.comments(post)] if account.owner else [],
    }  # fmt: skip


async def archive(request: Request) -> Response:
    """Half a year of what was collected, for the demo."""
    state = state_of(request)
    state.address = str(request.base_url).rstrip("/")
    world, now = state.world, state.now()
    profiles = []
    for account in world.accounts.values():
        if account.is_personal or account.key in LEFT_OUT:
            continue
        days = [world.begins + timedelta(days=i) for i in range((now.date() - world.begins).days + 1)]
        profiles.append({
            "network": account.network, "id": external_id(state, account), "name": account.name,
            "handle": fedi_handle(account, state.address) if account.network == "activitypub" else account.handle,
            "owner": account.owner, "subject": account.subject, "picture": f"/pictures/{account.key}.svg",
            "metrics": told_of(account),
            "audience": [[str(d), world.audience(account.key, d)] for d in days[::30]] if account.owner else [],
            "days": [[str(d), world.followers(account.key, d), *world.followers_moved(account.key, d)] for d in days],
            "zones": account.zones,
            "online": [round(v) for v in world.activity(account.key, now.date()) * world.followers(account.key, now.date())],
            "posts": [archived_post(state, account, p) for p in state.world.posts_of(account.key, now)],
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
    return JSONResponse(
        {"anchor": str(world.anchor), "profiles": profiles, "links": rows, "campaigns": campaigns, "visits": visits,
         "page_visits": page_visits(world, now), "boosts": boosted}
    )  # fmt: skip


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


async def faults(request: Request) -> Response:
    """Read or set faults: {"commons.error500": 0.3, "brevi.slow": 2, ...}; 0 switches one off."""
    state = state_of(request)
    if request.method == "POST":
        for name, strength in (await request.json()).items():
            state.data["faults"][name] = float(strength)
        state.calls.clear()
        state.save()
    return JSONResponse(state.data["faults"])


async def remove(request: Request) -> Response:
    """Take a post down."""
    state = state_of(request)
    state.data["removed"].append((await request.json())["id"])
    state.save()
    return JSONResponse({"ok": True})


async def grant(request: Request) -> Response:
    """Tokens without a consent page, for the demo's own profiles."""
    body = await request.json()
    scope = body.get("scope") or " ".join(RULES[body["network"]].scopes)
    return JSONResponse(state_of(request).grant(body["network"], body["owner"], scope))


async def correct(request: Request) -> Response:
    """Correct a post's counters: {"id": ..., "share": 0.9}."""
    state, body = state_of(request), await request.json()
    state.data["corrected"][str(body["id"])] = float(body["share"])
    state.save()
    return JSONResponse({"ok": True})


async def bulk(request: Request) -> Response:
    """Give an account many posts: {"key": "commons-orreryhouse", "count": 10000}. For measuring."""
    state, body = state_of(request), await request.json()
    state.world.add_bulk(str(body["key"]), int(body["count"]))
    state.forget_order()
    return JSONResponse({"ok": True})


async def truth(request: Request) -> Response:
    """What an account truly has now: posts with their counters, comments; ?key=network-handle."""
    state = state_of(request)
    account = state.world.accounts[request.query_params["key"]]
    return JSONResponse({
        post_id(account, p, state): {"counters": state.counters(p), "comments": [c.id for c in state.comments(p)]}
        for p in state.posts(account.key)
    })  # fmt: skip


async def sent(request: Request) -> Response:
    """What was published through the APIs, in order."""
    return JSONResponse(state_of(request).data["sent"])


async def reset(request: Request) -> Response:
    """Begin the world anew."""
    state_of(request).reset()
    return JSONResponse({"ok": True})


async def health(request: Request) -> Response:
    """Whether the process is up."""
    return JSONResponse({"ok": True, "now": state_of(request).now().isoformat()})


def control_routes() -> list[Route]:
    """All of the hand on the world."""
    return [
        Route("/control/health", health),
        Route("/control/archive", archive),
        Route("/control/faults", faults, methods=["GET", "POST"]),
        Route("/control/remove", remove, methods=["POST"]),
        Route("/control/grant", grant, methods=["POST"]),
        Route("/control/correct", correct, methods=["POST"]),
        Route("/control/bulk", bulk, methods=["POST"]),
        Route("/control/truth", truth),
        Route("/control/sent", sent),
        Route("/control/reset", reset, methods=["POST"]),
    ]
