"""Keeping ideas, changing them, and writing drafts from them."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from dakika_core.metrics.observed import LATEST_AGE
from dakika_core.plan.states import State
from dakika_core.values.addresses import AddressError, clean_destination
from dakika_core.values.text import opening_words
from django.core.exceptions import PermissionDenied
from django.db import IntegrityError, transaction
from django.http import Http404
from rest_framework.exceptions import APIException

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require
from dakika_server.measures.models import PostMeasure
from dakika_server.media.bringing import add_from_address
from dakika_server.media.models import Asset
from dakika_server.plan.actions import save_planned_post
from dakika_server.plan.content import MOST_MEDIA, Common, VersionInput, assets_of
from dakika_server.plan.models import Idea, IdeaGroup, PlannedPost
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors, told_by
from dakika_server.sources.models import FeedItem, Post, Profile

MOST_IDEAS, MOST_GROUPS, MOST_WISHES = 20_000, 100, 50
LONGEST_TITLE, LONGEST_NOTE = 200, 10_000
# What is kept of a post that gave an idea, as it stood on that day.
KEPT = ("index", "interactions", "comments", "shares", "saves", "link_clicks", "impressions", "followers")


@dataclass(frozen=True, kw_only=True)
class IdeaContent:
    """An idea as somebody writes it down."""

    title: str = ""
    note: str = ""
    group: int | None = None
    page: str = ""
    wishes: Sequence[int] = ()
    campaign: int | None = None
    media: Sequence[int] = ()


@dataclass(frozen=True, kw_only=True)
class IdeaOrigin:
    """Where an idea comes from. A post and a feed's item are the brand's; view is one of ours, without the brand.

    picture: an address to bring a picture from.
    """

    origin: str = Idea.Origin.OWN.value
    post: int | None = None
    item: int | None = None
    day: date | None = None
    view: str = ""
    picture: str = ""


def keep_idea(actor: Any, brand: Brand, content: IdeaContent, origin: IdeaOrigin) -> tuple[Idea, str]:
    """Keep an idea; and why its picture could not be brought, where it could not: the idea is kept nevertheless.

    A post gives its beginning as the title and its figures as they stand; an item of a feed its title, its summary and
    its page. Raises Http404 for a post or item that the brand does not know, Conflict for an item that is an idea
    already, field errors for an idea of nothing, and for groups, profiles, files and campaigns of elsewhere.
    """
    require(actor, brand, "plan.write")
    now, figures = clock.now(), []
    post = _post(brand, origin.post) if origin.origin == Idea.Origin.POST else None
    item = _item(brand, origin.item) if origin.origin == Idea.Origin.FEED else None
    if post is not None:
        content = _of_post(content, post, brand)
        figures = _figures_of(post)
    if item is not None:
        content = _of_item(content, item)
    values = _checked(brand, content)
    if not values["title"] and not values["note"]:
        raise field_errors({"title": "Write what the idea is."})
    if Idea.objects.filter(brand=brand).count() >= MOST_IDEAS:
        raise Conflict("too_many_ideas", "There are very many ideas already. Throw some away.")
    problem = ""
    media = list(values["media"])
    if origin.picture:
        try:
            media = [*media, add_from_address(actor, brand, origin.picture)[0].pk][:MOST_MEDIA]
        except (APIException, PermissionDenied) as error:
            problem = f"Its picture could not be brought: {told_by(error)}"
    try:
        with transaction.atomic():
            planned = PlannedPost.objects.create(
                brand=brand, created_by=actor, created_at=now, state=State.IDEA.value, from_post=post,
                title=values["title"], note=values["note"], media=list(dict.fromkeys(media)),
                campaign_id=values["campaign"],
            )  # fmt: skip
            idea = Idea.objects.create(
                planned_post=planned, brand=brand, group_id=values["group"], page=values["page"],
                wishes=values["wishes"], origin=origin.origin, view=_view(origin.view), item=item,
                day=origin.day, figures=figures, kept_at=now,
            )  # fmt: skip
            audit.record(actor, "keep_idea", planned, brand_id=brand.pk, origin=origin.origin)
    except IntegrityError:
        raise Conflict("kept_already", "This item is among the ideas already.") from None
    return idea, problem


def change_idea(actor: Any, idea: Idea, content: IdeaContent, *, edition: int) -> Idea:
    """Write an idea anew. Raises Conflict where a colleague has changed it since it was read."""
    require(actor, idea.brand, "plan.write")
    with transaction.atomic():
        planned = PlannedPost.objects.select_for_update().get(pk=idea.pk)
        if planned.edition != edition:
            raise Conflict("changed_meanwhile", "Somebody has changed this idea since you opened it. Look at it again.")
        values = _checked(idea.brand, content)
        if not values["title"] and not values["note"]:
            raise field_errors({"title": "Write what the idea is."})
        planned.title, planned.note = values["title"], values["note"]
        planned.media, planned.campaign_id = list(values["media"]), values["campaign"]
        planned.edition += 1
        planned.save()
        idea.group_id, idea.page, idea.wishes = values["group"], values["page"], values["wishes"]
        idea.save(update_fields=["group", "page", "wishes"])
        audit.record(actor, "change_idea", planned, brand_id=planned.brand_id)
    return idea


def put_ideas(actor: Any, brand: Brand, numbers: Sequence[int], *, group: int | None) -> int:
    """Put ideas into a group, or into none; how many."""
    require(actor, brand, "plan.write")
    _require_group(brand, group)
    with transaction.atomic():
        put = Idea.objects.filter(brand=brand, pk__in=numbers).update(group=group)
        audit.record(actor, "put_ideas", brand, brand_id=brand.pk, ideas=put, group=group)
    return put


def shut_idea(actor: Any, idea: Idea, *, is_shut: bool) -> Idea:
    """Nothing more is to come of it, or something is after all."""
    require(actor, idea.brand, "plan.write")
    with transaction.atomic():
        idea.shut_at = clock.now() if is_shut else None
        idea.save(update_fields=["shut_at"])
        audit.record(actor, "shut_idea", idea.planned_post, brand_id=idea.brand_id, shut=is_shut)
    return idea


def write_idea(actor: Any, idea: Idea, *, text: str = "") -> PlannedPost:
    """A draft from an idea, for the profiles it is meant for, with its pictures and campaign. The idea stays.

    text: a wording; without one the draft begins with the page alone. What the note says stays with the idea: it is
    for the team. Profiles that are gone are left out.
    """
    require(actor, idea.brand, "plan.write")
    planned = idea.planned_post
    there = Profile.objects.filter(brand=idea.brand, kind="own", pk__in=idea.wishes, is_followed=True)
    versions = [VersionInput(profile_id=pk) for pk in there.order_by("pk").values_list("pk", flat=True)]
    files = set(
        Asset.objects.filter(brand=idea.brand, pk__in=planned.media).exclude(state=Asset.State.REFUSED)
        .values_list("pk", flat=True)
    )  # fmt: skip
    common = Common(text=text or idea.page, media=tuple(one for one in planned.media if one in files))
    with transaction.atomic():
        made = save_planned_post(
            actor, idea.brand, title=planned.title, campaign_id=planned.campaign_id, common=common, versions=versions
        )
        PlannedPost.objects.filter(pk=made.pk).update(from_idea=idea.pk, from_post=planned.from_post_id)
        audit.record(actor, "write_idea", made, brand_id=idea.brand_id, idea=idea.pk)
    made.from_idea_id, made.from_post_id = idea.pk, planned.from_post_id
    return made


def keep_group(actor: Any, brand: Brand, *, name: str, pk: int | None = None, place: int | None = None) -> IdeaGroup:
    """A group of ideas, new, renamed or put at another place. Raises Http404, field errors for a name that is there."""
    require(actor, brand, "plan.write")
    name = " ".join(name.replace("\x00", "").split())[:80]
    if not name:
        raise field_errors({"name": "Give it a name."})
    try:
        with transaction.atomic():
            if pk is None:
                count = IdeaGroup.objects.filter(brand=brand).count()
                if count >= MOST_GROUPS:
                    raise Conflict("too_many_groups", "There are very many groups already.")
                group = IdeaGroup(brand=brand, place=count)
            else:
                found = IdeaGroup.objects.select_for_update().filter(brand=brand, pk=pk).first()
                if found is None:
                    raise Http404
                group = found
            group.name, group.place = name, group.place if place is None else place
            group.save()
            audit.record(actor, "keep_idea_group", group, brand_id=brand.pk)
    except IntegrityError:
        raise field_errors({"name": "There is a group of this name."}) from None
    return group


def remove_group(actor: Any, brand: Brand, pk: int) -> None:
    """Take a group away; its ideas stay, in none. Raises Http404."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        group = IdeaGroup.objects.filter(brand=brand, pk=pk).first()
        if group is None:
            raise Http404
        audit.record(actor, "remove_idea_group", group, brand_id=brand.pk, name=group.name)
        group.delete()


