"""How bytes that people brought go out: a browser shows them at most, and runs nothing."""

from mimetypes import guess_extension, guess_type
from pathlib import PurePath
from typing import IO

from django.http import FileResponse, HttpResponseBase

KEPT_SECONDS = 7 * 24 * 3600
# Whatever the bytes are, a browser only shows them: it runs nothing, loads nothing, and guesses no other type.
ONLY_SHOWN = {
    "Content-Security-Policy": "default-src 'none'; img-src 'self'; media-src 'self'; sandbox",
    "X-Content-Type-Options": "nosniff",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cache-Control": f"private, max-age={KEPT_SECONDS}, immutable",
}


def to_keep(content: IO[bytes], name: str, media_type: str) -> HttpResponseBase:
    """A file made for whoever asks, to be kept: no browser opens it, and none remembers it. Its name ends as its type
    does, whatever it was before it was made.
    """
    if guess_type(name)[0] != media_type:
        name = PurePath(name).stem + (guess_extension(media_type) or "")
    return FileResponse(
        content, as_attachment=True, filename=name, content_type="application/octet-stream",
        headers={**ONLY_SHOWN, "Cache-Control": "private, no-store"},
    )  # fmt: skip
