"""results.posts: the table of posts with its totals."""

from collections.abc import Iterator
from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import AddsUp, Metric
from dakika_core.results.basis import formula_of
from dakika_core.values.figure import Figure
from rest_framework import serializers

from dakika_server.figures.kinds import Basis, Behind, Cell, FigureKind, FigureSet, no_cell, whole
from dakika_server.figures.sheets import ROWS_AT_ONCE, Row, Sheet, about
from dakika_server.figures.study import Study, kind_asked
from dakika_server.networks.definitions import network_name
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.kinds.words import counted_words, defined, missing_words
from dakika_server.results.queries import ordered, rows_of
from dakika_server.results.tables import of_posts, table_of, totals_of

MOST_POSTS = 100_000
_YES_NO: dict[bool | None, str] = {True: "yes", False: "no", None: ""}


class PostsParameters(serializers.Serializer[Any]):
    """Which columns of which posts, in which order."""

    columns = serializers.CharField(default="", allow_blank=True, max_length=600)
    sort = serializers.CharField(default="-published_at", max_length=60)
    text = serializers.CharField(default="", allow_blank=True, max_length=200)


class Posts(FigureKind):
    """The posts of a study; its figures are the totals of their columns."""

    key, name, params = "results.posts", "Posts", PostsParameters

    def whose(self, values: dict[str, Any]) -> str | None:
        """A competitor's posts too, where its profile is named."""
        return kind_asked(values)

    def _shown(self, study: Study, params: dict[str, Any]) -> dict[str, Metric]:
        return of_posts(catalogue_of(study.brand.pk), f"{params['columns']},index")

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """The total of each column."""
        shown = self._shown(study, params)
        total, _ = totals_of(study, params["text"], shown, None)
        return FigureSet(
            title=f"{total['posts']:,} posts", definitions=defined(shown.values()),
            cells=[
                Cell(key=key, name=metric.name, unit=metric.unit, column=metric.name, now=_figure(total, key),
                     more_is_better=metric.more_is_better)
                for key, metric in shown.items()
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """The total of a column: sums by network, or the formula with its sums."""
        catalogue = catalogue_of(study.brand.pk)
        shown = of_posts(catalogue, cell)
        if cell not in shown:
            raise no_cell(cell)
        metric = shown[cell]
        total, networks = totals_of(study, params["text"], shown, "network")
        figure = _figure(total, cell)
        sums = total["sums"].get(cell, {})
        if metric.key == "index" or metric.adds_up is AddsUp.SUM:
            rule, what = (Rule.SUM if metric.adds_up is AddsUp.SUM else Rule.GEOMETRIC_MEAN), "network"
            parts = [
                Part(key=row["key"], name=row["name"], value=row["values"][cell], weight=row["n"][cell])
                for row in networks
                if row["values"][cell] is not None
            ]
        else:
            rule, what = Rule.FORMULA, "sum"
            parts = [Part(key=k, name=catalogue[k].name if k in catalogue else k.replace("_", " "), value=v)
                     for k, v in sums.items()]  # fmt: skip
        return Basis(
            key=cell, name=metric.name, unit=metric.unit, definition=metric.definition, note=metric.note,
            figure=figure, rule=rule, parts=parts, parts_name=what,
            tree=metric.read.tree if rule is Rule.FORMULA else None, formula=formula_of(metric, figure, sums),
            what=study.age_words, counted=counted_words(figure, "posts"), missing=missing_words(figure, "posts"),
            behind=Behind(path="results/posts", name="The posts behind it"),
        )  # fmt: skip

    def table(self, study: Study, params: dict[str, Any], made: FigureSet) -> Sheet:
        """A row a post."""
        shown = self._shown(study, params)
        measures = ordered(table_of(study, params["text"]), params["sort"], catalogue_of(study.brand.pk))

        def rows() -> Iterator[Row]:
            ids = list(measures.values_list("pk", flat=True)[:MOST_POSTS])
            for at in range(0, len(ids), ROWS_AT_ONCE):
                for m in rows_of(ids[at : at + ROWS_AT_ONCE], shown):
                    post: Any = m.post
                    yield [
                        m.published_at.astimezone(study.brand.zone).isoformat("T", "seconds"),
                        network_name(post.profile.network), post.profile.name, post.format, post.text,
                        post.campaign.name if post.campaign else "",
                        ", ".join(on.tag.name for on in post.tags_on), post.language,
                        _YES_NO.get(post.is_boosted, ""), post.url,
                        *[whole(getattr(m, f"shown_{key}")) for key in shown],
                    ]  # fmt: skip

        head = [
            "published_at",
            "network",
            "profile",
            "format",
            "text",
            "campaign",
            "tags",
            "language",
            "boosted",
            "url",
        ]
        return Sheet(
            name="posts", head=[*head, *[m.name for m in shown.values()]], rows=rows(), definitions=made.definitions,
            about=about(study),
        )  # fmt: skip


def _figure(line: dict[str, Any], key: str) -> Figure:
    n = line["n"][key]
    return Figure(value=line["values"][key], n=n, missing=line["posts"] - n)
