"""Shapes of boosts. Money is in cents."""

from typing import Any

from rest_framework import serializers

from dakika_server.plan.models import Boost

LARGEST = 10**10


class BoostInputSerializer(serializers.Serializer[Any]):
    """A boost as it is asked for. page: where its clicks are to lead; empty for nowhere."""

    post = serializers.IntegerField()
    cents = serializers.IntegerField(min_value=1, max_value=LARGEST)
    starts_at = serializers.DateTimeField()
    ends_at = serializers.DateTimeField()
    countries = serializers.ListField(child=serializers.CharField(max_length=2), max_length=50, default=list)
    ages = serializers.ListField(child=serializers.CharField(max_length=10), max_length=20, default=list)
    page = serializers.CharField(max_length=2000, allow_blank=True, default="")


class BoostCostSerializer(serializers.Serializer[Any]):
    """What one of a count cost, in cents, with the interval that chance leaves; null where nothing came."""

    low = serializers.FloatField()
    high = serializers.FloatField()


class OrganicSerializer(serializers.Serializer[Any]):
    """What a post got by itself, as last seen."""

    impressions = serializers.IntegerField(allow_null=True)
    interactions = serializers.IntegerField(allow_null=True)
    link_clicks = serializers.IntegerField(allow_null=True)


class BoostSerializer(serializers.Serializer[Any]):
    """A boost. clicks, visits, conversions: by its own link, null where it has none; costs in cents."""

    id = serializers.IntegerField(source="boost.pk")
    state = serializers.ChoiceField(choices=[kind.value for kind in Boost.State], source="boost.state")
    post = serializers.IntegerField(source="boost.post_id", allow_null=True)
    text = serializers.CharField(source="boost.post.text", default="")
    published_at = serializers.DateTimeField(source="boost.post.published_at", default=None, allow_null=True)
    campaign = serializers.CharField(source="boost.post.campaign.name", default=None, allow_null=True)
    network = serializers.CharField(source="boost.network")
    profile = serializers.CharField(source="boost.profile.name", default="")
    cents = serializers.IntegerField(source="boost.cents")
    spent = serializers.IntegerField(source="boost.spent")
    currency = serializers.CharField(source="boost.currency")
    starts_at = serializers.DateTimeField(source="boost.starts_at")
    ends_at = serializers.DateTimeField(source="boost.ends_at")
    ended_at = serializers.DateTimeField(source="boost.ended_at", allow_null=True)
    seen_at = serializers.DateTimeField(source="boost.seen_at", allow_null=True)
    countries = serializers.ListField(child=serializers.CharField(), source="boost.countries")
    ages = serializers.ListField(child=serializers.CharField(), source="boost.ages")
    link = serializers.IntegerField(source="boost.link_id", allow_null=True)
    error = serializers.CharField(source="boost.error", allow_blank=True)
    made_by = serializers.CharField(source="boost.made_by.name", default="")
    impressions = serializers.IntegerField(source="boost.impressions")
    interactions = serializers.IntegerField(source="boost.interactions")
    link_clicks = serializers.IntegerField(source="boost.link_clicks")
    clicks = serializers.IntegerField(allow_null=True)
    visits = serializers.IntegerField(allow_null=True)
    conversions = serializers.IntegerField(allow_null=True)
    value = serializers.IntegerField(allow_null=True)
    per_thousand = serializers.FloatField(allow_null=True)
    per_click = serializers.FloatField(allow_null=True)
    per_click_interval = BoostCostSerializer(allow_null=True)
    per_conversion = serializers.FloatField(allow_null=True)
    per_conversion_interval = BoostCostSerializer(allow_null=True)
    organic = OrganicSerializer(allow_null=True)


class BoostLimitSerializer(serializers.Serializer[Any]):
    """What a month may cost, null where nobody said; left: of this month, as its first day.

    told_in: the currency in which Results tells money, which may be another one.
    """

    cents = serializers.IntegerField(allow_null=True)
    currency = serializers.CharField()
    told_in = serializers.CharField()
    edition = serializers.IntegerField()
    month = serializers.DateField()
    left = serializers.IntegerField()


class BoostLimitInputSerializer(serializers.Serializer[Any]):
    """The limit, of the edition that was read."""

    cents = serializers.IntegerField(min_value=0, max_value=LARGEST)
    currency = serializers.CharField(max_length=3)
    edition = serializers.IntegerField(min_value=0)


class BoostPageSerializer(serializers.Serializer[Any]):
    """A page of boosts, the last begun first, and the limit."""

    boosts = BoostSerializer(many=True)
    next = serializers.CharField(allow_null=True)
    limit = BoostLimitSerializer()


class BoostPageQuerySerializer(serializers.Serializer[Any]):
    """Which page, or of which post."""

    cursor = serializers.CharField(required=False)
    limit = serializers.IntegerField(min_value=1, max_value=100, default=50)
    post = serializers.IntegerField(required=False)


class BoostTermsSerializer(serializers.Serializer[Any]):
    """What a boost of a post may be. reason: why it can have none, or nothing."""

    reason = serializers.CharField(allow_blank=True)
    page = serializers.CharField(allow_blank=True)
    limit = BoostLimitSerializer()
    currency = serializers.CharField(default="")
    least_cents = serializers.IntegerField(default=0)
    most_cents = serializers.IntegerField(default=0)
    most_days = serializers.IntegerField(default=0)
    countries = serializers.ListField(child=serializers.CharField(), default=list)
    ages = serializers.ListField(child=serializers.CharField(), default=list)


class BoostedSerializer(serializers.Serializer[Any]):
    """What the boosts of a campaign cost and brought together."""

    boosts = serializers.IntegerField()
    currency = serializers.CharField()
    spent = serializers.IntegerField()
    impressions = serializers.IntegerField()
    clicks = serializers.IntegerField()
    conversions = serializers.IntegerField()
    per_click = serializers.FloatField(allow_null=True)
    per_click_interval = BoostCostSerializer(allow_null=True)
    per_conversion = serializers.FloatField(allow_null=True)
    per_conversion_interval = BoostCostSerializer(allow_null=True)
