"""Looking through ideas: by group, origin, words and what became of them, a page at a time."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from django.db.models import Count, Exists, IntegerField, OuterRef, Q, QuerySet, Subquery, Sum
from django.db.models.functions import Coalesce
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.plan.models import Idea, IdeaGroup, PlannedPost, Remark, Vote
from dakika_server.shared.paging import paged

Standing = Literal["open", "written", "shut"]
Sort = Literal["new", "votes"]
MOST_WRITTEN = 200


@dataclass(frozen=True, kw_only=True)
class IdeaFilter:
    """Which ideas. group: 0 is none; None does not choose. standing: "open" is whatever nothing was written from."""

    group: int | None = None
    origin: str = ""
    standing: Standing = "open"
    text: str = ""


def idea_of(brand: Brand, pk: int) -> Idea:
    """A brand's idea with its planned post. Raises Http404."""
    found = Idea.objects.filter(brand=brand, pk=pk).select_related("planned_post", "brand", "item__feed").first()
    if found is None:
        raise Http404
    return found


def _chosen(brand: Brand, chosen: IdeaFilter) -> QuerySet[Idea]:
    found = Idea.objects.filter(brand=brand)
    if chosen.group is not None:
        found = found.filter(group=chosen.group or None)
    if chosen.origin:
        found = found.filter(origin=chosen.origin)
    for word in chosen.text.split():
        found = found.filter(Q(planned_post__title__icontains=word) | Q(planned_post__note__icontains=word))
    return _standing(found, chosen.standing)


def _standing(ideas: QuerySet[Idea], standing: Standing) -> QuerySet[Idea]:
    if standing == "shut":
        return ideas.filter(shut_at__isnull=False)
    is_written = Exists(PlannedPost.objects.filter(from_idea=OuterRef("pk")))
    return ideas.filter(is_written if standing == "written" else ~is_written, shut_at__isnull=True)


def page_of_ideas(
    brand: Brand, person: Any, chosen: IdeaFilter, *, sort: Sort = "new", cursor: str | None = None, limit: int = 60
) -> tuple[list[dict[str, Any]], str | None]:
    """A page of ideas as the list shows them, and where the next one begins; a fixed number of queries."""
    ideas = _chosen(brand, chosen).select_related("planned_post__created_by", "item__feed")
    order = ["-kept_at", "-planned_post_id"]
    if sort == "votes":
        votes = Vote.objects.filter(planned_post=OuterRef("pk")).order_by().values("planned_post")
        ideas = ideas.annotate(
            votes=Coalesce(Subquery(votes.annotate(sum=Sum("value")).values("sum"), output_field=IntegerField()), 0)
        )
        order = ["-votes", "-planned_post_id"]
    rows, following = paged(ideas, order, cursor, limit)
    return told(rows, person), following


def told(ideas: Sequence[Idea], person: Any) -> list[dict[str, Any]]:
    """Ideas with their votes, how much was said of them, and what was written from them; four queries."""
    numbers = [idea.pk for idea in ideas]
    votes = {
        row["planned_post"]: row
        for row in Vote.objects.filter(planned_post__in=numbers).order_by().values("planned_post").annotate(
            for_it=Count("pk", filter=Q(value__gt=0)), against=Count("pk", filter=Q(value__lt=0)),
            mine=Sum("value", filter=Q(person=person)),
        )
    }  # fmt: skip
    remarks = dict(
        Remark.objects.filter(planned_post__in=numbers).order_by().values_list("planned_post").annotate(Count("pk"))
    )
    written: dict[int, list[dict[str, Any]]] = {}
    drafts = PlannedPost.objects.filter(from_idea__in=numbers).order_by("-pk")[:MOST_WRITTEN]
    for row in drafts.values("pk", "title", "state", "scheduled_at", "from_idea"):
        written.setdefault(row["from_idea"], []).append(
            {"id": row["pk"], "title": row["title"], "state": row["state"], "at": row["scheduled_at"]}
        )
    return [_told(idea, votes.get(idea.pk, {}), remarks.get(idea.pk, 0), written.get(idea.pk, [])) for idea in ideas]


def _told(idea: Idea, votes: Mapping[str, Any], remarks: int, written: list[dict[str, Any]]) -> dict[str, Any]:
    planned = idea.planned_post
    return {
        "id": idea.pk, "title": planned.title, "note": planned.note, "edition": planned.edition, "group": idea.group_id,
        "page": idea.page, "wishes": idea.wishes, "campaign": planned.campaign_id, "media": planned.media,
        "origin": idea.origin, "view": idea.view, "post": planned.from_post_id, "day": idea.day,
        "feed": idea.item.feed.title if idea.item else "", "figures": idea.figures, "kept_at": idea.kept_at,
        "by": planned.created_by.name if planned.created_by else "", "is_shut": idea.shut_at is not None,
        "for_it": votes.get("for_it", 0), "against": votes.get("against", 0), "mine": votes.get("mine") or 0,
        "remarks": remarks, "written": written,
    }  # fmt: skip


def groups_of(brand: Brand) -> dict[str, Any]:
    """Groups in their order with how many open ideas each has, and how many stand in none and where."""
    is_written = Exists(PlannedPost.objects.filter(from_idea=OuterRef("pk")))
    rows = Idea.objects.filter(brand=brand).annotate(is_written=is_written)
    is_open = Q(shut_at__isnull=True, is_written=False)
    counts = dict(rows.filter(is_open).order_by().values_list("group").annotate(Count("pk")))
    sums = rows.aggregate(
        open=Count("pk", filter=is_open), written=Count("pk", filter=Q(shut_at__isnull=True, is_written=True)),
        shut=Count("pk", filter=Q(shut_at__isnull=False)),
    )  # fmt: skip
    groups = IdeaGroup.objects.filter(brand=brand).order_by("place", "pk")
    return {
        "groups": [{"id": one.pk, "name": one.name, "ideas": counts.get(one.pk, 0)} for one in groups],
        "in_none": counts.get(None, 0), **sums,
    }  # fmt: skip
