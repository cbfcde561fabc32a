"""Repeating a post: looked at beforehand, made as drafts or set to go out, and taken back as a whole."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Any

import numpy as np
from dakika_core.plan.repetition import NthTime, RuleError, by_time, occurrences, same_words, too_soon, turned
from dakika_core.plan.states import State
from django.db import transaction
from django.db.models import Q
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.figures.study import study_of
from dakika_server.networks.definitions import network_name
from dakika_server.plan.actions import SENT, save_planned_post
from dakika_server.plan.content import LONGEST_TEXT, Common, VersionInput, rules_of
from dakika_server.plan.models import PlannedPost, Repetition, Version
from dakika_server.plan.saying import on_its_way
from dakika_server.results.queries import measures_in
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.models import Post

MOST_TEXTS = 20
DAYS, MOST_POSTS = 365, 5_000


@dataclass(frozen=True, kw_only=True)
class RepetitionInput:
    """How a post is to come again. texts: further ones that take turns with its own."""

    rule: str
    first: date
    last: date
    at: time
    texts: Sequence[str] = ()


@dataclass(frozen=True, kw_only=True)
class Occurrence:
    """One of the times. problems: by profile, why it cannot come there then; such a time is left out."""

    number: int
    at: datetime
    text: str
    problems: Sequence[str]


def preview_repetition(planned: PlannedPost, asked: RepetitionInput) -> dict[str, Any]:
    """All times with what is wrong with each, how often the words were out before, and how posts did that came again.

    Raises field errors for what is no rule, for times that have passed, and for too many or too long texts.
    """
    found = _occurrences(planned, asked)
    profiles = [version.profile_id for version in planned.versions.all()]
    return {
        "times": found, "conflicts": sum(bool(one.problems) for one in found), "said_before": _said_before(planned),
        "nth": wear(planned.brand, clock.now(), profiles),
    }  # fmt: skip


def repeat_post(
    actor: Any, planned: PlannedPost, asked: RepetitionInput, *, becomes_scheduled: bool
) -> tuple[Repetition, int]:
    """Make the posts of a repetition; how many times were left out because they cannot be.

    Each is a post of its own, changed and taken back like any other. becomes_scheduled: they are set to go out, or
    handed in for the yes that the brand wants; else they are drafts. All are made or none. Raises field errors as
    preview_repetition, Conflict where no time is left.
    """
    require(actor, planned.brand, "plan.write")
    with transaction.atomic():
        planned = PlannedPost.objects.select_for_update().get(pk=planned.pk)
        if planned.state == State.IDEA:
            raise Conflict("is_idea", "This is an idea. Write a draft from it first.")
        found = _occurrences(planned, asked)
        good = [one for one in found if not one.problems]
        if not good:
            raise Conflict("no_time_left", "At none of these times can it come again. Choose other days or more texts.")
        repetition = Repetition.objects.create(
            brand=planned.brand, of=planned, rule=asked.rule, first=asked.first, last=asked.last, at=asked.at,
            texts=_texts(planned, asked), made_by=actor, made_at=clock.now(),
        )  # fmt: skip
        for one in good:
            is_own = one.text == planned.text
            made = save_planned_post(
                actor, planned.brand, title=planned.title, scheduled_at=one.at, campaign_id=planned.campaign_id,
                tags=planned.tags,
                common=Common(text=one.text, headline=planned.headline, first_comment=planned.first_comment,
                              media=tuple(planned.media)),
                versions=_versions(planned, one.at, keeps_text=is_own),
            )  # fmt: skip
            PlannedPost.objects.filter(pk=made.pk).update(repetition=repetition, note=planned.note)
            if becomes_scheduled:
                on_its_way(actor, made, at=one.at)
        audit.record(actor, "repeat_post", repetition, brand_id=planned.brand_id, posts=len(good))
    return repetition, len(found) - len(good)


def end_repetition(actor: Any, brand: Brand, pk: int) -> int:
    """Take back what of a repetition is not out yet; how many posts. Raises Http404."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        found = Repetition.objects.select_for_update().filter(brand=brand, pk=pk).first()
        if found is None:
            raise Http404
        waiting = PlannedPost.objects.select_for_update().filter(repetition=found).exclude(state__in=SENT)
        left = [post for post in waiting if not post.versions.filter(state__in=SENT).exists()]
        if any(post.state == State.SCHEDULED for post in left):
            require(actor, brand, "plan.publish")
        PlannedPost.objects.filter(pk__in=[post.pk for post in left]).delete()
        audit.record(actor, "end_repetition", found, brand_id=brand.pk, posts=len(left))
        if not PlannedPost.objects.filter(repetition=found).exists():
            found.delete()
    return len(left)


def repetition_of(brand: Brand, pk: int) -> dict[str, Any]:
    """A repetition with its posts and where they stand. Raises Http404."""
    found = Repetition.objects.filter(brand=brand, pk=pk).first()
    if found is None:
        raise Http404
    posts = PlannedPost.objects.filter(repetition=found).order_by("scheduled_at", "pk")
    return {
        "id": found.pk, "of": found.of_id, "rule": found.rule, "first": found.first, "last": found.last, "at": found.at,
        "texts": found.texts, "posts": list(posts.values("id", "state", "scheduled_at", "text")),
    }  # fmt: skip


