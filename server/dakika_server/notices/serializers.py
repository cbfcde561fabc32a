"""Notices as they are sent."""

from typing import Any

from rest_framework import serializers

from dakika_server.notices.models import NoticeBrowser, NoticeChoice
from dakika_server.shared.keys import digest_of_key


class TicketSerializer(serializers.Serializer[Any]):
    """Where to listen, and with what; an empty address where nothing is told and one must ask."""

    address = serializers.CharField(allow_blank=True)
    ticket = serializers.CharField(allow_blank=True)


class NotificationSerializer(serializers.Serializer[Any]):
    """Something that one is told."""

    id = serializers.IntegerField()
    at = serializers.DateTimeField()
    kind = serializers.CharField()
    text = serializers.CharField()
    detail = serializers.CharField(allow_blank=True)
    path = serializers.CharField(allow_blank=True)
    is_read = serializers.SerializerMethodField()

    def get_is_read(self, one: Any) -> bool:
        """Whether it was read."""
        return one.read_at is not None


class NotificationsSerializer(serializers.Serializer[Any]):
    """The newest of a person's notifications."""

    unread = serializers.IntegerField()
    notifications = NotificationSerializer(many=True)


class ReadSerializer(serializers.Serializer[Any]):
    """Which are read; all of them where none are named."""

    ids = serializers.ListField(child=serializers.IntegerField(min_value=1), required=False, max_length=200)


class KindChosenSerializer(serializers.Serializer[Any]):
    """How one wants to be told of a kind of thing."""

    kind = serializers.CharField(max_length=40)
    is_shown = serializers.BooleanField()
    by_mail = serializers.ChoiceField(choices=NoticeChoice.ByMail.values)
    by_push = serializers.BooleanField(default=False)


class NoticeKindSerializer(KindChosenSerializer):
    """A kind of thing, in words."""

    words = serializers.CharField()


class HoursSerializer(serializers.Serializer[Any]):
    """When no letters come, and when the day's letter does; by the clock of the zone that is told."""

    quiet_from = serializers.TimeField(allow_null=True)
    quiet_to = serializers.TimeField(allow_null=True)
    digest_at = serializers.TimeField()

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """A span has both ends."""
        if (attrs["quiet_from"] is None) != (attrs["quiet_to"] is None):
            raise serializers.ValidationError({"quiet_to": "Quiet hours have a beginning and an end."})
        return attrs


class ChoicesInputSerializer(serializers.Serializer[Any]):
    """How one wants to be told."""

    kinds = serializers.ListField(child=KindChosenSerializer(), max_length=50)
    hours = HoursSerializer()


class ChoicesSerializer(serializers.Serializer[Any]):
    """How one is told. zone: whose clock the hours are read by."""

    kinds = NoticeKindSerializer(many=True)
    hours = HoursSerializer()
    zone = serializers.CharField()
    email = serializers.CharField()


class KeysSerializer(serializers.Serializer[Any]):
    """A browser's keys, in base64url."""

    p256dh = serializers.CharField(max_length=100)
    auth = serializers.CharField(max_length=40)


class SubscriptionSerializer(serializers.Serializer[Any]):
    """A subscription as a browser tells it (W3C Push API, PushSubscriptionJSON)."""

    endpoint = serializers.CharField(max_length=1000)
    keys = KeysSerializer()


class BrowserSerializer(serializers.ModelSerializer[NoticeBrowser]):
    """A browser that shows one's notices. mark: by which it knows itself, for its address is told to nobody."""

    mark = serializers.SerializerMethodField()

    class Meta:
        model = NoticeBrowser
        fields = ["id", "device", "since", "mark"]
        read_only_fields = fields

    def get_mark(self, one: NoticeBrowser) -> str:
        """The first digits of the SHA-256 of its address."""
        return digest_of_key(one.endpoint)[:16]


class BrowsersSerializer(serializers.Serializer[Any]):
    """All of one's own. key: with which a browser asks its push service (RFC 8292, 4)."""

    key = serializers.CharField()
    browsers = BrowserSerializer(many=True)
