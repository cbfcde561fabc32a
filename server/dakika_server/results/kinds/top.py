"""results.top: the posts that stand out by a figure, each with its own, and how few of them brought half of it."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import AddsUp, Metric
from dakika_core.values.figure import Figure
from dakika_core.values.text import cut
from django.db.models import Count, F, Sum, Window
from rest_framework import serializers

from dakika_server.figures.kinds import (
    Basis,
    Behind,
    Cell,
    FigureKind,
    FigureSet,
    RowAbout,
    cell_key,
    cell_parts,
    count_of,
    no_cell,
)
from dakika_server.figures.study import Study, key_of, kind_asked
from dakika_server.measures.models import PostMeasure
from dakika_server.networks.definitions import network_name
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.kinds.one_post import made_of, post_parts
from dakika_server.results.kinds.words import defined
from dakika_server.results.queries import measures_in, value_of
from dakika_server.results.tables import of_posts, totals_of
from dakika_server.results.top import top_posts
from dakika_server.shared.errors import field_errors
from dakika_server.sources.serializers.profiles import picture_address

MOST_POSTS, LONGEST_NAME = 24, 60
# Of so few posts nothing is said about how few brought half (our own choice); so many of them are told one by one.
FEWEST, MOST_TOLD = 10, 100
SHRUNK = "In the order of what their numbers support: a rate of few people stands behind one of many."
HALF = "The fewest posts that together brought half of the figure or more."


class TopParameters(serializers.Serializer[Any]):
    """By which figure, from which end, how many."""

    metric = serializers.CharField(default="interactions", max_length=60)
    end = serializers.ChoiceField(choices=["top", "bottom"], default="top")
    limit = serializers.IntegerField(min_value=1, max_value=MOST_POSTS, default=6)


@dataclass(frozen=True, kw_only=True)
class Half:
    """The fewest posts that brought half of a sum: (post, its words, its value) of the first of them, and how many."""

    count: int
    posts: int
    value: float
    told: list[tuple[str, str, float]]
    campaign: str


class TopPosts(FigureKind):
    """Single posts, the outstanding first."""

    key, name, params = "results.top", "Posts that stand out", TopParameters

    def whose(self, values: dict[str, Any]) -> str | None:
        """A competitor's posts too, where its profile is named."""
        return kind_asked(values)

    def _metric(self, study: Study, params: dict[str, Any]) -> Metric:
        found = of_posts(catalogue_of(study.brand.pk), params["metric"]).get(params["metric"])
        if found is None:
            raise field_errors({"metric": f"There is no metric {params['metric']} of single posts."})
        return found

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A row for each post, and without one what all posts brought and how few of them brought half."""
        metric, catalogue = self._metric(study, params), catalogue_of(study.brand.pk)
        posts, index = catalogue["posts"], catalogue["index"]
        found = top_posts(study, metric, is_bottom=params["end"] == "bottom", limit=params["limit"])
        rows: dict[str, RowAbout] = {}
        cells: list[Cell] = []
        for measure in found["posts"]:
            about = _about(study, measure, {*rows})
            rows[about.row] = about
            figures = [(metric, measure.value)]
            if metric.key != "index":
                figures.append((index, measure.index))
            cells += [
                Cell(
                    key=cell_key(measure.post_id, one.key), name=f"{one.name}, {about.row}", unit=one.unit,
                    row=about.row, column=one.name, now=Figure(value=value, n=1), more_is_better=one.more_is_better,
                )
                for one, value in figures
            ]  # fmt: skip
        half = half_of(study, metric) if params["end"] == "top" else None
        if half is not None:
            cells += [
                Cell(key="total", name=metric.name, unit=metric.unit, now=Figure(value=half.value, n=half.posts)),
                Cell(key="posts", name="Posts", unit=posts.unit, now=count_of(half.posts)),
                Cell(key="half", name=f"Posts that brought half of the {metric.name.lower()}", column=half.campaign,
                     unit=posts.unit, now=count_of(half.count), more_is_better=False),
            ]  # fmt: skip
        last = params["end"] == "bottom"
        return FigureSet(
            title=f"{'Posts with least' if last else 'Best posts by'} {metric.name.lower()}",
            note=SHRUNK if found["is_shrunk"] else "" if rows else "No post of these days has this figure yet.",
            definitions=defined([metric]), cells=cells, rows=list(rows.values()),
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """What a post's figure is made of; of a sum its networks; of half the posts that brought it."""
        metric = self._metric(study, params)
        usual: dict[str, Any] = {
            "key": cell, "what": study.age_words, "behind": Behind(path="results/posts", name="The posts behind it"),
        }  # fmt: skip
        if cell in ("total", "posts", "half"):
            half = half_of(study, metric) if params["end"] == "top" else None
            if half is None:
                raise no_cell(cell)
            return self._of_all(study, metric, half, cell, usual)
        post, column = cell_parts(cell)
        catalogue = catalogue_of(study.brand.pk)
        shown = catalogue.get(column)
        if shown is None or shown.key not in (metric.key, "index"):
            raise no_cell(cell)
        try:
            number = key_of(post)
        except ValueError:
            raise no_cell(cell) from None
        measure = (
            measures_in(study, study.period).filter(post=number).select_related("post__profile")
            .annotate(shown=value_of(shown)).first()
        )  # fmt: skip
        if measure is None or (value := measure.shown) is None:
            raise no_cell(cell)
        usual |= {
            "name": f"{shown.name} of one post", "unit": shown.unit, "definition": shown.definition,
            "figure": Figure(value=value, n=1), "counted": "1 post",
            "behind": Behind(path=f"results/posts/{number}", name="The post"),
        }  # fmt: skip
        rule, parts = _made_of(catalogue, shown, measure, value)
        tree = shown.read.tree if rule is Rule.FORMULA else None
        return Basis(**usual, note=shown.note, rule=rule, tree=tree, parts=parts, parts_name="part")

    def _of_all(self, study: Study, metric: Metric, half: Half, cell: str, usual: dict[str, Any]) -> Basis:
        posts = catalogue_of(study.brand.pk)["posts"]
        if cell == "half":
            parts = [Part(key=key, name=words, value=1.0) for key, words, _ in half.told]
            if half.count > len(half.told):
                rest = half.count - len(half.told)
                parts.append(Part(key="rest", name=f"{rest:,} more", value=float(rest)))
            return Basis(
                **usual, name=f"Posts that brought half of the {metric.name.lower()}", unit=posts.unit,
                definition=HALF, note=metric.definition, figure=count_of(half.count), rule=Rule.SUM, parts=parts,
                parts_name="post", counted=f"{half.count:,} of {half.posts:,} posts",
            )  # fmt: skip
        shown = {metric.key: metric}
        whole, networks = totals_of(study, "", shown, "network")
        of = metric if cell == "total" else posts
        values = [
            (row, row["values"][metric.key] if cell == "total" else float(row["n"][metric.key])) for row in networks
        ]
        return Basis(
            **usual, name=of.name, unit=of.unit, definition=of.definition, note=of.note, rule=Rule.SUM,
            figure=Figure(value=half.value if cell == "total" else float(half.posts), n=whole["n"][metric.key]),
            parts=[Part(key=row["key"], name=row["name"], value=value) for row, value in values if value is not None],
            parts_name="network", counted=f"{half.posts:,} posts",
        )  # fmt: skip


