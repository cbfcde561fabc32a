"""The calendar: what is planned and what was published between two days, the days of the year, and what clashes.

In the trade's words: content calendar, editorial calendar.
"""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import holidays
from dakika_core.plan.clashes import Clash, Planned, clashes
from dakika_core.plan.states import State
from dakika_core.timing.audience import country_of
from dakika_core.values.period import Period
from django.db.models import F, FilteredRelation, Q, QuerySet

from dakika_server.brands.models import Brand, Campaign
from dakika_server.plan.models import CalendarEvent, FollowedCalendar, Note, Pause, PlannedPost, Version
from dakika_server.plan.pauses import waiting_in
from dakika_server.sources.models import Post

NOT_OUT = (State.FAILED.value, State.MISSED.value, State.BY_HAND.value)
SHOWN_TEXT = 160
MOST_WAITING = 50
MOST_DRAFTS = 200
MOST_EVENTS = 2_000
_VERSION = ("pk", "planned_post_id", "profile_id", "profile__network", "profile__name", "state", "due_at", "error",
            "remedy", "text", "media", "link_id", "first_comment_state", "first_comment_error")  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Filter:
    """Which posts of a calendar; what is empty does not choose."""

    profiles: Collection[int] = ()
    networks: Collection[str] = ()
    campaigns: Collection[int] = ()
    states: Collection[str] = ()
    authors: Collection[int] = ()
    text: str = ""


def _versions(brand: Brand, chosen: Filter) -> QuerySet[Version]:
    found = Version.objects.filter(planned_post__brand=brand)
    if chosen.profiles:
        found = found.filter(profile__in=chosen.profiles)
    if chosen.networks:
        found = found.filter(profile__network__in=chosen.networks)
    return found


def _posts(brand: Brand, chosen: Filter) -> QuerySet[PlannedPost]:
    found = PlannedPost.objects.filter(brand=brand)
    if chosen.campaigns:
        found = found.filter(campaign__in=chosen.campaigns)
    if chosen.states:
        found = found.filter(state__in=chosen.states)
    if chosen.authors:
        found = found.filter(created_by__in=chosen.authors)
    if chosen.profiles or chosen.networks:
        found = found.filter(pk__in=_versions(brand, chosen).values("planned_post"))
    for word in chosen.text.split():
        found = found.filter(Q(title__icontains=word) | Q(text__icontains=word) | Q(versions__text__icontains=word))
    return found.distinct() if chosen.text else found


def entries(posts: QuerySet[PlannedPost]) -> list[dict[str, Any]]:
    """Planned posts as the calendar shows them, with what became of each version; two queries."""
    rows = list(
        posts.order_by("scheduled_at", "pk").values(
            "pk", "title", "text", "state", "scheduled_at", "edition", "campaign_id", "created_by_id",
            "created_by__name", "media", "note",
        )
    )  # fmt: skip
    versions: dict[int, list[dict[str, Any]]] = {}
    of = Version.objects.filter(planned_post__in=[row["pk"] for row in rows]).order_by("pk")
    for one in of.values(*_VERSION):
        versions.setdefault(one["planned_post_id"], []).append(one)
    return [_entry(row, versions.get(row["pk"], [])) for row in rows]


