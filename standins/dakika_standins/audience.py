"""The world's people: they follow the links in what Dakika publishes, and networks tell of their new comments."""

import asyncio
import hashlib
import hmac
import json
import logging
import os
import random
import re

import httpx

from dakika_standins import boosts
from dakika_standins.state import State
from dakika_standins.world.clicks import ADDRESSES, AGENT_SHARES, AGENTS, HOMES
from dakika_standins.world.model import WorldPost

LINK = re.compile(r"https?://(?:127\.0\.0\.1|localhost)(?::\d+)?/(?:l/)?[A-Za-z0-9_-]+(?![A-Za-z0-9_/-])")
EVERY_SECONDS = 2.0
# Of browsers those that are on when a message comes, and of those who see it those who follow it.
SHOWN, FOLLOWED = 0.8, 0.2
SENDER = os.environ.get("DAKIKA_PUBLIC_ADDRESS", "")
RECENT_POSTS = 12
log = logging.getLogger(__name__)


async def live(state: State) -> None:
    """For ever: clicks on each sent post's link as its counter says, and webhooks for new comments."""
    async with httpx.AsyncClient(timeout=5.0, follow_redirects=False) as client:
        while True:
            await asyncio.sleep(EVERY_SECONDS)
            for post in list(state.sent_posts):
                found = LINK.search(post.text)
                if found:
                    await _follow(client, state, post, found[0])
            await follow_boosts(client, state)
            await look_at_messages(client, state)
            await tell_of_comments(client, state)


async def _follow(client: httpx.AsyncClient, state: State, post: WorldPost, link: str) -> None:
    await _clicks(client, state, post, link, post.id, state.counters(post).get("link_clicks", 0))


async def _clicks(
    client: httpx.AsyncClient, state: State, post: WorldPost, link: str, counted_as: str, wanted: int
) -> None:
    done = int(state.data["clicked"].get(counted_as, 0))
    network = state.world.accounts[post.account].network
    owner = state.world.accounts[post.account].owner or "orrery"
    for i in range(done, min(wanted, done + 20)):
        (country, language), _ = random.choices(HOMES[owner], [share for _, share in HOMES[owner]])[0]
        headers = {
            "User-Agent": random.choices(AGENTS, AGENT_SHARES)[0],
            "Referer": f"https://{network}.example/",
            "Accept-Language": language,
            "X-Forwarded-For": ADDRESSES[country].format((i * 37 + hash(post.id)) % 254 + 1),
        }
        try:
            await client.get(link, headers=headers)
        except httpx.HTTPError as error:
            log.warning("a link could not be followed: %s", type(error).__name__)
            return
        state.data["clicked"][counted_as] = i + 1
        state.save()


async def follow_boosts(client: httpx.AsyncClient, state: State) -> None:
    """Clicks on the links of boosts, as many as each tells."""
    for boost in list(boosts.boosts(state).values()):
        post = state.find(boost["post"])
        found = LINK.fullmatch(boost["link"])
        if post is not None and found:
            wanted = boosts.told(state, boost)["link_clicks"]
            await _clicks(client, state, post, found[0], boost["id"], wanted)


async def look_at_messages(client: httpx.AsyncClient, state: State) -> None:
    """Browsers show what came, as the worker of whoever sent it says, and some of their people follow it."""
    for name, browser in list(state.data["browsers"].items()):
        chance = random.Random(f"{name}")
        for told in browser["shown"].values():
            if told.get("done"):
                continue
            told["done"] = True
            headers = {"User-Agent": chance.choices(AGENTS, AGENT_SHARES)[0], "Accept-Language": "pt-PT,pt;q=0.8"}
            try:
                if chance.random() < SHOWN:
                    await client.post(f"{SENDER}/push/shown/{told['token']}", headers=headers)
                    if chance.random() < FOLLOWED and LINK.fullmatch(told["address"]):
                        headers["X-Forwarded-For"] = ADDRESSES["PT"].format(chance.randrange(1, 255))
                        await client.get(told["address"], headers=headers)
            except httpx.HTTPError as error:
                log.warning("a message could not be shown: %s", type(error).__name__)
                return
            state.save()


async def tell_of_comments(client: httpx.AsyncClient, state: State) -> int:
    """Call every subscribed address once for each recent post that has new comments; returns how many calls went through.

    The body is signed with HMAC-SHA-256 of the subscriber's secret, in the header Signature-256.
    What is not answered with 2xx is told again the next time.
    """
    told = 0
    for key, hook in list(state.data["hooks"].items()):
        account = state.world.accounts[key]
        for post in state.posts(key)[:RECENT_POSTS]:
            count = len(state.comments(post))
            if count == int(state.data["called"].get(post.id, 0)):
                continue
            body = json.dumps(
                {"network": account.network, "account": key, "post": post.id, "event": "comment"}
            ).encode()
            mark = hmac.new(str(hook["secret"]).encode(), body, hashlib.sha256).hexdigest()
            try:
                headers = {"Content-Type": "application/json", "Signature-256": mark}
                answer = await client.post(hook["url"], content=body, headers=headers)
            except httpx.HTTPError as error:
                log.warning("a webhook was not answered: %s", type(error).__name__)
                break
            if answer.is_success:
                state.data["called"][post.id] = count
                state.save()
                told += 1
    return told
