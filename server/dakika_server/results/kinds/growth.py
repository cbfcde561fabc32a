"""results.growth: one post at each age, beside what is typical there."""

from typing import Any

from dakika_core.metrics.catalogue import Unit
from dakika_core.metrics.observed import INTERACTION_PARTS
from dakika_core.values.figure import Figure
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
from dakika_server.figures.study import LARGEST_KEY, Study
from dakika_server.measures.models import FINAL, LATEST, PostMeasure
from dakika_server.networks.definitions import network_name
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.kinds.one_post import made_or_known
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Post
from dakika_server.sources.queries import readings_of

COLUMNS = {
    "interactions": ("Interactions", Unit.COUNT, "Reactions, comments, shares and saves together."),
    "typical": ("Typical", Unit.COUNT, "What posts of this profile and format typically have at this age."),
    "index": ("Index", Unit.INDEX, "Interactions divided by what is typical; 1.00 is typical."),
    "impressions": ("Impressions", Unit.COUNT, "How often it was shown, as its network tells."),
    "reach": ("Reach", Unit.COUNT, "How many people saw it, as its network tells."),
    "link_clicks": ("Link clicks", Unit.COUNT, "Clicks on it, as its network tells."),
}
LONGEST_TITLE = 80


class PostParameters(serializers.Serializer[Any]):
    """Which post; the newest one of the study where none is named."""

    post = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)


class Growth(FigureKind):
    """How a post grew, age by age."""

    key, name, params = "results.growth", "A post as it grew", PostParameters

    def _post(self, study: Study, params: dict[str, Any]) -> Post | None:
        found = Post.objects.filter(brand=study.brand).select_related("profile")
        if number := params.get("post"):
            post = found.filter(pk=number).first()
            if post is None:
                raise field_errors({"post": "There is no such post."})
            return post
        return found.filter(profile__in=study.profile_ids, removed_at=None).order_by("-published_at", "-pk").first()

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A row an age; the course of interactions as they were read."""
        post = self._post(study, params)
        measures = list(PostMeasure.objects.filter(post=post).order_by("age_hours")) if post else []
        if post is None or not measures:
            return FigureSet(title="No post", cells=[], note="Nothing is known yet of a post to tell of.")
        # The ages in their order, then the final count, then the latest.
        measures = [m for m in measures if m.age_hours > 0] + [m for m in measures if m.age_hours <= 0]
        words = " ".join(post.text.split()) or "A post without text"
        return FigureSet(
            title=words if len(words) <= LONGEST_TITLE else f"{words[:LONGEST_TITLE].rstrip()}…",
            note=f"{post.profile.name} on {network_name(post.profile.network)}, "
            f"{post.published_at.astimezone(study.brand.zone):%d %B %Y}",
            definitions=[(name, definition) for name, _, definition in COLUMNS.values()],
            made={m.age_hours: m for m in measures},
            cells=[
                Cell(key=cell_key(m.age_hours, column), name=f"{name}, {_age(m.age_hours)}", row=_age(m.age_hours),
                     column=name, unit=unit, now=Figure(value=getattr(m, column), n=1))
                for m in measures
                for column, (name, unit, _) in COLUMNS.items()
            ],
            series=_course(post),
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """Interactions by kind, the index by its two; all else is one number that was read."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        age, column = cell_parts(cell)
        measure: PostMeasure = made.made[int(age)]
        rule, parts = made_or_known(measure, column, one.now.value, catalogue_of(study.brand.pk))
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=COLUMNS[column][2], figure=one.now, rule=rule,
            parts=parts,
            parts_name="kind" if column == "interactions" else "number", days="Since it was published",
            counted="one post", behind=Behind(path=f"results/posts/{measure.post_id}", name="The post"),
        )  # fmt: skip


def _age(hours: int) -> str:
    if hours in (LATEST, FINAL):
        return "as last seen" if hours == LATEST else "final"
    return f"{hours} hours" if hours < 100 else f"{hours // 24} days"


def _course(post: Post) -> list[Series]:
    """Interactions by reading, at the age that it was taken at."""
    places, values = [], []
    for reading in readings_of(post.pk):
        known = [v for v in (getattr(reading, kind) for kind in INTERACTION_PARTS) if v is not None]
        if known:
            hours = (reading.taken_at - post.published_at).total_seconds() / 3600
            places.append(f"{hours:.0f} h")
            values.append(float(sum(known)))
    return (
        [Series(key="interactions", name="Interactions", unit=Unit.COUNT, places=places, values=values)]
        if places
        else []
    )
