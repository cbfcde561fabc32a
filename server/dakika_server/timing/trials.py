"""Trials of two publishing times, or of two rhythms: started, looked at, ended."""

import secrets
from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
from dakika_core.timing.trials import MOST_PAIRS, Length, Look, draw_weeks, length_of, look_at
from dakika_core.values.period import HOURS_PER_WEEK, start_of_day
from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.measures.models import PostMeasure
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.models import Profile
from dakika_server.timing.estimating import answers_of
from dakika_server.timing.models import Trial, TrialProfile
from dakika_server.timing.rhythms import WEEK_MINUTES, keep_rhythm, own_profiles

# A post counts for a time when it went out within so many minutes of it.
NEAR_MINUTES = 60
# What a profile's posts of one week have in common beyond chance (log scale), while planning.
WEEKLY = 0.15
AGE_HOURS = 72


def plan_length(brand: Brand, profiles: Sequence[int], slots: int, worth: float, error: float) -> Length:
    """How long a trial of some profiles would take, said before it begins. `slots`: posts a week at each time."""
    found = own_profiles(brand, profiles)
    noise = float(np.mean([answer.effects.noise for answer in answers_of(found).values()]))
    return length_of(worth=worth, noise=noise, weekly=WEEKLY, posts_a_week=slots, profiles=len(found), error=error)


def start_trial(
    actor: Any, brand: Brand, *, name: str, profiles: Sequence[int], first: Sequence[int] = (),
    second: Sequence[int] = (), rhythms: Mapping[int, tuple[Sequence[int], Sequence[int]]] | None = None,
    starts: date, pairs: int, worth: float, error: float,
) -> Trial:  # fmt: skip
    """Start a trial; the weeks of each profile are drawn now. Raises field errors for what makes no trial.

    Either of two times that all profiles share, first and second, or of two rhythms of each profile, by its id. One
    profile is in one running trial at a time.
    """
    require(actor, brand, "timing.trial")
    if rhythms:
        first = second = ()
        _check_rhythms(rhythms, profiles)
    else:
        _check_times(first, second)
    _check_weeks(brand, starts, pairs)
    found = own_profiles(brand, profiles)
    of_each = {
        pk: {"first": sorted(set(one)), "second": sorted(set(other))} for pk, (one, other) in (rhythms or {}).items()
    }
    with transaction.atomic():
        list(Profile.objects.select_for_update().filter(pk__in=[p.pk for p in found]).order_by("pk"))
        busy = TrialProfile.objects.filter(profile__in=found, trial__state=Trial.State.RUNNING).select_related(
            "profile"
        )
        if taken := busy.first():
            raise Conflict("in_a_trial", f"{taken.profile.name} is in a running trial already. End that one first.")
        trial = Trial.objects.create(
            brand=brand, name=name, first=sorted(set(first)), second=sorted(set(second)), zone=brand.time_zone,
            starts=starts, pairs=pairs, worth=worth, error=error, made_at=clock.now(), made_by=actor,
        )  # fmt: skip
        TrialProfile.objects.bulk_create(
            TrialProfile(trial=trial, profile=profile, seed=secrets.randbelow(2**53), **of_each.get(profile.pk, {}))
            for profile in found
        )
        audit.record(actor, "start_trial", trial, brand_id=brand.pk, pairs=pairs)
    return trial


def _check_rhythms(rhythms: Mapping[int, tuple[Sequence[int], Sequence[int]]], profiles: Sequence[int]) -> None:
    """A week is one rhythm's or the other's, so that they may share times; but they are two."""
    if set(rhythms) != set(profiles):
        raise field_errors({"rhythms": "Say two rhythms for each of the profiles."})
    for first, second in rhythms.values():
        if any(not 0 <= minute < WEEK_MINUTES for minute in (*first, *second)) or not first or not second:
            raise field_errors({"rhythms": "Each rhythm has at least one time of the week."})
        if len(set(first)) != len(set(second)):
            raise field_errors({"rhythms": "Both rhythms of a profile have the same number of times a week."})
        if all(min(_apart(a, b) for a in first) < 2 * NEAR_MINUTES for b in second):
            raise field_errors({"rhythms": "The two rhythms of a profile are the same within two hours."})


def _check_times(first: Sequence[int], second: Sequence[int]) -> None:
    for field, minutes in (("first", first), ("second", second)):
        if not minutes or any(not 0 <= minute < WEEK_MINUTES for minute in minutes):
            raise field_errors({field: "Choose at least one time of the week."})
    if len(set(first)) != len(set(second)):
        raise field_errors({"second": "Both have the same number of times a week, so that weeks can be compared."})
    if any(_apart(a, b) < 2 * NEAR_MINUTES for a in first for b in second):
        raise field_errors({"second": "The two lie at least two hours apart, or a post would count for both."})


