"""Shapes of foresight."""

from typing import Any

from dakika_core.networks.definition import Format
from rest_framework import serializers

from dakika_server.foresight.models import Outlook
from dakika_server.shared.plain import PlainSerializer

FORMATS = [kind.value for kind in Format]


class UnderWaySerializer(PlainSerializer):
    """A young post and how it is doing: interactions at the age it has."""

    id = serializers.IntegerField(source="post_id")
    text = serializers.CharField(source="words", allow_blank=True)
    network = serializers.CharField(source="profile.network")
    profile = serializers.CharField(source="profile.name")
    profile_id = serializers.IntegerField()
    format = serializers.ChoiceField(source="post.format", choices=FORMATS)
    published_at = serializers.DateTimeField()
    taken_at = serializers.DateTimeField()
    age_hours = serializers.FloatField()
    count = serializers.FloatField()
    typical = serializers.FloatField(allow_null=True)
    index = serializers.FloatField(allow_null=True)
    index_low = serializers.FloatField(allow_null=True)
    index_high = serializers.FloatField(allow_null=True)
    heading = serializers.FloatField()
    heading_low = serializers.FloatField()
    heading_high = serializers.FloatField()
    band_low = serializers.FloatField(allow_null=True)
    band_high = serializers.FloatField(allow_null=True)
    band_posts = serializers.IntegerField()
    state = serializers.ChoiceField(choices=Outlook.State.choices)


class PresentMetricSerializer(PlainSerializer):
    """A metric of a post at the age it has."""

    key = serializers.CharField()
    name = serializers.CharField()
    count = serializers.FloatField()
    typical = serializers.FloatField(allow_null=True)
    index = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)


class GrowthPlaceSerializer(serializers.Serializer[Any]):
    """A place on a curve of growth."""

    age_hours = serializers.FloatField()
    count = serializers.FloatField()


class SaidSerializer(PlainSerializer):
    """What was said of a post at an age, and what came."""

    horizon_hours = serializers.IntegerField()
    said_at = serializers.DateTimeField()
    is_tried = serializers.BooleanField()
    value = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()
    truth = serializers.FloatField(allow_null=True)


class PostOutlookSerializer(serializers.Serializer[Any]):
    """A post as foresight tells it."""

    age_hours = serializers.FloatField(allow_null=True)
    posts = serializers.IntegerField(help_text="posts of the profile that tell what is typical")
    metrics = PresentMetricSerializer(many=True)
    outlook = UnderWaySerializer(allow_null=True)
    course = GrowthPlaceSerializer(many=True, help_text="what is typical by age, interactions")
    said = SaidSerializer(many=True)


class ThoughtSerializer(serializers.Serializer[Any]):
    """A post that is thought of."""

    profile = serializers.IntegerField(min_value=1, max_value=2**63 - 1)
    at = serializers.DateTimeField()
    format = serializers.ChoiceField(choices=FORMATS, default="text")
    campaign = serializers.IntegerField(required=False, allow_null=True, min_value=1, max_value=2**63 - 1)
    tags = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=2**63 - 1), required=False, max_length=50
    )


class ExpectSerializer(serializers.Serializer[Any]):
    """Posts that are thought of."""

    posts = ThoughtSerializer(many=True, min_length=1, max_length=60)  # type: ignore[call-arg]


class ExpectationSerializer(PlainSerializer):
    """The middle of what may come, with an interval at 80 %."""

    value = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()


class ExpectationsSerializer(serializers.Serializer[Any]):
    """By metric; missing where too few posts tell it."""

    interactions = ExpectationSerializer(allow_null=True)
    reach = ExpectationSerializer(allow_null=True)
    link_clicks = ExpectationSerializer(allow_null=True)


class ExpectedPostSerializer(serializers.Serializer[Any]):
    """What a post will bring on a profile by seven days."""

    profile = serializers.IntegerField()
    expected = ExpectationsSerializer()
    hour_index = serializers.FloatField(allow_null=True)
    posts = serializers.IntegerField(help_text="posts that it is told from")


class ExpectedSerializer(serializers.Serializer[Any]):
    """What some posts will bring, each and together."""

    posts = ExpectedPostSerializer(many=True)
    together = ExpectationsSerializer()


class PlannedQuerySerializer(serializers.Serializer[Any]):
    """Which days, both included."""

    first = serializers.DateField()
    last = serializers.DateField()


class PlannedPostExpectedSerializer(serializers.Serializer[Any]):
    """What a planned post will bring, by profile."""

    id = serializers.IntegerField()
    profiles = ExpectedPostSerializer(many=True)


class ExpectedWeekSerializer(serializers.Serializer[Any]):
    """What a planned week will bring, and what the posts of the week before had at seven days."""

    monday = serializers.DateField()
    posts = serializers.IntegerField()
    told = serializers.IntegerField(help_text="posts of which anything can be said")
    together = ExpectationsSerializer()
    came = serializers.FloatField(allow_null=True)
    came_posts = serializers.IntegerField()


class PlannedExpectedSerializer(serializers.Serializer[Any]):
    """What is planned and what it will bring."""

    posts = PlannedPostExpectedSerializer(many=True)
    weeks = ExpectedWeekSerializer(many=True)


class CalibrationQuerySerializer(serializers.Serializer[Any]):
    """What was said then, or what was tried afterwards on what was known then."""

    tried = serializers.BooleanField(default=False)


class VersusSerializer(PlainSerializer):
    """Against a plain rival: our typical error over its own; below 1 we are nearer."""

    rival = serializers.ChoiceField(choices=["last", "median"])
    error = serializers.FloatField()
    ratio = serializers.FloatField()
    low = serializers.FloatField(source="interval.low")
    high = serializers.SerializerMethodField()
    n = serializers.IntegerField()
    is_better = serializers.BooleanField()
    is_worse = serializers.BooleanField()

    def get_high(self, versus: Any) -> float | None:
        """Missing where there are too few weeks to bound it."""
        high = float(versus.interval.high)
        return high if high < float("inf") else None


class CalibrationRowSerializer(serializers.Serializer[Any]):
    """Projections of one kind held against what came."""

    profile = serializers.IntegerField(allow_null=True)
    horizon_hours = serializers.IntegerField(source="horizon", allow_null=True)
    n = serializers.IntegerField(source="found.n")
    coverage = serializers.FloatField(source="found.coverage", allow_null=True)
    low = serializers.FloatField(source="found.interval.low", default=None, allow_null=True)
    high = serializers.FloatField(source="found.interval.high", default=None, allow_null=True)
    error = serializers.FloatField(source="found.error", allow_null=True)
    bias = serializers.FloatField(source="found.bias", allow_null=True)
    is_honest = serializers.BooleanField(source="found.is_honest", allow_null=True)
    versus = VersusSerializer(source="found.versus", many=True)


class CalibrationProfileSerializer(serializers.Serializer[Any]):
    """A profile that projections were made of."""

    id = serializers.IntegerField(source="pk")
    name = serializers.CharField()
    network = serializers.CharField()


class CalibrationSerializer(serializers.Serializer[Any]):
    """Were we right?"""

    rows = CalibrationRowSerializer(many=True)
    profiles = CalibrationProfileSerializer(many=True)
    kept = serializers.IntegerField(help_text="projections that were said then and whose truth is known")
    waiting = serializers.IntegerField(help_text="those whose posts are not seven days old yet")
    tried = serializers.IntegerField(help_text="those that were tried afterwards")
