"""Shapes of results."""

from typing import Any

from dakika_core.networks.definition import Format
from rest_framework import serializers

from dakika_server.results.study import StudySerializer


class IntervalSerializer(serializers.Serializer[Any]):
    """An interval with its level."""

    low = serializers.FloatField()
    high = serializers.FloatField()
    level = serializers.FloatField()


class FigureSerializer(serializers.Serializer[Any]):
    """A figure that knows how it was made."""

    value = serializers.FloatField(allow_null=True)
    n = serializers.IntegerField()
    missing = serializers.IntegerField()
    numerator = serializers.FloatField(allow_null=True)
    denominator = serializers.FloatField(allow_null=True)
    interval = IntervalSerializer(allow_null=True)


class PeriodSerializer(serializers.Serializer[Any]):
    """Days, both included."""

    first = serializers.DateField()
    last = serializers.DateField()
    days = serializers.IntegerField()


class ChangeSerializer(serializers.Serializer[Any]):
    """A change in the unit of the figure, and relative."""

    difference = serializers.FloatField(allow_null=True)
    relative = serializers.FloatField(allow_null=True)


class PartSerializer(serializers.Serializer[Any]):
    """One network's share."""

    network = serializers.CharField()
    value = serializers.FloatField(allow_null=True)
    before = serializers.FloatField(allow_null=True)


class TitleSerializer(serializers.Serializer[Any]):
    """A chart's title."""

    text = serializers.CharField()
    is_statement = serializers.BooleanField()


class MeasuredSerializer(serializers.Serializer[Any]):
    """A metric over the study."""

    key = serializers.CharField(source="metric.key")
    name = serializers.CharField(source="metric.name")
    unit = serializers.ChoiceField(source="metric.unit", choices=["count", "rate", "per_1000", "per_week", "index"])
    now = FigureSerializer()
    before = FigureSerializer()
    change = ChangeSerializer()
    days = serializers.ListField(child=serializers.FloatField(allow_null=True))
    days_before = serializers.ListField(child=serializers.FloatField(allow_null=True))
    networks = PartSerializer(many=True)
    title = TitleSerializer()


class SummarySerializer(serializers.Serializer[Any]):
    """All figures of a study."""

    period = PeriodSerializer()
    compared = PeriodSerializer()
    age_hours = serializers.IntegerField()
    as_of = serializers.DateTimeField(allow_null=True)
    metrics = MeasuredSerializer(many=True)


class BasisQuerySerializer(StudySerializer):
    """Which figure's basis."""

    metric = serializers.CharField(max_length=40)


class BasisSerializer(serializers.Serializer[Any]):
    """How a figure is made."""

    key = serializers.CharField()
    name = serializers.CharField()
    definition = serializers.CharField()
    note = serializers.CharField(allow_blank=True)
    formula = serializers.CharField()
    formula_before = serializers.CharField()
    counted = serializers.CharField()
    missing = serializers.CharField(allow_blank=True)
    holes = serializers.CharField(allow_blank=True)
    figure = FigureSerializer()
    period = PeriodSerializer()
    compared = PeriodSerializer()
    time_zone = serializers.CharField()
    as_of = serializers.DateTimeField(allow_null=True)
    profiles = serializers.ListField(child=serializers.CharField())


class PostsQuerySerializer(StudySerializer):
    """A page of posts."""

    sort = serializers.CharField(default="-published_at", max_length=40)
    text = serializers.CharField(default="", allow_blank=True, max_length=200)
    offset = serializers.IntegerField(default=0, min_value=0, max_value=10_000_000)
    limit = serializers.IntegerField(default=100, min_value=1, max_value=500)


