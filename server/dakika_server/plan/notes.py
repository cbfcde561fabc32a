"""Days of one's own in the calendar."""

from datetime import date
from typing import Any

from django.db import transaction
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.plan.models import Note
from dakika_server.shared import audit
from dakika_server.shared.errors import Conflict

MOST = 2_000


def add_note(actor: Any, brand: Brand, *, first: date, last: date, text: str) -> Note:
    """Another note. Raises Conflict where there are very many."""
    require(actor, brand, "plan.write")
    if Note.objects.filter(brand=brand).count() >= MOST:
        raise Conflict("too_many_notes", "There are very many notes already. Take some away.")
    with transaction.atomic():
        made = Note.objects.create(brand=brand, first=first, last=last, text=_clean(text), made_by=actor)
        audit.record(actor, "add_note", made, brand_id=brand.pk)
    return made


def change_note(actor: Any, brand: Brand, pk: int, *, first: date, last: date, text: str) -> Note:
    """Other days, or another text. Raises Http404."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        note = Note.objects.select_for_update().filter(brand=brand, pk=pk).first()
        if note is None:
            raise Http404
        note.first, note.last, note.text = first, last, _clean(text)
        note.save()
        audit.record(actor, "change_note", note, brand_id=brand.pk)
    return note


def remove_note(actor: Any, brand: Brand, pk: int) -> None:
    """Take a note away. Raises Http404."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        note = Note.objects.filter(brand=brand, pk=pk).first()
        if note is None:
            raise Http404
        audit.record(actor, "remove_note", note, brand_id=brand.pk, text=note.text)
        note.delete()


def _clean(text: str) -> str:
    return " ".join(text.replace("\x00", "").split())
