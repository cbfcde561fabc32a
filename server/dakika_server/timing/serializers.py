"""Shapes of timing."""

from typing import Any

from dakika_core.timing.trials import MOST_PAIRS, Verdict
from rest_framework import serializers

from dakika_server.timing.models import Trial
from dakika_server.timing.rhythms import MOST_A_WEEK, WEEK_MINUTES

STANDS_BY = ["posts", "others", "presence", "network", "nothing"]
CERTAINTY = ["sure", "likely", "open"]


class HourSerializer(serializers.Serializer[Any]):
    """One hour of the week."""

    index = serializers.FloatField()
    low80 = serializers.FloatField()
    high80 = serializers.FloatField()
    low95 = serializers.FloatField()
    high95 = serializers.FloatField()
    nearby = serializers.IntegerField()
    from_posts = serializers.FloatField()
    certainty = serializers.ChoiceField(choices=CERTAINTY)


class TickSerializer(serializers.Serializer[Any]):
    """A post of the past on the week."""

    id = serializers.IntegerField()
    hour = serializers.FloatField()
    index = serializers.FloatField(allow_null=True)
    text = serializers.CharField(allow_blank=True)


class PlannedTickSerializer(serializers.Serializer[Any]):
    """A planned post of the coming week, which can be moved."""

    id = serializers.IntegerField()
    profile_id = serializers.IntegerField()
    at = serializers.DateTimeField()
    hour = serializers.FloatField()
    title = serializers.CharField(allow_blank=True)
    edition = serializers.IntegerField()
    state = serializers.CharField()


class FreeHourSerializer(serializers.Serializer[Any]):
    """A free hour of the coming week."""

    at = serializers.DateTimeField()
    hour = serializers.FloatField()
    index = serializers.FloatField()
    low80 = serializers.FloatField()
    high80 = serializers.FloatField()
    certainty = serializers.ChoiceField(choices=CERTAINTY)


class AudienceGroupSerializer(serializers.Serializer[Any]):
    """A part of the audience that lives by one clock. presence: by hour of the week of the question's zone."""

    zone = serializers.CharField()
    share = serializers.FloatField()
    countries = serializers.ListField(child=serializers.CharField())
    presence = serializers.ListField(child=serializers.FloatField())


class StretchSerializer(serializers.Serializer[Any]):
    """Neighbouring hours that are missed or crowded."""

    first = serializers.IntegerField()
    hours = serializers.IntegerField()
    index = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(source="interval.low", default=None, allow_null=True)
    high = serializers.FloatField(source="interval.high", default=None, allow_null=True)
    presence = serializers.FloatField(allow_null=True)
    posts = serializers.IntegerField()


class ThirdSerializer(serializers.Serializer[Any]):
    """Posts of the newer weeks at hours that were said to be low, middling or high."""

    said = serializers.FloatField()
    came = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()
    posts = serializers.IntegerField()


class HeldSerializer(serializers.Serializer[Any]):
    """The check on newer weeks. gain is missing where there is too little to try it on."""

    since = serializers.DateTimeField()
    older = serializers.IntegerField()
    newer = serializers.IntegerField()
    weeks = serializers.IntegerField()
    gain = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)
    claimed = serializers.FloatField(allow_null=True)
    slope = serializers.FloatField(allow_null=True)
    is_shown = serializers.BooleanField()
    hours = serializers.ListField(child=serializers.IntegerField())
    thirds = ThirdSerializer(many=True)


