"""Shapes of a campaign as a whole."""

from typing import Any

from rest_framework import serializers

from dakika_server.plan.serializers.boosts import BoostedSerializer
from dakika_server.plan.serializers.calendar import CalendarEntrySerializer
from dakika_server.plan.serializers.posts import NUMBER


class CampaignKindSerializer(serializers.Serializer[Any]):
    """Posts of a format on a network."""

    network = serializers.CharField()
    format = serializers.CharField()
    planned = serializers.IntegerField()
    published = serializers.IntegerField()


class CampaignWeekSerializer(serializers.Serializer[Any]):
    """Posts of a week."""

    monday = serializers.DateField()
    planned = serializers.IntegerField()
    published = serializers.IntegerField()


class CampaignCountsSerializer(serializers.Serializer[Any]):
    """What of a campaign is planned and out; each profile's post is one. links: how many tracked links it has."""

    states = serializers.DictField(child=serializers.IntegerField())
    kinds = CampaignKindSerializer(many=True)
    weeks = CampaignWeekSerializer(many=True)
    without_time = serializers.IntegerField()
    links = serializers.IntegerField()
    boosted = BoostedSerializer(allow_null=True)
    to_come = CalendarEntrySerializer(many=True)


class CampaignPostsSerializer(serializers.Serializer[Any]):
    """Posts to put in, by their numbers: those that are out, and planned ones."""

    posts = serializers.ListField(child=serializers.IntegerField(**NUMBER), max_length=500, default=list)
    planned = serializers.ListField(child=serializers.IntegerField(**NUMBER), max_length=500, default=list)


class CampaignMovedSerializer(serializers.Serializer[Any]):
    """How many posts moved."""

    posts = serializers.IntegerField()


class CampaignRemovalSerializer(serializers.Serializer[Any]):
    """Whether what is set to go out becomes drafts."""

    takes_back = serializers.BooleanField(default=False)
