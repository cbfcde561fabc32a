"""Reports as they are listed, read and shown."""

from collections.abc import Sequence
from typing import Any

from dakika_core.reports.languages import LOCALES, translated
from rest_framework import serializers

from dakika_server.figures.serializers import CellSerializer, RowAboutSerializer, SeriesSerializer
from dakika_server.reports.models import ReportLink
from dakika_server.reports.serializers.content import ReportLookSerializer, ReportPageSerializer
from dakika_server.reports.showing import Shower, ShownItem, row_told


class ReportRowSerializer(serializers.Serializer[Any]):
    """A report in a list."""

    id = serializers.IntegerField()
    title = serializers.CharField()
    label = serializers.CharField(allow_blank=True)  # type: ignore[assignment]
    language = serializers.CharField()
    is_template = serializers.BooleanField()
    pages = serializers.SerializerMethodField()
    figures = serializers.SerializerMethodField()
    links = serializers.IntegerField(source="open_links", default=0)
    changed_at = serializers.DateTimeField()
    changed_by = serializers.CharField(source="changed_by.name", default="", allow_blank=True)

    def get_pages(self, report: Any) -> int:
        """How many."""
        return len(report.pages)

    def get_figures(self, report: Any) -> int:
        """How many, on all pages."""
        return sum(len(page["items"]) for page in report.pages)


class ReportListSerializer(serializers.Serializer[Any]):
    """A page of reports; labels: all that are in use."""

    reports = ReportRowSerializer(many=True)
    labels = serializers.ListField(child=serializers.CharField())
    next = serializers.CharField(allow_null=True)


class ReportQuerySerializer(serializers.Serializer[Any]):
    """Which reports."""

    text = serializers.CharField(required=False, max_length=100)
    label = serializers.CharField(required=False, max_length=60)  # type: ignore[assignment]
    templates = serializers.BooleanField(default=False)
    cursor = serializers.CharField(required=False)
    limit = serializers.IntegerField(min_value=1, max_value=100, default=40)


class ReportSerializer(serializers.Serializer[Any]):
    """A report as it is kept."""

    id = serializers.IntegerField()
    title = serializers.CharField()
    label = serializers.CharField(allow_blank=True)  # type: ignore[assignment]
    language = serializers.CharField()
    study = serializers.DictField(child=serializers.CharField())
    look = ReportLookSerializer()
    pages = ReportPageSerializer(many=True)
    is_template = serializers.BooleanField()
    edition = serializers.IntegerField()
    changed_at = serializers.DateTimeField()
    changed_by = serializers.CharField(source="changed_by.name", default="", allow_blank=True)


class MakeReportSerializer(serializers.Serializer[Any]):
    """From which template, one of ours by key or one of the team's own by number."""

    template = serializers.CharField(max_length=20, default="blank")
    own = serializers.IntegerField(min_value=1, max_value=2**63 - 1, allow_null=True, default=None)
    title = serializers.CharField(max_length=120, allow_blank=True, default="")
    language = serializers.ChoiceField(choices=["en", "pt", "el", "sw"], default="en")


class TemplateRowSerializer(serializers.Serializer[Any]):
    """What one can begin from."""

    key = serializers.CharField()
    name = serializers.CharField()
    words = serializers.CharField()
    pages = serializers.ListField(child=serializers.CharField(allow_blank=True))


class LanguageSerializer(serializers.Serializer[Any]):
    """A language of reports."""

    key = serializers.CharField()
    name = serializers.CharField()


class BeginningsSerializer(serializers.Serializer[Any]):
    """Templates of ours and of the team, and languages."""

    templates = TemplateRowSerializer(many=True)
    own = ReportRowSerializer(many=True)
    languages = LanguageSerializer(many=True)


class ReadSegmentSerializer(serializers.Serializer[Any]):
    """Words, or a number as it is now. is_gone: its figure is not there; has_turned: it goes another way now."""

    text = serializers.CharField(allow_blank=True)
    item = serializers.CharField(allow_blank=True)
    cell = serializers.CharField(allow_blank=True)
    what = serializers.CharField()
    said = serializers.IntegerField(allow_null=True)
    is_gone = serializers.BooleanField()
    has_turned = serializers.BooleanField()


class ShownItemSerializer(serializers.Serializer[Any]):
    """What an item shows. error: why it shows nothing. query: what its basis is asked with."""

    id = serializers.CharField()
    kind = serializers.CharField()
    name = serializers.CharField(allow_blank=True)
    title = serializers.CharField(allow_blank=True)
    study = serializers.CharField(allow_blank=True)
    days = serializers.CharField(allow_blank=True)
    note = serializers.CharField(allow_blank=True)
    error = serializers.CharField(allow_blank=True)
    query = serializers.DictField(child=serializers.CharField())
    cells = CellSerializer(many=True)
    series = SeriesSerializer(many=True)
    rows = RowAboutSerializer(many=True)
    words = serializers.ListField(child=ReadSegmentSerializer(many=True))


class ShownPageSerializer(serializers.Serializer[Any]):
    """A page with its figures and words. is_made: its words are made by rule each time."""

    id = serializers.CharField()
    items = ShownItemSerializer(many=True)
    words = serializers.ListField(child=ReadSegmentSerializer(many=True))
    is_made = serializers.BooleanField()


