"""The front end's one page, for every address that is nobody else's."""

from functools import lru_cache

from django.conf import settings
from django.db import connection
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect, JsonResponse
from django.views.decorators.csrf import csrf_exempt, ensure_csrf_cookie


@lru_cache(maxsize=1)
def _page() -> bytes:
    return (settings.DIST / "index.html").read_bytes()


@ensure_csrf_cookie
def front_end(request: HttpRequest) -> HttpResponse:
    """The page; it asks for everything else through the API."""
    try:
        page = _page()
    except FileNotFoundError:
        return HttpResponse("The front end is not built. Run ./dakika start.", status=503, content_type="text/plain")
    return HttpResponse(page, headers={"Cache-Control": "no-cache"})


@csrf_exempt
def shared(request: HttpRequest) -> HttpResponse:
    """What a device hands over (Web Share Target) is taken by the worker in the browser, and never comes here.

    Where that worker is not there yet it does: it is not read, and the page says what to do.
    """
    return HttpResponseRedirect("/share?lost=1") if request.method == "POST" else front_end(request)


def health(request: HttpRequest) -> JsonResponse:
    """Whether web server and database answer."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT 1")
    return JsonResponse({"ok": True})