def wear(brand: Brand, now: datetime, profiles: Sequence[int]) -> list[NthTime]:
    """How posts of some profiles did by how often the same words had been out there before, over a year."""
    today = now.astimezone(brand.zone).date()
    values = {"first": today - timedelta(days=DAYS), "last": today, "compare": "previous"}
    study = study_of(brand, values, now)
    wanted = [pk for pk in study.profile_ids if not profiles or pk in profiles]
    if not wanted:
        return by_time([], np.empty(0))
    found = measures_in(study, study.period).filter(profile__in=wanted).order_by("-published_at")
    rows = list(found.values_list("profile_id", "post__text", "profile_index")[:MOST_POSTS])[::-1]
    # The same words on another network are another audience's: each profile counts for itself.
    texts = [f"profile {profile} {text}" if same_words(text) else "" for profile, text, _ in rows]
    return by_time(texts, np.array([index or np.nan for *_, index in rows], dtype=float))


def _texts(planned: PlannedPost, asked: RepetitionInput) -> list[str]:
    more = [text.replace("\x00", "").strip() for text in asked.texts]
    return [planned.text, *filter(None, more)]


def _occurrences(planned: PlannedPost, asked: RepetitionInput) -> list[Occurrence]:
    """The times with their texts, each held against what is out or planned on the same profiles."""
    texts = _texts(planned, asked)
    if len(texts) > MOST_TEXTS or any(len(text) > LONGEST_TEXT for text in texts):
        raise field_errors({"texts": f"At most {MOST_TEXTS} texts take turns, each of {LONGEST_TEXT:,} characters."})
    zone = planned.brand.zone
    try:
        times = occurrences(asked.rule, asked.first, asked.last, asked.at, zone)
    except RuleError as error:
        raise field_errors({"rule": str(error)}) from None
    if not times:
        raise field_errors({"rule": "Between these days it never comes. Choose others."})
    if times[0] < clock.now():
        raise field_errors({"first": "Its first time has passed. Begin later."})
    versions = list(planned.versions.select_related("profile"))
    if not versions:
        raise field_errors({"versions": "Choose at least one profile first."})
    others = {version.profile_id: _others(version, times[0], times[-1]) for version in versions}
    found = []
    for number, at in enumerate(times):
        text = turned(texts, number)
        problems = []
        for version in versions:
            words = version.text if number % len(texts) == 0 and "text" in version.own else text
            days = rules_of(version.profile).text.same_days
            near = too_soon(at, words, others[version.profile_id], days)
            if near is not None:
                name = network_name(version.profile.network)
                problems.append(
                    f"{name} takes the same words again after {days} days; they come on {near.astimezone(zone):%d %B}."
                )
        if not problems:
            for version in versions:
                words = version.text if number % len(texts) == 0 and "text" in version.own else text
                others[version.profile_id].append((at, words))
        found.append(Occurrence(number=number, at=at, text=text, problems=problems))
    return found


def _others(version: Version, first: datetime, last: datetime) -> list[tuple[datetime, str]]:
    """What is out or planned on a version's profile around some times: instants and texts."""
    margin = timedelta(days=rules_of(version.profile).text.same_days)
    span = (first - margin, last + margin)
    out = Post.objects.filter(profile=version.profile_id, published_at__range=span, removed_at__isnull=True)
    waiting = Version.objects.filter(profile=version.profile_id, due_at__range=span, post__isnull=True).exclude(
        Q(state__in=[State.FAILED.value, State.MISSED.value]) | Q(pk=version.pk, state=State.DRAFT.value)
    )
    return [
        *out.values_list("published_at", "text"),
        *((at, text) for at, text in waiting.values_list("due_at", "text") if at),
    ]


def _versions(planned: PlannedPost, at: datetime, *, keeps_text: bool) -> list[VersionInput]:
    """A post's versions as they are to come again: what is own stays so, but a text where another takes its turn."""
    found = []
    for version in planned.versions.order_by("pk"):
        own = set(version.own)
        has_own_time = "time" in own and version.due_at and planned.scheduled_at
        found.append(
            VersionInput(
                profile_id=version.profile_id, options=dict(version.options), link_id=version.link_id,
                text=version.text if "text" in own and keeps_text else None,
                headline=version.headline if "headline" in own else None,
                first_comment=version.first_comment if "first_comment" in own else None,
                media=list(version.media) if "media" in own else None,
                scheduled_at=at + (version.due_at - planned.scheduled_at) if has_own_time else None,  # type: ignore[operator]
            )
        )  # fmt: skip
    return found


def _said_before(planned: PlannedPost) -> int:
    """How often a post's words are out already, at most over all its profiles."""
    words = same_words(planned.text)
    if not words:
        return 0
    profiles = planned.versions.values("profile")
    texts = Post.objects.filter(profile__in=profiles, removed_at__isnull=True).values_list("profile", "text")
    counts: dict[int, int] = {}
    for profile, text in texts.order_by("-published_at")[:MOST_POSTS]:
        counts[profile] = counts.get(profile, 0) + (same_words(text) == words)
    return max(counts.values(), default=0)
