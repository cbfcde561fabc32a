"""Who follows: make-up by dimension, its change between two days, own against competitors where they are told of."""

from dataclasses import dataclass
from datetime import date
from typing import Any

from dakika_core.metrics.observed import AUDIENCE_DIMENSIONS
from django.db.models import OuterRef, QuerySet, Subquery

from dakika_server.figures.study import Study
from dakika_server.sources.models import AudienceReading, Profile, ProfileReading

MOST_SEGMENTS = 30


@dataclass(frozen=True, kw_only=True)
class Segment:
    """One part of an audience: its share, 0 to 1, and that of the competitors, missing where nobody tells of them.

    change is of the profiles that were read at both days, else a new profile would look like one.
    """

    name: str
    share: float
    change: float | None
    others: float | None


@dataclass(frozen=True, kw_only=True)
class Dimension:
    """A dimension over the profiles that tell of it, weighted by their followers."""

    key: str
    segments: list[Segment]
    day: date
    day_before: date | None
    profiles: int
    followers: float
    others: int


def audience_of(study: Study) -> list[Dimension]:
    """Each dimension as it was last read by the end of the period and by its first day."""
    now = _readings(study.profile_ids, study.period.last)
    before = _readings(study.profile_ids, study.period.first)
    competitors = Profile.objects.filter(brand=study.brand, kind="competitor").values_list("pk", flat=True)
    others = _readings(list(competitors), study.period.last)
    weights = _followers({row.profile_id for row in [*now, *before, *others]}, study.period.last)
    found = []
    for key in AUDIENCE_DIMENSIONS:
        own = [row for row in now if row.dimension == key]
        if not own:
            continue
        early = {row.profile_id: row for row in before if row.dimension == key and row.day < _of(own, row).day}
        same = [row for row in own if row.profile_id in early]
        shares, then = _mixed(own, weights), _mixed(list(early.values()), weights)
        shares_of_same = _mixed(same, weights)
        theirs_rows = [row for row in others if row.dimension == key]
        theirs = _mixed(theirs_rows, weights)
        names = sorted({*shares, *then}, key=lambda name: -shares.get(name, 0.0))[:MOST_SEGMENTS]
        segments = [
            Segment(
                name=name, share=shares.get(name, 0.0),
                change=shares_of_same.get(name, 0.0) - then.get(name, 0.0) if early else None,
                others=theirs.get(name, 0.0) if theirs_rows else None,
            )
            for name in names
        ]  # fmt: skip
        found.append(
            Dimension(
                key=key, segments=segments, day=max(row.day for row in own),
                day_before=min(row.day for row in early.values()) if early else None, profiles=len(own),
                followers=sum(weights.get(row.profile_id, 0.0) for row in own), others=len(theirs_rows),
            )
        )  # fmt: skip
    return found


@dataclass(frozen=True, kw_only=True)
class Shares:
    """What a segment's share is made of: (profile, share, weight) of own and of competitors' profiles.

    of_same and then: the share now and before over the profiles that were read at both days.
    """

    own: list[tuple[Profile, float, float]]
    others: list[tuple[Profile, float, float]]
    of_same: float
    then: float


def shares_of(study: Study, dimension: str, segment: str) -> Shares:
    """What the share of one segment is made of, as in audience_of."""
    competitors = Profile.objects.filter(brand=study.brand, kind="competitor").values_list("pk", flat=True)
    now, before, others = (
        [row for row in rows if row.dimension == dimension]
        for rows in (
            _readings(study.profile_ids, study.period.last), _readings(study.profile_ids, study.period.first),
            _readings(list(competitors), study.period.last),
        )
    )  # fmt: skip
    weights = _followers({row.profile_id for row in [*now, *before, *others]}, study.period.last)
    early = {row.profile_id: row for row in before if row.day < _of(now, row).day}
    same = [row for row in now if row.profile_id in early]
    profiles = Profile.objects.in_bulk([row.profile_id for row in [*now, *others]])

    def told(rows: list[AudienceReading]) -> list[tuple[Profile, float, float]]:
        has_weight = any(weights.get(row.profile_id) for row in rows)
        return [
            (
                profiles[row.profile_id],
                row.segments.get(segment, 0.0),
                weights.get(row.profile_id, 0.0) if has_weight else 1.0,
            )
            for row in rows
        ]

    return Shares(
        own=told(now), others=told(others), of_same=_mixed(same, weights).get(segment, 0.0),
        then=_mixed(list(early.values()), weights).get(segment, 0.0),
    )  # fmt: skip


def _of(rows: list[AudienceReading], like: AudienceReading) -> AudienceReading:
    return next((row for row in rows if row.profile_id == like.profile_id), like)


def _readings(profiles: list[int], until: date) -> list[AudienceReading]:
    """The last reading of each profile and dimension up to a day."""
    latest: QuerySet[Any] = (
        AudienceReading.objects.filter(profile__in=profiles, day__lte=until)
        .order_by("profile_id", "dimension", "-day")
        .distinct("profile_id", "dimension")
    )
    return list(latest)


def _followers(profiles: set[int], until: date) -> dict[int, float]:
    last = (
        ProfileReading.objects.filter(profile=OuterRef("pk"), day__lte=until, followers__isnull=False)
        .order_by("-day").values("followers")[:1]
    )  # fmt: skip
    rows = Profile.objects.filter(pk__in=profiles).annotate(count=Subquery(last)).values_list("pk", "count")
    return {pk: float(count or 0) for pk, count in rows}


def _mixed(rows: list[AudienceReading], weights: dict[int, float]) -> dict[str, float]:
    """Shares over several profiles, weighted by followers; equally where followers are not known."""
    total = sum(weights.get(row.profile_id, 0.0) for row in rows)
    mixed: dict[str, float] = {}
    for row in rows:
        weight = weights.get(row.profile_id, 0.0) / total if total else 1 / len(rows)
        for name, share in row.segments.items():
            mixed[name] = mixed.get(name, 0.0) + weight * share
    return mixed
