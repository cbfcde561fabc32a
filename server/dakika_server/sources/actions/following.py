"""Following competitors: by handle, by a part of the name, by their web site."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlsplit

from dakika_core.sources.discovery import FoundProfile, SitePage, read_site
from dakika_core.values.addresses import AddressError, clean_destination
from django.db import IntegrityError, transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.networks.connectors.base import Account, NetworkError, NotFound, Target
from dakika_server.networks.connectors.registry import connected
from dakika_server.networks.definitions import all_networks, network
from dakika_server.networks.fetcher import Fetched, FetchError, fetch, place_for_people
from dakika_server.shared import audit, clock
from dakika_server.shared.apart import TooMuch, called
from dakika_server.shared.errors import Conflict, Problem, field_errors
from dakika_server.sources.actions.collecting import request_run
from dakika_server.sources.models import Competitor, Profile

MOST_CHECKED = 24
SHORTEST_SEARCH = 2


@dataclass(frozen=True, kw_only=True)
class Found:
    """A profile that a site names, as its network shows it; `problem` says why it cannot be followed."""

    network: str
    handle: str
    evidence: str
    account: Account | None = None
    problem: str = ""
    is_followed: bool = False


@dataclass(frozen=True, kw_only=True)
class Site:
    """What a site says of its owner: name, picture, feeds, profiles."""

    address: str
    name: str
    picture: str
    feeds: tuple[str, ...]
    profiles: tuple[Found, ...]


def public_account(network_key: str, handle: str) -> Account:
    """Anybody's account. Raises NetworkError, NotFound among them."""
    with connected(network_key) as api:
        return api.account(Target(handle=handle, external_id="", is_own=False))


def search_profiles(actor: Any, brand: Brand, *, network_key: str, text: str) -> list[Account]:
    """Public accounts by a part of their name, for who is typing; none for too few letters, or without search."""
    require(actor, brand, "sources.follow")
    if network_key not in all_networks():
        raise field_errors({"network": "There is no such network."})
    if len(text.strip()) < SHORTEST_SEARCH or not network(network_key).offer.has_search:
        return []
    try:
        with connected(network_key) as api:
            return api.search(text.strip())[:8]
    except NetworkError as error:
        raise Problem("network", str(error), status_code=502) from None


def add_competitor(actor: Any, brand: Brand, *, network_key: str, handle: str, name: str = "") -> Profile:
    """Follow somebody's profile by handle, under a competitor's name.

    Raises ValidationError when there is no such account, Conflict when it is followed already.
    """
    require(actor, brand, "sources.follow")
    _require_public(network_key)
    handle = handle.strip().lstrip("@")
    try:
        account = public_account(network_key, handle)
    except NotFound:
        raise field_errors(
            {"handle": f"{network(network_key).name} has no page called “{handle}”. Check the spelling."}
        ) from None
    except NetworkError as error:
        raise Problem("network", str(error), status_code=502) from None
    return _follow(actor, brand, network_key, account, name.strip() or account.name)


def _require_public(network_key: str) -> None:
    if network_key not in all_networks():
        raise field_errors({"network": "There is no such network."})
    if not network(network_key).has_public_profiles:
        raise field_errors({"network": f"{network(network_key).name} shows nobody's figures but one's own."})


def _follow(actor: Any, brand: Brand, network_key: str, account: Account, name: str, website: str = "") -> Profile:
    try:
        with transaction.atomic():
            competitor, _ = Competitor.objects.get_or_create(brand=brand, name=name[:120])
            if website and not competitor.website:
                Competitor.objects.filter(pk=competitor.pk).update(website=website[:500])
            known = Profile.objects.filter(brand=brand, network=network_key, external_id=account.external_id).first()
            if known and not known.is_followed and known.kind == Profile.Kind.COMPETITOR:
                known.is_followed, known.competitor = True, competitor
                known.save(update_fields=["is_followed", "competitor"])
                profile = known
            else:
                profile = Profile.objects.create(
                    brand=brand, network=network_key, external_id=account.external_id, handle=account.handle[:200],
                    name=account.name[:200], picture=account.picture[:500], kind=Profile.Kind.COMPETITOR,
                    competitor=competitor, added_at=clock.now(),
                )  # fmt: skip
            audit.record(actor, "follow_profile", profile, brand_id=brand.pk)
            request_run(profile)
    except IntegrityError:
        raise Conflict(
            "already_followed", f"{account.name} on {network(network_key).name} is followed already."
        ) from None
    return profile


