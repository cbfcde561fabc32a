"""The stand-ins' application: all networks and sites in one process on loopback."""

import asyncio
import os
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import datetime
from pathlib import Path

from starlette.applications import Starlette

from dakika_standins.audience import live
from dakika_standins.control import control_routes
from dakika_standins.fediverse import fediverse_routes
from dakika_standins.mail import Catcher, catching, mail_routes
from dakika_standins.networks.brevi.api import brevi_routes
from dakika_standins.networks.commons.api import commons_routes
from dakika_standins.networks.corkboard.api import corkboard_routes
from dakika_standins.networks.doorstep.api import doorstep_routes
from dakika_standins.networks.guildhall.api import guildhall_routes
from dakika_standins.networks.longplay.api import longplay_routes
from dakika_standins.networks.pictor.api import pictor_routes
from dakika_standins.networks.vignette.api import vignette_routes
from dakika_standins.programs import program_routes
from dakika_standins.push import push_routes
from dakika_standins.sites.collection import collection_routes
from dakika_standins.sites.drawings import drawing_routes
from dakika_standins.sites.pages import site_routes
from dakika_standins.state import State

NETWORKS = (
    commons_routes, brevi_routes, pictor_routes, guildhall_routes, vignette_routes, corkboard_routes, longplay_routes,
    doorstep_routes,
)  # fmt: skip


def create_app(state: State, *, has_audience: bool = True, mail_port: int = 0) -> Starlette:
    """Put the application together around a state."""

    @asynccontextmanager
    async def life(app: Starlette) -> AsyncIterator[None]:
        people = asyncio.create_task(live(state)) if has_audience else None
        async with catching(app.state.mail, mail_port):
            yield
        if people:
            people.cancel()

    routes = [
        *control_routes(),
        *fediverse_routes(),
        *drawing_routes(),
        *collection_routes(),
        *site_routes(),
        *mail_routes(),
        *push_routes(),
        *program_routes(),
    ]
    for network in NETWORKS:
        routes += network()
    app = Starlette(routes=routes, lifespan=life)
    app.state.world = state
    app.state.mail = Catcher()
    return app


def from_environment() -> Starlette:
    """The application as the supervisor starts it."""
    fixed = os.environ.get("DAKIKA_FIXED_NOW")
    path = Path(os.environ.get("DAKIKA_STANDINS_STATE", ".dakika/standins.json"))
    return create_app(
        State(path, fixed_now=datetime.fromisoformat(fixed) if fixed else None), has_audience=not fixed,
        mail_port=int(os.environ.get("DAKIKA_STANDINS_MAIL_PORT") or 0),
    )  # fmt: skip
