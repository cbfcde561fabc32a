"""Estimates follow the figures that they rest on."""

from datetime import datetime, timedelta
from typing import Any

from dakika_core.values.choice import Choice

from dakika_server.jobs.asking import ask
from dakika_server.shared import clock
from dakika_server.sources.models import Profile
from dakika_server.timing.estimating import answers_of, estimate
from dakika_server.timing.models import Estimate
from dakika_server.timing.questions import question_of

# What nobody's screen has asked for lately is let go of; it is made again when it is asked.
KEPT_UNASKED = timedelta(days=7)
# A brand's profiles are measured one after another: what stands of them is made once, when most are there.
SOON = timedelta(seconds=60)


def mark_stale(profile: Profile) -> None:
    """A profile was measured: what rests on its posts is out of date; where nothing does yet, it is asked for."""
    Estimate.objects.filter(brand=profile.brand_id, profiles__contains=[profile.pk], is_stale=False).update(
        is_stale=True
    )
    if profile.kind == Profile.Kind.OWN and not _has_standing(profile):
        ask("timing.make_standing", brand_id=profile.brand_id, schedule_at=clock.now() + SOON)


def _has_standing(profile: Profile) -> bool:
    return Estimate.objects.filter(brand=profile.brand_id, is_standing=True, asked__profiles=[profile.pk]).exists()


def make_standing(brand_id: int) -> None:
    """Make what stands of each own profile of a brand, as far as it is missing."""
    own = Profile.objects.filter(brand=brand_id, kind="own", is_followed=True).select_related("brand").order_by("pk")
    answers_of(list(own))


def make_anew(pk: int) -> None:
    """Work an estimate out again from its question, if it is still out of date. One of profiles that are gone goes."""
    kept = Estimate.objects.select_related("brand").filter(pk=pk, is_stale=True).first()
    if kept is None:
        return
    asked: dict[str, Any] = kept.asked
    values = {
        "profile": Choice(values=tuple(asked["profiles"])), "of": asked["of"], "zone": asked["zone"],
        "format": _choice(asked["formats"]), "tag": _choice(asked["tags"]), "first": _day(asked["first"]),
        "last": _day(asked["last"]),
    }  # fmt: skip
    there = Profile.objects.filter(brand=kept.brand, pk__in=asked["profiles"], is_followed=True).count()
    question = question_of(kept.brand, values, clock.now()) if there == len(asked["profiles"]) else None
    if question is None:
        kept.delete()
        return
    (made,) = estimate([question])
    if made.pk != kept.pk:
        # It is estimated with others by now, and so another question.
        kept.delete()


def _choice(told: Any) -> Any:
    return None if told is None else Choice(values=tuple(told[1]), is_not=told[0])


def _day(text: str | None) -> Any:
    return datetime.fromisoformat(text).date() if text else None


def forget_unasked(now: datetime) -> None:
    """Let go of answers to questions of the moment."""
    Estimate.objects.filter(is_standing=False, made_at__lt=now - KEPT_UNASKED).delete()
