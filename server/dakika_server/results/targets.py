"""Targets followed: how far a metric has come on its way to the value that is aimed at."""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from dakika_core.metrics.catalogue import Metric, Unit
from dakika_core.values.choice import Choice
from dakika_core.values.figure import Figure
from django.db import transaction
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.figures.study import Study, study_of
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.models import Target
from dakika_server.results.summary import summary_of
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Profile

# What a target is held against: the days that make a usual period.
DAYS = 28
MOST = 40


@dataclass(frozen=True, kw_only=True)
class Followed:
    """A target with where it stands. way: how much of the way from start to value is done, None where it has no
    length; time: how much of the days from setting it to its day is over. is_reached: whether now lies at it or beyond.
    """

    target: Target
    name: str
    unit: str
    now: Figure
    way: float | None
    time: float
    is_reached: bool
    days_left: int


def study_of_target(brand: Brand, query: dict[str, Any]) -> Study:
    """The last 28 days that are over, of the profiles that a target is of."""
    today = clock.now().astimezone(brand.zone).date()
    values: dict[str, Any] = {
        "compare": "previous", "first": today - timedelta(days=DAYS), "last": today - timedelta(days=1),
    }  # fmt: skip
    if query.get("profiles"):
        # Of profiles that are gone the others stay.
        known = Profile.objects.filter(brand=brand, kind="own", pk__in=query["profiles"]).values_list("pk", flat=True)
        values["profile"] = Choice(values=tuple(known))
    return study_of(brand, values, clock.now())


@dataclass(frozen=True, kw_only=True)
class Flag:
    """A target as it stands on the minute line: what of it, in which unit, by when."""

    name: str
    unit: str
    value: float
    by: date


def aimed_at(brand: Brand) -> list[Flag]:
    """What is aimed at from today on, without where it stands; one query, and one for the team's own metrics."""
    today = clock.now().astimezone(brand.zone).date()
    targets = list(Target.objects.filter(brand=brand, by__gte=today).order_by("by", "pk"))
    catalogue = catalogue_of(brand.pk) if targets else {}
    return [
        Flag(name=catalogue[t.metric].name, unit=catalogue[t.metric].unit, value=t.value, by=t.by)
        for t in targets if t.metric in catalogue
    ]  # fmt: skip


def targets_of(brand: Brand) -> list[Followed]:
    """All targets of a brand, the nearest first; those whose metric or profiles are gone are told without a figure."""
    catalogue = catalogue_of(brand.pk)
    by_query: dict[str, list[Target]] = {}
    for target in Target.objects.filter(brand=brand).order_by("by", "pk"):
        by_query.setdefault(str(sorted(target.query.get("profiles") or [])), []).append(target)
    found = []
    for targets in by_query.values():
        metrics = {t.metric: catalogue[t.metric] for t in targets if t.metric in catalogue}
        has = Profile.objects.filter(brand=brand, kind="own", pk__in=targets[0].query.get("profiles") or []).exists()
        values = {}
        if metrics and (has or not targets[0].query.get("profiles")):
            study = study_of_target(brand, targets[0].query)
            values = {m.metric.key: m.now for m in summary_of(study, metrics.values())}
        found += [
            _followed(brand, target, metrics.get(target.metric), values.get(target.metric, Figure(value=None)))
            for target in targets
        ]  # fmt: skip
    return sorted(found, key=lambda one: (one.target.by, one.target.pk))


def _followed(brand: Brand, target: Target, metric: Metric | None, now: Figure) -> Followed:
    today = clock.now().astimezone(brand.zone).date()
    begun = target.made_at.astimezone(brand.zone).date()
    whole = (target.by - begun).days
    way = None
    if now.value is not None and target.start is not None and target.value != target.start:
        way = (now.value - target.start) / (target.value - target.start)
    is_up = target.start is None or target.value >= target.start
    reached = now.value is not None and (now.value >= target.value if is_up else now.value <= target.value)
    return Followed(
        target=target, name=metric.name if metric else f"{target.metric}, a metric that is gone",
        unit=metric.unit if metric else Unit.NUMBER, now=now, way=way, is_reached=reached,
        days_left=(target.by - today).days,
        time=min(1.0, max(0.0, (today - begun).days / whole)) if whole > 0 else 1.0,
    )  # fmt: skip


def set_target(
    actor: Any, brand: Brand, *, metric: str, value: float, by: date, why: str = "", profiles: list[int] | None = None
) -> Target:
    """Set a target, or change the one of the same metric and profiles.

    Raises field errors for a metric that there is not, a day that is over and profiles that are not the brand's own.
    """
    require(actor, brand, "results.targets")
    if metric not in catalogue_of(brand.pk):
        raise field_errors({"metric": f"There is no metric {metric}."})
    today = clock.now().astimezone(brand.zone).date()
    if by <= today or by.year > today.year + 10:
        raise field_errors({"by": "Choose a day to come, within ten years."})
    wanted = sorted({*(profiles or [])})
    if Profile.objects.filter(brand=brand, kind="own", pk__in=wanted).count() < len(wanted):
        raise field_errors({"profiles": "One of these profiles is not yours, or not there any more."})
    if Target.objects.filter(brand=brand).count() >= MOST:
        raise field_errors({"metric": f"A brand has at most {MOST} targets. Remove one first."})
    query = {"profiles": wanted} if wanted else {}
    (found,) = summary_of(study_of_target(brand, query), [catalogue_of(brand.pk)[metric]])
    with transaction.atomic():
        target, _ = Target.objects.update_or_create(
            brand=brand, metric=metric, query=query,
            defaults={"value": value, "start": found.now.value, "by": by, "why": why[:300], "made_by": actor,
                      "made_at": clock.now()},
        )  # fmt: skip
        audit.record(actor, "set_target", target, brand_id=brand.pk, metric=metric, value=value)
    return target


def drop_target(actor: Any, brand: Brand, *, target_id: int) -> None:
    """Aim at it no longer. Raises Http404 where it is not there."""
    require(actor, brand, "results.targets")
    with transaction.atomic():
        target = Target.objects.select_for_update().filter(brand=brand, pk=target_id).first()
        if target is None:
            raise Http404
        audit.record(actor, "drop_target", target, brand_id=brand.pk)
        target.delete()
