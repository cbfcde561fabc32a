"""Templates: texts with places to fill in."""

from typing import Any

from django.db import IntegrityError, transaction
from django.db.models import QuerySet
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.plan.models import FeedRule, Template
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors

MOST = 500


def templates_of(brand: Brand) -> QuerySet[Template]:
    """All of a brand by name."""
    return Template.objects.filter(brand=brand).order_by("name")


def keep_template(
    actor: Any, brand: Brand, *, name: str, text: str, headline: str = "", first_comment: str = "",
    pk: int | None = None,
) -> Template:  # fmt: skip
    """A template, new or changed. Raises Http404, field errors for a name that is there and for one without a text."""
    require(actor, brand, "plan.write")
    name = " ".join(name.replace("\x00", "").split())[:80]
    text = text.replace("\x00", "").strip()
    if not name or not text:
        raise field_errors({"name" if not name else "text": "Give it a name." if not name else "Write its text."})
    try:
        with transaction.atomic():
            if pk is None:
                if Template.objects.filter(brand=brand).count() >= MOST:
                    raise Conflict("too_many_templates", "There are very many templates already.")
                kept = Template(brand=brand, made_by=actor, made_at=clock.now())
            else:
                found = Template.objects.select_for_update().filter(brand=brand, pk=pk).first()
                if found is None:
                    raise Http404
                kept = found
            kept.name, kept.text, kept.headline = name, text, headline.replace("\x00", "").strip()
            kept.first_comment = first_comment.replace("\x00", "").strip()
            kept.save()
            audit.record(actor, "keep_template", kept, brand_id=brand.pk)
    except IntegrityError:
        raise field_errors({"name": "There is a template of this name."}) from None
    return kept


def remove_template(actor: Any, brand: Brand, pk: int) -> None:
    """Take a template away. Raises Http404, Conflict where a rule writes by it."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        found = Template.objects.filter(brand=brand, pk=pk).first()
        if found is None:
            raise Http404
        rule = FeedRule.objects.filter(template=found).first()
        if rule is not None:
            raise Conflict(
                "template_used", f"The rule \u201c{rule.name}\u201d writes by it. Give that another one first."
            )
        audit.record(actor, "remove_template", found, brand_id=brand.pk, name=found.name)
        found.delete()
