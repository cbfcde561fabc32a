"""competitors.best: the others' posts that rise furthest above their own usual."""

from typing import Any

from dakika_core.metrics.catalogue import Unit
from dakika_core.values.figure import Figure
from dakika_core.values.text import opening_words
from rest_framework import serializers

from dakika_server.competitors.best import best_posts
from dakika_server.competitors.field import in_set, set_of
from dakika_server.competitors.kinds.table import PUBLIC_ALONE
from dakika_server.figures.kinds import (
    Basis,
    Behind,
    Cell,
    FigureKind,
    FigureSet,
    RowAbout,
    cell_key,
    cell_of,
    cell_parts,
)
from dakika_server.figures.study import LARGEST_KEY, Study
from dakika_server.measures.models import PostMeasure
from dakika_server.networks.definitions import network_name
from dakika_server.results.catalogue import catalogue_of
from dakika_server.results.kinds.one_post import made_or_known

MOST = 24
COLUMNS = {
    "index": ("Index", Unit.INDEX, "Interactions divided by what is typical of its profile; 1.00 is typical."),
    "interactions": ("Interactions", Unit.COUNT, "Reactions, comments and shares that anybody can see."),
}


class BestParameters(serializers.Serializer[Any]):
    """Of which set, and how many."""

    set = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)
    limit = serializers.IntegerField(default=6, min_value=1, max_value=MOST)


class BestPosts(FigureKind):
    """Posts of the set's competitors."""

    key, name, params = "competitors.best", "Their best posts", BestParameters

    def whose(self, values: dict[str, Any]) -> str | None:
        """Everybody's."""
        del values
        return None

    def compute(self, study: Study, params: dict[str, Any]) -> FigureSet:
        """A row a post, the furthest above its own usual first."""
        peers = set_of(study.brand, params.get("set"))
        found = best_posts(in_set(study, params.get("set")), None, peers, limit=params["limit"])
        posts = {m.post_id: m for m in found.posts}
        return FigureSet(
            title="What does best at the others'", made=posts,
            note="" if posts else "No post of the others is known of these days.",
            definitions=[(name, definition) for name, _, definition in COLUMNS.values()],
            rows=[
                RowAbout(row=_row(m), text=" ".join(m.post.text.split()), path=f"results/posts/{m.post_id}",
                         detail=f"{m.post.profile.name} on {network_name(m.post.profile.network)}",
                         picture=m.post.picture,
                         at=m.published_at.astimezone(study.brand.zone).isoformat("T", "minutes"))
                for m in found.posts
            ],
            cells=[
                Cell(key=cell_key(m.post_id, column), name=f"{name}, {_row(m)}", row=_row(m), column=name, unit=unit,
                     now=Figure(value=getattr(m, column), n=1))
                for m in found.posts
                for column, (name, unit, _) in COLUMNS.items()
            ],
        )  # fmt: skip

    def basis(self, study: Study, params: dict[str, Any], cell: str) -> Basis:
        """The index by its two; interactions by kind."""
        made = self.compute(study, params)
        one = cell_of(made, cell)
        row, column = cell_parts(cell)
        m: PostMeasure = made.made[int(row)]
        rule, parts = made_or_known(m, column, one.now.value, catalogue_of(study.brand.pk))
        return Basis(
            key=cell, name=one.name, unit=one.unit, definition=COLUMNS[column][2], figure=one.now, rule=rule,
            parts=parts,
            parts_name="number", what=study.age_words, note=PUBLIC_ALONE, of_profile=m.profile_id,
            behind=Behind(path=f"results/posts/{m.post_id}", name="The post"),
        )  # fmt: skip


def _row(m: PostMeasure) -> str:
    return f"{opening_words(m.post.text, 60) or 'A post without text'} ({m.post_id})"
