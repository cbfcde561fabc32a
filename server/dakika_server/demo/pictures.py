"""The demo's own pictures, drawn here: clocks and skies of the house, so that nothing of anybody's is shown."""

import io
import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from PIL import Image, ImageDraw, ImageFilter

from dakika_server.brands.models import Brand
from dakika_server.media.actions import add_asset, change_asset
from dakika_server.media.models import Asset

NIGHT, BRASS, BERRY, PAPER, SEA = "#1d2b47", "#d9b84f", "#8a1c4a", "#efe8d8", "#2f6690"
Draw = Any


def _wheel(draw: Draw, x: float, y: float, radius: float, spokes: int, colour: str) -> None:
    draw.ellipse((x - radius, y - radius, x + radius, y + radius), outline=colour, width=max(4, round(radius / 18)))
    for i in range(spokes):
        turn = 2 * math.pi * i / spokes
        end = (x + radius * math.cos(turn), y + radius * math.sin(turn))
        draw.line((x, y, *end), fill=colour, width=max(3, round(radius / 26)))
    hub = radius / 4
    draw.ellipse((x - hub, y - hub, x + hub, y + hub), fill=BERRY)


def _orrery(image: Any) -> None:
    draw = ImageDraw.Draw(image)
    for i, radius in enumerate((150, 260, 380, 500)):
        draw.ellipse((900 - radius, 450 - radius, 900 + radius, 450 + radius), outline="#3c4d70", width=5)
        turn = 0.8 + i * 1.7
        x, y = 900 + radius * math.cos(turn), 450 + radius * math.sin(turn)
        draw.ellipse((x - 22, y - 22, x + 22, y + 22), fill=(BRASS, PAPER, BERRY, SEA)[i])
    draw.ellipse((830, 380, 970, 520), fill=BRASS)


def _dial(image: Any) -> None:
    draw = ImageDraw.Draw(image)
    draw.ellipse((150, 250, 850, 950), fill=PAPER, outline=BRASS, width=26)
    for hour in range(12):
        turn = math.pi * hour / 6
        inner, outer = 270, 315
        draw.line(
            (500 + inner * math.sin(turn), 600 - inner * math.cos(turn), 500 + outer * math.sin(turn),
             600 - outer * math.cos(turn)),
            fill=NIGHT, width=14,
        )  # fmt: skip
    draw.line((500, 600, 500, 400), fill=NIGHT, width=22)
    draw.line((500, 600, 690, 680), fill=BERRY, width=14)


def _gears(image: Any) -> None:
    draw = ImageDraw.Draw(image)
    for x, y, radius, spokes in ((420, 480, 320, 10), (960, 380, 210, 8), (1090, 780, 250, 9)):
        _wheel(draw, x, y, radius, spokes, BRASS)


def _roof(image: Any) -> None:
    draw = ImageDraw.Draw(image)
    for i in range(90):
        x, y = (i * 733) % 1000, (i * 389) % 900
        size = 2 + i % 4
        draw.ellipse((x - size, y - size, x + size, y + size), fill=PAPER)
    draw.polygon(((0, 1500), (0, 1150), (500, 900), (1000, 1150), (1000, 1500)), fill="#11192b")
    draw.line((500, 900, 760, 560), fill=BRASS, width=34)


def _pendulums(image: Any) -> None:
    draw = ImageDraw.Draw(image)
    for i in range(7):
        x, swing = 220 + i * 195, math.sin(i * 0.9) * 130
        draw.line((x, 60, x + swing, 620), fill=NIGHT, width=7)
        draw.ellipse((x + swing - 52, 570, x + swing + 52, 674), fill=BRASS if i % 2 else BERRY)


@dataclass(frozen=True, kw_only=True)
class Drawn:
    """A picture: its size in pixels, ground, what is drawn on it, what is to be seen, and what must stay when cut."""

    name: str
    size: tuple[int, int]
    ground: str
    drawing: Callable[[Any], None]
    words: str
    tags: tuple[str, ...]
    focus: tuple[float, float]


PICTURES = (
    Drawn(name="orrery.jpg", size=(1800, 900), ground=NIGHT, drawing=_orrery, tags=("night", "orrery"),
          focus=(0.5, 0.5), words="Brass planets on their rings around a lamp."),
    Drawn(name="tide-dial.jpg", size=(1000, 1250), ground=SEA, drawing=_dial, tags=("dial",), focus=(0.5, 0.48),
          words="A white dial with a red hand, before the sea."),
    Drawn(name="gears.jpg", size=(1500, 1000), ground="#3a2f22", drawing=_gears, tags=("workshop",), focus=(0.3, 0.5),
          words="Three brass wheels with red hubs, cut by hand."),
    Drawn(name="roof.jpg", size=(1000, 1500), ground=NIGHT, drawing=_roof, tags=("night",), focus=(0.5, 0.6),
          words="A telescope on the roof under a sky full of stars."),
    Drawn(name="pendulums.jpg", size=(1600, 800), ground=PAPER, drawing=_pendulums, tags=("workshop",),
          focus=(0.5, 0.6), words="Seven pendulums, each at another moment of its swing."),
)  # fmt: skip


def bring_pictures(actor: Any, brand: Brand) -> dict[str, Asset]:
    """The pictures by name; a worker looks into them as into any other."""
    found: dict[str, Asset] = {}
    for one in PICTURES:
        image = Image.new("RGB", one.size, one.ground)
        one.drawing(image)
        out = io.BytesIO()
        image.filter(ImageFilter.SMOOTH).save(out, "JPEG", quality=90)
        asset, _ = add_asset(actor, brand, name=one.name, size=out.tell(), file=out)
        found[one.name] = change_asset(actor, brand, asset.pk, words=one.words, tags=one.tags, focus=one.focus)
    return found