def half_of(study: Study, metric: Metric) -> Half | None:
    """The fewest posts with half of a sum or more; None for what is no sum, and where there are few posts."""
    if metric.adds_up is not AddsUp.SUM:
        return None
    known = measures_in(study, study.period).annotate(shown=value_of(metric)).filter(shown__isnull=False)
    told = known.aggregate(value=Sum("shown"), posts=Count("pk"))
    if told["posts"] < FEWEST or not told["value"] or told["value"] <= 0 or known.filter(shown__lt=0).exists():
        return None
    before = Window(Sum("shown"), order_by=[F("shown").desc(), F("pk").asc()]) - F("shown")
    first = known.filter(shown__gt=0).annotate(before=before).filter(before__lt=told["value"] / 2)
    count = first.count()
    rows = list(
        first.order_by("-shown", "pk").values_list("post_id", "post__text", "shown", "post__campaign__name")[:MOST_TOLD]
    )
    campaigns = {row[3] for row in rows}
    shared = count > 1 and count <= MOST_TOLD and len(campaigns) == 1 and None not in campaigns
    return Half(
        count=count, posts=told["posts"], value=float(told["value"]), campaign=campaigns.pop() if shared else "",
        told=[(str(pk), cut(text or "without words", LONGEST_NAME), float(value)) for pk, text, value, _ in rows],
    )  # fmt: skip


def _made_of(
    catalogue: Mapping[str, Metric], metric: Metric, measure: PostMeasure, value: float
) -> tuple[Rule, list[Part]]:
    """What a figure of one post is made of."""
    if found := made_of(measure, metric.key, value, catalogue):
        return found
    if metric.key == "index":
        return Rule.SUM, [Part(key=str(measure.post_id), name=_words(measure), value=value)]
    return Rule.FORMULA, post_parts(measure, metric.needs, catalogue)


def _words(measure: PostMeasure) -> str:
    return cut(" ".join(measure.post.text.split()) or "without words", LONGEST_NAME)


def _about(study: Study, measure: PostMeasure, taken: set[str]) -> RowAbout:
    """What a post is, its row named by its words; the same words at another time are another row."""
    post = measure.post
    at = post.published_at.astimezone(study.brand.zone)
    row = _words(measure)
    if row in taken:
        row = f"{row} ({at:%Y-%m-%d %H:%M})"
    if row in taken:
        row = f"{row} #{post.pk}"
    return RowAbout(
        row=row, text=post.text[:400], detail=f"{network_name(post.profile.network)}, {post.profile.name}",
        picture=picture_address(post.picture), path=f"results/posts/{post.pk}",
        at=at.strftime("%Y-%m-%dT%H:%M") if post.has_time else at.strftime("%Y-%m-%d"),
    )  # fmt: skip
