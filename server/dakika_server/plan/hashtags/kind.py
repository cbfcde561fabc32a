"""plan.hashtag: how posts with a hashtag did, month by month, ours and in the field."""

from typing import Any

from dakika_core.metrics.basis import Part, Rule
from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure, Interval
from rest_framework import serializers

from dakika_server.figures.kinds import (
    Basis,
    Behind,
    Cell,
    FigureKind,
    FigureSet,
    Series,
    cell_key,
    cell_of,
    cell_parts,
)
from dakika_server.figures.study import Study
from dakika_server.plan.hashtags.following import course_of, posts_with
from dakika_server.plan.hashtags.proposals import studies
from dakika_server.plan.hashtags.sets import followed_of
from dakika_server.shared import clock

SIDES = {"own": "Ours", "field": "The field"}
INDEX = (
    "Interactions of posts with the hashtag divided by what is typical of their profile; the geometric mean of a month."
)


class HashtagParameters(serializers.Serializer[Any]):
    """Which hashtag; the first followed one where none is named."""

    hashtag = serializers.CharField(required=False, max_length=100)


class HashtagCourse(FigureKind):
    """A hashtag over a year."""

    key, name, params = "plan.hashtag", "A hashtag over time", HashtagParameters

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A row a month, with how many posts it rests on."""
        tag = params.get("hashtag") or followed_of(study.brand).values_list("tag", flat=True).first()
        if not tag:
            return FigureSet(title="No hashtag", cells=[], note="No hashtag is followed yet.")
        course = course_of(study.brand, clock.now(), tag)
        months = sorted({one["month"] for side in SIDES for one in course[side]})
        at = {(side, one["month"]): one for side in SIDES for one in course[side]}
        return FigureSet(
            title=f"#{course['tag']}, month by month", made=course["tag"], definitions=[("Index", INDEX)],
            note="" if months else "No post of this year carries it.",
            cells=[
                Cell(key=cell_key(f"{side} {one['month']}", "index"), name=f"{name}, {one['month'][:7]}",
                     row=one["month"][:7], column=name, unit=Unit.INDEX, now=_figure(one))
                for side, name in SIDES.items()
                for one in course[side]
            ],
            series=[
                Series(key=side, name=name, unit=Unit.INDEX, places=months,
                       values=[at[side, month]["index"] if (side, month) in at else None for month in months])
                for side, name in SIDES.items()
            ] if months else [],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """A month's posts, each with its index."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        row, _ = cell_parts(cell)
        side, _, month = row.partition(" ")
        own, field = studies(study.brand, clock.now())
        posts = posts_with(own if side == "own" else field, made.made)
        return Basis(
            key=cell, name=one.name, unit=Unit.INDEX, definition=INDEX, figure=one.now, rule=Rule.GEOMETRIC_MEAN,
            parts=[
                Part(key=str(pk), name=f"post of {at:%d %B %Y, %H:%M}", value=index)
                for pk, at, index in posts if f"{at:%Y-%m-01}" == month
            ],
            parts_name="post", counted=f"{one.now.n:,} posts", interval_of="the posts as a sample", days="A year",
            behind=Behind(path=f"plan/hashtags?tag={made.made}", name="The hashtag"),
        )  # fmt: skip


def _figure(one: dict[str, Any]) -> Figure:
    low, high = one["low"], one["high"]
    interval = Interval(low=low, high=high) if low is not None and high is not None else None
    return Figure(value=one["index"], n=one["posts"], interval=interval)
