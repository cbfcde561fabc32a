"""The beginning of an installation: nobody is there yet, and whoever has its key makes the first person and brand."""

from datetime import timedelta

from django.db import transaction
from django.http import Http404

from dakika_server.accounts.actions import add_person
from dakika_server.accounts.models import FirstKey, User
from dakika_server.brands.actions import first_brand
from dakika_server.brands.models import Brand
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.keys import digest_of_key, new_key
from dakika_server.shared.locks import Lock, wait_within_transaction

KEY_LASTS = timedelta(hours=24)


def first_key() -> str | None:
    """A key for the first person, which takes the place of those before; None where somebody is there already."""
    with transaction.atomic():
        wait_within_transaction(Lock.BEGINNING, 0)
        if User.objects.exists():
            return None
        key, digest = new_key()
        FirstKey.objects.all().delete()
        FirstKey.objects.create(digest=digest, until=clock.now() + KEY_LASTS)
    return key


def is_open(key: str) -> bool:
    """Whether a key still lets somebody in."""
    found = FirstKey.objects.filter(digest=digest_of_key(key), until__gt=clock.now()).exists()
    return found and not User.objects.exists()


def begin(key: str, *, name: str, email: str, password: str, brand: str, time_zone: str) -> tuple[User, Brand]:
    """The first person, an admin, and their brand. Raises Http404 for a key that opens nothing, field errors.

    The key is used up with it: of two who come at once one is the first, and the other finds nothing.
    """
    with transaction.atomic():
        wait_within_transaction(Lock.BEGINNING, 0)
        if not is_open(key):
            raise Http404
        if not brand.replace("\x00", "").strip():
            raise field_errors({"brand": "Give your first brand a name."})
        person = add_person(name=name, email=email, password=password, about=brand)
        made = first_brand(person, name=brand, time_zone=time_zone)
        FirstKey.objects.all().delete()
        audit.record(person, "begin", made, brand_id=made.pk)
    return person, made