def _check_weeks(brand: Brand, starts: date, pairs: int) -> None:
    if starts.weekday() != 0:
        raise field_errors({"starts": "A trial begins on a Monday."})
    if starts <= clock.now().astimezone(brand.zone).date():
        raise field_errors({"starts": "Begin on a Monday to come: a week that has begun cannot be drawn any more."})
    if not 2 <= pairs <= MOST_PAIRS:
        raise field_errors({"pairs": f"Choose 2 to {MOST_PAIRS} pairs of weeks."})


def _apart(a: int, b: int) -> int:
    apart = abs(a - b)
    return min(apart, HOURS_PER_WEEK * 60 - apart)


def differences_of(trial: Trial, now: datetime) -> list[list[float]]:
    """Of each pair of weeks that is over and read, by profile the mean log result at the second time less the first's.

    A post counts for a time within an hour of it; its result is held against what is typical at 72 hours, so that
    formats and trends are out of it. NaN where a profile has none at one of the two.
    """
    zone = ZoneInfo(trial.zone)
    rows: list[Any]
    members = list(trial.members.all())
    begins = start_of_day(trial.starts, zone)
    rows = list(
        PostMeasure.objects.filter(
            profile__in=[m.profile_id for m in members], age_hours=AGE_HOURS, published_at__gte=begins,
            interactions__isnull=False, typical__isnull=False, post__has_time=True,
        ).values_list("profile_id", "published_at", "interactions", "typical")
    )  # fmt: skip
    found = []
    for pair in range(trial.pairs):
        until = start_of_day(trial.starts + timedelta(weeks=2 * pair + 2), zone) + timedelta(hours=AGE_HOURS)
        if until > now:
            break
        found.append([_difference(trial, member, pair, rows, zone) for member in members])
    return found


def _difference(
    trial: Trial, member: TrialProfile, pair: int, rows: Sequence[tuple[int, datetime, float, float]], zone: ZoneInfo
) -> float:
    means = {}
    for number in (2 * pair, 2 * pair + 1):
        is_second = draw_weeks(member.seed, trial.pairs)[number]
        start = start_of_day(trial.starts + timedelta(weeks=number), zone)
        end = start_of_day(trial.starts + timedelta(weeks=number + 1), zone)
        minutes = member.minutes(is_second=is_second)
        logs = [
            np.log1p(count) - np.log1p(typical) for profile, at, count, typical in rows
            if profile == member.profile_id and start <= at < end and _is_near(at, minutes, zone)
        ]  # fmt: skip
        means[is_second] = float(np.mean(logs)) if logs else float("nan")
    return means[True] - means[False]


def _is_near(at: datetime, minutes: Sequence[int], zone: ZoneInfo) -> bool:
    local = at.astimezone(zone)
    minute = local.weekday() * 1440 + local.hour * 60 + local.minute
    return any(_apart(minute, one) <= NEAR_MINUTES for one in minutes)


def look(trial: Trial, now: datetime) -> Look:
    """The state of a trial by what is read."""
    return look_at(differences_of(trial, now), trial.pairs, error=trial.error)


def told(found: Look) -> dict[str, Any]:
    """A look as it is kept and told; what is endless is left out."""
    values = asdict(found)
    interval = values.pop("interval")
    ends = {name: interval[name] if interval and np.isfinite(interval[name]) else None for name in ("low", "high")}
    return {**values, **ends, "verdict": found.verdict.value, "spent": min(found.spent, 1.0)}


def evaluate(trial: Trial, now: datetime) -> Trial:
    """Look at a running trial, and end it once its answer is there. The answer stays as it was told."""
    with transaction.atomic():
        trial = Trial.objects.select_for_update().get(pk=trial.pk)
        if trial.state != Trial.State.RUNNING:
            return trial
        found = look(trial, now)
        trial.outcome = told(found)
        if found.is_over:
            trial.state, trial.ended_at = Trial.State.OVER, now
        trial.save()
    return trial


def stop_trial(actor: Any, brand: Brand, pk: int, *, keep: str = "") -> Trial:
    """End a trial before its end, or make one of its two the rhythm of its profiles: keep is "first", "second" or
    empty.

    Raises Conflict for one that was kept already.
    """
    require(actor, brand, "timing.trial")
    with transaction.atomic():
        trial = Trial.objects.select_for_update().get(brand=brand, pk=pk)
        if trial.state == Trial.State.RUNNING:
            found = look(trial, clock.now())
            trial.outcome = told(found)
            trial.state = Trial.State.OVER if found.is_over else Trial.State.STOPPED
            trial.ended_at = clock.now()
        if keep:
            if trial.was_kept:
                raise Conflict("kept_already", "This trial's outcome is the profiles' rhythm already.")
            for member in trial.members.select_related("profile"):
                minutes = member.minutes(is_second=keep == "second")
                rhythm = getattr(member.profile, "rhythm", None)
                keep_rhythm(
                    actor, brand, member.profile_id, [(minute, False) for minute in minutes],
                    rhythm.rules if rhythm else {}, rhythm.edition if rhythm else None,
                )  # fmt: skip
            trial.was_kept = True
        trial.save()
        audit.record(actor, "stop_trial", trial, brand_id=brand.pk, keep=keep)
    return trial
