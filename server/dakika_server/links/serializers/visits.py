"""Sites, goals, conversions, credits and funnels as they are sent."""

from typing import Any

from dakika_core.links.attribution import Model
from dakika_core.links.funnel import Rate
from rest_framework import serializers

from dakika_server.links.models import AccessLog, Goal
from dakika_server.links.serializers.making import LARGEST_KEY
from dakika_server.results.serializers.summary import PeriodSerializer
from dakika_server.results.study import StudySerializer

MOST_ROWS = 1000
LARGEST_CENTS = 10**12


class WebSiteSerializer(serializers.Serializer[Any]):
    """A site of the brand."""

    id = serializers.IntegerField(source="pk", read_only=True)
    name = serializers.CharField(max_length=120)
    hosts = serializers.ListField(child=serializers.CharField(max_length=253), max_length=20)
    key = serializers.CharField(read_only=True)
    visits = serializers.IntegerField(read_only=True, default=0, help_text="of the last seven days")
    last_at = serializers.DateTimeField(read_only=True, allow_null=True, default=None)


class GoalSerializer(serializers.Serializer[Any]):
    """What people are to do."""

    id = serializers.IntegerField(source="pk", read_only=True)
    name = serializers.CharField(max_length=80)
    kind = serializers.ChoiceField(choices=Goal.Kind.choices)
    pattern = serializers.CharField(max_length=300, allow_blank=True, default="")
    cents = serializers.IntegerField(min_value=0, max_value=LARGEST_CENTS, default=0)
    currency = serializers.RegexField(r"^[A-Z]{3}$", default="EUR")
    is_archived = serializers.BooleanField(default=False)
    count = serializers.IntegerField(read_only=True, default=0)


class AccessLogSerializer(serializers.Serializer[Any]):
    """An access log that was brought in."""

    id = serializers.IntegerField(source="pk")
    site = serializers.CharField(source="site.name")
    site_id = serializers.IntegerField()
    file_name = serializers.CharField()
    size = serializers.IntegerField(help_text="bytes")
    state = serializers.ChoiceField(choices=AccessLog.State.choices)
    created_at = serializers.DateTimeField()
    lines = serializers.IntegerField()
    visits = serializers.IntegerField()
    new_visits = serializers.IntegerField()
    not_pages = serializers.IntegerField()
    bots = serializers.IntegerField()
    unreadable = serializers.IntegerField()
    message = serializers.CharField(allow_blank=True)


class LogUploadSerializer(serializers.Serializer[Any]):
    """A log."""

    file = serializers.FileField()


class SitesSerializer(serializers.Serializer[Any]):
    """Everything that is set up for visits."""

    sites = WebSiteSerializer(many=True)
    goals = GoalSerializer(many=True)
    logs = AccessLogSerializer(many=True)
    script = serializers.CharField(help_text="where the page script is")


class ConversionInSerializer(serializers.Serializer[Any]):
    """A conversion to be taken in. `key` is yours: the same key again adds nothing."""

    key = serializers.CharField(max_length=120)
    goal = serializers.CharField(max_length=80, help_text="a goal's name")
    at = serializers.DateTimeField()
    cents = serializers.IntegerField(min_value=0, max_value=LARGEST_CENTS, required=False, allow_null=True)
    click = serializers.UUIDField(required=False, allow_null=True, help_text="the parameter dk of the page's address")
    contact = serializers.CharField(max_length=120, allow_blank=True, default="")
    stage = serializers.CharField(max_length=40, allow_blank=True, default="")


class ConversionsInSerializer(serializers.Serializer[Any]):
    """Many at once."""

    rows = serializers.ListField(child=ConversionInSerializer(), allow_empty=False, max_length=MOST_ROWS)


class TakenSerializer(serializers.Serializer[Any]):
    """What came of it."""

    added = serializers.IntegerField()
    stages = serializers.IntegerField()


class StageSerializer(serializers.Serializer[Any]):
    """A contact's stage."""

    stage = serializers.CharField(max_length=40, allow_blank=True)


class VisitsQuerySerializer(StudySerializer):
    """A period, and how conversions are looked at."""

    by = serializers.ChoiceField(choices=["channel", "campaign", "post"], default="channel")
    goal = serializers.IntegerField(required=False, min_value=0, max_value=LARGEST_KEY, default=0)
    window = serializers.IntegerField(required=False, min_value=1, max_value=365, default=30)
    stage = serializers.CharField(max_length=40, allow_blank=True, required=False, default="")


