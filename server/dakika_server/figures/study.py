"""What is being studied: period, comparison, profiles, formats, age. Read from an address, the same for every view."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any

from dakika_core.metrics.observed import DEFAULT_AGES_HOURS
from dakika_core.networks.definition import Format
from dakika_core.values.choice import Choice, read_choice
from dakika_core.values.period import Comparison, Period
from django.db.models import Q
from rest_framework import serializers

from dakika_server.brands.models import Brand
from dakika_server.figures.footing import Footing, age_words, footing_of
from dakika_server.measures.models import FINAL, LATEST, PostMeasure
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Post, Profile

LONGEST_DAYS = 800
# Keys are bigint: a larger number is nobody's.
LARGEST_KEY = 2**63 - 1
MOST_CHOSEN = 60
LONGEST = 20 * MOST_CHOSEN


def key_of(text: str) -> int:
    """A key of the database. Raises ValueError for what is none."""
    found = int(text)
    if not text.isascii() or not 0 <= found <= LARGEST_KEY:
        raise ValueError(text)
    return found


def word_of(text: str) -> str:
    """A short word. Raises ValueError for what is none."""
    if "\x00" in text or len(text) > 40:
        raise ValueError(text)
    return text


def format_of(text: str) -> str:
    """The name of a format. Raises ValueError for what is none."""
    return Format(text).value


def _language(text: str) -> str:
    if not (2 <= len(text) <= 3 and text.isascii() and text.islower() and text.isalpha()):
        raise ValueError(text)
    return text


class ChoiceField(serializers.CharField):
    """Any of some values ("3,7"), or none of them ("!3,7")."""

    def __init__(self, value: Callable[[str], Any], what: str) -> None:
        words = f'any of some {what}, separated by commas; a "!" before them: none of these'
        super().__init__(required=False, help_text=words)
        self._value, self._what = value, what

    def to_internal_value(self, data: Any) -> Any:
        """A Choice. Raises ValidationError for what is no value, and for more than can be told."""
        text = super().to_internal_value(data)
        try:
            found: Choice[Any] = read_choice(text[:LONGEST], self._value)
        except ValueError:
            raise serializers.ValidationError(
                f"These are no {self._what}: {text[:80]}. Separate several by commas; a ! before them leaves them out."
            ) from None
        if len(found.values) > MOST_CHOSEN:
            raise serializers.ValidationError(f"At most {MOST_CHOSEN} {self._what} can be chosen.")
        return found


class StudySerializer(serializers.Serializer[Any]):
    """The query of every view that looks at a period. Defaults: the last 28 days against those before."""

    first = serializers.DateField(required=False)
    last = serializers.DateField(required=False)
    compare = serializers.ChoiceField(choices=[c.value for c in Comparison], default=Comparison.PREVIOUS.value)
    network = ChoiceField(word_of, "networks")
    profile = ChoiceField(key_of, "profiles, by their numbers")
    format = ChoiceField(format_of, "formats")
    tag = ChoiceField(key_of, "tags, by their numbers")
    campaign = ChoiceField(key_of, "campaigns, by their numbers")
    language = ChoiceField(_language, "languages, by their two or three letters")
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


def in_choice(column: str, choice: Choice[Any]) -> Q:
    """A choice as a condition on a column; what has no value there is none of any."""
    among = Q(**{f"{column}__in": choice.values})
    return ~among | Q(**{f"{column}__isnull": True}) if choice.is_not else among


def in_choice_sql(column: str, choice: Choice[Any] | None, name: str, kind: str) -> tuple[str, dict[str, Any]]:
    """The same as SQL with its parameter by name; kind is the column's type. No choice is no condition."""
    if choice is None:
        return "true", {}
    verb = "IS NOT TRUE" if choice.is_not else "IS TRUE"
    return f"({column} = ANY(%({name})s::{kind}[])) {verb}", {name: list(choice.values)}