def _entry(row: Mapping[str, Any], versions: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    media: list[int] = row["media"] or next((one["media"] for one in versions if one["media"]), [])
    text = row["text"] or next((one["text"] for one in versions if one["text"]), "") or row["note"]
    return {
        "id": row["pk"], "title": row["title"], "text": text[:SHOWN_TEXT], "state": row["state"],
        "at": row["scheduled_at"], "edition": row["edition"], "campaign": row["campaign_id"],
        "author": row["created_by_id"], "author_name": row["created_by__name"] or "",
        "picture": media[0] if media else None,
        "versions": [
            {
                "id": one["pk"], "profile": one["profile_id"], "network": one["profile__network"],
                "name": one["profile__name"], "state": one["state"], "at": one["due_at"], "error": one["error"],
                "remedy": one["remedy"], "first_comment": one["first_comment_state"],
                "first_comment_error": one["first_comment_error"],
            }
            for one in versions
        ],
    }  # fmt: skip


def _without_time(brand: Brand, chosen: Filter) -> QuerySet[PlannedPost]:
    """Drafts that wait for a time, the newest; ideas have a list of their own."""
    found = _posts(brand, chosen).filter(scheduled_at__isnull=True).exclude(state=State.IDEA.value)
    newest = found.order_by("-pk").values("pk")[:MOST_DRAFTS]
    return PlannedPost.objects.filter(pk__in=list(newest.values_list("pk", flat=True)))


def calendar(brand: Brand, period: Period, chosen: Filter) -> dict[str, Any]:
    """A span of the calendar; a fixed number of queries."""
    within = Q(scheduled_at__gte=period.start, scheduled_at__lt=period.end)
    apart = _versions(brand, chosen).filter(due_at__gte=period.start, due_at__lt=period.end, own__contains=["time"])
    shown = _posts(brand, chosen).filter(within | Q(pk__in=apart.values("planned_post")))
    return {
        "planned": entries(shown), "published": published(brand, period, chosen),
        "drafts": entries(_without_time(brand, chosen)),
        "clashes": [_told(one) for one in clashes(_planned_in(brand, period, chosen))],
        "notes": list(Note.objects.filter(brand=brand, first__lte=period.last, last__gte=period.first)
                      .order_by("first", "pk").values("id", "first", "last", "text")),
        "days": days_of_year(brand, period), "events": events_of(brand, period),
        "calendars": list(FollowedCalendar.objects.filter(brand=brand).order_by("name", "pk")
                          .values("id", "name", "fetched_at", "message")),
        "campaigns": list(Campaign.objects.filter(brand=brand, first_day__lte=period.last, last_day__gte=period.first)
                          .order_by("first_day").values("id", "name", "first_day", "last_day", "colour")),
    }  # fmt: skip


def _told(clash: Clash) -> dict[str, Any]:
    return {"kind": clash.kind, "first": clash.first, "second": clash.second, "campaign": clash.campaign,
            "hours": clash.apart.total_seconds() / 3600}  # fmt: skip


def _planned_in(brand: Brand, period: Period, chosen: Filter) -> list[Planned]:
    rows = _versions(brand, chosen).filter(
        due_at__gte=period.start, due_at__lt=period.end,
        state__in=[State.DRAFT.value, State.SCHEDULED.value, State.PUBLISHING.value, State.PUBLISHED.value],
    )  # fmt: skip
    values = rows.values_list("planned_post_id", "profile_id", "due_at", "text", "link_id", "planned_post__campaign_id")
    return [
        Planned(post=post, profile=profile, at=at, text=text, link=link, campaign=campaign)
        for post, profile, at, text, link, campaign in values
        if at is not None
    ]


def published(brand: Brand, period: Period, chosen: Filter) -> list[dict[str, Any]]:
    """Own posts that are out and were not planned here, with their index."""
    found = Post.objects.filter(
        brand=brand, profile__kind="own", published_at__gte=period.start, published_at__lt=period.end,
    )  # fmt: skip
    if chosen.profiles:
        found = found.filter(profile__in=chosen.profiles)
    if chosen.networks:
        found = found.filter(profile__network__in=chosen.networks)
    if chosen.campaigns:
        found = found.filter(campaign__in=chosen.campaigns)
    if (chosen.states and State.PUBLISHED.value not in chosen.states) or chosen.authors:
        found = found.filter(version__isnull=False)
    for word in chosen.text.split():
        found = found.filter(text__icontains=word)
    rows = (
        found.annotate(m=FilteredRelation("measures", condition=Q(measures__age_hours=72)))
        .order_by("published_at")
        .values_list("pk", "published_at", "profile_id", "profile__network", "text", "format", "m__index",
                     "m__interactions", "version__planned_post_id")
    )  # fmt: skip
    return [
        {"id": pk, "at": at, "profile": profile, "network": network, "text": text[:SHOWN_TEXT], "format": format_,
         "index": index, "interactions": interactions, "planned": planned}
        for pk, at, profile, network, text, format_, index, interactions, planned in rows
    ]  # fmt: skip


def days_of_year(brand: Brand, period: Period) -> list[dict[str, Any]]:
    """Public holidays of the country of the brand's zone in a period; none where the country is not known."""
    country = country_of(brand.time_zone)
    if country is None:
        return []
    years = range(period.first.year, period.last.year + 1)
    try:
        found = holidays.country_holidays(country, years=years, language="en_US")
    except NotImplementedError:
        return []
    return [
        {"day": day, "name": name, "country": country}
        for day, name in sorted(found.items())
        if period.first <= day <= period.last
    ]


def events_of(brand: Brand, period: Period) -> list[dict[str, Any]]:
    """Events of followed calendars in a period, those of whole days first."""
    found = CalendarEvent.objects.filter(
        calendar__in=FollowedCalendar.objects.filter(brand=brand), first__lte=period.last, last__gte=period.first
    )
    in_order = found.order_by("first", F("at").asc(nulls_first=True), "pk")
    rows = in_order.values("id", "calendar", "first", "last", "at", "text")[:MOST_EVENTS]
    return [dict(row) for row in rows]


def to_settle(brand: Brand) -> list[dict[str, Any]]:
    """Versions that did not go out, or whose first comment did not, the latest first, until somebody settles them."""
    found = Version.objects.filter(planned_post__brand=brand).filter(
        Q(state__in=NOT_OUT) | Q(first_comment_state=Version.Said.FAILED)
    )
    rows = found.order_by("-due_at", "-pk").values(
        *_VERSION, "planned_post__title", "planned_post__edition", "post_id"
    )[:MOST_WAITING]  # fmt: skip
    return [
        {
            "id": one["pk"], "planned": one["planned_post_id"], "edition": one["planned_post__edition"],
            "title": one["planned_post__title"] or one["text"][:80], "network": one["profile__network"],
            "profile": one["profile_id"], "name": one["profile__name"], "state": one["state"], "at": one["due_at"],
            "error": one["error"] or one["first_comment_error"], "remedy": one["remedy"],
            "is_first_comment": one["state"] not in NOT_OUT,
        }
        for one in rows
    ]  # fmt: skip


def pauses_of(brand: Brand) -> list[dict[str, Any]]:
    """Pauses with who began them, and how much waits in each."""
    found = Pause.objects.filter(brand=brand).select_related("begun_by", "profile").order_by("begun_at", "pk")
    return [
        {"profile": one.profile_id, "name": one.profile.name if one.profile else "", "why": one.why,
         "begun_at": one.begun_at, "begun_by": one.begun_by.name if one.begun_by else "",
         "waiting": waiting_in(one).count()}
        for one in found
    ]  # fmt: skip
