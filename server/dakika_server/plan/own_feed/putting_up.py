"""Posts that also appear in the brand's own feed: put up as soon as the first of their versions is out, each once."""

import logging
import re
from datetime import datetime
from typing import Any

from dakika_core.networks.text_rules import ADDRESS
from dakika_core.plan.states import State
from django.core.exceptions import PermissionDenied
from django.db import IntegrityError, transaction
from django.db.models import Min
from rest_framework.exceptions import APIException

from dakika_server.links.actions import Draft, make_link
from dakika_server.links.models import TrackedLink
from dakika_server.links.serializers.making import short_address
from dakika_server.plan.models import OwnFeed, OwnFeedItem, PlannedPost
from dakika_server.shared import audit

log = logging.getLogger(__name__)
MOST_AT_ONCE = 100
# As the trade writes it (common practice, no source).
FEED_MEDIUM = "feed"


def put_up_due(now: datetime) -> int:
    """Put up what is out and not in the feed yet; how many. A kill in between loses none and makes none twice."""
    out = PlannedPost.objects.filter(
        in_own_feed=True, own_feed_item=None, versions__state=State.PUBLISHED.value, brand__own_feed__is_on=True
    )
    done = 0
    for pk in out.order_by("pk").values_list("pk", flat=True).distinct()[:MOST_AT_ONCE]:
        try:
            with transaction.atomic():
                done += _put_up(pk, now)
        except IntegrityError:
            # Somebody else put it up at the same moment.
            continue
    return done


def _put_up(pk: int, now: datetime) -> bool:
    planned = PlannedPost.objects.select_for_update(of=("self",)).select_related("brand", "created_by").get(pk=pk)
    feed = OwnFeed.objects.select_for_update().filter(brand=planned.brand_id, is_on=True).first()
    if feed is None or OwnFeedItem.objects.filter(planned_post=planned).exists():
        return False
    published = planned.versions.filter(state=State.PUBLISHED.value).aggregate(at=Min("published_at"))["at"] or now
    page = page_of(planned)
    link = link_of(planned, page, FEED_MEDIUM) if page else None
    short = short_address(link) if link else page
    # Whole addresses: the page may be the beginning of another one.
    text = ADDRESS.sub(lambda found: short if found[0] == page else found[0], planned.text)
    item = OwnFeedItem.objects.create(
        brand=planned.brand, planned_post=planned, title=title_of(planned), text=text, link=link,
        picture=planned.media[0] if planned.media else None, published_at=published, updated_at=now,
    )  # fmt: skip
    feed.changed_at = now
    feed.save(update_fields=["changed_at"])
    audit.record(None, "put_up_feed_item", item, brand_id=planned.brand_id)
    return True


def title_of(planned: PlannedPost) -> str:
    """Its title for networks that have one, else its first line; the working title is the team's."""
    first = next((line.strip() for line in planned.text.splitlines() if line.strip()), "")
    return (planned.headline.strip() or re.sub(r"\s+", " ", ADDRESS.sub("", first)).strip() or planned.title)[:300]


def page_of(planned: PlannedPost) -> str:
    """The page that it leads to: that of its versions' links, else the first address in its words."""
    linked = planned.versions.exclude(link=None).order_by("pk").values_list("link__destination", flat=True).first()
    if linked:
        return str(linked)
    found = ADDRESS.search(planned.text)
    return found[0] if found else ""


def link_of(planned: PlannedPost, page: str, medium: str) -> TrackedLink | None:
    """A tracked link of its own, so that clicks there are told apart; without one the page stands there."""
    person: Any = planned.created_by
    if person is None:
        return None
    draft = Draft(
        destination=page, name=title_of(planned)[:180], campaign_id=planned.campaign_id, utm={"medium": medium}
    )
    try:
        return make_link(person, planned.brand, draft)
    except (APIException, PermissionDenied) as error:
        log.warning("a post has no link of its own for its %s: %s", medium, error)
        return None