class ChosenProfileSerializer(serializers.Serializer[Any]):
    """A profile that can be chosen."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    network = serializers.CharField()
    is_own = serializers.BooleanField()


class WantedSerializer(serializers.Serializer[Any]):
    """What an hour can be good for."""

    key = serializers.CharField()
    name = serializers.CharField()
    least = serializers.IntegerField(help_text="so many must have been counted before hours are told")


class TimingSerializer(serializers.Serializer[Any]):
    """The week of a question."""

    chosen = ChosenProfileSerializer(many=True, help_text="the profiles that it is about")
    profiles = ChosenProfileSerializer(many=True, help_text="those that can be chosen")
    of = serializers.CharField()
    wanted = WantedSerializer(many=True)
    zone = serializers.CharField()
    brand_zone = serializers.CharField()
    audience_zones = serializers.ListField(child=serializers.CharField())
    groups = AudienceGroupSerializer(many=True)
    groups_by = serializers.CharField(allow_blank=True, help_text="where the zones come from")
    presence_week = serializers.DateField(allow_null=True, help_text="Monday of the week whose clocks presence keeps")
    presence = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    age_hours = serializers.IntegerField()
    untimed = serializers.IntegerField(help_text="posts left out since only their day is known")
    posts_used = serializers.IntegerField()
    counted = serializers.FloatField(help_text="how much of what is wanted the posts have in all")
    pooled = serializers.IntegerField(help_text="how many profiles it was estimated with, itself among them")
    pooled_posts = serializers.IntegerField(help_text="posts of all of them")
    alone = serializers.FloatField(help_text="how likely its hours have nothing to do with those of the others")
    stands_by = serializers.ChoiceField(choices=STANDS_BY)
    has_effect = serializers.BooleanField()
    odds = serializers.FloatField(allow_null=True)
    made_at = serializers.DateTimeField()
    is_stale = serializers.BooleanField()
    hours = HourSerializer(many=True)
    posts_at = serializers.FloatField(allow_null=True, help_text="hour of the day around which posts gather")
    audience_at = serializers.FloatField(allow_null=True)
    ticks = TickSerializer(many=True)
    planned = PlannedTickSerializer(many=True)
    free = FreeHourSerializer(many=True)
    missed = StretchSerializer(many=True)
    crowded = StretchSerializer(many=True)
    held = HeldSerializer(allow_null=True)


class RhythmRulesSerializer(serializers.Serializer[Any]):
    """What a rhythm must keep."""

    min_distance_hours = serializers.IntegerField(min_value=1, max_value=72, default=6)
    most_per_day = serializers.IntegerField(min_value=1, max_value=12, default=2)
    quiet_from = serializers.IntegerField(min_value=0, max_value=23, default=23)
    quiet_to = serializers.IntegerField(min_value=0, max_value=23, default=7)
    days_off = serializers.ListField(
        child=serializers.IntegerField(min_value=0, max_value=6), default=list, max_length=7, help_text="Monday is 0"
    )
    own_quarters = serializers.BooleanField(default=True)
    learning = serializers.FloatField(min_value=0, max_value=0.5, default=0.1)


class WishSerializer(serializers.Serializer[Any]):
    """So many times a week for a profile."""

    profile = serializers.IntegerField(min_value=1, max_value=2**63 - 1)
    times = serializers.IntegerField(min_value=1, max_value=MOST_A_WEEK)


class ProposeSerializer(serializers.Serializer[Any]):
    """For whom, and under which rules."""

    wishes = WishSerializer(many=True, min_length=1, max_length=20)  # type: ignore[call-arg]
    rules = RhythmRulesSerializer(required=False)


class GainSerializer(serializers.Serializer[Any]):
    """What a proposal is expected to gain on today's rhythm."""

    ratio = serializers.FloatField()
    low = serializers.FloatField(source="interval.low")
    high = serializers.FloatField(source="interval.high")
    chance = serializers.FloatField()
    is_worth_it = serializers.BooleanField()


class ProposedSlotSerializer(serializers.Serializer[Any]):
    """A proposed weekly time, with its reason."""

    minute = serializers.IntegerField()
    index = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()
    is_learning = serializers.BooleanField()
    narrows = serializers.FloatField(help_text="by how much one post would narrow the hours that may be best (log)")


class ProposedProfileSerializer(serializers.Serializer[Any]):
    """What is proposed for one profile."""

    profile = serializers.IntegerField()
    slots = ProposedSlotSerializer(many=True)
    short = serializers.IntegerField(help_text="so many fewer than wished, for want of room")
    gain = GainSerializer(allow_null=True)
    now = serializers.ListField(child=serializers.IntegerField(), help_text="hours of week in use today")
    stands_by = serializers.ChoiceField(choices=STANDS_BY)


class RhythmProposalSerializer(serializers.Serializer[Any]):
    """What is proposed for all of them."""

    profiles = ProposedProfileSerializer(many=True)
    gain = GainSerializer(allow_null=True)
    zone = serializers.CharField()


class SlotSerializer(serializers.Serializer[Any]):
    """A standing slot."""

    minute = serializers.IntegerField(min_value=0, max_value=WEEK_MINUTES - 1)
    is_learning = serializers.BooleanField(default=False)


class RhythmSerializer(serializers.Serializer[Any]):
    """A profile's rhythm; edition is missing where none is kept."""

    profile = serializers.IntegerField()
    name = serializers.CharField()
    network = serializers.CharField()
    zone = serializers.CharField()
    edition = serializers.IntegerField(allow_null=True)
    kept_at = serializers.DateTimeField(allow_null=True)
    slots = SlotSerializer(many=True)
    rules = RhythmRulesSerializer(allow_null=True)
    used = serializers.FloatField(help_text="posts a week of the last eight weeks")


class KeepRhythmSerializer(serializers.Serializer[Any]):
    """Weekly times to be kept; edition is the one that was read."""

    slots = SlotSerializer(many=True, max_length=MOST_A_WEEK)  # type: ignore[call-arg]
    rules = RhythmRulesSerializer(required=False)
    edition = serializers.IntegerField(allow_null=True)


