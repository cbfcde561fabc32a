"""What a file really is, told by its content, and its renditions. Runs in a child with bounds (shared/apart).

Pure: bytes in, findings out. Pictures are decoded and written anew: what is given out was written by us. A video is
opened, measured, and a picture of it taken; its bytes are given out as they are, under the type that its content has.

In the trade's words: file type detection, magic bytes, decompression bomb, thumbnail.
"""

import io
from dataclasses import dataclass, field
from typing import IO, Any

LARGEST_PIXELS = 40_000_000
LONGEST_SIDE = 2560
PREVIEW_SIDE = 480
QUALITY = 90
LONGEST_SECONDS = 4 * 3600.0
MOST_STREAMS = 8
PICTURES = {"JPEG": "image/jpeg", "PNG": "image/png", "WEBP": "image/webp", "GIF": "image/gif"}
# What a browser or network takes of videos: the container's own word to its media type.
VIDEOS = {"mov,mp4,m4a,3gp,3g2,mj2": "video/mp4", "matroska,webm": "video/webm"}
_PDF = b"%PDF-"


class NotTaken(Exception):
    """The file is none that is taken; the text says why and what to do, for people."""


@dataclass(frozen=True, kw_only=True)
class Made:
    """A rendition's bytes."""

    purpose: str
    content: bytes
    media_type: str
    width: int
    height: int


@dataclass(frozen=True, kw_only=True)
class Looked:
    """What a file is: pixels as it is to be seen, seconds for videos, a note for people, and what was made of it."""

    kind: str
    media_type: str
    width: int | None = None
    height: int | None = None
    seconds: float | None = None
    note: str = ""
    made: list[Made] = field(default_factory=list)


def look(file: IO[bytes]) -> Looked:
    """Look into a file. Raises NotTaken for what is no picture, video or document that is taken."""
    head = file.read(4096)
    file.seek(0)
    if head.startswith(_PDF):
        return Looked(kind="document", media_type="application/pdf")
    if head.lstrip()[:1] == b"<":
        raise NotTaken("This is a page or a drawing in text (HTML, SVG). Save it as a PNG or JPEG and bring that.")
    if head[4:8] == b"ftyp" and head[8:12] in (b"heic", b"heix", b"mif1", b"msf1", b"hevc"):
        raise NotTaken("This picture is in a form that networks do not take (HEIC). Save it as a JPEG and bring that.")
    if head[4:8] == b"ftyp" or head.startswith(b"\x1a\x45\xdf\xa3"):
        return _video(file)
    return _picture(file)


# -- pictures


def _picture(file: IO[bytes]) -> Looked:
    import warnings

    from PIL import Image, ImageOps

    Image.MAX_IMAGE_PIXELS = LARGEST_PIXELS
    warnings.simplefilter("error", Image.DecompressionBombWarning)
    try:
        image: Any = Image.open(file, formats=list(PICTURES))
    except (Image.DecompressionBombWarning, Image.DecompressionBombError):
        raise NotTaken(_TOO_LARGE) from None
    except Exception:  # noqa: BLE001 (whatever a reader of pictures meets in hostile bytes)
        raise NotTaken(
            "This is no picture, video or PDF that can be read. Bring a JPEG, PNG, WebP, GIF, MP4, WebM or PDF."
        ) from None
    media_type = PICTURES[image.format]
    if image.width * image.height > LARGEST_PIXELS:
        raise NotTaken(_TOO_LARGE)
    note = "Only its first picture is shown and sent." if getattr(image, "n_frames", 1) > 1 else ""
    try:
        image.load()
        image = _in_srgb(ImageOps.exif_transpose(image))
    except Exception:  # noqa: BLE001 (as above)
        raise NotTaken("The picture is damaged: it ends too early. Save it again and bring that.") from None
    return Looked(
        kind="picture", media_type=media_type, width=image.width, height=image.height, note=note, made=renditions(image)
    )


