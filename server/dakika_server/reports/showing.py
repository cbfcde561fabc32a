"""A report as it is seen: its figures computed, its words read, whatever it is shown on."""

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Any

from dakika_core.networks.definition import Format
from dakika_core.reports.languages import days_text, translated
from dakika_core.reports.words import (
    Rows,
    Segment,
    Sentence,
    ShownCell,
    ShownSet,
    What,
    of_findings,
    read_number,
    read_text,
    sentences,
)
from dakika_core.values.period import Comparison
from django.http import Http404
from rest_framework.exceptions import APIException, ValidationError

from dakika_server.brands.models import Brand
from dakika_server.figures.kinds import KINDS, Cell, FigureSet, RowAbout, Series
from dakika_server.figures.study import period_of
from dakika_server.figures.words import sentence as study_sentence
from dakika_server.reports.models import Report
from dakika_server.reports.serializers.content import PICTURE, TEXT, first_error
from dakika_server.reports.studies import Studies, asked_of, query_at, question_of, values_at

# What rows are to each other, of kinds where something is said of them.
ROWS: Mapping[str, Rows] = {
    **dict.fromkeys(
        ("results.groups", "links.links", "links.spread", "site.attribution", "competitors.table", "competitors.works"),
        Rows.RIVALS,
    ),
    "results.difference": Rows.PARTS_OF_CHANGE,
    "results.top": Rows.POSTS,
    "results.findings": Rows.FINDINGS,
}


_SENTENCES = re.compile(r"(?<=[.]) ")
_FORMATS = frozenset(one.value for one in Format)


@dataclass(frozen=True, kw_only=True)
class ShownItem:
    """An item with what it shows. error: why it shows nothing, in words. query: what its basis is asked with."""

    id: str
    kind: str
    name: str = ""
    title: str = ""
    study: str = ""
    note: str = ""
    error: str = ""
    days: str = ""
    query: dict[str, str] = field(default_factory=dict)
    cells: list[Cell] = field(default_factory=list)
    series: list[Series] = field(default_factory=list)
    rows: list[RowAbout] = field(default_factory=list)
    words: list[list[dict[str, Any]]] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class ShownPage:
    """A page as it is seen. words: paragraphs of segments, their numbers read."""

    id: str
    items: list[ShownItem]
    words: list[list[dict[str, Any]]]
    is_made: bool


class Shower:
    """Shows the pages of one report as of one instant; what several items ask alike is computed once."""

    def __init__(self, report: Report, brand: Brand, now: datetime) -> None:
        self._report, self._brand, self._now = report, brand, now
        self._studies = Studies(brand, now)
        self._made: dict[tuple[str, str, str], tuple[FigureSet, str, str] | str] = {}

    def page(self, page: dict[str, Any]) -> ShownPage:
        """One page."""
        language = self._report.language
        items = [self._item(item) for item in page["items"]]
        sets = {one.id: shown_set(one, language) for one in items if one.kind not in (TEXT, PICTURE) and not one.error}
        is_made = page["words"] is None
        if page["has_words"] and is_made:
            paragraphs: Iterable[Sentence] = [_spaced(sentences(sets.values(), language))]
        else:
            paragraphs = [segments_of(one) for one in page["words"] or []] if page["has_words"] else []
        texts = {item["id"]: item["words"] for item in page["items"] if item["kind"] == TEXT}
        read = [read_segments(one, sets, language) for one in paragraphs]
        shown = [_with_words(one, texts.get(one.id), sets, language) if one.kind == TEXT else one for one in items]
        return ShownPage(id=page["id"], items=shown, words=[one for one in read if one], is_made=is_made)

    def days(self) -> tuple[str, str]:
        """The report's own days, and those they are held against, in its language; nothing where it asks wrongly."""
        try:
            values = values_at(self._brand, self._report.study, self._now)
        except APIException:
            return "", ""
        period = period_of(self._brand, values, self._now)
        compared = period.compared(Comparison(values["compare"]))
        language = self._report.language
        return days_text(period.first, period.last, language), days_text(compared.first, compared.last, language)

    def _item(self, item: dict[str, Any]) -> ShownItem:
        if item["kind"] in (TEXT, PICTURE):
            return ShownItem(id=item["id"], kind=item["kind"], title=item["title"])
        asked = asked_of(self._report.study, item["study"])
        key = question_of(item, asked)
        if key not in self._made:
            self._made[key] = self._compute(item, asked)
        made = self._made[key]
        kind = KINDS.get(item["kind"])
        name = kind.name if kind else item["kind"]
        if isinstance(made, str):
            return ShownItem(id=item["id"], kind=item["kind"], name=name, title=item["title"], error=made)
        found, told, days = made
        language = self._report.language
        shown = ShownItem(
            id=item["id"], kind=item["kind"], name=translated(name, language), title=item["title"], study=told,
            note=" ".join(translated(one, language) for one in _SENTENCES.split(found.note)), days=days,
            query={**query_at(self._brand, asked, self._now), **item["params"]},
            cells=chosen(found.cells, item["cells"]), series=list(found.series), rows=list(found.rows),
        )  # fmt: skip
        if ROWS.get(shown.kind) is Rows.FINDINGS and language != "en":
            shown = replace(shown, rows=_said_anew(shown, language))
        return shown if shown.title else replace(shown, title=_title(found.title, shown, language))

    def _compute(self, item: dict[str, Any], asked: dict[str, str]) -> tuple[FigureSet, str, str] | str:
        """The figures, or why there are none: what a figure asks for may have gone since it was placed."""
        kind = KINDS.get(item["kind"])
        if kind is None:
            return "This version of Dakika has no such figures."
        try:
            params = kind.params(data=item["params"])
            params.is_valid(raise_exception=True)
            study = self._studies.of(kind, asked)
            made = kind.compute(study, params.validated_data)
        except ValidationError as error:
            return first_error(error.detail)
        except (APIException, Http404) as error:
            return str(error) or "There is nothing here any more."
        days = days_text(*(made.days or (study.period.first, study.period.last)), self._report.language)
        return made, study_sentence(study), days


