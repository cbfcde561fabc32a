"""A new draft from a post that is out: its words, with links of its own, so that its clicks are counted apart."""

from typing import Any

from django.db import transaction
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.links.actions import Draft, make_link
from dakika_server.links.models import TrackedLink
from dakika_server.links.serializers.making import short_address
from dakika_server.links.uses import with_other_links
from dakika_server.networks.definitions import all_networks
from dakika_server.plan.actions import save_planned_post
from dakika_server.plan.content import VersionInput
from dakika_server.plan.models import PlannedPost
from dakika_server.shared.errors import Conflict
from dakika_server.sources.models import Post, Profile


def write_again(actor: Any, brand: Brand, post_id: int) -> PlannedPost:
    """A draft with the words of an own post. For each of its links a new one is made, to the same page.

    It is for the post's profile, or, where that cannot be published to, for those that can. Raises Http404 for a
    post that is not the brand's own, Conflict when it can be published to no profile, ValidationError for a link
    whose page can no longer be linked to.
    """
    require(actor, brand, "plan.write")
    post = Post.objects.filter(brand=brand, profile__kind="own", pk=post_id).select_related("profile").first()
    if post is None:
        raise Http404
    profiles = [post.profile] if _takes_posts(post.profile) else _others(brand)
    if not profiles:
        raise Conflict("no_profile", "No profile of the brand can be published to. Connect one in Sources first.")
    versions: list[VersionInput] = []
    with transaction.atomic():
        for profile in profiles:
            made: list[TrackedLink] = []
            seen: set[int] = set()

            def anew(
                link: TrackedLink, profile: Profile = profile, made: list[TrackedLink] = made, seen: set[int] = seen
            ) -> str:
                seen.add(link.pk)
                draft = Draft(
                    destination=link.destination, name=link.name, profile_id=profile.pk, campaign_id=link.campaign_id,
                    keeps_query=link.keeps_query,
                )  # fmt: skip
                made.append(make_link(actor, brand, draft))
                return short_address(made[-1])

            text = with_other_links(brand.pk, post.text, anew)
            # A link that the network carries beside the text stands in it now, as the composer puts one in.
            carried = TrackedLink.objects.filter(uses__post=post, brand=brand).exclude(pk__in=seen).order_by("pk")
            text = "\n".join(filter(None, [text.rstrip() if carried else text, *map(anew, carried)]))
            versions.append(VersionInput(profile_id=profile.pk, text=text, link_id=made[0].pk if made else None))
        planned = save_planned_post(actor, brand, campaign_id=post.campaign_id, versions=versions)
        # What it got stays in sight while it is written anew.
        PlannedPost.objects.filter(pk=planned.pk).update(from_post=post)
        planned.from_post = post
        return planned


def _takes_posts(profile: Profile) -> bool:
    definition = all_networks().get(profile.network)
    return not profile.is_from_file and definition is not None and definition.offer.has_publishing


def _others(brand: Brand) -> list[Profile]:
    return [one for one in Profile.objects.filter(brand=brand, kind="own").order_by("pk") if _takes_posts(one)]
