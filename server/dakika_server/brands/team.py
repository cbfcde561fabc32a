"""Who works for a brand: asking them in, what they may do, and their leaving.

In the trade's words: invitation, offboarding, transfer of ownership.
"""

from datetime import timedelta
from typing import Any

from django.conf import settings
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import transaction
from django.http import Http404

from dakika_server.accounts import letters
from dakika_server.accounts.actions import add_person
from dakika_server.accounts.models import User, normal_name
from dakika_server.accounts.permissions import Role
from dakika_server.brands.belongings import belongings_of, hand_over
from dakika_server.brands.models import Brand, Invitation, Membership
from dakika_server.brands.permissions import require
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Problem, field_errors
from dakika_server.shared.hooks import Hook
from dakika_server.shared.keys import digest_of_key, new_key

INVITATION_LASTS = timedelta(days=7)
MOST_INVITATIONS = 200
# Somebody was given what another one had: brand, by whom, to whom, what.
handed_over: Hook[[Brand, User, User, str], object] = Hook("something was handed over")
_OVER = Problem(
    "key_over", "This invitation is over: it is used once, and for a week. Ask whoever invited you for another.",
    status_code=404,
)  # fmt: skip


def invite(actor: Any, brand: Brand, *, email: str, role: str) -> tuple[Invitation, str]:
    """Ask somebody to a brand, by letter; returns the invitation and the address that stands in it.

    Whoever was asked already is asked anew, and the address before is worth nothing. Raises field errors.
    """
    require(actor, brand, "brand.people")
    email = normal_name(email)
    try:
        validate_email(email)
    except ValidationError:
        raise field_errors({"email": "This is no e-mail address."}) from None
    if len(email) > 254:
        raise field_errors({"email": "This address is too long."})
    member = Membership.objects.filter(brand=brand, user__email=email).select_related("user").first()
    if member is not None:
        raise field_errors({"email": f"{member.user.name} works for {brand.name} already, as {member.role}."})
    with transaction.atomic():
        Brand.objects.select_for_update().get(pk=brand.pk)
        waiting = Invitation.objects.filter(brand=brand, taken_at=None)
        if waiting.exclude(email=email).count() >= MOST_INVITATIONS:
            raise field_errors({"email": f"{MOST_INVITATIONS} invitations wait for an answer. Withdraw some first."})
        waiting.filter(email=email).delete()
        return _asked(actor, brand, email, role)


def _asked(actor: Any, brand: Brand, email: str, role: str) -> tuple[Invitation, str]:
    key, digest = new_key()
    now = clock.now()
    made = Invitation.objects.create(
        brand=brand, email=email, role=role, digest=digest, made_by=actor, made_at=now, until=now + INVITATION_LASTS
    )
    address = f"{settings.PUBLIC_ADDRESS}/join#{key}"
    letters.write(
        f"invitation:{made.pk}", email, f"{actor.name} invites you to {brand.name}",
        f"Hello,\n\n{actor.name} asks you to work on {brand.name} in Dakika, as {role}. The address below lets you in "
        f"once, within a week.\n\n{address}\n\nIf you do not know what this is about, do nothing.",
        holds_key=True,
    )  # fmt: skip
    audit.record(actor, "invite", made, brand_id=brand.pk, role=role)
    return made, address


def invite_again(actor: Any, brand: Brand, pk: int) -> tuple[Invitation, str]:
    """Write to somebody once more, with another key. Raises Http404."""
    require(actor, brand, "brand.people")
    with transaction.atomic():
        before = _waiting(brand, pk)
        before.delete()
        return _asked(actor, brand, before.email, before.role)


def withdraw(actor: Any, brand: Brand, pk: int) -> None:
    """Take an invitation back. Raises Http404."""
    require(actor, brand, "brand.people")
    with transaction.atomic():
        found = _waiting(brand, pk)
        audit.record(actor, "withdraw_invitation", found, brand_id=brand.pk)
        found.delete()


def _waiting(brand: Brand, pk: int) -> Invitation:
    found = Invitation.objects.select_for_update().filter(brand=brand, pk=pk, taken_at=None).first()
    if found is None:
        raise Http404
    return found


def invitation_by(key: str) -> Invitation:
    """The invitation that a key opens. Raises Problem where it opens none."""
    found = (
        Invitation.objects.select_related("brand", "made_by")
        .filter(digest=digest_of_key(key), taken_at=None, until__gt=clock.now()).first()
    )  # fmt: skip
    if found is None:
        raise _OVER
    return found


