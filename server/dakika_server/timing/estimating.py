"""Working an estimate out, keeping it, and reading it back."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
from dakika_core.metrics.observed import LATEST_AGE
from dakika_core.timing.best_times import FEWEST_POSTS, Certainty, HourEffects, HourModel, fit_hours
from dakika_core.timing.held_out import HeldOut, held_out
from dakika_core.timing.presumed import presumed
from dakika_core.values.period import HOURS_PER_WEEK, Period, shift_hours, start_of_day
from django.core.cache import cache
from django.db.models import Max
from numpy.typing import NDArray

from dakika_server.figures.footing import footing_of
from dakika_server.jobs.asking import ask
from dakika_server.measures.models import PostMeasure
from dakika_server.networks.definitions import all_networks
from dakika_server.results.brought import brought_by_post
from dakika_server.shared import clock
from dakika_server.sources.models import PresenceReading, Profile
from dakika_server.timing.models import Estimate
from dakika_server.timing.questions import MOST_POSTS, SPAN, Question, standing_question

Array = NDArray[np.float64]

_CURVES = ("index", "low80", "high80", "low95", "high95", "from_posts", "by_presence")
# So many answers to questions of the moment are kept for a brand.
MOST_MOMENTARY = 200
ASKED_EVERY_SECONDS = 120
# What stands in where posts are too few.
BY_POSTS, BY_OTHERS, BY_PRESENCE, BY_NETWORK, BY_NOTHING = "posts", "others", "presence", "network", "nothing"


@dataclass(frozen=True, kw_only=True)
class Answer:
    """An estimate as it is told. facts: posts_used, pooled, pooled_posts, untimed, age_hours, stands_by, counted."""

    effects: HourEffects
    facts: dict[str, Any]
    held: dict[str, Any] | None
    made_at: datetime
    is_stale: bool

    @property
    def is_by_posts(self) -> bool:
        """Whether it rests on posts at all."""
        return self.facts["stands_by"] in (BY_POSTS, BY_OTHERS)


def answer_to(question: Question) -> Answer:
    """The kept answer, or one made now. One that is out of date is told as it is, and asked to be made anew."""
    kept = Estimate.objects.filter(brand=question.brand, key=question.key).first()
    if kept is None:
        return read_back(estimate([question])[0])
    # Asked once a while, however many look.
    if kept.is_stale and cache.add(f"timing.refit.{kept.pk}", 1, timeout=ASKED_EVERY_SECONDS):
        ask("timing.refit", estimate_id=kept.pk)
    return read_back(kept)


def answers_of(profiles: Sequence[Profile]) -> dict[int, Answer]:
    """What stands of some profiles each, by their keys; what is not there yet is made."""
    now = clock.now()
    questions = {profile.pk: standing_question(profile, now) for profile in profiles}
    keys = {question.key: pk for pk, question in questions.items()}
    found = {
        keys[kept.key]: read_back(kept)
        for kept in Estimate.objects.filter(brand__in={p.brand_id for p in profiles}, key__in=list(keys))
    }
    missing: dict[tuple[int, ...], list[Question]] = {}
    for pk, question in questions.items():
        if pk not in found:
            missing.setdefault(tuple(p.pk for p in question.pooled), []).append(question)
    for alike in missing.values():
        for question, kept in zip(alike, estimate(alike), strict=True):
            found[keys[question.key]] = read_back(kept)
    return {pk: found[pk] for pk in questions}


def kept_effects(profile: Profile) -> HourEffects | None:
    """A profile's own estimate as it is kept, the newest; None where none is. Nothing is worked out for it."""
    kept = (
        Estimate.objects.filter(brand=profile.brand_id, is_standing=True, asked__profiles=[profile.pk])
        .order_by("-made_at").first()
    )  # fmt: skip
    return read_back(kept).effects if kept else None


def estimate(questions: Sequence[Question]) -> list[Estimate]:
    """Work out and keep the answers to questions that are estimated with the same profiles, fitted once."""
    now, first = clock.now(), questions[0]
    posts = {profile.pk: _posts_of(profile, first, now) for profile in first.pooled}
    usable = {pk: one for pk, one in posts.items() if one.known}
    given = _as_given(usable, first.zone)
    enough = sum(one.counted for one in usable.values()) >= first.wanted.least
    model = fit_hours(**given) if enough else None
    tried = held_out(**given) if model else None
    return [_keep(question, model, posts, tried, now) for question in questions]