def _post(brand: Brand, pk: int | None) -> Post:
    post = Post.objects.filter(brand=brand, pk=pk or 0).select_related("profile__competitor").first()
    if post is None:
        raise Http404
    return post


def _item(brand: Brand, pk: int | None) -> FeedItem:
    item = FeedItem.objects.filter(brand=brand, pk=pk or 0).first()
    if item is None:
        raise Http404
    return item


def _of_post(content: IdeaContent, post: Post, brand: Brand) -> IdeaContent:
    whose = post.profile.competitor.name if post.profile.competitor else brand.name
    words = opening_words(post.text, 80) or post.format.replace("_", " ")
    return IdeaContent(**{**vars(content), "title": content.title or f"{words}, by {whose}"[:LONGEST_TITLE]})


def _of_item(content: IdeaContent, item: FeedItem) -> IdeaContent:
    return IdeaContent(**{
        **vars(content), "title": content.title or item.title[:LONGEST_TITLE] or item.address[:LONGEST_TITLE],
        "note": content.note or item.summary[:LONGEST_NOTE], "page": content.page or _page(item.address),
    })  # fmt: skip


def _page(address: str) -> str:
    """An address as a page can be linked to; nothing for what a feed gives instead of one."""
    try:
        return clean_destination(address)
    except AddressError:
        return ""


