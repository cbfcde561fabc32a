"""An outside collection of pictures: found by a word, each with its author and licence. Drawn here, so nobody's."""

import io
import math
from dataclasses import dataclass

from PIL import Image, ImageDraw
from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.world.model import seed_of

MOST = 40
THINGS = (
    "sundial",
    "water clock",
    "pocket watch",
    "tower clock",
    "night sky",
    "comet",
    "harbour",
    "lighthouse",
    "gear",
    "pendulum",
)
HOURS = ("at dawn", "at noon", "at dusk", "by night")
AUTHORS = ("A. Lindqvist", "M. Okafor", "R. Teles", "S. Papadaki")
LICENCES = ("CC BY 4.0", "CC0 1.0", "CC BY-SA 4.0")
GROUNDS = ("#d9a441", "#8fb7c9", "#a0522d", "#1d2b47")


@dataclass(frozen=True, kw_only=True)
class Kept:
    """A picture of the collection."""

    key: str
    title: str
    author: str
    licence: str
    ground: str


def _all() -> list[Kept]:
    return [
        Kept(
            key=f"{thing} {hour}".replace(" ", "-"), title=f"A {thing} {hour}",
            author=AUTHORS[seed_of("author", thing, hour) % len(AUTHORS)],
            licence=LICENCES[seed_of("licence", thing, hour) % len(LICENCES)], ground=GROUNDS[i],
        )
        for thing in THINGS
        for i, hour in enumerate(HOURS)
    ]  # fmt: skip


KEPT = {one.key: one for one in _all()}


def _shape(one: Kept) -> dict[str, str]:
    return {
        "key": one.key, "title": one.title, "author": one.author, "licence": one.licence,
        "page": f"pages/{one.key}", "preview": f"files/{one.key}.png?small=1", "file": f"files/{one.key}.png",
    }  # fmt: skip


async def search(request: Request) -> Response:
    """Pictures whose title holds all the words."""
    words = request.query_params.get("text", "").casefold().split()
    found = [one for one in KEPT.values() if words and all(word in one.title.casefold() for word in words)]
    return JSONResponse({"pictures": [_shape(one) for one in found[:MOST]]})


async def picture(request: Request) -> Response:
    """One of them, or none."""
    one = KEPT.get(request.path_params["key"])
    return JSONResponse({"pictures": [_shape(one)] if one else []})


async def file(request: Request) -> Response:
    """Its bytes: a dial of its own on the colour of its hour."""
    one = KEPT.get(request.path_params["key"])
    if one is None:
        return Response(status_code=404)
    side = 240 if request.query_params.get("small") else 1200
    image = Image.new("RGB", (side, side * 3 // 4), one.ground)
    draw = ImageDraw.Draw(image)
    x, y, radius = side / 2, side * 0.375, side * 0.28
    draw.ellipse((x - radius, y - radius, x + radius, y + radius), fill="#efe8d8", outline="#2a1f14", width=side // 60)
    for hand, length in ((seed_of("long", one.key), 0.85), (seed_of("short", one.key), 0.5)):
        turn = hand % 360 * math.pi / 180
        end = (x + length * radius * math.sin(turn), y - length * radius * math.cos(turn))
        draw.line((x, y, *end), fill="#8a1c4a", width=side // 50)
    out = io.BytesIO()
    image.save(out, "PNG")
    return Response(out.getvalue(), media_type="image/png")


async def page(request: Request) -> Response:
    """What is said of a picture: whose it is, and how it may be used."""
    one = KEPT.get(request.path_params["key"])
    return Response(
        f"{one.title}, by {one.author}, {one.licence}" if one else "", 200 if one else 404, media_type="text/plain"
    )


def collection_routes() -> list[Route]:
    """All of it."""
    return [
        Route("/collection/search", search),
        Route("/collection/pictures/{key}", picture),
        Route("/collection/files/{key}.png", file),
        Route("/collection/pages/{key}", page),
    ]
