"""Answers packed on their way, where that makes them smaller.

In the trade's words: compression, gzip.
"""

from http import HTTPStatus

from django.http import HttpRequest, HttpResponseBase
from django.middleware.gzip import GZipMiddleware

# Pictures, films, archives, workbooks and PDFs are small as they are: to pack them again costs time, their length, and
# the asking for a part of them.
PACKED_ALREADY = (
    "image/", "video/", "audio/", "font/",
    "application/zip", "application/pdf", "application/octet-stream", "application/vnd.",
)  # fmt: skip


class PackingMiddleware(GZipMiddleware):
    """Django's, for what is not packed yet."""

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        """The answer, packed where whoever asks takes it."""
        told = response.get("Content-Type", "")
        if told.startswith(PACKED_ALREADY) and not told.startswith("image/svg"):
            return response
        # Nothing packed is still a head and an end: bytes in an answer that may have none.
        if response.status_code in (HTTPStatus.NO_CONTENT, HTTPStatus.NOT_MODIFIED):
            return response
        packed: HttpResponseBase = super().process_response(request, response)
        return packed