_TOO_LARGE = f"The picture has more than {LARGEST_PIXELS // 1_000_000} million pixels. Make it smaller and bring that."


def _in_srgb(image: Any) -> Any:
    """The picture in the colours that every screen has: networks drop a profile, and colours with it."""
    from PIL import ImageCms

    profile = image.info.get("icc_profile")
    has_alpha = image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info
    if profile and image.mode in ("RGB", "RGBA", "CMYK", "L"):
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            mode = "RGBA" if image.mode == "RGBA" else "RGB"
            made = ImageCms.profileToProfile(image, source, ImageCms.createProfile("sRGB"), outputMode=mode)
            if made is not None:
                return made
        except (ImageCms.PyCMSError, OSError):
            pass  # a profile that cannot be read says nothing of the colours
    return image.convert("RGBA" if has_alpha else "RGB")


def renditions(image: Any) -> list[Made]:
    """A picture to be sent and one to be looked through, written anew: no word of the camera's is in them."""
    return [_fitted(image, purpose, side) for purpose, side in (("full", LONGEST_SIDE), ("preview", PREVIEW_SIDE))]


def _fitted(image: Any, purpose: str, side: int) -> Made:
    from PIL import Image

    fitted = image.copy()
    fitted.thumbnail((side, side), Image.Resampling.LANCZOS)
    # What the reader knew of the file is not written again.
    fitted.info = {}
    out = io.BytesIO()
    if fitted.mode == "RGBA":
        fitted.save(out, "PNG", optimize=purpose == "preview")
        media_type = "image/png"
    else:
        fitted.save(out, "JPEG", quality=QUALITY, progressive=True)
        media_type = "image/jpeg"
    return Made(
        purpose=purpose, content=out.getvalue(), media_type=media_type, width=fitted.width, height=fitted.height
    )


# -- videos


def _video(file: IO[bytes]) -> Looked:
    import av

    try:
        # Nothing else is opened than these bytes: no list of other files, no address.
        container: Any = av.open(file, mode="r", options={"protocol_whitelist": ""}, metadata_errors="ignore")
    except (av.FFmpegError, ValueError):
        raise NotTaken("The video cannot be read. Save it as an MP4 and bring that.") from None
    with container:
        media_type = VIDEOS.get(container.format.name)
        if media_type is None or len(container.streams) > MOST_STREAMS or not container.streams.video:
            raise NotTaken("This holds no video that is taken. Save it as an MP4 or WebM and bring that.")
        stream = container.streams.video[0]
        seconds = float(container.duration / av.time_base) if container.duration else 0.0
        if not 0 < seconds <= LONGEST_SECONDS:
            raise NotTaken("How long the video is cannot be told, or it is longer than four hours. Save it again.")
        if stream.width * stream.height > LARGEST_PIXELS:
            raise NotTaken("The video has too many pixels. Make it smaller and bring that.")
        image = _still(container, stream)
    return Looked(
        kind="video", media_type=media_type, width=image.width, height=image.height, seconds=round(seconds, 3),
        made=[_fitted(image, "preview", PREVIEW_SIDE)],
    )  # fmt: skip


def _still(container: Any, stream: Any) -> Any:
    """A picture of the video from its first second on, turned as it is to be seen."""
    import av

    stream.thread_type = "NONE"
    found = None
    try:
        for count, frame in enumerate(container.decode(stream)):
            found = frame
            if (frame.time or 0.0) >= 1.0 or count >= 120:
                break
    except (av.FFmpegError, ValueError):
        if found is None:
            raise NotTaken("The video cannot be shown: its pictures are damaged. Save it again.") from None
    if found is None:
        raise NotTaken("The video holds no picture. Save it again and bring that.")
    image: Any = found.to_image()
    turn = int(getattr(found, "rotation", 0) or 0) % 360
    return image.rotate(turn, expand=True) if turn else image
