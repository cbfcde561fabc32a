"""Working on pictures: cut to a shape around a focus, turned, lighter, with words on them. Pure: bytes in, bytes out.

What comes in was decoded and written anew by us before (media.looking), so that nothing hostile is opened here.
"""

import io
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any

from PIL import Image, ImageDraw, ImageEnhance, ImageFilter, ImageFont

LONGEST_SIDE = 2560
QUALITIES = (90, 82, 74, 66, 58, 50, 42)
SMALLEST_SIDE = 320
FONTS = Path(__file__).parent / "fonts"


@dataclass(frozen=True, kw_only=True)
class Picture:
    """A picture's bytes."""

    content: bytes
    media_type: str
    width: int
    height: int


@dataclass(frozen=True, kw_only=True)
class Words:
    """Words on a picture: where their middle stands (0 to 1), how high a line is as a part of the picture's height."""

    text: str
    x: float = 0.5
    y: float = 0.85
    size: float = 0.07
    colour: str = "#ffffff"
    ground: str = "#1c1714"


@dataclass(frozen=True, kw_only=True)
class Edits:
    """What is done to a picture, in this order. turn: degrees clockwise. crop: left, top, width, height as parts of the
    turned picture. light, contrast, saturation: 1 is as it is. blur: radius in thousandths of the longer side.
    """

    turn: int = 0
    crop: tuple[float, float, float, float] | None = None
    light: float = 1.0
    contrast: float = 1.0
    saturation: float = 1.0
    blur: float = 0.0
    words: tuple[Words, ...] = ()


def fitted(file: IO[bytes], *, shape: float | None, focus: tuple[float, float], most_bytes: int) -> Picture:
    """A picture cut to a shape (None: as it is) around its focus, and made lighter until it weighs at most so much.

    Weight goes first at the cost of quality, then of size.
    """
    image: Any = Image.open(file)
    image.load()
    if shape is not None:
        image = image.crop(box_around(image.size, shape, focus))
    return _light(image, most_bytes)


def box_around(size: tuple[int, int], shape: float, focus: tuple[float, float]) -> tuple[int, int, int, int]:
    """The largest box of a shape within a picture that has its focus as near to its middle as may be."""
    width, height = size
    wide = min(width, round(height * shape)) or 1
    high = min(height, round(width / shape)) or 1
    left = min(max(0, round(focus[0] * width - wide / 2)), width - wide)
    top = min(max(0, round(focus[1] * height - high / 2)), height - high)
    return left, top, left + wide, top + high


def _light(image: Any, most_bytes: int) -> Picture:
    if image.mode not in ("RGB", "L"):
        flat = Image.new("RGB", image.size, "white")
        flat.paste(image, mask=image.getchannel("A") if "A" in image.getbands() else None)
        image = flat
    while True:
        for quality in QUALITIES:
            out = io.BytesIO()
            image.save(out, "JPEG", quality=quality, progressive=True)
            if out.tell() <= most_bytes:
                return Picture(content=out.getvalue(), media_type="image/jpeg", width=image.width, height=image.height)
        if max(image.size) <= SMALLEST_SIDE:
            return Picture(content=out.getvalue(), media_type="image/jpeg", width=image.width, height=image.height)
        image = image.resize((max(1, image.width * 3 // 4), max(1, image.height * 3 // 4)), Image.Resampling.LANCZOS)


def edits_from(told: Mapping[str, Any]) -> Edits:
    """Edits as they are kept."""
    crop = told.get("crop")
    plain = {name: told[name] for name in ("turn", "light", "contrast", "saturation", "blur") if name in told}
    return Edits(
        crop=tuple(crop) if crop else None, words=tuple(Words(**one) for one in told.get("words", ())), **plain
    )


def edited_from(content: bytes, told: Mapping[str, Any]) -> bytes:
    """The same as `edited`, from bytes and edits as they are kept."""
    return edited(io.BytesIO(content), edits_from(told))


def edited(file: IO[bytes], edits: Edits) -> bytes:
    """A picture with edits done to it, as a PNG where it is transparent, else as a JPEG."""
    image: Any = Image.open(file)
    image.load()
    has_alpha = image.mode == "RGBA"
    image = image.convert("RGBA" if has_alpha else "RGB")
    if edits.turn % 360:
        image = image.transpose({
            90: Image.Transpose.ROTATE_270, 180: Image.Transpose.ROTATE_180, 270: Image.Transpose.ROTATE_90,
        }[edits.turn % 360])  # fmt: skip
    if edits.crop is not None:
        left, top, width, height = edits.crop
        x, y = round(left * image.width), round(top * image.height)
        right = max(x + 1, min(image.width, x + round(width * image.width)))
        bottom = max(y + 1, min(image.height, y + round(height * image.height)))
        image = image.crop((x, y, right, bottom))
    for enhance, factor in (
        (ImageEnhance.Brightness, edits.light), (ImageEnhance.Contrast, edits.contrast),
        (ImageEnhance.Color, edits.saturation),
    ):  # fmt: skip
        if factor != 1.0:
            image = enhance(image).enhance(factor)
    if edits.blur > 0:
        image = image.filter(ImageFilter.GaussianBlur(edits.blur / 1000 * max(image.size)))
    for words in edits.words:
        _write(image, words)
    out = io.BytesIO()
    if has_alpha:
        image.save(out, "PNG")
    else:
        image.save(out, "JPEG", quality=QUALITIES[0], progressive=True)
    return out.getvalue()


def _write(image: Any, words: Words) -> None:
    """Words in their colour on a ground of theirs, within the picture, whatever was asked for."""
    draw = ImageDraw.Draw(image)
    size = max(8, round(words.size * image.height))
    font = _font(words.text, size)
    text = _broken(draw, words.text, font, image.width * 0.9)
    pad = size // 3
    left, top, right, bottom = draw.multiline_textbbox((0, 0), text, font=font, align="center")
    wide, high = right - left, bottom - top
    x = min(max(pad, round(words.x * image.width - wide / 2)), max(pad, image.width - round(wide) - pad))
    y = min(max(pad, round(words.y * image.height - high / 2)), max(pad, image.height - round(high) - pad))
    draw.rectangle((x - pad, y - pad, x + wide + pad, y + high + pad), fill=words.ground)
    draw.multiline_text((x - left, y - top), text, font=font, fill=words.colour, align="center")


def _font(text: str, size: int) -> Any:
    """Sofia Sans, bold, in the script that most of the letters are of."""
    greek = sum("\u0370" <= letter <= "\u03ff" for letter in text)
    cyrillic = sum("\u0400" <= letter <= "\u04ff" for letter in text)
    script = "greek" if greek > max(cyrillic, len(text) / 3) else "cyrillic" if cyrillic > len(text) / 3 else "latin"
    font = ImageFont.truetype(str(FONTS / f"sofia-sans-{script}.woff2"), size)
    font.set_variation_by_name("Bold")
    return font


def _broken(draw: Any, text: str, font: Any, widest: float) -> str:
    """A text broken into lines that fit."""
    lines: list[str] = []
    for paragraph in text.splitlines():
        line = ""
        for word in paragraph.split():
            longer = f"{line} {word}".strip()
            if line and draw.textlength(longer, font=font) > widest:
                lines.append(line)
                line = word
            else:
                line = longer
        lines.append(line)
    return "\n".join(lines)
