"""Short addresses of earlier times, which stood on this server: they go on to the redirect, which counts."""

import re

from django.conf import settings
from django.http import HttpRequest, HttpResponse

CODE = re.compile(r"^[A-Za-z0-9_-]{1,64}$")


def follow_link(request: HttpRequest, code: str) -> HttpResponse:
    """302 to the same code at the redirect's own address; browsers keep the referrer on the way."""
    if request.method not in ("GET", "HEAD"):
        return HttpResponse(status=405, headers={"Allow": "GET, HEAD"})
    if not CODE.match(code):
        return HttpResponse("This link is not known.\n", status=404, content_type="text/plain; charset=utf-8")
    query = request.META.get("QUERY_STRING", "")[:2000]
    target = f"{settings.LINKS_ADDRESS}/{code}{'?' if query else ''}{query}"
    return HttpResponse(
        status=302, headers={"Location": target, "Cache-Control": "no-store, private", "Referrer-Policy": "unsafe-url"}
    )