def _keep(
    question: Question, model: HourModel | None, posts: dict[int, "_Posts"], tried: HeldOut | None, now: datetime
) -> Estimate:
    one = question.one
    own = [posts[p.pk] for p in question.profiles]
    known = sum(p.known for p in own)
    stands_by = BY_POSTS
    if model is None:
        effects, stands_by = _presumed(own)
    elif one is None:
        effects = model.of(None)
    else:
        effects = model.of(str(one.pk) if known else None)
        stands_by = BY_POSTS if known >= FEWEST_POSTS else BY_OTHERS
    facts = {
        "posts_used": known, "pooled": len(posts), "pooled_posts": sum(p.known for p in posts.values()),
        "untimed": sum(p.untimed for p in own), "age_hours": own[0].age_hours, "stands_by": stands_by,
        "counted": sum(p.counted for p in own), "alone": effects.alone, "odds": effects.odds,
        "has_effect": effects.has_effect, "noise": effects.noise,
    }  # fmt: skip
    hours: dict[str, Any] = {name: [round(float(v), 5) for v in getattr(effects, name)] for name in _CURVES}
    hours |= {"nearby": effects.nearby.tolist(), "certainty": [c.value for c in effects.certainty]}
    if not question.is_standing:
        _make_room(question)
    found, _ = Estimate.objects.update_or_create(
        brand=question.brand, key=question.key, defaults={
            "asked": question.asked(), "profiles": [p.pk for p in question.pooled],
            "is_standing": question.is_standing, "is_stale": False, "made_at": now, "hours": hours, "facts": facts,
            "covariance": effects.covariance.astype(np.float32).tobytes(), "held": _held(tried),
        },
    )  # fmt: skip
    return found


def _make_room(question: Question) -> None:
    """Questions of the moment are many; only the newest answers of a brand are kept."""
    momentary = Estimate.objects.filter(brand=question.brand, is_standing=False).exclude(key=question.key)
    oldest = momentary.order_by("-made_at").values_list("pk", flat=True)[MOST_MOMENTARY - 1 :]
    Estimate.objects.filter(pk__in=list(oldest)).delete()


def _presumed(own: Sequence["_Posts"]) -> tuple[HourEffects, str]:
    """What stands in: who is there, else the network's usual hours."""
    told = [p.presence for p in own if p.presence is not None]
    if told:
        return presumed(np.mean(told, axis=0)), BY_PRESENCE
    networks = all_networks()
    usual = [networks[p.network].default_hours for p in own if p.network in networks]
    hours = sorted({hour for some in usual for hour in some})
    return presumed(None, hours), BY_NETWORK if hours else BY_NOTHING


def _held(tried: HeldOut | None) -> dict[str, Any] | None:
    if tried is None:
        return None
    interval = tried.interval
    return {
        "since": tried.since.isoformat(), "older": tried.older, "newer": tried.newer, "weeks": tried.weeks,
        "gain": tried.gain, "low": _finite(interval.low) if interval else None,
        "high": _finite(interval.high) if interval else None,
        "claimed": tried.claimed, "slope": tried.slope, "is_shown": tried.is_shown, "hours": list(tried.hours),
        "thirds": [
            {"said": t.said, "came": t.came, "low": t.interval.low, "high": t.interval.high, "posts": t.posts}
            for t in tried.thirds
        ],
    }  # fmt: skip


def _finite(value: float) -> float | None:
    return value if np.isfinite(value) else None


def read_back(kept: Estimate) -> Answer:
    """An estimate as it was kept."""
    hours, facts = kept.hours, kept.facts
    covariance = np.frombuffer(bytes(kept.covariance), dtype=np.float32).astype(float)
    effects = HourEffects(
        **{name: np.array(hours[name]) for name in _CURVES}, nearby=np.array(hours["nearby"], dtype=np.int64),
        certainty=tuple(Certainty(c) for c in hours["certainty"]), posts=facts["posts_used"],
        has_effect=facts["has_effect"], odds=facts["odds"], alone=facts["alone"], noise=facts["noise"],
        covariance=covariance.reshape(HOURS_PER_WEEK, HOURS_PER_WEEK),
    )  # fmt: skip
    return Answer(effects=effects, facts=facts, held=kept.held, made_at=kept.made_at, is_stale=kept.is_stale)


@dataclass(frozen=True, kw_only=True)
class _Posts:
    """A profile's posts as they go into an estimate. counted: how much of what is wanted they have in all."""

    pk: int
    network: str
    rows: list[tuple[Any, ...]]
    values: Array
    totals: Array | None
    presence: Array | None
    age_hours: int
    untimed: int

    @property
    def known(self) -> int:
        """How many have a value; of a part, those that there is a whole of."""
        has_value = ~np.isnan(self.values)
        return int((has_value if self.totals is None else has_value & (self.totals > 0)).sum())

    @property
    def counted(self) -> float:
        return float(np.nansum(self.values))


