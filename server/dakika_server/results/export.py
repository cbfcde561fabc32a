"""What a view shows as a file: a table with its study and the definition of each figure beside it."""

import csv
import io
import tempfile
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace
from typing import IO, Any

from dakika_core.metrics.catalogue import Metric
from dakika_core.sources.files.guard import neutralise

from dakika_server.networks.definitions import network_name
from dakika_server.results.audience import audience_of
from dakika_server.results.catalogue import catalogue_of, chosen
from dakika_server.results.groups import compare
from dakika_server.results.queries import ordered, rows_of
from dakika_server.results.study import Study
from dakika_server.results.summary import summary_of
from dakika_server.results.tables import of_posts, table_of
from dakika_server.shared.errors import field_errors
from dakika_server.sources.files.own import mark_line

POSTS_AT_ONCE = 2_000
MOST_POSTS = 100_000
KINDS = ("posts", "days", "groups", "audience")
Row = list[Any]
_YES_NO: dict[bool | None, str] = {True: "yes", False: "no", None: ""}


@dataclass(frozen=True, kw_only=True)
class Sheet:
    """A table to be written: name, head, rows as they come, and what each figure means (name, definition).

    mark is the first line, by which a file of it is known when it comes back.
    """

    name: str
    head: list[str]
    rows: Iterable[Row]
    definitions: list[tuple[str, str]]
    about: list[tuple[str, str]]
    mark: list[str] = field(default_factory=list)


def sheet_of(study: Study, what: str, values: dict[str, Any]) -> Sheet:
    """The table of a view. Raises ValidationError for what is not a table."""
    makers = {"posts": _posts, "days": _days, "groups": _groups, "audience": _audience}
    made = makers[what](study, values)
    return replace(made, mark=mark_line(f"results.{made.name}", study.brand.slug, str(study.today)))


def _about(study: Study) -> list[tuple[str, str]]:
    narrowed = [
        f"format {study.format}" if study.format else "", f"tag {study.tag}" if study.tag else "",
        f"campaign {study.campaign}" if study.campaign else "", f"language {study.language}" if study.language else "",
        {True: "boosted", False: "not boosted"}.get(study.is_boosted, "") if study.is_boosted is not None else "",
    ]  # fmt: skip
    return [
        ("Brand", study.brand.name),
        ("Period", f"{study.period.first} to {study.period.last}, days of {study.brand.time_zone}"),
        ("Comparison", f"{study.compared.first} to {study.compared.last}"),
        ("Posts' age", study.age_words),
        ("Profiles", ", ".join(f"{p.name} on {network_name(p.network)}" for p in study.profiles)),
        ("Only", ", ".join(filter(None, narrowed)) or "all posts"),
    ]  # fmt: skip


def _defined(metrics: Iterable[Metric]) -> list[tuple[str, str]]:
    return [
        (m.name, " ".join(filter(None, [m.definition, m.note, f"Formula: {m.formula}." if m.formula else ""])))
        for m in metrics
    ]


def _posts(study: Study, values: dict[str, Any]) -> Sheet:
    catalogue = catalogue_of(study.brand.pk)
    shown = of_posts(catalogue, f"{values['columns']},index")
    measures = ordered(table_of(study, values["text"]), values["sort"], catalogue)

    def rows() -> Iterator[Row]:
        ids = list(measures.values_list("pk", flat=True)[:MOST_POSTS])
        for at in range(0, len(ids), POSTS_AT_ONCE):
            for m in rows_of(ids[at : at + POSTS_AT_ONCE], shown):
                post: Any = m.post
                yield [
                    m.published_at.astimezone(study.brand.zone).isoformat("T", "seconds"),
                    network_name(post.profile.network), post.profile.name, post.format, post.text,
                    post.campaign.name if post.campaign else "",
                    ", ".join(on.tag.name for on in post.tags_on), post.language,
                    _YES_NO.get(post.is_boosted, ""), post.url, *[_whole(getattr(m, f"shown_{key}")) for key in shown],
                ]  # fmt: skip

    head = ["published_at", "network", "profile", "format", "text", "campaign", "tags", "language", "boosted", "url"]
    return Sheet(
        name="posts", head=[*head, *[m.name for m in shown.values()]], rows=rows(),
        definitions=_defined(shown.values()), about=_about(study),
    )  # fmt: skip


