"""What helps while one writes: options of the network, pages behind links, emoji by name, whom a mention means."""

import unicodedata
from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import Any
from urllib.parse import urlsplit

import regex
from dakika_core.networks.text_rules import Problem
from dakika_core.plan.mentions import Known, mentions_elsewhere
from django.core.cache import cache

from dakika_server.brands.models import Brand
from dakika_server.networks.connectors.base import NetworkError, Target
from dakika_server.networks.connectors.registry import connected
from dakika_server.networks.definitions import network_name
from dakika_server.networks.fetcher import FetchError, fetch, place_for_people
from dakika_server.plan.content import rules_of
from dakika_server.plan.pages import PageSays, page_says, with_embed
from dakika_server.shared import apart
from dakika_server.sources.collect import token_of
from dakika_server.sources.models import AudienceReading, Profile

KEPT_SECONDS = 600
MOST_EMOJI = 40
SECONDS, MEGABYTES = 5, 300
EMBED_BYTES = 200_000
_EMOJI = regex.compile(r"\p{Emoji_Presentation}")


def options_of(profile: Profile) -> list[dict[str, Any]]:
    """What the profile's network asks for with a post, with what may be chosen; asked for once in ten minutes.

    problem says why the choices are not known, so that nobody takes a missing board for none. shares: what part of the
    profile's audience each choice is, where it was read.
    """
    shares = _shares(profile)
    return [
        {"key": rule.key, "name": rule.name, "is_required": rule.is_required, "is_many": rule.is_many,
         "dimension": rule.dimension, "shares": shares.get(rule.dimension, {}),
         **({"choices": list(rule.choices), "problem": ""} if rule.choices else _asked(profile, rule.key))}
        for rule in rules_of(profile).options
    ]  # fmt: skip


def _shares(profile: Profile) -> dict[str, dict[str, float]]:
    """A profile's audience as last read, by dimension, for what its network lets one choose by."""
    dimensions = [rule.dimension for rule in rules_of(profile).options if rule.dimension]
    if not dimensions:
        return {}
    rows = AudienceReading.objects.filter(profile=profile, dimension__in=dimensions)
    return dict(rows.order_by("dimension", "-day").distinct("dimension").values_list("dimension", "segments"))


def _asked(profile: Profile, option: str) -> dict[str, Any]:
    key = f"plan-options-{profile.pk}-{option}"
    known = cache.get(key)
    if known is not None:
        return {"choices": known, "problem": ""}
    try:
        with connected(profile.network, token_of(profile)) as there:
            found = there.choices(
                Target(handle=profile.handle, external_id=profile.external_id, is_own=True), option
            )  # fmt: skip
    except NetworkError as error:
        return {"choices": [], "problem": str(error)}
    cache.set(key, found, KEPT_SECONDS)
    return {"choices": found, "problem": ""}


def preview(address: str) -> dict[str, Any]:
    """What a page says of itself, fetched with all guards; why not, where it could not be had."""
    nothing = {**vars(PageSays()), "host": urlsplit(address).hostname or "", "status": 0, "problem": ""}
    seen: list[tuple[int, str]] = []
    try:
        with place_for_people():
            got = fetch(address, accept="text/html", seen=seen)
    except FetchError as error:
        return {**nothing, "status": seen[-1][0] if seen else 0, "problem": str(error)}
    if "html" not in got.headers.get("content-type", "html"):
        return {**nothing, "status": got.status}
    try:
        said: PageSays = apart.called(page_says, got.text, got.address, seconds=SECONDS, megabytes=MEGABYTES)
        if said.embed:
            said = _embedded(said)
    except apart.TooMuch:
        return {**nothing, "status": got.status, "problem": "The page is too large to be read."}
    return {**vars(said), "host": urlsplit(got.address).hostname or "", "status": got.status, "problem": ""}


def _embedded(said: PageSays) -> PageSays:
    """A page with what its oEmbed document adds; without, where that cannot be had."""
    try:
        with place_for_people():
            got = fetch(said.embed, accept="application/json", most_bytes=EMBED_BYTES)
    except FetchError:
        return said
    found: PageSays = apart.called(with_embed, said, got.text, got.address, seconds=SECONDS, megabytes=MEGABYTES)
    return found


@lru_cache(maxsize=1)
def _names() -> list[tuple[str, str]]:
    """Every character that is shown as an emoji, with its name in the Unicode Character Database."""
    every = (chr(code) for code in range(0x2000, 0x1FB00))
    return [(one, unicodedata.name(one).lower()) for one in every if _EMOJI.match(one) and unicodedata.name(one, "")]


def emoji(text: str) -> list[dict[str, str]]:
    """Emoji whose name holds all the words, those that begin with the text first."""
    words = text.casefold().split()
    found = [(one, name) for one, name in _names() if words and all(word in name for word in words)]
    found.sort(key=lambda pair: (not pair[1].startswith(words[0]), len(pair[1]), pair[1]))
    return [{"character": one, "name": name} for one, name in found[:MOST_EMOJI]]


def known_profiles(brand: Brand) -> list[Known]:
    """Everybody whose handles are known: profiles that are followed, our own among them."""
    rows = Profile.objects.filter(brand=brand, is_followed=True).order_by("pk")
    return [
        Known(network=network, handle=handle.removeprefix("@"), owner=owner or brand.name)
        for network, handle, owner in rows.values_list("network", "handle", "competitor__name")
    ]


def called_otherwise(profile: Profile, values: Mapping[str, Any], known: Iterable[Known]) -> list[Problem]:
    """What is to be said of those whom a version names by a handle of another network: advice, for it stops nothing."""
    here = network_name(profile.network)
    parts = {"text": values.get("text", ""), "first_comment": values.get("first_comment", "")}
    found = []
    for part, text in parts.items():
        for one in mentions_elsewhere([text], profile.network, known):
            message = f"@{one.handle} is {one.owner} elsewhere: " + (
                f"on {here} they are @{one.here}." if one.here else f"nobody of that name is known on {here}."
            )
            found.append(Problem(code="called_otherwise", message=message, is_blocking=False, part=part))
    return found
