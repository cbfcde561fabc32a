"""Web sites: the brands' and their competitors', with Open Graph and structured data; feeds; drawn pictures; wrong turns."""

import html
import json
import math
import os
import re
from datetime import datetime
from email.utils import format_datetime

from starlette.requests import Request
from starlette.responses import HTMLResponse, RedirectResponse, Response
from starlette.routing import Route

from dakika_standins.fediverse import actor_address
from dakika_standins.http import http_date, state_of
from dakika_standins.sites.programme import programme
from dakika_standins.state import State
from dakika_standins.world.model import WorldPost, seed_of
from dakika_standins.world.scenario import ACCOUNTS, Account
from dakika_standins.world.visits import GOALS

COUNTED = {"orreryhouse": "orrery", "lanternline": "lantern"}
SITES = {a.website: a.name for a in ACCOUNTS if a.website}
PROFILE_PAGES = {
    "commons": "https://commons.example/{}", "brevi": "https://brevi.example/{}", "pictor": "https://pictor.example/{}",
    "guildhall": "https://guildhall.example/organisations/{}", "vignette": "https://vignette.example/@{}",
    "corkboard": "https://corkboard.example/{}/boards", "longplay": "https://longplay.example/channel/{}",
    "doorstep": "https://doorstep.example/place/{}",
}  # fmt: skip


def accounts_of(site: str) -> list[Account]:
    """Accounts of a site's owner."""
    return [a for a in ACCOUNTS if a.website == site]


async def landing(request: Request) -> Response:
    """A page of a site. It names its owner's profiles in structured data, by rel=me and by plain links."""
    site = request.path_params["site"]
    if site not in SITES:
        return HTMLResponse("<h1>No such site</h1>", status_code=404)
    base = str(request.base_url).rstrip("/")
    title = html.escape(request.path_params.get("page", "").replace("-", " ").capitalize() or "Welcome")
    name = html.escape(SITES[site])
    pages = [PROFILE_PAGES[a.network].format(a.handle) for a in accounts_of(site) if a.network in PROFILE_PAGES]
    actors = [actor_address(a, base) for a in accounts_of(site) if a.network == "activitypub"]
    data = json.dumps(
        {"@context": "https://schema.org", "@type": "Organization", "name": SITES[site], "sameAs": pages[:2]}
    )
    links = "".join(
        f'<li><a href="{page}">{page.split("/")[2].split(".")[0].capitalize()}</a></li>' for page in pages[2:]
    )
    me = "".join(f'<a rel="me" href="{page}">follow us</a>' for page in actors)
    return HTMLResponse(
        f'<!doctype html><html lang="en"><meta charset="utf-8"><title>{title} · {name}</title>{_counting(site)}'
        f'<meta property="og:title" content="{title}"><meta property="og:site_name" content="{name}">'
        f'<meta property="og:image" content="/pictures/{site}.svg">'
        f'<link rel="alternate" type="application/rss+xml" title="News" href="/feeds/{site}.rss">'
        f'<link rel="alternate" type="application/atom+xml" title="News" href="/feeds/{site}.atom">'
        f'<script type="application/ld+json">{data}</script>'
        f"<main><h1>{title}</h1><p>{name}, a stand-in site.</p>{_offer(site, request.path_params.get('page', ''))}"
        f'<p><a href="https://commons.example/share?u=x">Share this page</a></p><ul>{links}</ul>{me}</main></html>'
    )


def _news(state: State, site: str) -> list[WorldPost]:
    account = next(iter(accounts_of(site)))
    return [p for p in state.posts(account.key) if p.format == "link"][:20]


async def feed(request: Request) -> Response:
    """A site's news as RSS 2.0 or Atom (RFC 4287), with ETag and Last-Modified."""
    site, kind = request.path_params["site"], request.path_params["kind"]
    if site not in SITES or kind not in ("rss", "atom"):
        return Response(status_code=404)
    base = str(request.base_url).rstrip("/")
    posts = _news(state_of(request), site)
    newest = posts[0].published_at if posts else state_of(request).now()
    mark = f'"{kind}-{len(posts)}-{int(newest.timestamp())}"'
    headers = {"ETag": mark, "Last-Modified": http_date(newest)}
    if request.headers.get("if-none-match") == mark:
        return Response(status_code=304, headers=headers)
    write = _rss if kind == "rss" else _atom
    return Response(write(site, base, posts, newest), media_type=f"application/{kind}+xml", headers=headers)


def _counting(site: str) -> str:
    """The page script of whoever counts for this site, as its owner would paste it; none where nobody is named."""
    counter = os.environ.get("DAKIKA_PUBLIC_ADDRESS", "")
    if site not in COUNTED or not counter:
        return ""
    return f'<script async src="{html.escape(counter)}/visit.js" data-site="demo-{site}"></script>'


