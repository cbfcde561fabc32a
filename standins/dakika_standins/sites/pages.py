"""Landing pages of the brands' sites, with Open Graph data, and pictures drawn by code."""

import html
import math

from starlette.requests import Request
from starlette.responses import HTMLResponse, Response
from starlette.routing import Route

from dakika_standins.world.model import seed_of

SITES = {"orreryhouse": "Orrery House", "lanternline": "Lantern Line"}


async def landing(request: Request) -> Response:
    """A page of a brand's site."""
    site = request.path_params["site"]
    if site not in SITES:
        return HTMLResponse("<h1>No such site</h1>", status_code=404)
    title = html.escape(request.path_params.get("page", "").replace("-", " ").capitalize() or "Welcome")
    name = SITES[site]
    return HTMLResponse(
        f'<!doctype html><html lang="en"><meta charset="utf-8"><title>{title} · {name}</title>'
        f'<meta property="og:title" content="{title}"><meta property="og:site_name" content="{name}">'
        f'<meta property="og:image" content="/pictures/{site}.svg">'
        f"<main><h1>{title}</h1><p>{name}, a stand-in site.</p></main></html>"
    )


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
    """Sites and pictures."""
    return [
        Route("/sites/{site}", landing),
        Route("/sites/{site}/{page}", landing),
        Route("/pictures/{key}.svg", picture),
    ]
