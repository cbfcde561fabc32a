"""Competitors put in order: renamed, merged, and their profiles moved. Whatever hangs on profiles goes with them."""

from typing import Any

from django.db import IntegrityError, transaction
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.shared import audit
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.models import Competitor, Profile


def rename_competitor(actor: Any, brand: Brand, *, competitor_id: int, name: str) -> Competitor:
    """Give a competitor another name. Raises Conflict where another has it: then they are to be merged."""
    require(actor, brand, "sources.follow")
    name = " ".join(name.split())
    if not name:
        raise field_errors({"name": "Give the competitor a name."})
    with transaction.atomic():
        found = _locked(brand, competitor_id)[0]
        if Competitor.objects.filter(brand=brand, name__iexact=name).exclude(pk=found.pk).exists():
            raise _taken(name)
        found.name = name[:120]
        try:
            with transaction.atomic():
                found.save(update_fields=["name"])
        except IntegrityError:
            raise _taken(name) from None
        audit.record(actor, "rename_competitor", found, brand_id=brand.pk)
    return found


def _taken(name: str) -> Conflict:
    return Conflict("name_taken", f"There is a competitor {name} already. Merge the two if they are the same.")


def merge_competitors(actor: Any, brand: Brand, *, competitor_id: int, into: int) -> Competitor:
    """Make two competitors one: all profiles of the first become the second's, and the first is gone.

    Where two people do it at once the second finds it done, or a competitor that is no more. Raises Http404 for what
    is not there.
    """
    require(actor, brand, "sources.follow")
    if competitor_id == into:
        raise field_errors({"into": "Choose another competitor: this is the same one."})
    with transaction.atomic():
        gone, kept = _locked(brand, competitor_id, into)
        moved = Profile.objects.filter(brand=brand, competitor=gone).update(competitor=kept)
        if gone.website and not kept.website:
            kept.website = gone.website
            kept.save(update_fields=["website"])
        audit.record(actor, "merge_competitors", kept, brand_id=brand.pk, gone=gone.pk, profiles=moved)
        gone.delete()
    return kept


def move_profile(actor: Any, brand: Brand, *, profile_id: int, competitor_id: int | None, name: str = "") -> Profile:
    """Put a competitor's profile under another competitor, or under a new one by name.

    A competitor that is left without profiles is gone. Raises Http404 for what is not there, a field error where
    neither a competitor nor a name is given.
    """
    require(actor, brand, "sources.follow")
    name = " ".join(name.split())[:120]
    if competitor_id is None and not name:
        raise field_errors({"name": "Choose a competitor, or give a new one a name."})
    with transaction.atomic():
        asked = Profile.objects.filter(brand=brand, pk=profile_id, kind=Profile.Kind.COMPETITOR)
        before = asked.values_list("competitor_id", flat=True).first()
        if before is None:
            raise Http404
        if competitor_id is None:
            named = Competitor.objects.filter(brand=brand, name__iexact=name).first()
            competitor_id = (named or Competitor.objects.get_or_create(brand=brand, name=name)[0]).pk
        # Both are held, so that nobody puts a profile under the one that may go.
        ids = [before, competitor_id] if before != competitor_id else [before]
        to = _locked(brand, *ids)[-1]
        if not asked.filter(competitor=before).update(competitor=to):
            raise Conflict("moved_meanwhile", "Somebody moved this profile just now. Look again before you move it.")
        if before != to.pk:
            Competitor.objects.filter(pk=before, profiles__isnull=True).delete()
        profile = asked.get()
        audit.record(actor, "move_profile", profile, brand_id=brand.pk, competitor=to.pk)
    return profile


def _locked(brand: Brand, *ids: int) -> list[Competitor]:
    """Competitors in the order asked for, each locked; in the order of their keys, so that nobody waits in a circle."""
    found = {
        one.pk: one for one in Competitor.objects.select_for_update().filter(brand=brand, pk__in=ids).order_by("pk")
    }
    if len(found) < len({*ids}):
        raise Http404
    return [found[pk] for pk in ids]
