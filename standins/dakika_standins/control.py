"""The hand on the world: faults, what Dakika would have collected in the past half-year, the truth for tests."""

from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.archive import Names, archive_of
from dakika_standins.fediverse import actor_address, fedi_handle, note_address
from dakika_standins.http import NetworkApi, state_of
from dakika_standins.networks.brevi.api import Brevi
from dakika_standins.networks.commons.api import Commons
from dakika_standins.networks.corkboard.api import Corkboard
from dakika_standins.networks.doorstep.api import Doorstep
from dakika_standins.networks.guildhall.api import Guildhall
from dakika_standins.networks.longplay.api import Longplay
from dakika_standins.networks.pictor.api import Pictor
from dakika_standins.networks.vignette.api import Vignette
from dakika_standins.sites.drawings import picture_of
from dakika_standins.state import State
from dakika_standins.world.model import WorldPost
from dakika_standins.world.rules import RULES
from dakika_standins.world.scenario import Account

APIS: dict[str, NetworkApi] = {
    api.key: api for api in (Commons(), Brevi(), Pictor(), Guildhall(), Vignette(), Corkboard(), Longplay(), Doorstep())
}


def external_id(state: State, account: Account) -> str:
    """Identifier of an account as its network's API gives it."""
    if account.network == "activitypub":
        return actor_address(account, state.address)
    return APIS[account.network].account_id(account)


def post_id(account: Account, post: WorldPost, state: State) -> str:
    """Identifier of a post as its network's API gives it."""
    if account.network == "guildhall":
        return f"tag:guildhall.example,2026:update/{post.id}"
    return note_address(account, post, state.address) if account.network == "activitypub" else post.id


async def archive(request: Request) -> Response:
    """Half a year of what was collected, for the demo."""
    state = state_of(request)
    state.address = str(request.base_url).rstrip("/")

    def handle(account: Account) -> str:
        return fedi_handle(account, state.address) if account.network == "activitypub" else account.handle

    names = Names(
        account=lambda account: external_id(state, account), handle=handle,
        post=lambda account, post: post_id(account, post, state),
        account_picture=lambda account: f"/pictures/{account.key}.svg", post_picture=picture_of,
    )  # fmt: skip
    return JSONResponse(archive_of(state, names))


async def faults(request: Request) -> Response:
    """Read or set faults: {"commons.error500": 0.3, "brevi.slow": 2, ...}; 0 switches one off."""
    state = state_of(request)
    if request.method == "POST":
        for name, strength in (await request.json()).items():
            state.data["faults"][name] = float(strength)
        state.calls.clear()
        state.save()
    return JSONResponse(state.data["faults"])


async def remove(request: Request) -> Response:
    """Take a post down."""
    state = state_of(request)
    state.data["removed"].append((await request.json())["id"])
    state.save()
    return JSONResponse({"ok": True})


async def grant(request: Request) -> Response:
    """Tokens without a consent page, for the demo's own profiles."""
    body = await request.json()
    scope = body.get("scope") or " ".join(RULES[body["network"]].scopes)
    return JSONResponse(state_of(request).grant(body["network"], body["owner"], scope))


async def correct(request: Request) -> Response:
    """Correct a post's counters: {"id": ..., "share": 0.9}."""
    state, body = state_of(request), await request.json()
    state.data["corrected"][str(body["id"])] = float(body["share"])
    state.save()
    return JSONResponse({"ok": True})


async def bulk(request: Request) -> Response:
    """Give an account many posts: {"key": "commons-orreryhouse", "count": 10000}. For measuring."""
    state, body = state_of(request), await request.json()
    state.world.add_bulk(str(body["key"]), int(body["count"]))
    state.forget_order()
    return JSONResponse({"ok": True})


async def truth(request: Request) -> Response:
    """What an account truly has now: posts with their counters, comments; ?key=network-handle."""
    state = state_of(request)
    account = state.world.accounts[request.query_params["key"]]
    return JSONResponse({
        post_id(account, p, state): {"counters": state.counters(p), "comments": [c.id for c in state.comments(p)]}
        for p in state.posts(account.key)
    })  # fmt: skip


async def sent(request: Request) -> Response:
    """What was published through the APIs, in order."""
    return JSONResponse(state_of(request).data["sent"])


async def reset(request: Request) -> Response:
    """Begin the world anew."""
    state_of(request).reset()
    return JSONResponse({"ok": True})


async def health(request: Request) -> Response:
    """Whether the process is up."""
    return JSONResponse({"ok": True, "now": state_of(request).now().isoformat()})


def control_routes() -> list[Route]:
    """All of the hand on the world."""
    return [
        Route("/control/health", health),
        Route("/control/archive", archive),
        Route("/control/faults", faults, methods=["GET", "POST"]),
        Route("/control/remove", remove, methods=["POST"]),
        Route("/control/grant", grant, methods=["POST"]),
        Route("/control/correct", correct, methods=["POST"]),
        Route("/control/bulk", bulk, methods=["POST"]),
        Route("/control/truth", truth),
        Route("/control/sent", sent),
        Route("/control/reset", reset, methods=["POST"]),
    ]
