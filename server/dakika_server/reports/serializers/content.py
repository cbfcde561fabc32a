"""What a report holds: its study, its look, its pages with figures, words and places. Checked whenever it is saved."""

import re
from typing import Any

from dakika_core.reports.languages import LANGUAGES
from dakika_core.reports.layout import Place, overlapping
from dakika_core.reports.spans import SPANS
from dakika_core.reports.words import What
from rest_framework import serializers

from dakika_server.figures.kinds import KINDS
from dakika_server.figures.study import StudySerializer

MOST_PAGES, MOST_ITEMS, MOST_IN_ALL = 40, 24, 200
MOST_PARAGRAPHS, MOST_SEGMENTS = 40, 80
LONGEST_TEXT = 4000
# How a set of figures is drawn; what a kind has decides which of them makes sense.
DRAWINGS = ("tiles", "course", "bars", "table", "grid", "axes", "cards", "steps", "calendar")
# What is no figure of the registry.
TEXT, PICTURE = "text", "picture"
_ID = re.compile(r"^[a-z0-9]{1,16}$")
_COLOUR = re.compile(r"^#[0-9a-f]{6}$")


class IdField(serializers.CharField):
    """What a page or an item is called within its report."""

    def to_internal_value(self, data: Any) -> str:
        """Letters and digits."""
        text = super().to_internal_value(data)
        if not _ID.match(text):
            raise serializers.ValidationError("Use up to 16 small letters and digits.")
        return text


class ColourField(serializers.CharField):
    """A colour as #rrggbb, or nothing."""

    def to_internal_value(self, data: Any) -> str:
        """In small letters."""
        text = super().to_internal_value(data).lower()
        if text and not _COLOUR.match(text):
            raise serializers.ValidationError("Write a colour as #rrggbb.")
        return text


class ReportStudySerializer(StudySerializer):
    """A study whose days may move with today. span: which days; without one first and last say it."""

    span = serializers.ChoiceField(choices=SPANS, required=False)

    def to_representation(self, instance: Any) -> Any:
        """As it was kept."""
        return instance


class StudyField(serializers.JSONField):
    """A study as an address has it: names and texts, checked; empty where nothing is asked for."""

    def to_internal_value(self, data: Any) -> dict[str, str]:
        """What was asked by name, as texts."""
        if not isinstance(data, dict):
            raise serializers.ValidationError("A study is a set of names and values.")
        asked = {str(name): str(value) for name, value in data.items() if value not in (None, "")}
        if unknown := sorted({*asked} - {*ReportStudySerializer().fields}):
            raise serializers.ValidationError(f"A study does not ask for {unknown[0][:40]}.")
        given = ReportStudySerializer(data=asked)
        if not given.is_valid():
            raise serializers.ValidationError(first_error(given.errors))
        return asked


class ReportSegmentSerializer(serializers.Serializer[Any]):
    """Words, or a number bound to a figure: item and cell. said: which way it went when the words were written."""

    text = serializers.CharField(max_length=LONGEST_TEXT, allow_blank=True, default="", trim_whitespace=False)
    item = serializers.CharField(max_length=16, allow_blank=True, default="")
    cell = serializers.CharField(max_length=400, allow_blank=True, default="")
    what = serializers.ChoiceField(choices=[what.value for what in What], default=What.NOW.value)
    said = serializers.IntegerField(min_value=-1, max_value=1, allow_null=True, default=None)


class ParagraphsField(serializers.ListField):
    """Paragraphs of segments."""

    child = serializers.ListField(child=ReportSegmentSerializer(), max_length=MOST_SEGMENTS)

    def __init__(self, **more: Any) -> None:
        super().__init__(max_length=MOST_PARAGRAPHS, **more)


