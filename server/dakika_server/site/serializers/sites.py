"""Sites, goals and access logs as they are sent."""

from typing import Any

from rest_framework import serializers

from dakika_server.site.models import AccessLog, Goal

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