def _as_given(posts: dict[int, _Posts], zone: ZoneInfo) -> dict[str, Any]:
    every = list(posts.values())
    is_rate = bool(every) and every[0].totals is not None
    return {
        "published_at": [row[1] for one in every for row in one.rows],
        "values": np.concatenate([one.values for one in every] or [np.empty(0)]),
        "formats": [row[2] for one in every for row in one.rows],
        "profiles": [str(one.pk) for one in every for _ in one.rows],
        "presence": {str(one.pk): one.presence for one in every if one.presence is not None},
        "totals": np.concatenate([one.totals for one in every if one.totals is not None]) if is_rate else None,
        "zone": zone,
    }  # fmt: skip


def _posts_of(profile: Profile, question: Question, now: datetime) -> _Posts:
    """The posts of the question's period, without one of the half-year up to the newest, whenever that was.

    Posts of which only the day is known say nothing of hours. The age is the one that the posts allow: 72 hours, else
    their final counts, else each as last seen against what is typical then.
    """
    zone, wanted = question.zone, question.wanted
    newest = PostMeasure.objects.filter(profile=profile, published_at__lte=now).aggregate(at=Max("published_at"))["at"]
    end = start_of_day(question.last + timedelta(days=1), question.brand.zone) if question.last else (newest or now)
    end = min(end, newest or now)
    start = start_of_day(question.first, question.brand.zone) if question.first else end - SPAN
    if start > end:
        start = end
    period = Period(first=start.astimezone(zone).date(), last=end.astimezone(zone).date(), zone=zone)
    age = footing_of([profile.pk], period, now).age_hours
    every = PostMeasure.objects.filter(
        question.on_posts(), profile=profile, age_hours=age, published_at__gte=start, published_at__lte=end
    )
    columns = [wanted.part or "interactions", wanted.total or "interactions"]
    rows = list(
        every.filter(post__has_time=True).order_by("-published_at")
        .values_list("post_id", "published_at", "format", "index", "typical", "interactions", *columns)
        [:MOST_POSTS]
    )[::-1]  # fmt: skip
    values, totals = _values(rows, age, question)
    return _Posts(
        pk=profile.pk, network=profile.network, rows=rows, values=values, totals=totals, age_hours=age,
        presence=presence_in(latest_presence(profile), zone, now), untimed=every.filter(post__has_time=False).count(),
    )  # fmt: skip


def _values(rows: Sequence[tuple[Any, ...]], age: int, question: Question) -> tuple[Array, Array | None]:
    """What is wanted of each post, and what it is a part of."""
    wanted = question.wanted
    if wanted.brought:
        told: dict[int, float] = {}
        for answer in brought_by_post(question.brand, wanted.brought, [row[0] for row in rows]):
            told |= answer
        return np.array([told.get(row[0], np.nan) for row in rows], dtype=float), None
    counts, wholes = (np.array([np.nan if row[i] is None else row[i] for row in rows], dtype=float) for i in (6, 7))
    if wanted.total:
        return counts, np.where(np.isnan(wholes), 0.0, wholes)
    return (_comparable(rows) if age == LATEST_AGE and wanted.part == "interactions" else counts), None


def _comparable(rows: Sequence[tuple[Any, ...]]) -> Array:
    """Counts as last seen that can be held against one another: index times the profile's usual count."""
    index, typical = (np.array([np.nan if row[i] is None else row[i] for row in rows], dtype=float) for i in (3, 4))
    known = typical[~np.isnan(typical)]
    return np.asarray(index * (np.median(known) if len(known) else np.nan))


def latest_presence(profile: Profile) -> PresenceReading | None:
    """The newest word of when a profile's audience was online."""
    return PresenceReading.objects.filter(profile=profile).order_by("-day").first()


def presence_in(reading: PresenceReading | None, zone: ZoneInfo, now: datetime) -> Array | None:
    """Share of the audience online by hour of week in `zone`: shape (168,), the busiest hour = 1."""
    if reading is None:
        return None
    curve = np.array(reading.hours_utc, dtype=float)
    if curve.max() <= 0:
        return None
    offset = now.astimezone(zone).utcoffset() or timedelta()
    return np.asarray(shift_hours(curve, offset.total_seconds() / 3600) / curve.max())
