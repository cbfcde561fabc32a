"""The world's people follow the links in what Dakika publishes: real requests, as many as the model says."""

import asyncio
import logging
import random
import re

import httpx

from dakika_standins.state import State
from dakika_standins.world.clicks import AGENT_SHARES, AGENTS

LINK = re.compile(r"https?://(?:127\.0\.0\.1|localhost)(?::\d+)?/l/[A-Za-z0-9_-]+")
EVERY_SECONDS = 2.0
log = logging.getLogger(__name__)


async def follow_links(state: State) -> None:
    """For ever: bring the clicks made on each sent post's link up to what its counter says."""
    async with httpx.AsyncClient(timeout=5.0, follow_redirects=False) as client:
        while True:
            await asyncio.sleep(EVERY_SECONDS)
            for post in list(state.sent_posts):
                found = LINK.search(post.text)
                if found:
                    await _catch_up(
                        client, state, post.id, found[0], state.world.counters(post, state.now())["link_clicks"]
                    )


async def _catch_up(client: httpx.AsyncClient, state: State, post: str, link: str, wanted: int) -> None:
    done = int(state.data["clicked"].get(post, 0))
    for i in range(done, min(wanted, done + 20)):
        network = "brevi" if post.isdigit() else "commons"
        headers = {
            "User-Agent": random.choices(AGENTS, AGENT_SHARES)[0],
            "Referer": f"https://{network}.example/",
            "X-Forwarded-For": f"198.51.100.{(i * 37 + hash(post)) % 254 + 1}",
        }
        try:
            await client.get(link, headers=headers)
        except httpx.HTTPError as error:
            log.warning("a link could not be followed: %s", type(error).__name__)
            return
        state.data["clicked"][post] = i + 1
        state.save()
