"""Days of one's own in the calendar."""

from datetime import date
from typing import Any

from django.db import transaction
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.plan.models import HashtagSet, Note
from dakika_server.shared import audit
from dakika_server.shared.errors import Conflict, field_errors

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


def keep_hashtags(actor: Any, brand: Brand, *, name: str, tags: list[str], pk: int | None = None) -> HashtagSet:
    """A set of hashtags, new or changed. Raises Http404, field errors for a name that is there or no tags."""
    require(actor, brand, "plan.write")
    cleaned = [found for found in (_tag(tag) for tag in tags) if found]
    if not cleaned:
        raise field_errors({"tags": "Write at least one hashtag, of letters and digits."})
    name = _clean(name)
    with transaction.atomic():
        found = HashtagSet.objects.filter(brand=brand, pk=pk).first() if pk else HashtagSet(brand=brand)
        if found is None:
            raise Http404
        if HashtagSet.objects.filter(brand=brand, name=name).exclude(pk=pk or 0).exists():
            raise field_errors({"name": "A set of this name is there already."})
        found.name, found.tags = name, list(dict.fromkeys(cleaned))
        found.save()
        audit.record(actor, "keep_hashtags", found, brand_id=brand.pk)
    return found


def remove_hashtags(actor: Any, brand: Brand, pk: int) -> None:
    """Take a set away. Raises Http404."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        found = HashtagSet.objects.filter(brand=brand, pk=pk).first()
        if found is None:
            raise Http404
        audit.record(actor, "remove_hashtags", found, brand_id=brand.pk, name=found.name)
        found.delete()


def _clean(text: str) -> str:
    return " ".join(text.replace("\x00", "").split())


def _tag(tag: str) -> str:
    """A hashtag without its sign; nothing where nothing of it can be one."""
    return "".join(letter for letter in tag.lstrip("#") if letter.isalnum() or letter == "_")
