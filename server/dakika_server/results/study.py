"""What is being studied: period, comparison, profiles, formats, age. Read from an address, the same for every view."""

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any

from dakika_core.metrics.observed import DEFAULT_AGES_HOURS
from dakika_core.networks.definition import Format
from dakika_core.values.period import Comparison, Period
from django.db.models import Q
from rest_framework import serializers

from dakika_server.brands.models import Brand
from dakika_server.measures.models import FINAL, LATEST, PostMeasure
from dakika_server.results.footing import Footing, age_words, footing_of
from dakika_server.results.models import PostTag
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Profile

LONGEST_DAYS = 800
# Keys are bigint: a larger number is nobody's.
LARGEST_KEY = 2**63 - 1


class StudySerializer(serializers.Serializer[Any]):
    """The query of every view that looks at a period. Defaults: the last 28 days against those before."""

    first = serializers.DateField(required=False)
    last = serializers.DateField(required=False)
    compare = serializers.ChoiceField(choices=[c.value for c in Comparison], default=Comparison.PREVIOUS.value)
    network = serializers.CharField(required=False, max_length=40)
    profile = serializers.IntegerField(required=False, min_value=0, max_value=LARGEST_KEY)
    format = serializers.ChoiceField(choices=[f.value for f in Format], required=False)
    tag = serializers.IntegerField(required=False, min_value=0, max_value=LARGEST_KEY)
    campaign = serializers.IntegerField(required=False, min_value=0, max_value=LARGEST_KEY)
    language = serializers.RegexField(r"^[a-z]{2,3}$", required=False)
    boosted = serializers.ChoiceField(choices=["yes", "no"], required=False)
    age = serializers.ChoiceField(
        choices=[*DEFAULT_AGES_HOURS, FINAL, LATEST], required=False,
        help_text="hours; 0 as last seen, -1 the final count; without one, what the posts allow",
    )  # fmt: skip

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """A period ends on or after its first day and is not longer than some years."""
        first, last = attrs.get("first"), attrs.get("last")
        if first and last and last < first:
            raise serializers.ValidationError({"last": "The period ends before it begins."})
        if first and last and (last - first).days > LONGEST_DAYS:
            raise serializers.ValidationError({"first": f"A period has at most {LONGEST_DAYS} days."})
        for name in ("first", "last"):
            if attrs.get(name) and not 1990 <= attrs[name].year <= 2100:
                raise serializers.ValidationError({name: "Choose a day between 1990 and 2100."})
        return attrs


@dataclass(frozen=True, kw_only=True)
class Study:
    """A checked study of one brand. `profiles` are those that network and profile leave."""

    brand: Brand
    period: Period
    compared: Period
    age_hours: int
    today: date
    profiles: tuple[Profile, ...]
    format: str | None
    network: str | None = None
    profile: int | None = None
    tag: int | None = None
    campaign: int | None = None
    language: str | None = None
    is_boosted: bool | None = None
    footing: Footing | None = None

    @property
    def age_words(self) -> str:
        """The age in words."""
        return age_words(self.age_hours)

    @property
    def whole_days(self) -> int:
        """How many days of the period are over."""
        return self.period.whole_days(self.today)

    def of_whole_days(self) -> "Study":
        """The study of the days that are over, held against as many: half a day is no match for a whole one.

        Where no day is over yet the study stays what it is.
        """
        days = self.whole_days
        if days in (0, self.period.days):
            return self
        return replace(self, period=self.period.first_days(days), compared=self.compared.first_days(days))

    @property
    def profile_ids(self) -> list[int]:
        """Keys of the profiles studied."""
        return [profile.pk for profile in self.profiles]

    @property
    def is_narrow(self) -> bool:
        """Whether it asks for more of a post than its profile and format, so that kept sums do not answer it."""
        return any(v is not None for v in (self.tag, self.campaign, self.language, self.is_boosted))

    def on_posts(self, prefix: str = "") -> Q:
        """What it asks of posts, for a query on posts or, with a prefix such as "post__", on what belongs to them."""
        asked: dict[str, Any] = {
            "format": self.format, "campaign_id": self.campaign, "language": self.language,
            # What nobody said was boosted counts as not boosted.
            "is_boosted": True if self.is_boosted else None,
        }  # fmt: skip
        found = Q(**{f"{prefix}{name}": value for name, value in asked.items() if value is not None})
        if self.is_boosted is False:
            found &= ~Q(**{f"{prefix}is_boosted": True}) | Q(**{f"{prefix}is_boosted__isnull": True})
        if self.tag is not None:
            tagged = PostTag.objects.filter(tag_id=self.tag, tag__brand_id=self.brand.pk, is_off=False)
            found &= Q(**{f"{prefix}pk__in" if not prefix else f"{prefix[:-2]}__in": tagged.values("post_id")})
        return found


def period_of(brand: Brand, values: dict[str, Any], now: datetime) -> Period:
    """The period asked for; without one the 28 days up to yesterday and today."""
    today: date = now.astimezone(brand.zone).date()
    last = values.get("last") or today
    first = values.get("first") or last - timedelta(days=27)
    if last < first:
        last = first
    return Period(first=first, last=last, zone=brand.zone)


def study_of(brand: Brand, values: dict[str, Any], now: datetime, *, kind: str | None = "own") -> Study:
    """Put a study together from the values of StudySerializer; other brands' profiles are simply not found."""
    period = period_of(brand, values, now)
    profiles = Profile.objects.filter(brand=brand).select_related("competitor")
    if kind:
        profiles = profiles.filter(kind=kind)
    if values.get("network"):
        profiles = profiles.filter(network=values["network"])
    if values.get("profile"):
        profiles = profiles.filter(pk=values["profile"])
        if not profiles.exists():
            raise field_errors({"profile": "There is no such profile here, or not any more. Choose another."})
    study = Study(
        brand=brand, period=period, compared=period.compared(Comparison(values["compare"])),
        today=now.astimezone(brand.zone).date(), age_hours=int(values.get("age") or 0),
        profiles=tuple(profiles.order_by("pk")), format=values.get("format"), network=values.get("network") or None,
        profile=values.get("profile") or None, tag=values.get("tag"),
        campaign=values.get("campaign"), language=values.get("language"),
        is_boosted={"yes": True, "no": False}.get(values.get("boosted", "")),
    )  # fmt: skip
    return study if values.get("age") is not None else on_its_footing(study, now)


def on_its_footing(study: Study, now: datetime) -> Study:
    """The study at the age that its posts allow."""
    asked = study.on_posts("post__")
    narrowed = None
    if asked:
        narrowed = PostMeasure.objects.filter(
            asked, profile__in=study.profile_ids, published_at__gte=study.period.start,
            published_at__lt=study.period.end,
        )  # fmt: skip
    found = footing_of(study.profile_ids, study.period, now, narrowed=narrowed)
    return replace(study, age_hours=found.age_hours, footing=found)
