"""Shapes of findings."""

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from dakika_server.results.models import Finding
from dakika_server.results.serializers.posts import HiddenSerializer

STATES = [state.value for state in Finding.State]


class FindingPostSerializer(serializers.Serializer[Any]):
    """A post behind a finding."""

    id = serializers.IntegerField(source="pk")
    text = serializers.SerializerMethodField()
    published_at = serializers.DateTimeField()
    network = serializers.CharField(source="profile.network")
    hidden = serializers.SerializerMethodField()

    @extend_schema_field(HiddenSerializer(allow_null=True))
    def get_hidden(self, post: Any) -> dict[str, float] | None:
        """Where people hid and reported it far more than usual: how often, and the usual."""
        found: dict[str, float] | None = self.context["hidden"].get(post.pk)
        return found

    def get_text(self, post: Any) -> str:
        """The beginning of the text."""
        return str(post.text[:160])


class FindingSerializer(serializers.Serializer[Any]):
    """A finding with its evidence and its next step."""

    id = serializers.IntegerField(source="pk")
    kind = serializers.CharField()
    text = serializers.CharField()
    detail = serializers.CharField(allow_blank=True)
    weight = serializers.FloatField()
    state = serializers.ChoiceField(choices=STATES)
    evidence = serializers.DictField(child=serializers.JSONField())
    step = serializers.DictField(child=serializers.CharField())
    is_current = serializers.BooleanField()
    first_found_at = serializers.DateTimeField()
    found_at = serializers.DateTimeField()
    posts = serializers.SerializerMethodField()

    @extend_schema_field(FindingPostSerializer(many=True))
    def get_posts(self, finding: Any) -> list[dict[str, Any]]:
        """Its posts that are still there, in its order."""
        known = self.context["posts"]
        shown = [known[pk] for pk in finding.posts if pk in known]
        rows = FindingPostSerializer(shown, many=True, context=self.context).data
        return list(rows)


class FindingsSerializer(serializers.Serializer[Any]):
    """All findings: pinned first, then by weight."""

    found_at = serializers.DateTimeField(allow_null=True)
    is_looking = serializers.BooleanField(help_text="whether they are being computed anew")
    findings = FindingSerializer(many=True)


class FindingStateSerializer(serializers.Serializer[Any]):
    """What to do with it."""

    state = serializers.ChoiceField(choices=STATES)