class WordsOfReportSerializer(serializers.Serializer[Any]):
    """What a report's own lines say, in its language."""

    days = serializers.CharField(allow_blank=True)
    against = serializers.CharField(allow_blank=True)
    page = serializers.CharField()
    before = serializers.CharField()
    unknown = serializers.CharField()
    locale = serializers.CharField()


class ShownReportSerializer(serializers.Serializer[Any]):
    """Some of a report's pages as they are seen."""

    words = WordsOfReportSerializer()
    pages = ShownPageSerializer(many=True)


class ShowQuerySerializer(serializers.Serializer[Any]):
    """Which pages, by their names with commas between them; all where none are named."""

    pages = serializers.CharField(required=False, max_length=800)


class ReportVersionSerializer(serializers.Serializer[Any]):
    """What a report was."""

    edition = serializers.IntegerField()
    name = serializers.CharField(allow_blank=True)
    title = serializers.CharField()
    at = serializers.DateTimeField()
    by = serializers.CharField(source="by.name", default="", allow_blank=True)
    pages = serializers.SerializerMethodField()

    def get_pages(self, version: Any) -> int:
        """How many."""
        return len(version.pages)


class NameVersionSerializer(serializers.Serializer[Any]):
    """Under which name it is kept."""

    name = serializers.CharField(max_length=80)


class GoBackSerializer(serializers.Serializer[Any]):
    """To which edition."""

    edition = serializers.IntegerField(min_value=1)


class CopyReportSerializer(serializers.Serializer[Any]):
    """Into which brand, and whether as a template."""

    brand = serializers.SlugField(required=False)
    is_template = serializers.BooleanField(default=False)


class ReportAwaySerializer(serializers.Serializer[Any]):
    """Taken away, or back."""

    is_away = serializers.BooleanField()


class PutIntoReportSerializer(serializers.Serializer[Any]):
    """A figure for a report: on a page by its name, else on the last one that has room."""

    kind = serializers.CharField(max_length=60)
    params = serializers.DictField(child=serializers.CharField(max_length=400, allow_blank=True), default=dict)
    study = serializers.DictField(child=serializers.CharField(max_length=1300), allow_null=True, default=None)
    drawing = serializers.CharField(max_length=10, default="table")
    title = serializers.CharField(max_length=120, allow_blank=True, default="")
    cells = serializers.ListField(child=serializers.CharField(max_length=400), max_length=60, default=list)
    page = serializers.CharField(max_length=16, allow_blank=True, default="")


class PutAnswerSerializer(serializers.Serializer[Any]):
    """Where it stands now."""

    report = serializers.IntegerField()
    page = serializers.CharField()
    edition = serializers.IntegerField()


class ReportLinkSerializer(serializers.ModelSerializer[ReportLink]):
    """A link to a report."""

    has_password = serializers.SerializerMethodField()

    class Meta:
        model = ReportLink
        fields = ("id", "name", "until", "is_frozen", "made_at", "revoked_at", "visits", "visited_at", "has_password")

    def get_has_password(self, link: ReportLink) -> bool:
        """Whether one is asked for."""
        return bool(link.password)


class MadeReportLinkSerializer(serializers.Serializer[Any]):
    """A new link with its address, which is told this once."""

    link = ReportLinkSerializer()
    address = serializers.CharField()


class ReportLinkInputSerializer(serializers.Serializer[Any]):
    """For whom, until when, with a password or without, with today's figures or those of the day it is opened."""

    name = serializers.CharField(max_length=80)
    until = serializers.DateTimeField()
    password = serializers.CharField(max_length=200, allow_blank=True, default="", trim_whitespace=False)
    is_frozen = serializers.BooleanField(default=False)


class OpenReportSerializer(serializers.Serializer[Any]):
    """The key of a link, and its password where it has one."""

    key = serializers.CharField(max_length=100)
    password = serializers.CharField(max_length=200, allow_blank=True, default="", trim_whitespace=False)


class OpenedReportSerializer(serializers.Serializer[Any]):
    """A report as somebody outside sees it."""

    brand = serializers.CharField()
    title = serializers.CharField()
    language = serializers.CharField()
    look = ReportLookSerializer()
    pages = ReportPageSerializer(many=True)
    until = serializers.DateTimeField()
    is_frozen = serializers.BooleanField()
    as_of = serializers.DateTimeField()
    shown = ShownReportSerializer()
    pictures = serializers.DictField(child=serializers.CharField(), help_text="by number, as data: addresses")


def shown_row(item: ShownItem, language: str) -> dict[str, Any]:
    """An item as it is sent, its labels in a language."""
    return {
        **vars(item),
        "series": [{**vars(one), "name": translated(one.name, language)} for one in item.series],
        "cells": [
            {
                **vars(one), "name": translated(one.name, language), "row": row_told(item, one, language),
                "column": translated(one.column, language),
            }
            for one in item.cells
        ],
    }  # fmt: skip


def shown_pages(shower: Shower, pages: Sequence[dict[str, Any]], language: str) -> dict[str, Any]:
    """Some pages as they are sent: plain values, so that they can be kept as they are."""
    days, against = shower.days()
    shown = [shower.page(page) for page in pages]
    told = {
        "words": {
            "days": days, "against": against, "locale": LOCALES[language].replace("_", "-"),
            "page": translated("page", language), "before": translated("before", language),
            "unknown": translated("nothing is known", language),
        },
        "pages": [{**vars(one), "items": [shown_row(item, language) for item in one.items]} for one in shown],
    }  # fmt: skip
    sent: dict[str, Any] = ShownReportSerializer(told).data
    return sent
