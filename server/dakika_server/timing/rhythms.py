"""Rhythms: what is proposed, what is kept, and what of today is held against it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from dakika_core.timing.best_times import HourEffects
from dakika_core.timing.proposals import Gain, Rules, WeeklySlot, gain_of, propose_rhythm
from dakika_core.timing.trials import draw_weeks
from dakika_core.values.period import hour_of_week
from django.db import transaction
from django.db.models import Count

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.measures.models import PostMeasure
from dakika_server.notices.schedules import instant_of
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.models import Profile
from dakika_server.timing.estimating import answers_of
from dakika_server.timing.models import Rhythm, StandingSlot, Trial
from dakika_server.timing.planned import Planned

# Today's rhythm, where none is kept, is where the posts of the last weeks were.
USED = timedelta(weeks=8)
MOST_A_WEEK, MOST_PROFILES = 50, 20
WEEK_MINUTES = 7 * 24 * 60
# A standing slot is taken by what is planned for its profile within so long of it.
TAKEN_WITHIN = timedelta(minutes=30)


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """Slots for several profiles, what they gain on today's, by profile too, and what today's is.

    What all gain is told of those profiles that have hours of today to be held against.
    """

    slots: tuple[WeeklySlot, ...]
    short: dict[int, int]
    gain: Gain | None
    gains: dict[int, Gain | None]
    now: dict[int, list[int]]
    stands_by: dict[int, str]


def propose(brand: Brand, wanted: dict[int, int], rules: Rules) -> Proposal:
    """The best rhythm of several profiles at once. Raises field errors for profiles that are not the brand's own."""
    profiles = own_profiles(brand, list(wanted))
    answers = answers_of(profiles)
    effects = {str(pk): answer.effects for pk, answer in answers.items()}
    found = propose_rhythm(effects, {str(pk): many for pk, many in wanted.items()}, rules)
    used = hours_in_use(profiles)
    gains = {pk: _gain(effects, used, found.slots, [pk]) for pk in wanted}
    return Proposal(
        slots=found.slots, short={int(pk): many for pk, many in found.short.items()},
        gain=_gain(effects, used, found.slots, [pk for pk in wanted if used[pk]]), gains=gains, now=used,
        stands_by={pk: answer.facts["stands_by"] for pk, answer in answers.items()},
    )  # fmt: skip


def _gain(
    effects: dict[str, HourEffects], used: dict[int, list[int]], slots: Sequence[WeeklySlot], among: Sequence[int]
) -> Gain | None:
    proposed = {str(pk): [slot.hour for slot in slots if slot.profile == str(pk)] for pk in among}
    return gain_of(effects, {str(pk): used.get(pk, []) for pk in among}, proposed)


def gain_over_kept(rhythm: Rhythm) -> Gain | None:
    """What today's proposal for one profile would gain on the rhythm that it keeps, by the same rules."""
    many = rhythm.slots.count()
    if not many:
        return None
    found = propose(rhythm.brand, {rhythm.profile_id: many}, rules_of(rhythm.rules))
    return found.gain