def _days(study: Study, values: dict[str, Any]) -> Sheet:
    metrics = chosen(catalogue_of(study.brand.pk), values["metrics"])
    measured = summary_of(study, metrics)
    dates, before = study.period.dates(), study.compared.dates()
    rows = [
        [day.isoformat(), before[i].isoformat() if i < len(before) else "",
         *[_whole(v) for m in measured for v in (m.days[i], m.days_before[i] if i < len(m.days_before) else None)]]
        for i, day in enumerate(dates)
    ]  # fmt: skip
    # A total among the days would be added up with them.
    whole = [
        (f"{m.metric.name}, whole period", f"{_told(m.now.value)}; comparison {_told(m.before.value)}")
        for m in measured
    ]
    head = ["day", "day of the comparison", *[v for m in metrics for v in (m.name, f"{m.name}, comparison")]]
    return Sheet(name="days", head=head, rows=rows, definitions=_defined(metrics), about=[*_about(study), *whole])


def _whole(value: Any) -> Any:
    """A count as a count: 12, not 12.0."""
    return int(value) if isinstance(value, float) and value.is_integer() and abs(value) < 1e15 else value


def _told(value: float | None) -> str:
    return "not known" if value is None else str(_whole(value))


def _groups(study: Study, values: dict[str, Any]) -> Sheet:
    metric = of_posts(catalogue_of(study.brand.pk), values["metric"]).get(values["metric"])
    if metric is None:
        raise field_errors({"metric": f"There is no metric {values['metric']} of single posts."})
    found = compare(study, values["by"], metric)
    rows: list[Row] = []
    for group in found.groups:
        r = group.result
        ratios: Row = []
        for ratio in (r.raw, r.adjusted):
            ratios += [ratio.value, ratio.interval.low, ratio.interval.high] if ratio else [None, None, None]
        rows.append([r.name, r.n, r.index, group.typical, group.others, *ratios, r.q, r.verdict])
    held = " and ".join(found.held)
    return Sheet(
        name="groups", rows=rows, about=_about(study),
        head=["group", "posts", "level", "typical post", "typical post of the others", "ratio to the others", "low",
              "high", f"ratio with {held} held the same", "low of it", "high of it", "q", "verdict"],
        definitions=[
            *_defined([metric]),
            ("ratio to the others", "The group's geometric mean divided by that of all other posts; 95 % interval."),
            ("q", "Chance of a false alarm after Benjamini and Hochberg over the groups shown."),
        ],
    )  # fmt: skip


def _audience(study: Study, values: dict[str, Any]) -> Sheet:
    del values
    rows: list[Row] = [
        [
            d.key,
            s.name,
            s.share,
            s.change,
            s.others,
            d.day.isoformat(),
            d.day_before.isoformat() if d.day_before else "",
        ]
        for d in audience_of(study)
        for s in d.segments
    ]
    return Sheet(
        name="audience", rows=rows, about=_about(study),
        head=["dimension", "segment", "share", "change", "share of competitors", "read", "read before"],
        definitions=[("share", "Share of the audience over the profiles that tell of it, weighted by followers.")],
    )  # fmt: skip


def as_csv(sheet: Sheet) -> Iterator[bytes]:
    """What it is, then the table (RFC 4180, UTF-8); after an empty line what was studied and what each figure means."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(sheet.mark)
    writer.writerow(sheet.head)
    for number, row in enumerate(sheet.rows, start=1):
        writer.writerow([neutralise(cell) for cell in row])
        if number % POSTS_AT_ONCE == 0:
            yield _taken(out)
    writer.writerow([])
    writer.writerows([neutralise(a), neutralise(b)] for a, b in (*sheet.about, *sheet.definitions))
    yield _taken(out)


def _taken(out: io.StringIO) -> bytes:
    text = out.getvalue()
    out.seek(0)
    out.truncate()
    return text.encode("utf-8", "replace")


def as_workbook(sheet: Sheet) -> IO[bytes]:
    """The table on one sheet, study and definitions on another, in a temporary file that the caller closes."""
    from openpyxl import Workbook
    from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE

    def clean(cell: Any) -> Any:
        safe = neutralise(cell)
        return ILLEGAL_CHARACTERS_RE.sub("", safe) if isinstance(safe, str) else safe

    book = Workbook(write_only=True)
    table = book.create_sheet(sheet.name)
    table.append(sheet.mark)
    table.append(sheet.head)
    for row in sheet.rows:
        table.append([clean(cell) for cell in row])
    words = book.create_sheet("definitions")
    for line in (*sheet.about, ("", ""), *sheet.definitions):
        words.append([clean(cell) for cell in line])
    out = tempfile.TemporaryFile()  # noqa: SIM115 (the caller closes it)
    book.save(out)
    out.seek(0)
    return out