class ReportItemSerializer(serializers.Serializer[Any]):
    """What stands on a page: a figure of a kind, a text, or a picture. cells: which of its figures, all where empty."""

    id = IdField()
    kind = serializers.CharField(max_length=60)
    params = serializers.DictField(child=serializers.CharField(max_length=400, allow_blank=True), default=dict)
    study = StudyField(allow_null=True, default=None)
    drawing = serializers.ChoiceField(choices=DRAWINGS, default="table")
    title = serializers.CharField(max_length=120, allow_blank=True, default="")
    cells = serializers.ListField(child=serializers.CharField(max_length=400), max_length=60, default=list)
    rows = serializers.IntegerField(min_value=1, max_value=60, default=12)
    words = ParagraphsField(default=list)
    asset = serializers.IntegerField(min_value=1, max_value=2**63 - 1, allow_null=True, default=None)
    x = serializers.IntegerField(min_value=0, max_value=11)
    y = serializers.IntegerField(min_value=0, max_value=7)
    w = serializers.IntegerField(min_value=1, max_value=12)
    h = serializers.IntegerField(min_value=1, max_value=8)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """Its kind is known and takes what is asked of it; it lies on the page."""
        kind = attrs["kind"]
        if kind not in (TEXT, PICTURE):
            if kind not in KINDS:
                raise serializers.ValidationError({"kind": f"There are no figures called {kind[:60]}."})
            params = KINDS[kind].params(data=attrs["params"])
            if not params.is_valid():
                raise serializers.ValidationError({"params": first_error(params.errors)})
            if unknown := sorted({*attrs["params"]} - {*params.fields}):
                raise serializers.ValidationError({"params": f"{KINDS[kind].name} does not ask for {unknown[0][:40]}."})
        if not place_of(attrs).is_on_page:
            raise serializers.ValidationError({"x": "It reaches over the edge of the page."})
        return attrs


class ReportPageSerializer(serializers.Serializer[Any]):
    """A page. words: its text; null where it is made by rule each time. ground: its colour, else the report's."""

    id = IdField()
    title = serializers.CharField(max_length=120, allow_blank=True, default="")
    words = ParagraphsField(allow_null=True, default=None)
    has_words = serializers.BooleanField(default=True)
    notes = serializers.CharField(max_length=2000, allow_blank=True, default="")
    ground = ColourField(allow_blank=True, default="")
    items = ReportItemSerializer(many=True, default=list)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """No two items by one name, none over another."""
        items = attrs["items"]
        if len(items) > MOST_ITEMS:
            raise serializers.ValidationError({"items": f"A page holds at most {MOST_ITEMS} figures."})
        if len({item["id"] for item in items}) != len(items):
            raise serializers.ValidationError({"items": "Two figures have the same name."})
        found = overlapping([place_of(item) for item in items])
        if found:
            names = [items[i]["title"] or items[i]["kind"] for i in found]
            raise serializers.ValidationError({"items": f"{names[0]} and {names[1]} lie over each other."})
        return attrs


class ReportLookSerializer(serializers.Serializer[Any]):
    """How it looks: cover, logo, colours, lines above and below. accent and ink are kept readable on the ground."""

    has_cover = serializers.BooleanField(default=True)
    subtitle = serializers.CharField(max_length=200, allow_blank=True, default="")
    logo = serializers.IntegerField(min_value=1, max_value=2**63 - 1, allow_null=True, default=None)
    accent = ColourField(allow_blank=True, default="")
    ground = ColourField(allow_blank=True, default="")
    face = serializers.ChoiceField(choices=["sans", "serif"], default="serif")
    header = serializers.CharField(max_length=120, allow_blank=True, default="")
    footer = serializers.CharField(max_length=120, allow_blank=True, default="")


class ReportContentSerializer(serializers.Serializer[Any]):
    """All that is saved of a report at once, of the edition that was read."""

    title = serializers.CharField(max_length=120)
    label = serializers.CharField(max_length=60, allow_blank=True, default="")  # type: ignore[assignment]
    language = serializers.ChoiceField(choices=sorted(LANGUAGES), default="en")
    study = StudyField(default=dict)
    look = ReportLookSerializer(default=dict)
    pages = ReportPageSerializer(many=True)
    edition = serializers.IntegerField(min_value=0)

    def validate_pages(self, pages: list[dict[str, Any]]) -> list[dict[str, Any]]:
        """Not too many, each by a name of its own; an item's name is its own throughout the report."""
        if not 1 <= len(pages) <= MOST_PAGES:
            raise serializers.ValidationError(f"A report has 1 to {MOST_PAGES} pages.")
        names = [item["id"] for page in pages for item in page["items"]]
        if len({page["id"] for page in pages}) != len(pages) or len({*names}) != len(names):
            raise serializers.ValidationError("Two pages or figures have the same name.")
        if len(names) > MOST_IN_ALL:
            raise serializers.ValidationError(f"A report holds at most {MOST_IN_ALL} figures.")
        return pages


def place_of(item: dict[str, Any]) -> Place:
    """Where an item lies."""
    return Place(x=item["x"], y=item["y"], w=item["w"], h=item["h"])


def first_error(errors: Any) -> str:
    """The first of nested errors, in words."""
    while isinstance(errors, dict | list):
        errors = next(iter(errors.values() if isinstance(errors, dict) else errors), "")
    return str(errors)