def _offer(site: str, page: str) -> str:
    """What can be done on a page: bought, or signed up for; and the visitor's word on being remembered."""
    owner = COUNTED.get(site)
    goal = GOALS[owner].get(page) if owner else None
    if owner is None:
        return ""
    ask = '<p><button onclick="dakika.remember(true)">You may remember me here</button></p>'
    if goal is None:
        return ask
    reached, _, cents = goal
    words = f"Order for {cents / 100:.2f}" if cents else "Sign up"
    return f'{ask}<p><a href="/sites/{site}/{reached}">{words}</a></p>'


def _headline(text: str) -> str:
    """A post's first sentence, as an editor would put it above the piece."""
    return re.split(r"(?<=[.?!:])\s", text, maxsplit=1)[0].rstrip(".:")


def _rss(site: str, base: str, posts: list[WorldPost], newest: datetime) -> str:
    items = "".join(
        f"<item><title>{html.escape(_headline(p.text))}</title><link>{base}/sites/{site}/news-{p.id}</link>"
        f'<guid isPermaLink="false">{p.id}</guid><pubDate>{format_datetime(p.published_at)}</pubDate>'
        f"<description>{html.escape('<p>' + html.escape(p.text) + '</p>')}</description></item>"
        for p in posts
    )
    return (
        f'<?xml version="1.0" encoding="utf-8"?><rss version="2.0"><channel><title>{html.escape(SITES[site])}: news</title>'
        f"<link>{base}/sites/{site}</link><description>News</description>{items}</channel></rss>"
    )


def _atom(site: str, base: str, posts: list[WorldPost], newest: datetime) -> str:
    items = "".join(
        f"<entry><title>{html.escape(_headline(p.text))}</title><id>tag:{site}.example,2026:{p.id}</id>"
        f'<link href="{base}/sites/{site}/news-{p.id}"/><updated>{p.published_at.isoformat()}</updated>'
        f'<summary type="text">{html.escape(p.text)}</summary></entry>'
        for p in posts
    )
    return (
        f'<?xml version="1.0" encoding="utf-8"?><feed xmlns="http://www.w3.org/2005/Atom">'
        f"<title>{html.escape(SITES[site])}: news</title><id>tag:{site}.example,2026:news</id>"
        f"<updated>{newest.isoformat()}</updated>{items}</feed>"
    )


async def wrong_turn(request: Request) -> Response:
    """Pages that a careful reader survives: they lead inside, round in circles, on for ever, or do not end."""
    kind = request.path_params["kind"]
    if kind == "inside":
        return RedirectResponse("http://169.254.169.254/latest/meta-data/")
    if kind == "local":
        return RedirectResponse("http://127.0.0.1:22/")
    if kind == "circle":
        return RedirectResponse("/wrong/circle")
    if kind == "large":
        return HTMLResponse("<p>more and more</p>" * 1_500_000)
    if kind == "entities":
        levels = "".join(f'<!ENTITY l{i} "{f"&l{i - 1};" * 10}">' for i in range(1, 10))
        text = f'<?xml version="1.0"?><!DOCTYPE rss [<!ENTITY l0 "laugh">{levels}]><rss version="2.0"><channel><title>&l9;</title></channel></rss>'
        return Response(text, media_type="application/rss+xml")
    return HTMLResponse("<h1>No such page</h1>", status_code=404)


async def picture(request: Request) -> Response:
    """A drawing for an account: a clock face for the museum, a star chart for others; the same every time."""
    seed = seed_of("picture", request.path_params["key"])
    hue = seed % 360
    hour, minute = seed // 7 % 12, seed // 91 % 60
    ticks = "".join(
        f'<line x1="{50 + 38 * math.sin(a):.1f}" y1="{50 - 38 * math.cos(a):.1f}" '
        f'x2="{50 + 43 * math.sin(a):.1f}" y2="{50 - 43 * math.cos(a):.1f}"/>'
        for a in (i * math.pi / 6 for i in range(12))
    )
    hands = "".join(
        f'<line x1="50" y1="50" x2="{50 + length * math.sin(a):.1f}" y2="{50 - length * math.cos(a):.1f}"/>'
        for a, length in (((hour + minute / 60) * math.pi / 6, 22), (minute * math.pi / 30, 33))
    )
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><rect width="100" height="100" fill="hsl({hue} 25% 24%)"/>'
        f'<g stroke="hsl({hue} 30% 88%)" stroke-width="3" fill="none" stroke-linecap="round"><circle cx="50" cy="50" r="44"/>{ticks}{hands}</g></svg>'
    )
    return Response(svg, media_type="image/svg+xml", headers={"Cache-Control": "max-age=86400"})


def site_routes() -> list[Route]:
    """Sites, feeds and pictures."""
    return [
        Route("/sites/{site}", landing),
        Route("/sites/{site}/{page}", landing),
        Route("/feeds/{site}.{kind}", feed),
        Route("/programmes/{site}.ics", programme),
        Route("/wrong/{kind}", wrong_turn),
        Route("/pictures/{key}.svg", picture),
    ]
