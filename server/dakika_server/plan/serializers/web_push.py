"""Shapes of messages to browsers."""

from typing import Any

from rest_framework import serializers


class PushMessageSerializer(serializers.Serializer[Any]):
    """A post as it was sent. asked, taken, gone, failed: browsers; views: shown; clicks: null without a link."""

    id = serializers.IntegerField(source="message.pk")
    title = serializers.CharField(source="message.title")
    text = serializers.CharField(source="message.text", allow_blank=True)
    post = serializers.IntegerField(source="message.planned_post_id", allow_null=True)
    link = serializers.IntegerField(source="message.link_id", allow_null=True)
    made_at = serializers.DateTimeField(source="message.made_at")
    asked = serializers.IntegerField(source="message.asked")
    taken = serializers.IntegerField(source="message.taken")
    gone = serializers.IntegerField(source="message.gone")
    failed = serializers.IntegerField(source="message.failed")
    views = serializers.IntegerField()
    clicks = serializers.IntegerField(allow_null=True)


class PushSerializer(serializers.Serializer[Any]):
    """How it is set up. page: where people ask for messages; script and worker: the same on one's own site.

    edition 0: it was never set up.
    """

    is_on = serializers.BooleanField()
    page = serializers.CharField(allow_blank=True)
    script = serializers.CharField(allow_blank=True)
    worker = serializers.CharField(allow_blank=True)
    browsers = serializers.IntegerField(help_text="that asked for messages")
    edition = serializers.IntegerField()


class PushPageSerializer(serializers.Serializer[Any]):
    """With a page of messages, the newest first."""

    channel = PushSerializer()
    messages = PushMessageSerializer(many=True)
    next = serializers.CharField(allow_null=True)


class PushInputSerializer(serializers.Serializer[Any]):
    """Whether it is on, of the edition that was read."""

    is_on = serializers.BooleanField()
    edition = serializers.IntegerField(min_value=0)
