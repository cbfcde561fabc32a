"""Shapes of files and feeds."""

from typing import Any

from dakika_core.networks.definition import Format
from dakika_core.sources.files.cells import shorten
from dakika_core.sources.files.dates import ORDERS
from dakika_core.sources.files.kinds import KINDS
from dakika_core.sources.files.mapping import Looks, Sure
from rest_framework import serializers

MOST_FORMATS = 200
FORMS = ["csv", "json", "xlsx", "ods", "zip"]
LAYOUTS = ["rows", "long", "wide"]
IMPORT_STATES = ["looking", "waiting", "running", "done", "failed", "undoing", "undone", "discarded"]
SHOWN_ITEMS, SHOWN_PROBLEMS, SHOWN_NOTES = 12, 200, 40


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
    profile_id = serializers.IntegerField(allow_null=True)
    known = serializers.IntegerField()
    together = serializers.IntegerField()
    first_day = serializers.DateField(allow_null=True)
    last_day = serializers.DateField(allow_null=True)


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
    adds_up = serializers.BooleanField(help_text="whether several columns may hold parts of it")


class ColumnSerializer(serializers.Serializer[Any]):
    """A column of the file: what it is taken for (empty: for nothing), how surely, what stands in it."""

    index = serializers.IntegerField()
    name = serializers.CharField(allow_blank=True)
    field = serializers.CharField(allow_blank=True)
    sure = serializers.ChoiceField(choices=["", *[s.value for s in Sure]], allow_blank=True)
    looks = serializers.ChoiceField(choices=[look.value for look in Looks])
    currency = serializers.CharField(allow_blank=True)
    examples = serializers.SerializerMethodField()
    note = serializers.CharField(allow_blank=True)

    def get_examples(self, column: Any) -> list[str]:
        """Its first cells."""
        return [shorten(cell) for cell in column.examples]


class WrittenSerializer(serializers.Serializer[Any]):
    """How a file is written; empty where it does not tell."""

    form = serializers.ChoiceField(choices=FORMS)
    encoding = serializers.CharField(allow_blank=True)
    delimiter = serializers.CharField(allow_blank=True, trim_whitespace=False)
    sheet = serializers.CharField(allow_blank=True)
    head_row = serializers.IntegerField()
    head_lines = serializers.IntegerField()
    layout = serializers.ChoiceField(choices=LAYOUTS)
    decimal = serializers.CharField(allow_blank=True)
    date_order = serializers.ChoiceField(choices=list(ORDERS), allow_blank=True)
    zone = serializers.CharField(allow_blank=True)


class OptionsSerializer(WrittenSerializer):
    """What holds."""

    as_of = serializers.CharField(allow_blank=True)
    currency = serializers.CharField(allow_blank=True)
    formats = serializers.DictField(child=serializers.CharField())


class DetectedSerializer(WrittenSerializer):
    """What was found out about a file."""

    has_offsets = serializers.BooleanField()
    is_remembered = serializers.BooleanField()
    remembered_of = serializers.CharField(allow_blank=True)
    profile_id = serializers.IntegerField(allow_null=True)
    own_table = serializers.CharField(allow_blank=True)
    sheets = serializers.ListField(child=serializers.CharField())
    date_fits = serializers.ListField(child=serializers.ChoiceField(choices=list(ORDERS)))
    date_why = serializers.CharField(allow_blank=True)
    as_of_why = serializers.ChoiceField(choices=["", "name", "newest", "now", "same file"], allow_blank=True)
    damaged = serializers.ListField(child=serializers.IntegerField())
    midnights = serializers.BooleanField()


class AccountSerializer(serializers.Serializer[Any]):
    """An account that rows of the file name, and the profile of the brand that it can only be."""

    network = serializers.CharField(allow_blank=True)
    handle = serializers.CharField(allow_blank=True)
    rows = serializers.IntegerField()
    profile_id = serializers.IntegerField(allow_null=True)


class DateReadSerializer(serializers.Serializer[Any]):
    """A date as it is written, and as an order reads it."""

    written = serializers.CharField()
    read = serializers.CharField(allow_blank=True)


class DateChoiceSerializer(serializers.Serializer[Any]):
    """An order in which the dates can be read, with the first of them under it."""

    order = serializers.ChoiceField(choices=list(ORDERS))
    name = serializers.CharField()
    rows = DateReadSerializer(many=True)


class NoteSerializer(serializers.Serializer[Any]):
    """What was done with cells or rows that is not plain, how often, in which row first."""

    column = serializers.CharField(allow_blank=True)
    message = serializers.CharField()
    count = serializers.IntegerField()
    row = serializers.IntegerField()


class KnownSerializer(serializers.Serializer[Any]):
    """Of the rows looked at: how many speak of posts that are here, and how many say what another row says."""

    known = serializers.IntegerField()
    together = serializers.IntegerField()
    rows = serializers.IntegerField()


class RebuildSerializer(serializers.Serializer[Any]):
    """How far the figures are that follow from the rows."""

    done = serializers.IntegerField()
    total = serializers.IntegerField()
    is_waiting = serializers.BooleanField()


