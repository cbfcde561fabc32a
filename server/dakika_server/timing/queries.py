"""The week of a question: what its hours are worth, who is there, our posts and what is planned."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import lru_cache
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
from dakika_core.timing.audience import SOURCE, Group, groups_of, habits, presence_in_week, zones_of
from dakika_core.timing.circular import gathering
from dakika_core.timing.gaps import Stretch, crowded, missed
from dakika_core.values.period import HOURS_PER_WEEK, hour_of_week
from numpy.typing import NDArray

from dakika_server.measures.models import PostMeasure
from dakika_server.sources.models import AudienceReading, Profile
from dakika_server.timing.estimating import Answer, answer_to, latest_presence
from dakika_server.timing.questions import SPAN, Question

Array = NDArray[np.float64]

# Ticks of so many posts are drawn at most; what is crowded is told of the last weeks, not of half a year.
MOST_TICKS, RECENT = 1500, timedelta(weeks=12)
_CLOCK = np.arange(HOURS_PER_WEEK) % 24 + 0.5


@dataclass(frozen=True, kw_only=True)
class Tick:
    """A post of the past on the week, and how it stood to typical."""

    id: int
    hour: float
    index: float | None
    text: str
    at: datetime


@dataclass(frozen=True, kw_only=True)
class Audience:
    """Who is there. presence: shape (168,) in the zone of the question, the busiest hour = 1; by_group: the same by
    group, adding up to it. source: where zones come from: the network, or countries and the towns in them.
    """

    presence: Array
    groups: list[Group]
    by_group: dict[str, Array]
    source: str
    week: date


@dataclass(frozen=True, kw_only=True)
class Week:
    """Everything that the screen of a question shows."""

    question: Question
    answer: Answer
    audience: Audience | None
    ticks: list[Tick]
    missed: list[Stretch]
    crowded: list[Stretch]
    posts_at: float | None
    audience_at: float | None


def week_of(question: Question, now: datetime) -> Week:
    """The week of a question; its estimate as it is kept."""
    answer = answer_to(question)
    audience = audience_of(question.profiles, question.zone, now)
    ticks = _ticks(question, now)
    recent = [tick.hour for tick in ticks if tick.at > now - RECENT]
    presence = audience.presence if audience else None
    effects = answer.effects if answer.is_by_posts else None
    return Week(
        question=question, answer=answer, audience=audience, ticks=ticks, missed=missed(effects, presence, recent),
        crowded=crowded(effects, presence, recent), posts_at=_middle([tick.hour % 24 for tick in ticks]),
        audience_at=None if presence is None else _middle(_CLOCK, presence - presence.min()),
    )  # fmt: skip


def _middle(hours: Any, weights: Array | None = None) -> float | None:
    """Around which hour of the day they gather; None where they are spread evenly enough for chance."""
    found = gathering(np.asarray(hours, dtype=float), weights=weights)
    return found.mean if found is not None and found.r > 0.2 and (weights is not None or found.p < 0.01) else None


def audience_of(profiles: Sequence[Profile], zone: ZoneInfo, now: datetime) -> Audience | None:
    """The audience of some profiles in the coming week, each weighed by how many are online; None where none tells."""
    monday = (now.astimezone(zone) + timedelta(days=7 - now.astimezone(zone).weekday())).date()
    told = [(profile, latest_presence(profile)) for profile in profiles]
    total: dict[str, Array] = {}
    shares: dict[str, float] = {}
    countries_of: dict[str, set[str]] = {}
    source = ""
    for profile, reading in told:
        curve = np.array(reading.hours_utc, dtype=float) if reading else np.zeros(HOURS_PER_WEEK)
        if reading is None or curve.max() <= 0:
            continue
        groups, said = _groups(profile, dict(reading.zones), reading.day)
        source = source or said
        own = _habits(tuple(curve.tolist()), tuple(groups), reading.day)
        scale = curve.sum() / max(float(own.sum()), 1e-9)
        for name, values in _in_week(tuple(own.tolist()), tuple(groups), str(zone), monday).items():
            total[name] = total.get(name, np.zeros(HOURS_PER_WEEK)) + values * scale
        for group in groups:
            shares[group.zone] = shares.get(group.zone, 0.0) + group.share * curve.sum()
            countries_of.setdefault(group.zone, set()).update(group.countries)
    if not total:
        return None
    whole = np.sum(list(total.values()), axis=0)
    most, every = float(whole.max()), sum(shares.values())
    groups = [
        Group(zone=name, share=share / every, countries=tuple(sorted(countries_of[name])))
        for name, share in sorted(shares.items(), key=lambda item: -item[1])
    ]
    return Audience(
        presence=whole / most, groups=groups, by_group={name: values / most for name, values in total.items()},
        source=source, week=monday,
    )  # fmt: skip


@lru_cache(maxsize=64)
def _habits(curve: tuple[float, ...], groups: tuple[Group, ...], day: date) -> Array:
    """Kept in this process: the same reading gives the same habits."""
    return habits(np.array(curve), list(groups), day)


@lru_cache(maxsize=64)
def _in_week(curve: tuple[float, ...], groups: tuple[Group, ...], zone: str, monday: date) -> dict[str, Array]:
    return presence_in_week(np.array(curve), list(groups), ZoneInfo(zone), monday)


def _groups(profile: Profile, zones: dict[str, float], day: date) -> tuple[list[Group], str]:
    """By the zones that the network tells, else by its countries, else all by the brand's clock."""
    reading = AudienceReading.objects.filter(profile=profile, dimension="country").order_by("-day").first()
    countries = {str(name): float(share) for name, share in (reading.segments if reading else {}).items()}
    source = "the network's own zones"
    if not zones:
        zones, source = zones_of(countries), f"countries, by the {SOURCE}"
    found = groups_of(zones, countries, day.year)
    if found:
        return found, source
    return [Group(zone=profile.brand.time_zone, share=1.0, countries=())], "the brand's own clock, nothing else is told"


def _ticks(question: Question, now: datetime) -> list[Tick]:
    last = question.last
    end = now if last is None else min(now, datetime.combine(last, datetime.max.time(), tzinfo=question.brand.zone))
    first = question.first
    start = end - SPAN if first is None else datetime.combine(first, datetime.min.time(), tzinfo=question.brand.zone)
    rows = (
        PostMeasure.objects.filter(
            question.on_posts(), profile__in=[p.pk for p in question.profiles], age_hours=72, post__has_time=True,
            published_at__gte=start, published_at__lte=end,
        )
        .order_by("-published_at").values_list("post_id", "published_at", "index", "post__text")[:MOST_TICKS]
    )  # fmt: skip
    return [
        Tick(id=pk, at=at, hour=hour_of_week(at, question.zone), index=index, text=text[:80])
        for pk, at, index, text in reversed(rows)
    ]