def _figures_of(post: Post) -> list[dict[str, Any]]:
    """A post's figures as last seen: name, value and when it was seen."""
    found = PostMeasure.objects.filter(post=post, age_hours=LATEST_AGE).values("taken_at", *KEPT).first()
    if found is None:
        return []
    at = found["taken_at"].isoformat() if found["taken_at"] else None
    return [{"key": key, "value": found[key], "at": at} for key in KEPT if found[key] is not None]


def _checked(brand: Brand, content: IdeaContent) -> dict[str, Any]:
    """Values of an idea, clean. Raises field errors for what is of elsewhere."""
    page = content.page.strip()
    if page:
        try:
            page = clean_destination(page)
        except AddressError as error:
            raise field_errors({"page": str(error)}) from None
    _require_group(brand, content.group)
    if content.campaign is not None and not Campaign.objects.filter(brand=brand, pk=content.campaign).exists():
        raise field_errors({"campaign": "There is no such campaign."})
    wishes = list(dict.fromkeys(content.wishes))
    own = Profile.objects.filter(brand=brand, kind="own", pk__in=wishes).count()
    if own != len(wishes) or len(wishes) > MOST_WISHES:
        raise field_errors({"wishes": "Choose own profiles that are there."})
    media = list(dict.fromkeys(content.media))
    if len(media) > MOST_MEDIA:
        raise field_errors({"media": f"An idea takes at most {MOST_MEDIA} files."})
    assets_of(brand, media)
    return {
        "title": " ".join(content.title.replace("\x00", "").split())[:LONGEST_TITLE],
        "note": content.note.replace("\x00", "").strip()[:LONGEST_NOTE], "group": content.group, "page": page,
        "wishes": wishes, "campaign": content.campaign, "media": media,
    }  # fmt: skip


def _require_group(brand: Brand, group: int | None) -> None:
    if group is not None and not IdeaGroup.objects.filter(brand=brand, pk=group).exists():
        raise field_errors({"group": "There is no such group, or not any more."})


def _view(path: str) -> str:
    """A view of ours, without the brand before it; anything else leads nowhere."""
    path = path.strip()
    is_ours = path[:1].isalpha() and "//" not in path and ":" not in path.partition("?")[0] and path.isprintable()
    return path[:500] if is_ours else ""
