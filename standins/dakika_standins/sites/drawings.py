"""Pictures of posts, drawn by code: clocks, skies, ships. The same post always has the same picture."""

import math

from starlette.requests import Request
from starlette.responses import Response
from starlette.routing import Route

from dakika_standins.world.model import WorldPost, seed_of

SCENES = {
    "sky tonight": "sky", "workshop": "sundial", "timetable": "ship", "aboard": "ship", "harbour": "ship", "crew": "ship",
}  # fmt: skip
WITH_PICTURE = ("image", "album", "short_video", "long_video")
WIDE, TALL = 320, 240


def picture_of(post: WorldPost) -> str:
    """Path of a post's picture; empty for words and links."""
    if post.format not in WITH_PICTURE:
        return ""
    return f"/pictures/posts/{SCENES.get(post.topic, 'clock')}-{post.id}.svg"


def _clock(chance: int, hue: int) -> str:
    angles = (chance % 720 / 720 * math.tau, chance % 60 / 60 * math.tau)
    hands = "".join(
        f'<line x1="160" y1="120" x2="{160 + r * math.sin(a):.0f}" y2="{120 - r * math.cos(a):.0f}"/>'
        for a, r in zip(angles, (48, 74), strict=True)
    )
    marks = "".join(
        f'<circle cx="{160 + 88 * math.sin(i * math.pi / 6):.0f}" cy="{120 - 88 * math.cos(i * math.pi / 6):.0f}" r="3"/>'
        for i in range(12)
    )
    return f'<g fill="none" stroke="hsl({hue} 40% 85%)" stroke-width="5"><circle cx="160" cy="120" r="100"/>{hands}{marks}</g>'


def _sky(chance: int, hue: int) -> str:
    stars = "".join(
        f'<circle cx="{chance // (i + 3) % WIDE}" cy="{chance // (7 * i + 5) % 190}" r="{1 + i % 3}"/>'
        for i in range(40)
    )
    moon = f'<circle cx="{60 + chance % 200}" cy="70" r="26"/>'
    return f'<g fill="hsl({hue} 60% 90%)">{stars}{moon}</g><path d="M0 240V205q80-30 160-8t160-14v57z" fill="hsl({hue} 30% 12%)"/>'


def _sundial(chance: int, hue: int) -> str:
    lines = "".join(
        f'<line x1="160" y1="190" x2="{160 + 130 * math.cos(math.pi * i / 12):.0f}" '
        f'y2="{190 - 130 * math.sin(math.pi * i / 12):.0f}"/>'
        for i in range(13)
    )
    shade = math.pi * (1 + chance % 11) / 12
    return (
        f'<g stroke="hsl({hue} 40% 85%)" stroke-width="2">{lines}</g>'
        f'<path d="M160 190L{160 + 120 * math.cos(shade):.0f} {190 - 120 * math.sin(shade):.0f}" '
        f'stroke="hsl({hue} 60% 92%)" stroke-width="9" stroke-linecap="round"/>'
    )


def _ship(chance: int, hue: int) -> str:
    at = 40 + chance % 120
    waves = "".join(f'<path d="M0 {195 + 14 * i}q40-12 80 0t80 0 80 0 80 0" fill="none"/>' for i in range(3))
    return (
        f'<path d="M{at} 150h150l-24 42h-104z" fill="hsl({hue} 40% 80%)"/>'
        f'<path d="M{at + 34} 150v-34h84v34zM{at + 92} 116v-30h16v30z" fill="hsl({hue} 30% 66%)"/>'
        f'<g stroke="hsl({hue} 40% 70%)" stroke-width="4">{waves}</g>'
    )


_DRAWN = {"clock": _clock, "sky": _sky, "sundial": _sundial, "ship": _ship}


async def post_picture(request: Request) -> Response:
    """A post's picture."""
    scene, _, post = request.path_params["name"].partition("-")
    chance = seed_of("picture", post)
    hue = chance % 360
    inside = _DRAWN.get(scene, _clock)(chance // 360, hue)
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE} {TALL}">'
        f'<rect width="{WIDE}" height="{TALL}" fill="hsl({hue} 28% 24%)"/>{inside}</svg>'
    )
    return Response(svg, media_type="image/svg+xml", headers={"Cache-Control": "max-age=86400"})


def drawing_routes() -> list[Route]:
    """Where they hang."""
    return [Route("/pictures/posts/{name}.svg", post_picture)]