def hours_in_use(profiles: Sequence[Profile]) -> dict[int, list[int]]:
    """By profile the hours of week of its kept rhythm, else those of its posts of the last weeks."""
    found: dict[int, list[int]] = {profile.pk: [] for profile in profiles}
    for slot in StandingSlot.objects.filter(rhythm__profile__in=list(found)).select_related("rhythm"):
        found[slot.rhythm.profile_id].append(slot.minute // 60)
    without = [profile for profile in profiles if not found[profile.pk]]
    zones = {profile.pk: profile.brand.zone for profile in without}
    rows = PostMeasure.objects.filter(
        profile__in=list(zones), age_hours=0, post__has_time=True, published_at__gte=clock.now() - USED
    ).values_list("profile_id", "published_at")
    for pk, at in rows:
        found[pk].append(int(hour_of_week(at, zones[pk])))
    return found


def rules_of(values: dict[str, Any]) -> Rules:
    """Rules as they are kept, with what is usual for those that are not."""
    known = {name: values[name] for name in Rules.__dataclass_fields__ if name in values}
    if "days_off" in known:
        known["days_off"] = frozenset(known["days_off"])
    return Rules(**known)


def keep_rhythm(
    actor: Any,
    brand: Brand,
    profile_id: int,
    slots: Sequence[tuple[int, bool]],
    rules: dict[str, Any],
    edition: int | None,
) -> Rhythm:
    """Make some weekly times the rhythm of a profile: (minute of the week, whether it is for learning) each.

    None of them ends the rhythm's slots. Raises Conflict where a colleague has changed it since `edition` was read
    (None: there was none), field errors for minutes that are none.
    """
    require(actor, brand, "timing.rhythm")
    if len(slots) > MOST_A_WEEK:
        raise field_errors({"slots": f"A rhythm has at most {MOST_A_WEEK} times a week."})
    if any(not 0 <= minute < WEEK_MINUTES for minute, _ in slots):
        raise field_errors({"slots": "A time of the week is a minute from Monday 00:00, 0 to 10,079."})
    (profile,) = own_profiles(brand, [profile_id])
    with transaction.atomic():
        Profile.objects.select_for_update().get(pk=profile.pk)
        kept = Rhythm.objects.filter(profile=profile).first()
        if (kept.edition if kept else None) != edition:
            raise Conflict(
                "changed_meanwhile", "A colleague has changed this rhythm meanwhile. Look at it before you do."
            )
        if kept is None:
            kept = Rhythm(brand=brand, profile=profile, edition=0)
        kept.zone, kept.rules, kept.kept_at, kept.kept_by = brand.time_zone, _plain(rules), clock.now(), actor
        kept.edition += 1
        kept.save()
        kept.slots.all().delete()
        unique = dict(slots)
        StandingSlot.objects.bulk_create(
            StandingSlot(rhythm=kept, minute=minute, is_learning=is_learning) for minute, is_learning in unique.items()
        )
        audit.record(actor, "keep_rhythm", kept, brand_id=brand.pk, slots=len(unique))
    return kept


def _plain(rules: dict[str, Any]) -> dict[str, Any]:
    known = {name: rules[name] for name in Rules.__dataclass_fields__ if name in rules}
    return {name: sorted(value) if isinstance(value, (set, frozenset)) else value for name, value in known.items()}


def own_profiles(brand: Brand, ids: Sequence[int]) -> list[Profile]:
    """Some own profiles of a brand, in order of their keys. Raises a field error where one is not there, or is none."""
    found = Profile.objects.filter(brand=brand, kind="own", is_followed=True, pk__in=list(ids)).select_related("brand")
    profiles = list(found.order_by("pk"))
    if not profiles or len(profiles) != len(set(ids)) or len(profiles) > MOST_PROFILES:
        raise field_errors({"profiles": "Choose own profiles that are there, at most twenty."})
    return profiles


@dataclass(frozen=True, kw_only=True)
class Due:
    """A standing slot in a real week. trial: the name of the trial that set it; empty where the rhythm did."""

    profile_id: int
    at: datetime
    is_learning: bool
    trial: str


def is_taken(slot: Due, planned: Sequence[Planned]) -> bool:
    """Whether something is planned for the slot's profile within half an hour of it."""
    return any(p.profile_id == slot.profile_id and abs(p.at - slot.at) < TAKEN_WITHIN for p in planned)


def slots_between(brand: Brand, profiles: Sequence[int], start: datetime, end: datetime) -> list[Due]:
    """The standing slots of some profiles in [start, end), in order; in a trial's weeks those that were drawn.

    By the clock of the zone: a time that a change of clocks leaves out is taken by the offset before the gap.
    """
    kept = Rhythm.objects.filter(brand=brand, profile__in=list(profiles)).prefetch_related("slots")
    by_profile = {r.profile_id: (ZoneInfo(r.zone), [(s.minute, s.is_learning) for s in r.slots.all()]) for r in kept}
    trials = _weeks_of_trials(brand, profiles)
    found = []
    for pk in dict.fromkeys(profiles):
        zone, weekly = by_profile.get(pk, (brand.zone, []))
        monday = _monday(start, zone)
        while instant_of(datetime.combine(monday, datetime.min.time()), zone) < end:
            drawn = trials.get((pk, monday))
            minutes = [(minute, False) for minute in drawn[1]] if drawn else weekly
            in_zone = drawn[2] if drawn else zone
            for minute, is_learning in minutes:
                local = datetime.combine(monday, datetime.min.time()) + timedelta(minutes=minute)
                at = instant_of(local, in_zone)
                if start <= at < end:
                    found.append(Due(profile_id=pk, at=at, is_learning=is_learning, trial=drawn[0] if drawn else ""))
            monday += timedelta(days=7)
    return sorted(found, key=lambda due: (due.at, due.profile_id))


def _monday(at: datetime, zone: ZoneInfo) -> date:
    local = at.astimezone(zone).date()
    return local - timedelta(days=local.weekday())


def _weeks_of_trials(brand: Brand, profiles: Sequence[int]) -> dict[tuple[int, date], tuple[str, list[int], ZoneInfo]]:
    found = {}
    for trial in Trial.objects.filter(brand=brand, state=Trial.State.RUNNING).prefetch_related("members"):
        for member in trial.members.all():
            if member.profile_id not in profiles:
                continue
            for number, is_second in enumerate(draw_weeks(member.seed, trial.pairs)):
                minutes = member.minutes(is_second=is_second)
                week = trial.starts + timedelta(weeks=number)
                found[member.profile_id, week] = (trial.name, minutes, ZoneInfo(trial.zone))
    return found


def rhythms_of(brand: Brand) -> list[tuple[Profile, Rhythm | None, float]]:
    """Each own profile that is followed, its rhythm if it has one, and how many posts a week it had of late."""
    profiles = Profile.objects.filter(brand=brand, kind="own", is_followed=True).select_related("brand", "rhythm")
    profiles = profiles.prefetch_related("rhythm__slots").order_by("name", "network", "pk")
    counted = dict(
        PostMeasure.objects.filter(
            profile__in=[p.pk for p in profiles], age_hours=0, published_at__gte=clock.now() - USED
        ).values_list("profile").annotate(many=Count("pk"))
    )  # fmt: skip
    return [(p, getattr(p, "rhythm", None), counted.get(p.pk, 0) / (USED / timedelta(weeks=1))) for p in profiles]
