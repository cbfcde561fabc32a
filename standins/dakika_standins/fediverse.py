"""A server that speaks ActivityPub (W3C) and WebFinger (RFC 7033): public actors, their outboxes, totals of reactions."""

from typing import Any
from urllib.parse import urlsplit

from starlette.requests import Request
from starlette.responses import JSONResponse, PlainTextResponse, Response
from starlette.routing import Route

from dakika_standins.http import state_of, with_faults
from dakika_standins.state import State
from dakika_standins.world.model import WorldPost
from dakika_standins.world.scenario import Account

CONTEXT = "https://www.w3.org/ns/activitystreams"
PUBLIC = "https://www.w3.org/ns/activitystreams#Public"
MEDIA = 'application/ld+json; profile="https://www.w3.org/ns/activitystreams"'
PER_PAGE = 20


def actor_address(account: Account, base: str) -> str:
    """Identifier of an actor."""
    return f"{base}/fediverse/people/{account.handle}"


def note_address(account: Account, post: WorldPost, base: str) -> str:
    """Identifier of a note."""
    return f"{actor_address(account, base)}/notes/{post.id}"


def fedi_handle(account: Account, base: str) -> str:
    """name@host, as people write it."""
    return f"{account.handle}@{urlsplit(base).netloc}"


def _account(state: State, handle: str) -> Account | None:
    return state.world.accounts.get(f"activitypub-{handle}")


def _reply(body: dict[str, Any]) -> Response:
    return Response(JSONResponse({"@context": CONTEXT, **body}).body, media_type=MEDIA)


def _base(request: Request) -> str:
    base = str(request.base_url).rstrip("/")
    state_of(request).address = base
    return base


async def webfinger(request: Request) -> Response:
    """RFC 7033: where an acct: lives."""
    resource = request.query_params.get("resource", "")
    base = _base(request)
    name, _, host = resource.removeprefix("acct:").partition("@")
    account = _account(state_of(request), name)
    if not resource.startswith("acct:"):
        return PlainTextResponse("resource is missing", 400)
    if account is None or host != urlsplit(base).netloc:
        return PlainTextResponse("nobody of that name", 404)
    body = {
        "subject": resource,
        "links": [
            {"rel": "http://webfinger.net/rel/profile-page", "type": "text/html", "href": f"{base}/sites/{name}"},
            {"rel": "self", "type": "application/activity+json", "href": actor_address(account, base)},
        ],
    }
    return JSONResponse(body, media_type="application/jrd+json", headers={"Access-Control-Allow-Origin": "*"})


async def actor(request: Request) -> Response:
    """An actor (ActivityPub, section 4)."""

    async def go() -> Response:
        account = _account(state_of(request), request.path_params["handle"])
        if account is None:
            return PlainTextResponse("gone", 404)
        me = actor_address(account, _base(request))
        return _reply({
            "id": me, "type": "Organization", "preferredUsername": account.handle, "name": account.name,
            "inbox": f"{me}/inbox", "outbox": f"{me}/outbox", "followers": f"{me}/followers",
            "icon": {"type": "Image", "mediaType": "image/svg+xml", "url": f"/pictures/{account.key}.svg"},
        })  # fmt: skip

    return await with_faults("activitypub", request, go)


def _note(state: State, account: Account, post: WorldPost, base: str) -> dict[str, Any]:
    me, seen = note_address(account, post, base), state.counters(post)
    note: dict[str, Any] = {
        "id": me, "type": "Note", "attributedTo": actor_address(account, base), "to": [PUBLIC],
        "published": post.published_at.isoformat().replace("+00:00", "Z"), "content": f"<p>{post.text}</p>", "url": me,
        "likes": {"id": f"{me}/likes", "type": "Collection", "totalItems": seen["reactions"]},
        "shares": {"id": f"{me}/shares", "type": "Collection", "totalItems": seen["shares"]},
        "replies": {"id": f"{me}/replies", "type": "Collection", "totalItems": seen["comments"]},
    }  # fmt: skip
    if post.format == "image":
        note["attachment"] = [{"type": "Image", "mediaType": "image/svg+xml", "url": f"/pictures/{account.key}.svg"}]
    return note


async def collection(request: Request) -> Response:
    """Followers (a total alone) and the outbox (pages of Create activities, ActivityStreams 2.0)."""

    async def go() -> Response:
        state, base = state_of(request), _base(request)
        account = _account(state, request.path_params["handle"])
        what = request.path_params["what"]
        if account is None or what not in ("followers", "outbox"):
            return PlainTextResponse("gone", 404)
        me = f"{actor_address(account, base)}/{what}"
        if what == "followers":
            total = state.world.followers(account.key, state.now().date())
            return _reply({"id": me, "type": "OrderedCollection", "totalItems": total})
        posts = state.posts(account.key)
        if "page" not in request.query_params:
            return _reply({"id": me, "type": "OrderedCollection", "totalItems": len(posts), "first": f"{me}?page=1"})
        page = max(1, int(request.query_params["page"]))
        part = posts[(page - 1) * PER_PAGE : page * PER_PAGE]
        body: dict[str, Any] = {
            "id": f"{me}?page={page}", "type": "OrderedCollectionPage", "partOf": me,
            "orderedItems": [
                {"id": f"{note_address(account, p, base)}/activity", "type": "Create",
                 "actor": actor_address(account, base), "object": _note(state, account, p, base)}
                for p in part
            ],
        }  # fmt: skip
        if page * PER_PAGE < len(posts):
            body["next"] = f"{me}?page={page + 1}"
        return _reply(body)

    return await with_faults("activitypub", request, go)


async def note(request: Request) -> Response:
    """One note."""

    async def go() -> Response:
        state = state_of(request)
        account, post = _account(state, request.path_params["handle"]), state.find(request.path_params["post"])
        if account is None or post is None:
            return PlainTextResponse("gone", 410)
        return _reply(_note(state, account, post, _base(request)))

    return await with_faults("activitypub", request, go)


def fediverse_routes() -> list[Route]:
    """All of the server."""
    return [
        Route("/.well-known/webfinger", webfinger),
        Route("/fediverse/people/{handle}", actor),
        Route("/fediverse/people/{handle}/notes/{post}", note),
        Route("/fediverse/people/{handle}/{what}", collection),
    ]
