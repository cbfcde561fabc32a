"""Pages that list a brand's current links.

In the trade's words: landing page of links, link in bio.
"""

from collections.abc import Sequence
from typing import Any

from dakika_core.links.codes import CodeError, chosen_code
from django.db import IntegrityError, transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.links.models import LinkPage, LinkPageEntry, TrackedLink
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors

MOST_ENTRIES = 50


def save_page(
    actor: Any, brand: Brand, *, pk: int | None = None, slug: str, title: str, words: str = "", is_shown: bool = True,
    entries: Sequence[tuple[int, str]] = (),
) -> LinkPage:  # fmt: skip
    """Make or change a page; `entries` are (link, title) in their order. LinkPage.DoesNotExist, ValidationError."""
    require(actor, brand, "links.pages")
    try:
        address = chosen_code(slug)
    except CodeError as error:
        raise field_errors({"slug": str(error)}) from None
    if not title.strip():
        raise field_errors({"title": "Give the page a title."})
    known = dict(TrackedLink.objects.filter(brand=brand, pk__in=[pk for pk, _ in entries]).values_list("pk", "name"))
    if len(known) < len(entries) or len(entries) > MOST_ENTRIES:
        raise field_errors({"entries": f"Choose up to {MOST_ENTRIES} different links of this brand."})
    values = {"slug": address, "title": title.strip(), "words": words.strip(), "is_shown": is_shown}
    try:
        with transaction.atomic():
            if pk is None:
                page = LinkPage.objects.create(brand=brand, created_at=clock.now(), **values)
            else:
                page = LinkPage.objects.select_for_update().get(brand=brand, pk=pk)
                for name, value in values.items():
                    setattr(page, name, value)
                page.save()
                page.entries.all().delete()
            LinkPageEntry.objects.bulk_create(
                LinkPageEntry(page=page, link_id=link, title=(text.strip() or known[link])[:120], position=i)
                for i, (link, text) in enumerate(entries)
            )
            audit.record(actor, "save_link_page", page, brand_id=brand.pk)
    except IntegrityError:
        raise field_errors({"slug": "This address is taken already."}) from None
    return page


def remove_page(actor: Any, brand: Brand, pk: int) -> None:
    """Take a page away; the clicks that came through it stay. LinkPage.DoesNotExist."""
    require(actor, brand, "links.pages")
    with transaction.atomic():
        page = LinkPage.objects.get(brand=brand, pk=pk)
        audit.record(actor, "remove_link_page", page, brand_id=brand.pk, slug=page.slug)
        page.delete()
