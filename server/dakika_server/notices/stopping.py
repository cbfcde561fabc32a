"""Ending what comes by mail from within a letter, without signing in (RFC 8058)."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from django.utils.html import escape

_PAGE = (
    '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">'
    "<title>Dakika</title><body><main><h1>{title}</h1>{rest}</main></body></html>"
)


def stop_headers(address: str) -> dict[str, str]:
    """Header fields by which a mail program ends it with one POST, without a page in between (RFC 8058, 3.1)."""
    return {"List-Unsubscribe": f"<{address}>", "List-Unsubscribe-Post": "List-Unsubscribe=One-Click"}


def answer_stop(request: HttpRequest, what: str, stop: Callable[[], str | None]) -> HttpResponse:
    """By POST it is ended, as mail programs do; a GET asks first.

    what: what it is called in general ("digest"); stop ends it and says whose it was, None where there is none. Mail
    programs and their scanners open addresses by themselves, so that opening it ends nothing.
    """
    if request.method == "POST":
        name = stop()
        said = f"The {what} of {escape(name)} is no longer sent." if name else f"This {what} has ended already."
        return HttpResponse(_PAGE.format(title=said, rest=""))
    if request.method in ("GET", "HEAD"):
        form = f'<form method="post"><button>Stop this {what}</button></form>'
        return HttpResponse(_PAGE.format(title=f"Stop this {what}?", rest=form))
    return HttpResponse(status=405, headers={"Allow": "GET, POST"})
