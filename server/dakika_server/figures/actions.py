"""Keeping studies under a name."""

from typing import Any

from django.db import IntegrityError, transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.figures.models import KeptStudy
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors

MOST_KEPT = 100
# What a name stands for; the days stay those that somebody looks at.
KEPT = ("network", "profile", "format", "tag", "campaign", "language", "boosted", "compare", "age")


def keep_study(actor: Any, brand: Brand, *, name: str, values: dict[str, Any]) -> KeptStudy:
    """Keep a checked study's choices under a name; the same name again is another study from then on.

    Raises PermissionDenied, and ValidationError for a name that is none, a study of everything, and too many of them.
    """
    require(actor, brand, "figures.keep")
    name = " ".join(name.split())
    if not name:
        raise field_errors({"name": "Give the study a name."})
    query = {key: str(values[key]) for key in KEPT if values.get(key) is not None}
    if not query.keys() - {"compare"}:
        raise field_errors(
            {"name": "This study asks for nothing that could be kept: choose profiles, formats or tags."}
        )
    with transaction.atomic():
        kept = KeptStudy.objects.select_for_update().filter(brand=brand, name__iexact=name).first()
        if kept is None and KeptStudy.objects.filter(brand=brand).count() >= MOST_KEPT:
            raise field_errors({"name": f"{MOST_KEPT} studies are kept already. Let one go first."})
        if kept is None:
            kept = KeptStudy(brand=brand, made_by=actor, made_at=clock.now())
        kept.name, kept.query = name, query
        try:
            with transaction.atomic():
                kept.save()
        except IntegrityError:
            raise field_errors({"name": "Somebody kept a study by this name just now."}) from None
        audit.record(actor, "keep_study", kept, brand_id=brand.pk)
    return kept


def forget_study(actor: Any, brand: Brand, pk: int) -> None:
    """Let a kept study go; nothing that it showed goes with it. Raises PermissionDenied, KeptStudy.DoesNotExist."""
    require(actor, brand, "figures.keep")
    with transaction.atomic():
        kept = KeptStudy.objects.select_for_update().get(brand=brand, pk=pk)
        audit.record(actor, "forget_study", kept, brand_id=brand.pk)
        kept.delete()
