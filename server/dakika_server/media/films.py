"""A picture out of a video, and a short video out of pictures. Pure; run in a child with bounds.

A sequence shows each picture whole, on a ground of one colour, for the same time; there is nothing but pictures in it.

In the trade's words: transcoding.
"""

import io
from collections.abc import Sequence
from fractions import Fraction
from typing import Any, cast

RATE = 25
LONGEST_SIDE = 1280
MOST_PICTURES = 20
SHORTEST, LONGEST = 0.5, 10.0
GROUND = "#1c1714"


def still_of(content: bytes, seconds: float) -> bytes:
    """The picture that a video shows at some seconds, the last one where it is shorter, as a JPEG."""
    import av

    container: Any = av.open(io.BytesIO(content), options={"protocol_whitelist": ""}, metadata_errors="ignore")
    with container:
        stream: Any = container.streams.video[0]
        stream.thread_type = "NONE"
        if stream.time_base:
            container.seek(int(seconds / stream.time_base), stream=stream, backward=True)
        found: Any = None
        for frame in container.decode(stream):
            found = frame
            if (frame.time or 0.0) >= seconds:
                break
    if found is None:
        raise ValueError("the video shows nothing")
    image = found.to_image()
    turn = int(getattr(found, "rotation", 0) or 0) % 360
    out = io.BytesIO()
    (image.rotate(turn, expand=True) if turn else image).save(out, "JPEG", quality=92)
    return out.getvalue()


def sequence_of(pictures: Sequence[bytes], seconds: float, shape: float) -> bytes:
    """Pictures one after the other as an MP4 of a shape (width divided by height), each for so many seconds.

    Raises ValueError for no picture, too many, or a time or shape that is none.
    """
    import av
    from PIL import Image

    if not 0 < len(pictures) <= MOST_PICTURES or not SHORTEST <= seconds <= LONGEST or not 0.2 <= shape <= 5:
        raise ValueError("no such sequence")
    wide = LONGEST_SIDE if shape >= 1 else round(LONGEST_SIDE * shape)
    high = LONGEST_SIDE if shape <= 1 else round(LONGEST_SIDE / shape)
    size = (wide // 2 * 2, high // 2 * 2)  # the codec takes even numbers alone
    out = io.BytesIO()
    with av.open(out, "w", format="mp4") as container:
        stream: Any = container.add_stream("libx264", rate=RATE)
        stream.width, stream.height, stream.pix_fmt = *size, "yuv420p"
        stream.options = {"preset": "veryfast", "crf": "21"}
        stream.codec_context.thread_count = 1  # each more takes address space, which is bounded
        at = 0
        for content in pictures:
            image: Any = Image.open(io.BytesIO(content)).convert("RGB")
            image.thumbnail(size, Image.Resampling.LANCZOS)
            shown = Image.new("RGB", size, GROUND)
            shown.paste(image, ((size[0] - image.width) // 2, (size[1] - image.height) // 2))
            frame: Any = cast(Any, av.VideoFrame).from_image(shown)
            for _ in range(round(seconds * RATE)):
                frame.pts, frame.time_base = at, Fraction(1, RATE)
                at += 1
                container.mux(stream.encode(frame))
        container.mux(stream.encode())
    return out.getvalue()
