"""What tests of files of people share: pictures and videos made on the spot."""

import io
from typing import Any

import numpy as np


def picture(width: int = 60, height: int = 40, form: str = "JPEG", mode: str = "RGB", **more: Any) -> bytes:
    """A picture of one colour; more is what its writer takes."""
    from PIL import Image

    out = io.BytesIO()
    Image.new(mode, (width, height), (200, 30, 60, 128)[: len(mode)]).save(out, form, **more)
    return out.getvalue()


def video(form: str = "mp4", codec: str = "mpeg4", frames: int = 50, width: int = 96, height: int = 160) -> bytes:
    """A video at 25 pictures a second that grows brighter."""
    import av

    out = io.BytesIO()
    with av.open(out, "w", format=form) as container:
        stream: Any = container.add_stream(codec, rate=25)
        stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
        for i in range(frames):
            frame = av.VideoFrame.from_ndarray(np.full((height, width, 3), i * 4 % 255, np.uint8), format="rgb24")
            container.mux(stream.encode(frame))
        container.mux(stream.encode())
    return out.getvalue()


PDF = b"%PDF-1.7\n1 0 obj<</Type/Catalog>>endobj\ntrailer<</Root 1 0 R>>\n%%EOF"


def brought(actor: Any, brand: Any, content: bytes, name: str = "clock.jpg") -> Any:
    """An asset that was brought and looked into."""
    from dakika_server.media.actions import add_asset
    from dakika_server.media.checking import check

    asset, _ = add_asset(actor, brand, name=name, size=len(content), file=io.BytesIO(content))
    check(asset.pk)
    asset.refresh_from_db()
    return asset
