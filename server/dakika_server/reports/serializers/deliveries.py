"""Shapes of deliveries and of what was sent."""

from datetime import UTC
from typing import Any

from dakika_core.reports.deliveries import Every
from rest_framework import serializers

from dakika_server.reports.models import Delivery, DeliveryRun
from dakika_server.reports.serializers.content import ReportLookSerializer, ReportPageSerializer
from dakika_server.reports.serializers.reports import ShownReportSerializer


class DeliveryReaderSerializer(serializers.Serializer[Any]):
    """Whom it is sent to; stopped_at: since when they want it no more."""

    address = serializers.EmailField()
    person = serializers.IntegerField(
        source="person_id", allow_null=True, help_text="of the team; null for one outside"
    )
    stopped_at = serializers.DateTimeField(allow_null=True)


class DeliverySerializer(serializers.Serializer[Any]):
    """A delivery. hour and minute are of the brand's clock; next_at is null when it never goes out again."""

    id = serializers.IntegerField()
    every = serializers.ChoiceField(choices=[one.value for one in Every])
    weekday = serializers.IntegerField()
    day = serializers.IntegerField()
    rule = serializers.CharField()
    hour = serializers.SerializerMethodField()
    minute = serializers.SerializerMethodField()
    begins = serializers.SerializerMethodField()
    next_at = serializers.DateTimeField(allow_null=True)
    message = serializers.CharField(allow_blank=True)
    wait_hours = serializers.IntegerField()
    is_on = serializers.BooleanField()
    edition = serializers.IntegerField()
    readers = DeliveryReaderSerializer(many=True, source="readers.all")

    def get_hour(self, delivery: Delivery) -> int:
        """Of the local clock."""
        return delivery.begins.astimezone(UTC).hour

    def get_minute(self, delivery: Delivery) -> int:
        """Of the local clock."""
        return delivery.begins.astimezone(UTC).minute

    def get_begins(self, delivery: Delivery) -> str:
        """The first day that it may go out."""
        return delivery.begins.astimezone(UTC).date().isoformat()


class DeliveryInputSerializer(serializers.Serializer[Any]):
    """A delivery as it is set up, of the edition that was read; 0 for a new one."""

    every = serializers.ChoiceField(choices=[one.value for one in Every])
    weekday = serializers.IntegerField(min_value=0, max_value=6, default=0)
    day = serializers.IntegerField(min_value=1, max_value=31, default=1)
    rule = serializers.CharField(max_length=200, allow_blank=True, default="")
    hour = serializers.IntegerField(min_value=0, max_value=23, default=8)
    minute = serializers.IntegerField(min_value=0, max_value=59, default=0)
    begins = serializers.DateField(allow_null=True, default=None)
    message = serializers.CharField(max_length=1000, allow_blank=True, default="")
    wait_hours = serializers.IntegerField(min_value=0, max_value=24, default=3)
    is_on = serializers.BooleanField(default=True)
    to = serializers.ListField(
        child=serializers.CharField(max_length=254, allow_blank=True), max_length=300, default=list
    )
    people = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=2**63 - 1), max_length=200, default=list,
        help_text="of the team, by their numbers",
    )  # fmt: skip
    edition = serializers.IntegerField(min_value=0, default=0)


class SendNowSerializer(serializers.Serializer[Any]):
    """To whoever asks alone, to try it, or to all of its readers."""

    to_myself = serializers.BooleanField(default=True)


class DeliveryRunSerializer(serializers.ModelSerializer[DeliveryRun]):
    """A report as it went out once. missing: what was not collected then; waits_until: how long it waits for that."""

    class Meta:
        model = DeliveryRun
        fields = (
            "id",
            "delivery",
            "due_at",
            "test_to",
            "state",
            "waits_until",
            "missing",
            "detail",
            "letters",
            "ended_at",
        )


class ChangedSinceSerializer(serializers.Serializer[Any]):
    """A figure that is another one now."""

    page = serializers.CharField()
    item = serializers.CharField()
    name = serializers.CharField()
    sent = serializers.CharField()
    now = serializers.CharField()


class ShownRunSerializer(serializers.Serializer[Any]):
    """A report with the figures that it was sent with, and which of them are others now."""

    title = serializers.CharField()
    language = serializers.CharField()
    look = ReportLookSerializer()
    pages = ReportPageSerializer(many=True)
    as_of = serializers.DateTimeField()
    shown = ShownReportSerializer()
    run = DeliveryRunSerializer()
    changed = ChangedSinceSerializer(many=True)
