"""What is asked of hours: whose, for what, of which posts, by whose clock. The address carries it all."""

import hashlib
import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo, available_timezones

from dakika_core.metrics.observed import LATEST_AGE
from dakika_core.values.choice import Choice
from django.db.models import F, Q, Sum
from rest_framework import serializers

from dakika_server.brands.models import Brand
from dakika_server.figures.study import LARGEST_KEY, ChoiceField, Study, format_of, in_choice, key_of, study_of, word_of
from dakika_server.measures.models import ProfilePublished
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Profile

SPAN = timedelta(days=182)
# What one estimate takes in at most.
MOST_POOLED, MOST_POSTS = 12, 2000
BRAND, COMPETITORS = "brand", "competitors"


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """What an hour is good for: a count, or a count as a part of another. Of one brought in by links or the site, part
    is empty and brought is its name. least: so many must have been counted in all before hours are told.
    """

    key: str
    name: str
    part: str = ""
    total: str = ""
    brought: str = ""
    least: int = 0


WANTED = {
    one.key: one
    for one in (
        Wanted(key="interactions", name="interactions", part="interactions"),
        Wanted(key="reach", name="reach", part="reach"),
        Wanted(key="impressions", name="impressions", part="impressions"),
        Wanted(key="comments", name="comments", part="comments"),
        Wanted(key="saves", name="saves", part="saves"),
        Wanted(key="video_views", name="video views", part="video_views"),
        Wanted(key="er_reach", name="interactions per reach", part="interactions", total="reach"),
        Wanted(key="er_impressions", name="interactions per impression", part="interactions", total="impressions"),
        Wanted(key="ctr", name="link clicks per impression", part="link_clicks", total="impressions"),
        Wanted(key="tracked_clicks", name="clicks on tracked links", brought="tracked_clicks", least=200),
        Wanted(key="conversions", name="conversions", brought="conversions", least=100),
    )
}


class QuestionSerializer(serializers.Serializer[Any]):
    """Whose hours, for what, of which posts, by whose clock. Without any: the own profile that published most."""

    whose = serializers.ChoiceField(choices=[BRAND, COMPETITORS], required=False)
    set = serializers.IntegerField(
        required=False, min_value=1, max_value=LARGEST_KEY, help_text="the competitors of a peer set"
    )
    profile = ChoiceField(key_of, "profiles, by their numbers")
    network = ChoiceField(word_of, "networks")
    format = ChoiceField(format_of, "formats")
    tag = ChoiceField(key_of, "tags, by their numbers")
    of = serializers.ChoiceField(choices=list(WANTED), default="interactions")
    first = serializers.DateField(required=False)
    last = serializers.DateField(required=False)
    zone = serializers.CharField(required=False, max_length=64)


@dataclass(frozen=True, kw_only=True)
class Question:
    """A checked question. profiles: those it is about; pooled: those it is estimated with, itself among them."""

    brand: Brand
    profiles: tuple[Profile, ...]
    pooled: tuple[Profile, ...]
    wanted: Wanted
    zone: ZoneInfo
    study: Study
    first: date | None = None
    last: date | None = None

    @property
    def one(self) -> Profile | None:
        """The single profile that it is about."""
        return self.profiles[0] if len(self.profiles) == 1 else None

    @property
    def is_standing(self) -> bool:
        """Whether it is what is asked of a single profile of our own when nothing else is chosen."""
        plain = self.first is None and self.last is None and not self.study.formats and not self.study.tags
        is_own = self.one is not None and self.one.kind == Profile.Kind.OWN
        return is_own and plain and self.wanted.key == "interactions" and str(self.zone) == (
            self.brand.time_zone
        )  # fmt: skip

    def asked(self) -> dict[str, Any]:
        """The question as data, the same for the same question."""
        return {
            "profiles": [p.pk for p in self.profiles], "pooled": [p.pk for p in self.pooled], "of": self.wanted.key,
            "formats": _told(self.study.formats), "tags": _told(self.study.tags), "zone": str(self.zone),
            "first": self.first.isoformat() if self.first else None,
            "last": self.last.isoformat() if self.last else None,
        }  # fmt: skip

    @property
    def key(self) -> str:
        """A name of the question for looking it up."""
        return hashlib.blake2b(json.dumps(self.asked(), sort_keys=True).encode(), digest_size=20).hexdigest()

    def on_posts(self) -> Q:
        """What it asks of posts, on their measures."""
        return self.study.on_posts("post__")


def _told(choice: Choice[Any] | None) -> Any:
    return None if choice is None else [choice.is_not, sorted(choice.values)]


