"""Shapes of files and feeds."""

from typing import Any

from dakika_core.sources.kinds import KINDS
from rest_framework import serializers

IMPORT_STATES = ["waiting", "running", "done", "failed", "undoing", "undone", "discarded"]
SHOWN_ITEMS, SHOWN_PROBLEMS = 12, 200


class ImportSerializer(serializers.Serializer[Any]):
    """A file and how it stands."""

    id = serializers.IntegerField(source="pk")
    file_name = serializers.CharField()
    size = serializers.IntegerField()
    kind = serializers.ChoiceField(choices=list(KINDS))
    created_at = serializers.DateTimeField()
    ended_at = serializers.DateTimeField(allow_null=True)
    state = serializers.ChoiceField(choices=IMPORT_STATES)
    row_count = serializers.IntegerField()
    is_exact = serializers.BooleanField()
    rows_read = serializers.IntegerField()
    accepted = serializers.IntegerField()
    refused = serializers.IntegerField()
    added = serializers.IntegerField()
    posts_added = serializers.IntegerField()
    message = serializers.CharField(allow_blank=True)
    profile = serializers.CharField(source="profile.name", default=None, allow_null=True)


class RowProblemSerializer(serializers.Serializer[Any]):
    """What is wrong in a row."""

    row = serializers.IntegerField()
    column = serializers.CharField(allow_blank=True)
    message = serializers.CharField()


class FileFieldSerializer(serializers.Serializer[Any]):
    """A field that a column can be."""

    key = serializers.CharField()
    read = serializers.CharField()
    is_needed = serializers.BooleanField()


class WrittenSerializer(serializers.Serializer[Any]):
    """How a file is written; empty where it does not tell."""

    form = serializers.ChoiceField(choices=["csv", "json", "xlsx"])
    encoding = serializers.CharField(allow_blank=True)
    delimiter = serializers.CharField(allow_blank=True, trim_whitespace=False)
    decimal = serializers.CharField(allow_blank=True)
    is_day_first = serializers.BooleanField(allow_null=True)
    zone = serializers.CharField(allow_blank=True)


class DetectedSerializer(WrittenSerializer):
    """What was found out about a file."""

    has_offsets = serializers.BooleanField()
    is_remembered = serializers.BooleanField()


class PreviewItemSerializer(serializers.Serializer[Any]):
    """A row as it would come in."""

    row = serializers.IntegerField()
    values = serializers.DictField(child=serializers.CharField())


class PreviewSerializer(serializers.Serializer[Any]):
    """What an import would bring."""

    item = ImportSerializer()
    header = serializers.ListField(child=serializers.CharField(allow_blank=True))
    sample = serializers.ListField(child=serializers.ListField(child=serializers.CharField(allow_blank=True)))
    fields_of_kind = FileFieldSerializer(many=True)
    mapping = serializers.DictField(child=serializers.IntegerField())
    detected = DetectedSerializer()
    options = WrittenSerializer()
    encodings = serializers.ListField(child=serializers.CharField())
    mapping_problems = serializers.ListField(child=serializers.CharField())
    rows_looked_at = serializers.IntegerField()
    readable = serializers.IntegerField()
    items = PreviewItemSerializer(many=True)
    problem_count = serializers.IntegerField()
    problems = RowProblemSerializer(many=True)


class UploadSerializer(serializers.Serializer[Any]):
    """A file."""

    file = serializers.FileField()


class OptionsInputSerializer(serializers.Serializer[Any]):
    """How the file is written, as far as one wants to change it."""

    encoding = serializers.CharField(required=False, max_length=40)
    delimiter = serializers.CharField(required=False, max_length=1, trim_whitespace=False)
    decimal = serializers.CharField(required=False, max_length=1, allow_blank=True)
    is_day_first = serializers.BooleanField(required=False)
    zone = serializers.CharField(required=False, max_length=64)


class SettleInputSerializer(serializers.Serializer[Any]):
    """Kind, columns, how it is written: what is left out stays as it is."""

    kind = serializers.ChoiceField(choices=list(KINDS), required=False)
    mapping = serializers.DictField(child=serializers.IntegerField(min_value=0, max_value=500), required=False)
    options = OptionsInputSerializer(required=False)


class ConfirmInputSerializer(serializers.Serializer[Any]):
    """Where the rows go: a profile that there is, a new one on any network, or where each row says."""

    profile_id = serializers.IntegerField(required=False, allow_null=True)
    new_profile = serializers.CharField(max_length=200, allow_blank=True, default="")
    network = serializers.CharField(max_length=60, allow_blank=True, default="")
    is_per_row = serializers.BooleanField(default=False)


class ExportQuerySerializer(serializers.Serializer[Any]):
    """What, and as what."""

    what = serializers.CharField(max_length=40)
    form = serializers.ChoiceField(choices=["csv", "jsonl", "xlsx"], default="csv")


class FeedSerializer(serializers.Serializer[Any]):
    """A followed feed."""

    id = serializers.IntegerField(source="pk")
    title = serializers.CharField()
    address = serializers.CharField()
    site = serializers.CharField(allow_blank=True)
    fetched_at = serializers.DateTimeField(allow_null=True)
    next_at = serializers.DateTimeField(allow_null=True)
    failures = serializers.IntegerField()
    message = serializers.CharField(allow_blank=True)
    item_count = serializers.IntegerField(default=0)
    newest_at = serializers.DateTimeField(allow_null=True, default=None)


class FeedItemSerializer(serializers.Serializer[Any]):
    """An item of a feed."""

    id = serializers.IntegerField(source="pk")
    feed_id = serializers.IntegerField()
    feed = serializers.CharField(source="feed.title")
    title = serializers.CharField(allow_blank=True)
    summary = serializers.SerializerMethodField()
    address = serializers.CharField(allow_blank=True)
    author = serializers.CharField(allow_blank=True)
    published_at = serializers.DateTimeField(allow_null=True)
    seen_at = serializers.DateTimeField()

    def get_summary(self, item: Any) -> str:
        """Its beginning."""
        return str(item.summary[:300])


class FeedsSerializer(serializers.Serializer[Any]):
    """Feeds and the newest items."""

    feeds = FeedSerializer(many=True)
    items = FeedItemSerializer(many=True)


class FeedInputSerializer(serializers.Serializer[Any]):
    """The address of a feed, or of a page that names one."""

    address = serializers.CharField(max_length=2000)


class FeedQuerySerializer(serializers.Serializer[Any]):
    """Of which feed."""

    feed = serializers.IntegerField(required=False)