def chosen(cells: Iterable[Cell], asked: list[str]) -> list[Cell]:
    """Those that an item shows: by their own key or by that of their column, in the order asked; all where none are."""
    cells = list(cells)
    if not asked:
        return cells
    place = {name: at for at, name in enumerate(asked)}
    found = [(place.get(one.key, place.get(one.column)), one) for one in cells]
    return [one for at, one in sorted((p for p in found if p[0] is not None), key=lambda pair: pair[0] or 0)]


def row_name(cell: Cell) -> str:
    """What a row is called where it is read: its name without the column's; its key where the name is none of both."""
    ending = f", {cell.column}"
    name = cell.name[: -len(ending)] if cell.row and cell.name.endswith(ending) else cell.row
    return name.replace("_", " ") if name in _FORMATS else name


def row_told(item: ShownItem, cell: Cell, language: str) -> str:
    """A row's name in a language; what somebody wrote stays as it was written."""
    return cell.row if any(one.row == cell.row for one in item.rows) else translated(row_name(cell), language)


def shown_set(item: ShownItem, language: str) -> ShownSet:
    """What sentences are made of, its labels in a language."""
    cells = [
        ShownCell(
            key=one.key, name=translated(one.name, language), unit=one.unit.value, now=one.now, before=one.before,
            row=row_told(item, one, language), column=translated(one.column, language) if one.row else one.column,
            more_is_better=one.more_is_better, is_net=one.is_net,
        )
        for one in item.cells
    ]  # fmt: skip
    return ShownSet(item=item.id, title=item.title, cells=cells, rows=ROWS.get(item.kind, Rows.NONE))


def segments_of(paragraph: list[dict[str, Any]]) -> Sentence:
    """A kept paragraph."""
    return tuple(Segment(**{**one, "what": What(one["what"])}) for one in paragraph)


def read_segments(paragraph: Sentence, sets: Mapping[str, ShownSet], language: str) -> list[dict[str, Any]]:
    """A paragraph with each number as it is now, and what is to be said of it."""
    found = []
    for one in paragraph:
        told: dict[str, Any] = {
            "text": one.text, "item": one.item, "cell": one.cell, "what": one.what.value, "said": one.said,
            "is_gone": False, "has_turned": False,
        }  # fmt: skip
        if one.is_number:
            read = read_number(one, sets, language)
            told |= {"text": read.text, "is_gone": read.is_gone, "has_turned": read.has_turned}
        found.append(told)
    return found


def _title(title: str, shown: ShownItem, language: str) -> str:
    """A set's own title in a language; one that is a sentence is said anew from its figures, else it is the kind's."""
    told = translated(title, language)
    if language == "en" or told != title:
        return told
    made = shown_set(shown, language)
    said = sentences([made], language)
    return read_text(said[0], {shown.id: made}, language).rstrip(".") if said else shown.name


def _said_anew(shown: ShownItem, language: str) -> list[RowAbout]:
    """Findings in another language: their sentences by rule from their numbers, those without one as they are."""
    made = shown_set(shown, language)
    row_of = {cell.key: cell.row for cell in shown.cells}
    said = {
        row_of[part.cell]: read_text(sentence, {shown.id: made}, language)
        for sentence in of_findings(made, language)
        for part in sentence
        if part.is_number
    }
    return [replace(one, text=said[one.row], detail="") if one.row in said else one for one in shown.rows]


def _with_words(item: ShownItem, words: list[Any] | None, sets: Mapping[str, ShownSet], language: str) -> ShownItem:
    read = [read_segments(segments_of(one), sets, language) for one in words or []]
    return ShownItem(id=item.id, kind=item.kind, title=item.title, words=read)


def _spaced(found: list[Sentence]) -> Sentence:
    """Sentences in a row as one paragraph."""
    row: list[Segment] = []
    for one in found:
        row += [Segment(text=" "), *one] if row else one
    return tuple(row)
