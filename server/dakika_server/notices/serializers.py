"""Notices as they are sent."""

from typing import Any

from rest_framework import serializers


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
