"""What networks tell of hashtags: asked for by the worker, kept by day, never waited for by anybody who writes."""

import logging
from collections.abc import Iterable, Sequence
from datetime import timedelta
from typing import Any

from django.core.cache import cache

from dakika_server.brands.models import Brand
from dakika_server.jobs.asking import ask
from dakika_server.networks.connectors.base import HashtagSeen, NetworkError, NotFound, Unavailable
from dakika_server.networks.connectors.registry import connected
from dakika_server.networks.definitions import all_networks
from dakika_server.plan.hashtags.sets import tag_of
from dakika_server.plan.models import FollowedHashtag, HashtagReading
from dakika_server.shared import clock
from dakika_server.sources.models import Profile

log = logging.getLogger(__name__)
# A reading stands for a day; what is followed is read every day, a little earlier each time rather than later.
FRESH, KEPT = timedelta(hours=23), timedelta(days=800)
MOST_AT_ONCE, MOST_RELATED = 40, 20
# Nobody is asked for the same within so many seconds, however often a screen wants it.
NOT_AGAIN_SECONDS = 120


def networks_that_tell(brand: Brand) -> list[str]:
    """Networks where the brand is or looks at somebody, and whose public search knows of hashtags."""
    there = Profile.objects.filter(brand=brand, is_followed=True).order_by("network").values_list("network", flat=True)
    known = all_networks()
    return [key for key in dict.fromkeys(there) if key in known and known[key].offer.has_hashtags]


def latest(brand: Brand, tags: Iterable[str]) -> dict[str, list[HashtagReading]]:
    """Of each hashtag what each network told last; one query."""
    found: dict[str, list[HashtagReading]] = {}
    rows = HashtagReading.objects.filter(brand=brand, tag__in=list(tags)).order_by("tag", "network", "-taken_at")
    for row in rows.distinct("tag", "network"):
        found.setdefault(row.tag, []).append(row)
    return found


def ask_for(brand: Brand, tags: Sequence[str], known: dict[str, list[HashtagReading]]) -> bool:
    """Have the worker look at hashtags of which nothing is known, or nothing of today. Whether it was asked to."""
    networks, since = networks_that_tell(brand), clock.now() - FRESH
    wanted = [
        tag for tag in tags
        if {row.network for row in known.get(tag, []) if row.taken_at > since} < set(networks)
        and cache.add(f"hashtag-{brand.pk}-{tag}", True, NOT_AGAIN_SECONDS)
    ]  # fmt: skip
    if wanted:
        ask("plan.look_at_hashtags", brand_id=brand.pk, tags=wanted[:MOST_AT_ONCE])
    return bool(wanted)


def look_at(brand_id: int, tags: Sequence[str]) -> int:
    """Ask the networks for hashtags; how many answers were kept. One that is away is not asked for the rest."""
    brand = Brand.objects.filter(pk=brand_id).first()
    if brand is None:
        return 0
    kept, since = 0, clock.now() - FRESH
    recent = set(
        HashtagReading.objects.filter(brand=brand, tag__in=list(tags), taken_at__gt=since).values_list("tag", "network")
    )
    for network in networks_that_tell(brand):
        try:
            with connected(network) as there:
                for tag in tags:
                    if (tag, network) not in recent:
                        _keep(brand, network, tag, there.hashtag)
                        kept += 1
        except NetworkError as error:
            log.warning("%s tells nothing of hashtags now: %s", network, error)
    return kept


def _keep(brand: Brand, network: str, tag: str, hashtag: Any) -> None:
    """What a network tells of a hashtag. Raises Unavailable where it is away; a refusal is kept as such."""
    row = HashtagReading(brand=brand, network=network, tag=tag, taken_at=clock.now())
    try:
        said: HashtagSeen = hashtag(tag)
    except NotFound:
        row.uses = None
    except Unavailable:
        raise
    except NetworkError as error:
        row.problem = str(error)[:300]
    else:
        row.uses, row.week = said.uses, said.week
        row.warm, row.cold, row.is_restricted = said.warm, said.cold, said.is_restricted
        row.related = [one for one in (tag_of(word).casefold() for word in said.related) if one][:MOST_RELATED]
    row.save()


def look_at_followed() -> int:
    """Have everything that is followed looked at, and forget what is very old; how many jobs were asked for."""
    HashtagReading.objects.filter(taken_at__lt=clock.now() - KEPT).delete()
    jobs = 0
    by_brand: dict[int, list[str]] = {}
    for brand_id, tag in FollowedHashtag.objects.order_by("brand", "tag").values_list("brand", "tag"):
        by_brand.setdefault(brand_id, []).append(tag)
    for brand_id, tags in by_brand.items():
        for begin in range(0, len(tags), MOST_AT_ONCE):
            ask("plan.look_at_hashtags", brand_id=brand_id, tags=tags[begin : begin + MOST_AT_ONCE])
            jobs += 1
    return jobs