def zone_named(name: str) -> ZoneInfo:
    """A zone by its IANA name. Raises a field error for what is none."""
    if name not in available_timezones():
        raise field_errors({"zone": f"There is no time zone {name[:64]}."})
    return ZoneInfo(name)


def question_of(brand: Brand, values: dict[str, Any], now: datetime) -> Question | None:
    """Put a question together; None where the brand has no profile that it could be about.

    Other brands' profiles are simply not found. Raises a field error for profiles that are not there.
    """
    zone = zone_named(values.get("zone") or brand.time_zone)
    first, last = values.get("first"), values.get("last")
    if first and last and last < first:
        raise field_errors({"last": "The period ends before it begins."})
    study = study_of(brand, {"compare": "previous", "age": 0, "format": values.get("format"), "tag": values.get("tag")},
                     now)  # fmt: skip
    followed = (
        Profile.objects.filter(brand=brand, is_followed=True).select_related("brand", "competitor").order_by("pk")
    )
    profiles = _about(followed, values, now)
    if not profiles:
        return None
    pooled = pooled_with(profiles[0]) if len(profiles) == 1 else list(profiles)
    return Question(
        brand=brand, profiles=tuple(profiles), pooled=tuple(sorted(pooled, key=lambda p: p.pk)), zone=zone, study=study,
        wanted=WANTED[values.get("of") or "interactions"], first=first, last=last,
    )  # fmt: skip


def _about(followed: Any, values: dict[str, Any], now: datetime) -> list[Profile]:
    asked, networks, whose = values.get("profile"), values.get("network"), values.get("whose")
    if asked:
        found = followed.filter(in_choice("pk", asked))
        if asked.is_not:
            found = found.filter(kind="own")
        if not found:
            raise field_errors({"profile": "There is no such profile here, or not any more. Choose another."})
        return _busiest(list(found), now)
    peers = values.get("set")
    if whose or networks or peers:
        kind = Profile.Kind.COMPETITOR if whose == COMPETITORS or peers else Profile.Kind.OWN
        found = followed.filter(kind=kind)
        if peers:
            found = found.filter(peer_sets=peers, peer_sets__brand=F("brand"))
            if not found:
                raise field_errors({"set": "There is no such set here, or no competitor in it. Choose another."})
        return _busiest(list(found.filter(in_choice("network", networks)) if networks else found), now)
    every = list(followed.order_by("-kind", "name", "network"))
    return [next(p for p in every if p.pk == busiest(every, now))] if every else []


def _busiest(profiles: list[Profile], now: datetime) -> list[Profile]:
    """At most twelve, those that published most."""
    if len(profiles) <= MOST_POOLED:
        return profiles
    counted = dict(
        ProfilePublished.objects.filter(
            profile__in=[p.pk for p in profiles], age_hours=LATEST_AGE, day__gte=(now - SPAN).date()
        ).values_list("profile").annotate(many=Sum("posts"))
    )  # fmt: skip
    return sorted(profiles, key=lambda p: (-(counted.get(p.pk) or 0), p.pk))[:MOST_POOLED]


def standing_question(profile: Profile, now: datetime) -> Question:
    """What is asked of a single profile when nothing else is chosen."""
    found = question_of(profile.brand, {"profile": Choice(values=(profile.pk,))}, now)
    if found is None:
        raise LookupError(profile.pk)
    return found


def pooled_with(profile: Profile) -> list[Profile]:
    """The profiles that a profile's hours are estimated with: the brand's own, or those of the same competitor.

    At most the twelve that published most, and the profile itself.
    """
    alike = Profile.objects.filter(brand=profile.brand_id, kind=profile.kind, competitor=profile.competitor_id)
    counted = (
        ProfilePublished.objects.filter(profile__in=alike, age_hours=LATEST_AGE)
        .values_list("profile").annotate(many=Sum("posts")).order_by("-many", "profile")[:MOST_POOLED]
    )  # fmt: skip
    found = alike.select_related("brand").in_bulk([pk for pk, _ in counted])
    most = [found[pk] for pk, _ in counted]
    return most if profile.pk in found else [profile, *most[: MOST_POOLED - 1]]


def busiest(profiles: Sequence[Profile], now: datetime) -> int:
    """The own profile that published most in the last half-year: what is asked about first. Else the first there is."""
    own = [profile.pk for profile in profiles if profile.kind == "own"]
    counted = (
        ProfilePublished.objects.filter(profile__in=own, age_hours=LATEST_AGE, day__gte=(now - SPAN).date())
        .values_list("profile").annotate(many=Sum("posts")).order_by("-many", "profile")
    )  # fmt: skip
    return next((pk for pk, _ in counted), profiles[0].pk)
