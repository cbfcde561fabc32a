"""Click figures as they are sent."""

from typing import Any

from rest_framework import serializers

from dakika_server.figures.serializers import PeriodSerializer
from dakika_server.figures.study import StudySerializer
from dakika_server.links.serializers.making import LARGEST_KEY, LinkSerializer, OneLinkSerializer
from dakika_server.shared.plain import PlainSerializer


class LinksQuerySerializer(StudySerializer):
    """A period, and which links."""

    text = serializers.CharField(max_length=200, required=False, allow_blank=True)
    post = serializers.IntegerField(
        required=False, min_value=1, max_value=LARGEST_KEY, help_text="links that it carries"
    )


class ShareSerializer(PlainSerializer):
    """A value with its clicks now and in the comparison period."""

    name = serializers.CharField(allow_blank=True)
    id = serializers.IntegerField(allow_null=True)
    count = serializers.IntegerField()
    before = serializers.IntegerField()


class CountRatioSerializer(serializers.Serializer[Any]):
    """How many times as many clicks per day as before, with its interval."""

    value = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)
    is_sure = serializers.BooleanField()

    def to_representation(self, ratio: Any) -> dict[str, Any]:
        """An unbounded end is told as none."""
        interval = ratio.interval
        high = interval.high if interval and interval.high != float("inf") else None
        return {"value": ratio.value, "low": interval and interval.low, "high": high, "is_sure": ratio.is_sure}


class SpreadsSerializer(serializers.Serializer[Any]):
    """Clicks by what they came from, on and for."""

    referrer = ShareSerializer(many=True)
    device = ShareSerializer(many=True)
    browser = ShareSerializer(many=True)
    language = ShareSerializer(many=True)
    country = ShareSerializer(many=True)
    network = ShareSerializer(many=True)
    campaign = ShareSerializer(many=True)
    destination = ShareSerializer(many=True)
    reason = ShareSerializer(many=True, help_text="bots' requests, by why they are counted apart")


class ClickFiguresSerializer(serializers.Serializer[Any]):
    """Clicks of a period."""

    whole_days = serializers.IntegerField(help_text="days that are over: these are held against the comparison")
    people = serializers.ListField(child=serializers.IntegerField())
    bots = serializers.ListField(child=serializers.IntegerField())
    over = serializers.ListField(child=serializers.IntegerField())
    before = serializers.ListField(child=serializers.IntegerField())
    visitors = serializers.IntegerField(help_text="estimated: one person on two days counts twice")
    visitors_before = serializers.IntegerField()
    ratio = CountRatioSerializer()
    hours = serializers.ListField(
        child=serializers.ListField(child=serializers.IntegerField()), help_text="Monday first"
    )
    spreads = SpreadsSerializer()


class LinksSerializer(serializers.Serializer[Any]):
    """All links of a brand over a period."""

    period = PeriodSerializer()
    compared = PeriodSerializer()
    figures = ClickFiguresSerializer()
    links = LinkSerializer(many=True)


class AgeSerializer(serializers.Serializer[Any]):
    """Clicks within so many hours of being published."""

    hours = serializers.IntegerField()
    count = serializers.IntegerField()


class UseSerializer(serializers.Serializer[Any]):
    """A post that carries the link."""

    post_id = serializers.IntegerField()
    published_at = serializers.DateTimeField()
    network = serializers.CharField()
    text = serializers.CharField()
    reported = serializers.IntegerField(allow_null=True, help_text="link clicks as the network reports them")


class LifeSerializer(serializers.Serializer[Any]):
    """A link from its making to now."""

    first = serializers.DateField()
    people = serializers.ListField(child=serializers.IntegerField())
    ages = AgeSerializer(many=True)
    later = serializers.IntegerField()
    uses = UseSerializer(many=True)


class LinkDetailSerializer(serializers.Serializer[Any]):
    """One link over a period and over its life."""

    period = PeriodSerializer()
    compared = PeriodSerializer()
    figures = ClickFiguresSerializer()
    life = LifeSerializer()
    link = OneLinkSerializer()


class DayQuerySerializer(StudySerializer):
    """A day."""

    day = serializers.DateField()


class PartOfDaySerializer(serializers.Serializer[Any]):
    """A link or referrer and its part of a day."""

    name = serializers.CharField(allow_blank=True)
    id = serializers.IntegerField(allow_null=True)
    count = serializers.IntegerField()
    usual = serializers.FloatField()
    share = serializers.FloatField()


class DayBehindSerializer(serializers.Serializer[Any]):
    """What made a day's clicks."""

    value = serializers.IntegerField()
    level = serializers.FloatField(allow_null=True)
    z = serializers.FloatField(allow_null=True)
    is_spike = serializers.BooleanField()
    links = PartOfDaySerializer(many=True)
    referrers = PartOfDaySerializer(many=True)
    explained = serializers.FloatField()
