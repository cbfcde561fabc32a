"""Changes to posts that we may make: what they belong to."""

from typing import Any

from django.db import transaction
from django.http import Http404

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require
from dakika_server.results.tagging import apply_rules
from dakika_server.shared import audit
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Post


def set_campaign(actor: Any, brand: Brand, post_id: int, *, campaign_id: int | None) -> None:
    """Put a post into a campaign, or into none. Rules that look at campaigns follow.

    Raises Http404 for somebody else's post, ValidationError for somebody else's campaign.
    """
    require(actor, brand, "results.tag")
    if campaign_id is not None and not Campaign.objects.filter(brand=brand, pk=campaign_id).exists():
        raise field_errors({"campaign_id": "There is no such campaign."})
    with transaction.atomic():
        post = Post.objects.select_for_update().filter(brand=brand, pk=post_id).first()
        if post is None:
            raise Http404
        post.campaign_id = campaign_id
        post.save(update_fields=["campaign"])
        apply_rules(brand.pk, Post.objects.filter(pk=post.pk))
        audit.record(actor, "set_campaign", post, brand_id=brand.pk, campaign=campaign_id)
