"""Shapes of the brand's own feed."""

from typing import Any

from rest_framework import serializers


class OwnFeedItemSerializer(serializers.Serializer[Any]):
    """A post as it stands in the feed. views: how often it was seen; clicks: people's on its link, null without one."""

    id = serializers.IntegerField(source="item.pk")
    title = serializers.CharField(source="item.title")
    post = serializers.IntegerField(source="item.planned_post_id", allow_null=True)
    link = serializers.IntegerField(source="item.link_id", allow_null=True)
    published_at = serializers.DateTimeField(source="item.published_at")
    is_away = serializers.SerializerMethodField()
    views = serializers.IntegerField()
    clicks = serializers.IntegerField(allow_null=True)

    def get_is_away(self, told: dict[str, Any]) -> bool:
        """Whether it was taken out."""
        return told["item"].removed_at is not None


class OwnFeedSerializer(serializers.Serializer[Any]):
    """The feed. address: where it is read, empty where there is none; edition 0: it was never set up."""

    is_on = serializers.BooleanField()
    title = serializers.CharField()
    site = serializers.CharField(allow_blank=True)
    address = serializers.CharField(allow_blank=True)
    edition = serializers.IntegerField()


class OwnFeedPageSerializer(serializers.Serializer[Any]):
    """The feed with a page of its items, the newest first."""

    feed = OwnFeedSerializer()
    items = OwnFeedItemSerializer(many=True)
    next = serializers.CharField(allow_null=True)


class OwnFeedQuerySerializer(serializers.Serializer[Any]):
    """Which page."""

    cursor = serializers.CharField(required=False)
    limit = serializers.IntegerField(min_value=1, max_value=100, default=30)


class OwnFeedInputSerializer(serializers.Serializer[Any]):
    """The feed as it is set up, of the edition that was read. site: the page that it is of."""

    is_on = serializers.BooleanField()
    title = serializers.CharField(max_length=120)
    site = serializers.CharField(max_length=500, allow_blank=True, default="")
    edition = serializers.IntegerField(min_value=0)


class OwnFeedAwaySerializer(serializers.Serializer[Any]):
    """Whether an item is taken out of the feed."""

    is_away = serializers.BooleanField()
