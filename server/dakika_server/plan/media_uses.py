"""What files are used for in the plan, and another in their place."""

from typing import Any

from dakika_core.plan.states import State
from dakika_core.values.text import opening_words
from django.db.models import Q

from dakika_server.brands.permissions import require
from dakika_server.measures.models import PostMeasure
from dakika_server.media.actions import Use
from dakika_server.media.models import Asset
from dakika_server.networks.definitions import network_name
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.plan.reviewing import back_to_review

SENT = (State.PUBLISHING.value, State.PUBLISHED.value)
MOST = 100
AGE_HOURS = 72


def uses(asset: Asset) -> list[Use]:
    """Planned posts and versions with the file, the latest first, with their index where they are out."""
    rows = list(
        Version.objects.filter(_with_it(asset.pk), planned_post__brand=asset.brand_id)
        .select_related("planned_post", "profile").order_by("-due_at", "-pk")[:MOST]
    )  # fmt: skip
    posts = [row.post_id for row in rows if row.post_id]
    measured = PostMeasure.objects.filter(post__in=posts, age_hours=AGE_HOURS, index__isnull=False)
    index = dict(measured.values_list("post_id", "index"))
    found = [
        Use(
            text=f"{row.planned_post.title or opening_words(row.text, 60) or 'a post'} on "
            f"{network_name(row.profile.network)}, {row.state.replace('_', ' ')}",
            path=f"results/posts/{row.post_id}" if row.post_id else f"plan/{row.planned_post_id}",
            result=f"{index[row.post_id]:.2f} times its usual" if row.post_id in index else "",
        )
        for row in rows
    ]  # fmt: skip
    alone = PlannedPost.objects.filter(brand=asset.brand_id, media__contains=[asset.pk]).exclude(
        pk__in=[row.planned_post_id for row in rows]
    )
    for planned in alone[:MOST]:
        what = "an idea" if planned.state == State.IDEA else "a draft"
        found.append(
            Use(
                text=f"{planned.title or opening_words(planned.text, 60) or 'a post'}, {what}",
                path=f"plan/{planned.pk}",
            )
        )
    return found


def replace(actor: Any, old: Asset, new: Asset) -> int:
    """Put the new file where the old one stood, in all planned posts of which that part did not go out.

    Within a transaction. What is set to go out takes the permission to publish.
    """
    holding = (
        Q(media__contains=[old.pk])
        | Q(versions__media__contains=[old.pk])
        | Q(versions__options__card_picture=str(old.pk))
    )
    found = PlannedPost.objects.filter(holding, brand=old.brand_id).distinct().values_list("pk", flat=True)
    count = 0
    for planned in PlannedPost.objects.select_for_update().filter(pk__in=list(found)).order_by("pk"):
        waiting = planned.versions.exclude(state__in=SENT).filter(_with_it(old.pk))
        if not waiting.exists() and planned.state in SENT:
            continue
        require(actor, planned.brand, "plan.publish" if planned.state == State.SCHEDULED else "plan.write")
        for version in waiting:
            version.media = _with(version.media, old.pk, new.pk)
            if version.options.get("card_picture") == str(old.pk):
                version.options = {**version.options, "card_picture": str(new.pk)}
            version.save(update_fields=["media", "options"])
        planned.media = _with(planned.media, old.pk, new.pk)
        planned.edition += 1
        planned.save(update_fields=["media", "edition"])
        back_to_review(actor, planned)
        count += 1
    return count


def _with_it(number: int) -> Q:
    """Versions that a file goes with, or stands on the card of."""
    return Q(media__contains=[number]) | Q(options__card_picture=str(number))


def _with(media: list[int], old: int, new: int) -> list[int]:
    """Numbers with one replaced; each once."""
    return list(dict.fromkeys(new if number == old else number for number in media))