def discover_site(actor: Any, brand: Brand, *, address: str) -> Site:
    """Read a web page and find which profiles its owner has, each asked for at its network.

    Raises ValidationError when the page cannot be had.
    """
    require(actor, brand, "sources.follow")
    address = address.strip()
    if address and "://" not in address:
        address = f"https://{address}"
    try:
        with place_for_people():
            fetched = fetch(clean_destination(address), accept="text/html, application/xhtml+xml;q=0.9")
            site = _read_apart(fetched)
    except (AddressError, FetchError) as error:
        raise field_errors({"address": str(error)}) from None
    followed = set(Profile.objects.filter(brand=brand, is_followed=True).values_list("network", "external_id"))
    return Site(
        address=fetched.address, name=site.name, picture=site.picture, feeds=site.feeds,
        profiles=tuple(_checked(found, followed) for found in [*site.profiles, *_actors(site)][:MOST_CHECKED]),
    )  # fmt: skip


def _read_apart(fetched: Fetched) -> SitePage:
    patterns = {key: one.address for key, one in all_networks().items() if one.address}
    try:
        site: SitePage = called(read_site, fetched.text, fetched.address, patterns, seconds=10, megabytes=700)
    except TooMuch:
        raise FetchError("The page takes far longer to read than a page of its size does.") from None
    return site


def _actors(site: SitePage) -> list[FoundProfile]:
    """Actors of the open standard: what the page calls its owner's (rel=me) and stands on none of the networks."""
    known = {profile.address for profile in site.profiles}
    found = []
    for address in site.links_me:
        parts = urlsplit(address)
        name = parts.path.rstrip("/").rpartition("/")[2].removeprefix("@")
        if address not in known and name and parts.scheme in ("http", "https"):
            handle = f"{name}@{parts.netloc}"
            found.append(FoundProfile(network="activitypub", handle=handle, address=address, evidence="rel-me"))
    return found


def _checked(found: FoundProfile, followed: set[tuple[str, str]]) -> Found:
    shown = Found(network=found.network, handle=found.handle, evidence=found.evidence)
    definition = network(found.network)
    if not definition.has_public_profiles:
        return Found(**{**vars(shown), "problem": f"{definition.name} shows nobody's figures but one's own."})
    try:
        account = public_account(found.network, found.handle)
    except NotFound:
        return Found(**{**vars(shown), "problem": "The site names it, but there is no such profile."})
    except NetworkError as error:
        return Found(**{**vars(shown), "problem": str(error)})
    is_followed = (found.network, account.external_id) in followed
    return Found(**{**vars(shown), "account": account, "is_followed": is_followed})


def follow_found(
    actor: Any, brand: Brand, *, name: str, website: str, profiles: Sequence[tuple[str, str]]
) -> list[Profile]:
    """Follow several profiles (network, handle) of one competitor. Those that are followed already stay as they are.

    Raises ValidationError when none is chosen or one is not there.
    """
    require(actor, brand, "sources.follow")
    if not profiles or not name.strip():
        raise field_errors({"profiles": "Choose at least one profile, and give the competitor a name."})
    made = []
    for network_key, handle in profiles[:MOST_CHECKED]:
        _require_public(network_key)
        try:
            account = public_account(network_key, handle)
        except NetworkError as error:
            raise field_errors({"profiles": f"{handle} on {network(network_key).name}: {error}"}) from None
        try:
            made.append(_follow(actor, brand, network_key, account, name.strip(), website))
        except Conflict:
            continue
    return made


def stop_following(actor: Any, profile: Profile, *, has_history_erased: bool = False) -> None:
    """Stop collecting a profile. What was collected stays unless one says otherwise."""
    require(actor, profile.brand, "sources.follow")
    with transaction.atomic():
        profile.is_followed, profile.next_run_at = False, None
        profile.save(update_fields=["is_followed", "next_run_at"])
        audit.record(actor, "stop_following", profile, brand_id=profile.brand_id, erased=has_history_erased)
        if has_history_erased:
            ask("sources.erase_profile", profile_id=profile.pk)