class PreviewItemSerializer(serializers.Serializer[Any]):
    """A row as it would come in."""

    row = serializers.IntegerField()
    values = serializers.DictField(child=serializers.CharField())


class PreviewSerializer(serializers.Serializer[Any]):
    """What an import would bring."""

    item = ImportSerializer()
    header = serializers.ListField(child=serializers.CharField(allow_blank=True))
    columns = ColumnSerializer(many=True)
    fields_of_kind = FileFieldSerializer(many=True)
    mapping = serializers.DictField(child=serializers.ListField(child=serializers.IntegerField()))
    detected = DetectedSerializer()
    options = OptionsSerializer()
    accounts = AccountSerializer(many=True)
    date_choices = DateChoiceSerializer(many=True)
    unknown_formats = serializers.ListField(child=serializers.CharField())
    known_in_sample = KnownSerializer(allow_null=True)
    encodings = serializers.ListField(child=serializers.CharField())
    mapping_problems = serializers.ListField(child=serializers.CharField())
    rows_looked_at = serializers.IntegerField()
    readable = serializers.IntegerField()
    items = PreviewItemSerializer(many=True)
    problem_count = serializers.IntegerField()
    problems = RowProblemSerializer(many=True)
    notes = NoteSerializer(many=True)
    rebuild = RebuildSerializer(allow_null=True)


class UploadSerializer(serializers.Serializer[Any]):
    """A file."""

    file = serializers.FileField()


class OptionsInputSerializer(serializers.Serializer[Any]):
    """How the file is written, as far as one wants to change it."""

    encoding = serializers.CharField(required=False, max_length=40)
    delimiter = serializers.CharField(required=False, max_length=1, trim_whitespace=False)
    sheet = serializers.CharField(required=False, max_length=255)
    head_row = serializers.IntegerField(required=False, min_value=1, max_value=30)
    head_lines = serializers.IntegerField(required=False, min_value=1, max_value=2)
    layout = serializers.ChoiceField(choices=LAYOUTS, required=False)
    decimal = serializers.CharField(required=False, max_length=1, allow_blank=True)
    date_order = serializers.ChoiceField(choices=list(ORDERS), required=False)
    zone = serializers.CharField(required=False, max_length=64)
    as_of = serializers.CharField(required=False, max_length=40)
    currency = serializers.CharField(required=False, max_length=3, allow_blank=True)
    formats = serializers.DictField(child=serializers.ChoiceField(choices=[f.value for f in Format]), required=False)

    def validate_formats(self, value: dict[str, str]) -> dict[str, str]:
        """As many words as a file may have for formats."""
        if len(value) > MOST_FORMATS:
            raise serializers.ValidationError(f"At most {MOST_FORMATS} words for formats.")
        return value


class SettleInputSerializer(serializers.Serializer[Any]):
    """Kind, columns, how it is written: what is left out stays as it is."""

    kind = serializers.ChoiceField(choices=list(KINDS), required=False)
    mapping = serializers.DictField(
        child=serializers.ListField(child=serializers.IntegerField(min_value=0, max_value=5000), max_length=50),
        required=False,
    )
    options = OptionsInputSerializer(required=False)
    profile_id = serializers.IntegerField(
        required=False, allow_null=True, help_text="whose rows they will be; 0: one that is new"
    )
    is_forgotten = serializers.BooleanField(
        required=False, help_text="forget what was told of earlier files with this head"
    )


class AccountInputSerializer(serializers.Serializer[Any]):
    """What becomes of the rows of an account: they go to a profile, to one that is made, or are left out."""

    network = serializers.CharField(max_length=120, allow_blank=True, default="")
    handle = serializers.CharField(max_length=120, allow_blank=True, default="")
    profile_id = serializers.IntegerField(required=False, allow_null=True)
    what = serializers.ChoiceField(choices=["make", "leave"], required=False)
    on = serializers.CharField(max_length=60, allow_blank=True, default="", help_text="the network of one that is made")


class ConfirmInputSerializer(serializers.Serializer[Any]):
    """Where the rows go: a profile that there is, a new one on any network, or where each row says."""

    profile_id = serializers.IntegerField(required=False, allow_null=True)
    new_profile = serializers.CharField(max_length=200, allow_blank=True, default="")
    network = serializers.CharField(max_length=60, allow_blank=True, default="")
    is_per_row = serializers.BooleanField(default=False)
    accounts = AccountInputSerializer(many=True, required=False, default=list)


class RowsInputSerializer(serializers.Serializer[Any]):
    """Rows of a program. Fields are named as in an own export; instants as ISO 8601, with their offset or by the
    brand's clock. channel, network: whose they are where profile_id does not say it; of any name.
    """

    kind = serializers.ChoiceField(choices=list(KINDS))
    channel = serializers.CharField(max_length=200, allow_blank=True, default="")
    network = serializers.CharField(max_length=40, allow_blank=True, default="")
    profile_id = serializers.IntegerField(min_value=1, max_value=2**63 - 1, allow_null=True, default=None)
    rows = serializers.ListField(child=serializers.DictField(), min_length=1, max_length=10_000)


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
