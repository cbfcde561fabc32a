"""Tokens with which programs ask: told once, kept as digests, with an end, good for what they were made for."""

import secrets
from collections.abc import Collection
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.db.models import QuerySet
from django.http import Http404

from dakika_server.accounts.actions import clean_name
from dakika_server.accounts.models import User
from dakika_server.accounts.permissions import PERMISSIONS, permissions_of
from dakika_server.brands.models import ApiToken, Brand, Membership
from dakika_server.brands.permissions import require
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.keys import digest_of_key

# So that a token is known for one wherever it turns up, by people and by programs that look for secrets.
PREFIX = "dakika_"
LONGEST_DAYS, MOST_TOKENS = 366, 50
# How exactly it is kept when a token was last used.
USED_EVERY = timedelta(minutes=1)


def make_token(
    actor: User, *, name: str, scopes: Collection[str], days: int, brand: Brand | None
) -> tuple[ApiToken, str]:
    """A token that acts as its maker, in one brand or in all of theirs; returns it with what is told once.

    Raises field errors.
    """
    with transaction.atomic():
        User.objects.select_for_update().get(pk=actor.pk)
        if tokens_of(actor).count() >= MOST_TOKENS:
            raise field_errors({"name": f"You have {MOST_TOKENS} tokens. Take one away first."})
        return _made(actor, actor, name=name, scopes=scopes, days=days, brand=brand)


def make_program(
    actor: User, brand: Brand, *, name: str, role: str, scopes: Collection[str], days: int
) -> tuple[ApiToken, str]:
    """A program of a brand that is nobody's: it has a role of its own, and stays when whoever made it leaves.

    Raises field errors.
    """
    require(actor, brand, "brand.people")
    # What is no permission at all is told where all else of a token is.
    if beyond := sorted(({*scopes} & {*PERMISSIONS}) - {*permissions_of(role)}):
        raise field_errors({"scopes": f"The role {role} does not let anybody {PERMISSIONS[beyond[0]].words}."})
    with transaction.atomic():
        Brand.objects.select_for_update().get(pk=brand.pk)
        if programs_of(brand).count() >= MOST_TOKENS:
            raise field_errors({"name": f"There are {MOST_TOKENS} programs. Take one away first."})
        # Reserved by RFC 2606: no letter ever goes there.
        address = f"program-{secrets.token_hex(8)}@programs.invalid"
        person = User.objects.create_user(address, None, name=clean_name(name) or "A program", is_program=True)
        Membership.objects.create(user=person, brand=brand, role=role)
        return _made(actor, person, name=name, scopes=scopes, days=days, brand=brand)


def _made(
    actor: User, person: User, *, name: str, scopes: Collection[str], days: int, brand: Brand | None
) -> tuple[ApiToken, str]:
    wrong: dict[str, str] = {}
    if not (name := clean_name(name)[:80]):
        wrong["name"] = "Say what it is for."
    if strange := sorted({*scopes} - {*PERMISSIONS}):
        wrong["scopes"] = f"There is no permission {strange[0]}."
    if not scopes:
        wrong["scopes"] = "Say what it may do."
    if not 1 <= days <= LONGEST_DAYS:
        wrong["days"] = f"A token lasts from 1 to {LONGEST_DAYS} days."
    if wrong:
        raise field_errors(wrong)
    told = PREFIX + secrets.token_urlsafe(32)
    now = clock.now()
    made = ApiToken.objects.create(
        user=person, brand=brand, name=name, digest=digest_of_key(told), hint=told[-4:], scopes=sorted({*scopes}),
        made_at=now, until=now + timedelta(days=days),
    )  # fmt: skip
    audit.record(actor, "make_token", made, brand_id=brand.pk if brand else None, name=name, scopes=sorted({*scopes}))
    return made, told


def token_by(told: str) -> ApiToken | None:
    """The token that was told so, if it is good: not taken away, not over, and its person may still come in."""
    if not told.startswith(PREFIX) or len(told) > 100:
        return None
    return (
        ApiToken.objects.select_related("user")
        .filter(digest=digest_of_key(told), revoked_at=None, until__gt=clock.now(), user__is_active=True).first()
    )  # fmt: skip


def note_used(token: ApiToken, address: str) -> None:
    """Write down that a token is in use, now and then."""
    now = clock.now()
    if token.used_at is None or now - token.used_at >= USED_EVERY:
        ApiToken.objects.filter(pk=token.pk).update(used_at=now, used_from=address[:45])


def tokens_of(person: User) -> QuerySet[ApiToken]:
    """Somebody's own tokens, the latest first."""
    return ApiToken.objects.filter(user=person, revoked_at=None).select_related("brand").order_by("-made_at", "-pk")


def programs_of(brand: Brand) -> QuerySet[ApiToken]:
    """The programs of a brand, the latest first."""
    found = ApiToken.objects.filter(brand=brand, user__is_program=True, revoked_at=None)
    return found.select_related("user").order_by("-made_at", "-pk")


def revoke_own(person: User, pk: int) -> None:
    """Take one of one's tokens away. Raises Http404."""
    _revoke(person, tokens_of(person).filter(pk=pk).first())


def revoke_program(actor: User, brand: Brand, pk: int) -> None:
    """Take a program of a brand away, with its part in the team. Raises Http404."""
    require(actor, brand, "brand.people")
    with transaction.atomic():
        found = programs_of(brand).filter(pk=pk).first()
        _revoke(actor, found)
        if found is not None:
            User.objects.filter(pk=found.user_id).update(is_active=False)
            Membership.objects.filter(user=found.user_id).delete()


def _revoke(actor: Any, token: ApiToken | None) -> None:
    if token is None:
        raise Http404
    with transaction.atomic():
        ApiToken.objects.filter(pk=token.pk).update(revoked_at=clock.now())
        audit.record(actor, "revoke_token", token, brand_id=token.brand_id, name=token.name)
