"""A campaign as a whole: what of it is planned and out, when, of which kind; posts put in and out; its removal."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from dakika_core.plan.states import State
from django.db import transaction
from django.db.models import Count, QuerySet
from django.db.models.functions import TruncWeek

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require
from dakika_server.links.models import TrackedLink
from dakika_server.media.models import Asset
from dakika_server.plan.actions import SENT, take_back
from dakika_server.plan.boosts.listing import of_campaign
from dakika_server.plan.calendar import entries
from dakika_server.plan.content import format_of
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Post

SHOWN_TO_COME = 30
MOST_AT_ONCE = 500


@dataclass(frozen=True, kw_only=True)
class Waiting:
    """A version of a campaign that is not out: of which network and kind, when it is due (None: no time yet)."""

    network: str
    kind: str
    due: datetime | None
    state: str


def waiting_of(brand: Brand, campaign: Campaign) -> list[Waiting]:
    """What of a campaign is planned, a row a version, as each profile's post is one. Two queries."""
    waiting = Version.objects.filter(planned_post__brand=brand, planned_post__campaign=campaign).exclude(state__in=SENT)
    rows = list(waiting.values_list("profile__network", "media", "link_id", "due_at", "state"))
    files = {number for _, media, *_ in rows for number in media}
    kinds = dict(Asset.objects.filter(pk__in=files).values_list("pk", "kind")) if files else {}
    return [
        Waiting(
            network=network, due=due, state=state,
            kind=format_of(network, [kinds[one] for one in media if one in kinds], has_link=link is not None).value,
        )
        for network, media, link, due, state in rows
    ]  # fmt: skip


def published_of(brand: Brand, campaign: Campaign) -> QuerySet[Post]:
    """What of a campaign is out."""
    return Post.objects.filter(brand=brand, campaign=campaign, profile__kind="own", removed_at=None)


def campaign_counts(brand: Brand, campaign: Campaign) -> dict[str, Any]:
    """How many of its posts are planned and out, by state, kind, network and week, and the next that go out.

    Planned ones are counted by version, as posts are: each profile's is one. A fixed number of queries.
    """
    out, rows = published_of(brand, campaign), waiting_of(brand, campaign)
    planned = Counter((row.network, row.kind) for row in rows)
    by_week: Counter[date] = Counter()
    for row in rows:
        if row.due is not None:
            day = row.due.astimezone(brand.zone).date()
            by_week[day - timedelta(days=day.weekday())] += 1
    by_kind = out.order_by().values_list("profile__network", "format").annotate(n=Count("pk"))
    published = {(network, kind): n for network, kind, n in by_kind}
    week = TruncWeek("published_at", tzinfo=brand.zone)
    weekly = out.order_by().annotate(week=week).values_list("week").annotate(n=Count("pk"))
    out_by_week = {at.date(): n for at, n in weekly}
    states = dict(Counter(row.state for row in rows))
    if published:
        states[State.PUBLISHED.value] = sum(published.values())
    ahead = PlannedPost.objects.filter(brand=brand, campaign=campaign, scheduled_at__gte=clock.now())
    next_ones = list(ahead.order_by("scheduled_at", "pk").values_list("pk", flat=True)[:SHOWN_TO_COME])
    return {
        "states": states,
        "kinds": [
            {"network": network, "format": kind, "planned": planned[network, kind],
             "published": published.get((network, kind), 0)}
            for network, kind in sorted({*planned, *published})
        ],
        "weeks": [
            {"monday": monday, "planned": by_week[monday], "published": out_by_week.get(monday, 0)}
            for monday in sorted({*by_week, *out_by_week})
        ],
        "without_time": sum(row.due is None for row in rows),
        "links": TrackedLink.objects.filter(brand=brand, campaign=campaign).count(),
        "boosted": of_campaign(brand, campaign),
        "to_come": entries(PlannedPost.objects.filter(pk__in=next_ones)),
    }  # fmt: skip


def put_into_campaign(
    actor: Any, brand: Brand, campaign: Campaign | None, *, posts: Sequence[int] = (), planned: Sequence[int] = ()
) -> int:  # fmt: skip
    """Put posts that are out and planned ones into a campaign, or out of any; how many. None of another brand moves."""
    require(actor, brand, "plan.write")
    if len(posts) + len(planned) > MOST_AT_ONCE:
        raise field_errors({"posts": f"At most {MOST_AT_ONCE} at once."})
    with transaction.atomic():
        count = Post.objects.filter(brand=brand, pk__in=posts, profile__kind="own").update(campaign=campaign)
        count += PlannedPost.objects.filter(brand=brand, pk__in=planned).update(campaign=campaign)
        if count:
            subject: Any = campaign or brand
            audit.record(actor, "put_into_campaign", subject, brand_id=brand.pk, posts=count)
    return count


def remove_campaign(actor: Any, brand: Brand, campaign: Campaign, *, takes_back: bool) -> int:
    """Remove a campaign; its posts stay. takes_back: what of it is set to go out becomes drafts; how many did."""
    require(actor, brand, "brand.campaigns")
    with transaction.atomic():
        taken = 0
        if takes_back:
            for planned in PlannedPost.objects.filter(campaign=campaign, state=State.SCHEDULED.value).order_by("pk"):
                take_back(actor, planned)
                taken += 1
        audit.record(actor, "remove_campaign", campaign, brand_id=brand.pk, name=campaign.name, taken_back=taken)
        campaign.delete()
    return taken
