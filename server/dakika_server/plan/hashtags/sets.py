"""Sets of hashtags that are put into a text together, and hashtags that are followed."""

from typing import Any

from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.networks.definitions import all_networks
from dakika_server.plan.models import FollowedHashtag, HashtagSet
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors

MOST_FOLLOWED = 200


def keep_hashtags(
    actor: Any, brand: Brand, *, name: str, tags: list[str], network: str = "", pk: int | None = None
) -> HashtagSet:
    """A set of hashtags, new or changed; network: for which one, empty is any.

    Raises Http404, field errors for a name that is there, for no tags, and for a network that there is not.
    """
    require(actor, brand, "plan.write")
    cleaned = [found for found in (tag_of(tag) for tag in tags) if found]
    if not cleaned:
        raise field_errors({"tags": "Write at least one hashtag, of letters and digits."})
    if network and network not in all_networks():
        raise field_errors({"network": "There is no such network."})
    name = " ".join(name.replace("\x00", "").split())
    with transaction.atomic():
        found = HashtagSet.objects.filter(brand=brand, pk=pk).first() if pk else HashtagSet(brand=brand)
        if found is None:
            raise Http404
        if HashtagSet.objects.filter(brand=brand, network=network, name=name).exclude(pk=pk or 0).exists():
            raise field_errors({"name": "A set of this name is there already."})
        found.name, found.tags, found.network = name, list(dict.fromkeys(cleaned)), network
        found.save()
        audit.record(actor, "keep_hashtags", found, brand_id=brand.pk)
    return found


def remove_hashtags(actor: Any, brand: Brand, pk: int) -> None:
    """Take a set away. Raises Http404."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        found = HashtagSet.objects.filter(brand=brand, pk=pk).first()
        if found is None:
            raise Http404
        audit.record(actor, "remove_hashtags", found, brand_id=brand.pk, name=found.name)
        found.delete()


def tag_of(tag: str) -> str:
    """A hashtag without its sign; nothing where nothing of it can be one."""
    return "".join(letter for letter in tag.strip().lstrip("#") if letter.isalnum() or letter == "_")[:100]


def followed_of(brand: Brand) -> QuerySet[FollowedHashtag]:
    """Hashtags that a brand follows, by their letters."""
    return FollowedHashtag.objects.filter(brand=brand).order_by("tag")


def follow_hashtag(actor: Any, brand: Brand, tag: str) -> FollowedHashtag:
    """Look at a hashtag over time. Raises field errors for what is none, Conflict for very many."""
    require(actor, brand, "plan.write")
    word = tag_of(tag).casefold()
    if not word:
        raise field_errors({"tag": "Write a hashtag, of letters and digits."})
    if FollowedHashtag.objects.filter(brand=brand).count() >= MOST_FOLLOWED:
        raise Conflict("too_many_followed", "Very many hashtags are followed already. Leave some.")
    with transaction.atomic():
        found, is_new = FollowedHashtag.objects.get_or_create(
            brand=brand, tag=word, defaults={"followed_by": actor, "followed_at": clock.now()}
        )
        if is_new:
            audit.record(actor, "follow_hashtag", found, brand_id=brand.pk, tag=word)
    return found


def leave_hashtag(actor: Any, brand: Brand, tag: str) -> None:
    """No longer look at a hashtag; what was read stays. Raises Http404."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        found = FollowedHashtag.objects.filter(brand=brand, tag=tag_of(tag).casefold()).first()
        if found is None:
            raise Http404
        audit.record(actor, "leave_hashtag", found, brand_id=brand.pk, tag=found.tag)
        found.delete()