class PostRowSerializer(serializers.Serializer[Any]):
    """A post in the table, at the study's age."""

    id = serializers.IntegerField(source="pk")
    published_at = serializers.DateTimeField()
    format = serializers.ChoiceField(choices=[f.value for f in Format])
    text = serializers.SerializerMethodField()
    network = serializers.CharField(source="profile.network")
    profile = serializers.CharField(source="profile.name")
    profile_id = serializers.IntegerField()
    campaign = serializers.CharField(source="campaign.name", default=None, allow_null=True)
    is_removed = serializers.SerializerMethodField()
    interactions = serializers.FloatField(allow_null=True)
    impressions = serializers.FloatField(allow_null=True)
    reach = serializers.FloatField(allow_null=True)
    reactions = serializers.FloatField(allow_null=True)
    comments = serializers.FloatField(allow_null=True)
    shares = serializers.FloatField(allow_null=True)
    link_clicks = serializers.FloatField(allow_null=True)
    er_reach = serializers.FloatField(allow_null=True)
    er_impressions = serializers.FloatField(allow_null=True)
    er_followers = serializers.FloatField(allow_null=True)
    typical = serializers.FloatField(allow_null=True)
    index = serializers.FloatField(allow_null=True)

    def get_text(self, post: Any) -> str:
        """The beginning of the text."""
        return str(post.text[:200])

    def get_is_removed(self, post: Any) -> bool:
        """Whether the network no longer lists it."""
        return post.removed_at is not None


class PostsPageSerializer(serializers.Serializer[Any]):
    """A part of the posts, and how many there are."""

    total = serializers.IntegerField()
    offset = serializers.IntegerField()
    too_young = serializers.IntegerField()
    posts = PostRowSerializer(many=True)


class ReadingSerializer(serializers.Serializer[Any]):
    """One observation."""

    taken_at = serializers.DateTimeField()
    age_hours = serializers.FloatField()
    impressions = serializers.IntegerField(allow_null=True)
    reach = serializers.IntegerField(allow_null=True)
    interactions = serializers.FloatField(allow_null=True)
    link_clicks = serializers.IntegerField(allow_null=True)


class AtAgeSerializer(serializers.Serializer[Any]):
    """A post at an age, with what is typical."""

    age_hours = serializers.IntegerField()
    interactions = serializers.FloatField(allow_null=True)
    impressions = serializers.FloatField(allow_null=True)
    reach = serializers.FloatField(allow_null=True)
    reactions = serializers.FloatField(allow_null=True)
    comments = serializers.FloatField(allow_null=True)
    shares = serializers.FloatField(allow_null=True)
    link_clicks = serializers.FloatField(allow_null=True)
    typical = serializers.FloatField(allow_null=True)
    index = serializers.FloatField(allow_null=True)


class PostDetailSerializer(serializers.Serializer[Any]):
    """A post's own page."""

    id = serializers.IntegerField()
    text = serializers.CharField(allow_blank=True)
    url = serializers.CharField(allow_blank=True)
    published_at = serializers.DateTimeField()
    removed_at = serializers.DateTimeField(allow_null=True)
    format = serializers.ChoiceField(choices=[f.value for f in Format])
    hashtags = serializers.ListField(child=serializers.CharField())
    network = serializers.CharField()
    profile = serializers.CharField()
    profile_id = serializers.IntegerField()
    is_own = serializers.BooleanField()
    campaign = serializers.CharField(allow_null=True)
    followers = serializers.FloatField(allow_null=True)
    readings = ReadingSerializer(many=True)
    ages = AtAgeSerializer(many=True)


class LinePostSerializer(serializers.Serializer[Any]):
    """A tick of the minute line."""

    id = serializers.IntegerField()
    at = serializers.DateTimeField()
    network = serializers.CharField()
    height = serializers.FloatField(help_text="square root of the interactions")
    text = serializers.CharField(allow_blank=True)


class LineCampaignSerializer(serializers.Serializer[Any]):
    """A band of the minute line."""

    name = serializers.CharField()
    first_day = serializers.DateField()
    last_day = serializers.DateField()
    colour = serializers.IntegerField()


class LineSerializer(serializers.Serializer[Any]):
    """The minute line's posts, campaigns and holes; what is planned comes with the plan."""

    posts = LinePostSerializer(many=True)
    campaigns = LineCampaignSerializer(many=True)
    holes = serializers.ListField(child=serializers.DateField())
    as_of = serializers.DateTimeField(allow_null=True)