@dataclass(frozen=True, kw_only=True)
class Study:
    """A checked study of one brand. `profiles` are those that networks and profiles_asked leave."""

    brand: Brand
    period: Period
    compared: Period
    age_hours: int
    today: date
    profiles: tuple[Profile, ...]
    formats: Choice[str] | None = None
    networks: Choice[str] | None = None
    profiles_asked: Choice[int] | None = None
    tags: Choice[int] | None = None
    campaigns: Choice[int] | None = None
    languages: Choice[str] | None = None
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
        return any(v is not None for v in (self.tags, self.campaigns, self.languages, self.is_boosted))

    @property
    def is_of_some(self) -> bool:
        """Whether it studies some of the brand, not all of it."""
        return self.is_narrow or any(v is not None for v in (self.networks, self.profiles_asked, self.formats))

    @property
    def named_networks(self) -> tuple[str, ...]:
        """The networks that it asks for by name; one without a name where it asks for none, or for all but some."""
        return self.networks.values if self.networks and not self.networks.is_not else ("",)

    def on_kept_formats(self) -> Q:
        """What it asks of sums that are kept by format; those of all formats stand under no name."""
        if self.formats is None:
            return Q(format="")
        return ~Q(format="") & in_choice("format", self.formats)

    def on_posts(self, prefix: str = "") -> Q:
        """What it asks of posts, for a query on posts or, with a prefix such as "post__", on what belongs to them."""
        found = Q()
        for column, choice in (("format", self.formats), ("campaign_id", self.campaigns), ("language", self.languages)):
            if choice is not None:
                found &= in_choice(f"{prefix}{column}", choice)
        if self.is_boosted is not None:
            # What nobody said was boosted counts as not boosted.
            is_on = Q(**{f"{prefix}is_boosted": True})
            found &= is_on if self.is_boosted else ~is_on | Q(**{f"{prefix}is_boosted__isnull": True})
        if self.tags is not None:
            # Tags are of the results, which stand above; posts know what hangs on them.
            on_post: Any = Post._meta.get_field("post_tags").related_model
            tagged = on_post.objects.filter(tag__in=self.tags.values, tag__brand=self.brand, is_off=False).values(
                "post"
            )
            has_tag = Q(**{f"{prefix}pk__in" if not prefix else f"{prefix[:-2]}__in": tagged})
            found &= ~has_tag if self.tags.is_not else has_tag
        return found


def period_of(brand: Brand, values: dict[str, Any], now: datetime) -> Period:
    """The period asked for; without one the 28 days up to yesterday and today."""
    today: date = now.astimezone(brand.zone).date()
    last = values.get("last") or today
    first = values.get("first") or last - timedelta(days=27)
    if last < first:
        last = first
    return Period(first=first, last=last, zone=brand.zone)


def kind_asked(values: dict[str, Any]) -> str | None:
    """Whose profiles a study may be of, for views that also tell of a competitor's profile when it is named."""
    asked: Choice[int] | None = values.get("profile")
    return None if asked and not asked.is_not else "own"


def study_of(brand: Brand, values: dict[str, Any], now: datetime, *, kind: str | None = "own") -> Study:
    """Put a study together from the values of StudySerializer; other brands' profiles are simply not found."""
    period = period_of(brand, values, now)
    networks, asked = values.get("network"), values.get("profile")
    profiles = Profile.objects.filter(brand=brand).select_related("competitor")
    if kind:
        profiles = profiles.filter(kind=kind)
    if networks:
        profiles = profiles.filter(in_choice("network", networks))
    if asked:
        profiles = profiles.filter(in_choice("pk", asked))
    found = tuple(profiles.order_by("pk"))
    if asked and not asked.is_not and not found:
        raise field_errors({"profile": "There is no such profile here, or not any more. Choose another."})
    study = Study(
        brand=brand, period=period, compared=period.compared(Comparison(values["compare"])),
        today=now.astimezone(brand.zone).date(), age_hours=int(values.get("age") or 0), profiles=found,
        formats=values.get("format"), networks=networks, profiles_asked=asked, tags=values.get("tag"),
        campaigns=values.get("campaign"), languages=values.get("language"),
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
