"""How bytes that people brought go out: a browser shows them at most, and runs nothing.

A part of them is given to whoever asks for one (RFC 9110, 14), so that a film can be jumped in, and begins at all in
players that ask for its first bytes alone.

In the trade's words: range requests, partial content, streaming of video.
"""

import re
from collections.abc import Iterator
from mimetypes import guess_extension, guess_type
from pathlib import PurePath
from typing import IO, Any

from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse
from django.utils.http import content_disposition_header

from dakika_server.media import storage

KEPT_SECONDS = 7 * 24 * 3600
# Whatever the bytes are, a browser only shows them: it runs nothing, loads nothing, and guesses no other type.
ONLY_SHOWN = {
    "Content-Security-Policy": "default-src 'none'; img-src 'self'; media-src 'self'; sandbox",
    "X-Content-Type-Options": "nosniff",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cache-Control": f"private, max-age={KEPT_SECONDS}, immutable",
}


PIECE = 64 * 1024
# One part; of several at once the whole is given, as the standard allows.
_ONE_PART = re.compile(r"bytes=(?:(\d{1,18})-(\d{1,18})?|-(\d{1,18}))", re.ASCII)


def shown(
    request: HttpRequest, name: str, media_type: str, *, as_attachment: bool = False, filename: str = ""
) -> HttpResponseBase:
    """What stands in the storage under a name, or the part of it that is asked for: 206, or 416 beyond its end.

    Raises FileNotFoundError where the bytes are gone.
    """
    content = storage.opened(name)
    size = int(content.size)
    headers = {**ONLY_SHOWN, "Accept-Ranges": "bytes"}
    # Whoever asks for a part "if it is still the same" gets the whole: no mark of ours says that it is.
    told = "" if "If-Range" in request.headers else request.headers.get("Range", "")
    bounds = _bounds(told, size) if request.method == "GET" else None
    if bounds is None:
        return FileResponse(
            content, content_type=media_type, headers=headers, as_attachment=as_attachment, filename=filename
        )
    first, last = bounds
    if first >= size:
        content.close()
        return HttpResponse(status=416, headers={**headers, "Content-Range": f"bytes */{size}"})
    headers |= {"Content-Range": f"bytes {first}-{last}/{size}", "Content-Length": str(last - first + 1)}
    if kept_as := content_disposition_header(as_attachment, filename):
        headers["Content-Disposition"] = kept_as
    return StreamingHttpResponse(_part(content, first, last), status=206, content_type=media_type, headers=headers)


def _bounds(told: str, size: int) -> tuple[int, int] | None:
    """The first and the last byte that are asked for, the first at the size where there is nothing to give.

    None is the whole: where nothing, several parts, or what is no part at all is asked for.
    """
    asked = _ONE_PART.fullmatch(told.strip())
    if asked is None:
        return None
    first, last, ending = (None if one is None else int(one) for one in asked.groups())
    if first is None:
        return (max(0, size - ending) if ending else size), size - 1
    if last is not None and last < first:
        return None
    return min(first, size), size - 1 if last is None else min(last, size - 1)


def _part(content: Any, first: int, last: int) -> Iterator[bytes]:
    with content:
        content.seek(first)
        left = last - first + 1
        while left > 0 and (piece := content.read(min(PIECE, left))):
            left -= len(piece)
            yield piece


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