class DueQuerySerializer(serializers.Serializer[Any]):
    """Which profiles' standing slots, until when."""

    profile = serializers.ListField(child=serializers.IntegerField(min_value=1, max_value=2**63 - 1), max_length=20)
    days = serializers.IntegerField(min_value=1, max_value=60, default=14)


class DueSerializer(serializers.Serializer[Any]):
    """A standing slot in a real week."""

    profile = serializers.IntegerField(source="profile_id")
    at = serializers.DateTimeField()
    is_learning = serializers.BooleanField()
    trial = serializers.CharField(allow_blank=True)
    is_taken = serializers.BooleanField()


class LengthQuerySerializer(serializers.Serializer[Any]):
    """A trial that is thought of."""

    profiles = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=2**63 - 1), min_length=1, max_length=12
    )
    slots = serializers.IntegerField(min_value=1, max_value=14)
    worth = serializers.FloatField(min_value=1.05, max_value=3)
    error = serializers.ChoiceField(choices=[0.01, 0.05, 0.1], default=0.05)  # type: ignore[arg-type]


class LengthSerializer(serializers.Serializer[Any]):
    """How long it would take: pairs of weeks, missing where even the most are too few."""

    pairs = serializers.IntegerField(allow_null=True)
    power = serializers.FloatField()
    usual = serializers.IntegerField(allow_null=True)
    most = serializers.IntegerField(default=MOST_PAIRS)


class MinutesField(serializers.ListField):
    """Times of the week: minutes from Monday 00:00."""

    def __init__(self, **more: Any) -> None:
        child = serializers.IntegerField(min_value=0, max_value=WEEK_MINUTES - 1)
        super().__init__(child=child, min_length=1, max_length=14, **more)


class TwoRhythmsSerializer(serializers.Serializer[Any]):
    """The two rhythms of a profile that are held against one another."""

    profile = serializers.IntegerField(min_value=1, max_value=2**63 - 1)
    first = MinutesField()
    second = MinutesField()


class StartTrialSerializer(serializers.Serializer[Any]):
    """A trial to be started: of two times that all its profiles share, or of two rhythms of each."""

    name = serializers.CharField(max_length=120)
    profiles = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=2**63 - 1), min_length=1, max_length=12
    )
    first = MinutesField(required=False)
    second = MinutesField(required=False)
    rhythms = TwoRhythmsSerializer(many=True, required=False, max_length=12)  # type: ignore[call-arg]
    starts = serializers.DateField()
    pairs = serializers.IntegerField(min_value=2, max_value=MOST_PAIRS)
    worth = serializers.FloatField(min_value=1.05, max_value=3)
    error = serializers.ChoiceField(choices=[0.01, 0.05, 0.1], default=0.05)  # type: ignore[arg-type]


class StopTrialSerializer(serializers.Serializer[Any]):
    """How a trial is ended."""

    keep = serializers.ChoiceField(choices=["", "first", "second"], default="", allow_blank=True)


class TrialWeekSerializer(serializers.Serializer[Any]):
    """Which of the two a profile's week takes."""

    monday = serializers.DateField()
    is_second = serializers.BooleanField()


class TrialProfileSerializer(serializers.Serializer[Any]):
    """A profile of a trial with its weeks; first and second are its times in the weeks of one and of the other."""

    profile = serializers.IntegerField()
    name = serializers.CharField()
    network = serializers.CharField()
    first = serializers.ListField(child=serializers.IntegerField())
    second = serializers.ListField(child=serializers.IntegerField())
    weeks = TrialWeekSerializer(many=True)


class OutcomeSerializer(serializers.Serializer[Any]):
    """What a trial says by now: second over first, with an interval that holds however often one looks."""

    pairs = serializers.IntegerField()
    ratio = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)
    spent = serializers.FloatField()
    verdict = serializers.ChoiceField(choices=[verdict.value for verdict in Verdict])


class TrialSerializer(serializers.Serializer[Any]):
    """A trial."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    of_rhythms = serializers.BooleanField(help_text="each profile has two rhythms of its own")
    first = serializers.ListField(child=serializers.IntegerField())
    second = serializers.ListField(child=serializers.IntegerField())
    zone = serializers.CharField()
    starts = serializers.DateField()
    ends = serializers.DateField()
    pairs = serializers.IntegerField()
    worth = serializers.FloatField()
    error = serializers.FloatField()
    state = serializers.ChoiceField(choices=Trial.State.choices)
    was_kept = serializers.BooleanField()
    made_at = serializers.DateTimeField()
    ended_at = serializers.DateTimeField(allow_null=True)
    profiles = TrialProfileSerializer(many=True)
    outcome = OutcomeSerializer()


class TrialsSerializer(serializers.Serializer[Any]):
    """All trials of a brand, the newest first."""

    trials = TrialSerializer(many=True)