class FunnelQuerySerializer(StudySerializer):
    """A period, and by what the funnels are."""

    by = serializers.ChoiceField(choices=["post", "campaign", "network"], default="network")
    goal = serializers.IntegerField(required=False, min_value=0, max_value=LARGEST_KEY, default=0)


class CreditedSerializer(serializers.Serializer[Any]):
    """What each model gives."""

    key = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)
    counts = serializers.DictField(child=serializers.FloatField())
    cents = serializers.DictField(child=serializers.IntegerField())
    low = serializers.FloatField()
    high = serializers.FloatField()


class InCurrencySerializer(serializers.Serializer[Any]):
    """Worth in another currency than the one that is shown; it is in no sum."""

    currency = serializers.CharField()
    cents = serializers.IntegerField()
    conversions = serializers.IntegerField()


class AttributionSerializer(serializers.Serializer[Any]):
    """Who brought the conversions, by every model."""

    period = PeriodSerializer()
    models = serializers.ListField(child=serializers.ChoiceField(choices=[m.value for m in Model]))
    rows = CreditedSerializer(many=True)
    conversions = serializers.IntegerField()
    cents = serializers.IntegerField()
    currency = serializers.CharField()
    other_currencies = InCurrencySerializer(many=True)
    direct_alone = serializers.IntegerField(help_text="conversions before which nothing but direct visits is known")
    stages = serializers.ListField(child=serializers.CharField())


class ConversionSerializer(serializers.Serializer[Any]):
    """One conversion."""

    id = serializers.IntegerField(source="pk")
    goal = serializers.CharField(source="goal.name")
    at = serializers.DateTimeField()
    cents = serializers.IntegerField()
    currency = serializers.CharField()
    stage = serializers.CharField(allow_blank=True)
    contact = serializers.CharField(allow_blank=True)
    channel = serializers.CharField(source="visit.channel", default="", allow_blank=True)


class ConversionListSerializer(serializers.Serializer[Any]):
    """The latest conversions of a period."""

    total = serializers.IntegerField()
    conversions = ConversionSerializer(many=True)


class StepOfWaySerializer(serializers.Serializer[Any]):
    """A visit on the way."""

    at = serializers.DateTimeField()
    channel = serializers.CharField()
    landing = serializers.CharField()
    post_id = serializers.IntegerField(allow_null=True)
    link_id = serializers.IntegerField(allow_null=True)


class WaySerializer(serializers.Serializer[Any]):
    """How one conversion came about."""

    conversion = ConversionSerializer()
    steps = StepOfWaySerializer(many=True)
    weights = serializers.DictField(child=serializers.ListField(child=serializers.FloatField()))


class StepRateSerializer(serializers.Serializer[Any]):
    """A rate with its interval."""

    value = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)

    def to_representation(self, rate: Rate) -> dict[str, Any]:
        """Interval flat."""
        return {
            "value": rate.value, "low": rate.interval.low if rate.interval else None,
            "high": rate.interval.high if rate.interval else None,
        }  # fmt: skip


class FunnelSerializer(serializers.Serializer[Any]):
    """A funnel."""

    key = serializers.CharField(allow_blank=True)
    name = serializers.SerializerMethodField()
    impressions = serializers.IntegerField(allow_null=True)
    clicks = serializers.IntegerField(allow_null=True)
    visits = serializers.IntegerField()
    conversions = serializers.IntegerField()
    cents = serializers.IntegerField()
    click_rate = StepRateSerializer()
    visit_rate = StepRateSerializer()
    conversion_rate = StepRateSerializer()
    cents_per_click = serializers.FloatField(allow_null=True)

    def get_name(self, funnel: Any) -> str:
        """What its key stands for."""
        return str(self.context.get("names", {}).get(funnel.key, ""))


class FunnelsSerializer(serializers.Serializer[Any]):
    """Funnels of a period beside the comparison."""

    period = PeriodSerializer()
    compared = PeriodSerializer()
    total = FunnelSerializer()
    total_before = FunnelSerializer()
    rows = FunnelSerializer(many=True)
    before = FunnelSerializer(many=True)
    quiet = FunnelSerializer(many=True)
    busy = FunnelSerializer(many=True)
    without_impressions = serializers.IntegerField()
    currency = serializers.CharField()
    other_currencies = InCurrencySerializer(many=True)