def join(key: str, *, user: User | None, name: str = "", password: str = "") -> User:
    """Take an invitation: as who is signed in, or as a new person. Raises Problem, field errors.

    Of two who come at once with one key, one comes in.
    """
    with transaction.atomic():
        invitation = invitation_by(key)
        invitation = Invitation.objects.select_for_update().get(pk=invitation.pk)
        if invitation.taken_at is not None:
            raise _OVER
        if user is None:
            if User.objects.filter(email=invitation.email).exists():
                raise Problem("sign_in_first", f"There is somebody with {invitation.email} already: sign in first.")
            user = add_person(name=name, email=invitation.email, password=password, about=invitation.brand.name)
        member, is_new = Membership.objects.get_or_create(
            user=user, brand=invitation.brand, defaults={"role": invitation.role}
        )
        if not is_new:
            raise Problem("member_already", f"You work for {invitation.brand.name} already, as {member.role}.")
        invitation.taken_by, invitation.taken_at = user, clock.now()
        invitation.save(update_fields=["taken_by", "taken_at"])
        audit.record(user, "join", invitation, brand_id=invitation.brand_id, role=invitation.role)
    return user


def change_role(actor: Any, brand: Brand, person_id: int, role: str) -> Membership:
    """Let somebody do more, or less. Raises Http404, field errors for the last admin."""
    require(actor, brand, "brand.people")
    with transaction.atomic():
        member = _member(brand, person_id)
        if role != member.role:
            _leave_an_admin(brand, member, role)
            if member.user.is_program and role in (Role.ADMIN.value, Role.GUEST.value):
                raise field_errors({"role": f"{member.user.name} is a program, and no program is {role}."})
            member.role = role
            member.save(update_fields=["role"])
            audit.record(actor, "change_role", member, brand_id=brand.pk, name=member.user.name)
    return member


def leave(actor: Any, brand: Brand, person_id: int, to: int | None) -> None:
    """Somebody leaves a brand, by themselves or as an admin says; what is theirs goes to another (`to`).

    Raises Http404, field errors: for the last admin, and where there is something to have and nobody who has it.
    """
    with transaction.atomic():
        member = _member(brand, person_id)
        if member.user_id != actor.pk:
            require(actor, brand, "brand.people")
        _leave_an_admin(brand, member, None)
        left = [one for one in belongings_of(brand, member.user) if not one.is_personal]
        heir = None
        if to is not None:
            heir = _heir(brand, to, member)
        elif left:
            raise field_errors({"to": f"Say who takes over {', '.join(one.words for one in left)}."})
        hand_over(brand, member.user, heir)
        audit.record(actor, "leave", member, brand_id=brand.pk, name=member.user.name, to=to)
        if heir is not None and left and heir.pk != actor.pk:
            handed_over(brand, member.user, heir, ", ".join(one.words for one in left))
        if member.user_id != actor.pk and not member.user.is_program:
            letters.write(
                f"left:{member.pk}", member.user.email, f"You no longer work on {brand.name} in Dakika",
                f"Hello {member.user.name},\n\n{actor.name} ended your work on {brand.name}. What was yours there has "
                "gone to somebody else of the team.",
            )  # fmt: skip
        member.delete()


def _member(brand: Brand, person_id: int) -> Membership:
    """Somebody's membership; the brand is held until the transaction ends, so that two last admins cannot both go."""
    Brand.objects.select_for_update().get(pk=brand.pk)
    found = Membership.objects.select_related("user").filter(brand=brand, user_id=person_id).first()
    if found is None:
        raise Http404
    return found


def _leave_an_admin(brand: Brand, member: Membership, role: str | None) -> None:
    if member.role != Role.ADMIN.value or role == Role.ADMIN.value:
        return
    admins = Membership.objects.filter(brand=brand, role=Role.ADMIN.value, user__is_program=False)
    if not admins.exclude(pk=member.pk).exists():
        raise field_errors({
            "role" if role else "to": f"{brand.name} has no other admin. Make somebody else one first.",
        })  # fmt: skip


def _heir(brand: Brand, person_id: int, leaving: Membership) -> User:
    found = Membership.objects.select_related("user").filter(brand=brand, user_id=person_id).first()
    if found is None or found.pk == leaving.pk:
        raise field_errors({"to": "This person does not work for the brand."})
    if found.user.is_program:
        raise field_errors({"to": f"{found.user.name} is a program: choose a person."})
    if found.role in (Role.GUEST.value, Role.VIEWER.value):
        raise field_errors({"to": f"{found.user.name} may only look: choose somebody who may work with it."})
    return found.user
