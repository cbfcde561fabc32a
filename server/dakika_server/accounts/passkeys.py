"""Passkeys: a device shows that it has a key and that its owner is there (W3C Web Authentication, Level 3)."""

import json
from hashlib import sha256
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.db import IntegrityError, transaction
from django.http import HttpRequest

from dakika_server.accounts import letters
from dakika_server.accounts.models import Passkey, RecoveryCode, User
from dakika_server.accounts.second_factor import ways_of
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Problem, field_errors

ASKED = "passkey_asked"
ANSWER_WITHIN_SECONDS = 300
MOST_PASSKEYS = 20


def relying_party() -> str | None:
    """The name that passkeys are bound to; None where the address is a number, which they cannot be bound to."""
    host = urlsplit(settings.PUBLIC_ADDRESS).hostname or ""
    is_number = ":" in host or host.replace(".", "").isdigit()
    is_safe = settings.PUBLIC_ADDRESS.startswith("https://") or host == "localhost"
    return host if host and not is_number and is_safe else None


def _rp() -> str:
    name = relying_party()
    if name is None:
        raise Problem("no_passkeys", "Passkeys need an address with a name and TLS. Ask who runs this installation.")
    return name


def creation_options(request: HttpRequest, user: User) -> dict[str, Any]:
    """What the browser asks a device for a new passkey with (section 5.4); its challenge waits in the session."""
    from webauthn import generate_registration_options
    from webauthn.helpers.structs import (
        AuthenticatorSelectionCriteria,
        PublicKeyCredentialDescriptor,
        ResidentKeyRequirement,
        UserVerificationRequirement,
    )

    options = generate_registration_options(
        rp_id=_rp(), rp_name="Dakika", user_id=sha256(f"person {user.pk}".encode()).digest(), user_name=user.email,
        user_display_name=user.name, timeout=ANSWER_WITHIN_SECONDS * 1000,
        exclude_credentials=[PublicKeyCredentialDescriptor(id=bytes(key.credential_id)) for key in user.passkeys.all()],
        authenticator_selection=AuthenticatorSelectionCriteria(
            resident_key=ResidentKeyRequirement.REQUIRED, user_verification=UserVerificationRequirement.REQUIRED
        ),
    )  # fmt: skip
    return _asked(request, options)


def add_passkey(request: HttpRequest, user: User, name: str, credential: dict[str, Any]) -> Passkey:
    """Keep a new passkey's public half. Raises field errors for what does not answer what was asked (section 7.1)."""
    from webauthn import verify_registration_response

    name = " ".join(name.replace("\x00", "").split())[:80] or "A passkey"
    try:
        found = verify_registration_response(
            credential=credential, expected_challenge=_challenge(request), expected_rp_id=_rp(),
            expected_origin=settings.PUBLIC_ADDRESS, require_user_verification=True,
        )  # fmt: skip
    except _refusals():
        raise field_errors({"credential": "The device did not answer what it was asked. Try again."}) from None
    with transaction.atomic():
        User.objects.select_for_update().get(pk=user.pk)
        if user.passkeys.count() >= MOST_PASSKEYS:
            raise field_errors({"name": f"You have {MOST_PASSKEYS} passkeys. Take one away first."})
        try:
            with transaction.atomic():
                made = Passkey.objects.create(
                    user=user, name=name, credential_id=found.credential_id,
                    public_key=found.credential_public_key, sign_count=found.sign_count, made_at=clock.now(),
                )  # fmt: skip
        except IntegrityError:
            raise field_errors({"credential": "This passkey is known already."}) from None
        audit.record(user, "add_passkey", made, brand_id=None)
        letters.tell(user, f"passkey:{made.pk}", "A passkey was added", f"The passkey “{name}” now lets you sign in.")
    return made


def remove_passkey(user: User, pk: int) -> bool:
    """Take a passkey away; False where it is none of theirs. With the last second factor the recovery codes go."""
    with transaction.atomic():
        found = Passkey.objects.filter(user=user, pk=pk).first()
        if found is None:
            return False
        audit.record(user, "remove_passkey", found, brand_id=None)
        letters.tell(
            user, f"no-passkey:{found.pk}", "A passkey was taken away",
            f"The passkey “{found.name}” lets nobody sign in any more.",
        )  # fmt: skip
        found.delete()
        if not ways_of(user):
            RecoveryCode.objects.filter(user=user).delete()
    return True


def request_options(request: HttpRequest, user: User | None) -> dict[str, Any]:
    """What the browser asks a device with (section 5.5): for somebody's passkeys, or for any that it has for us."""
    from webauthn import generate_authentication_options
    from webauthn.helpers.structs import PublicKeyCredentialDescriptor, UserVerificationRequirement

    known = [PublicKeyCredentialDescriptor(id=bytes(key.credential_id)) for key in user.passkeys.all()] if user else []
    options = generate_authentication_options(
        rp_id=_rp(), allow_credentials=known, user_verification=UserVerificationRequirement.REQUIRED,
        timeout=ANSWER_WITHIN_SECONDS * 1000,
    )  # fmt: skip
    return _asked(request, options)


def person_of(request: HttpRequest, credential: dict[str, Any]) -> User:
    """Whose passkey answered what was asked (section 7.2). Raises Problem wrong_passkey.

    A counter that did not grow is that of a copy, and is refused (section 6.1.1).
    """
    from webauthn import base64url_to_bytes, verify_authentication_response

    challenge = _challenge(request)
    try:
        wanted = base64url_to_bytes(str(credential.get("id", ""))[:2000])
        key = Passkey.objects.select_related("user").filter(credential_id=wanted, user__is_active=True).first()
        if key is None:
            raise _wrong()
        found = verify_authentication_response(
            credential=credential, expected_challenge=challenge, expected_rp_id=_rp(),
            expected_origin=settings.PUBLIC_ADDRESS, credential_public_key=bytes(key.public_key),
            credential_current_sign_count=key.sign_count, require_user_verification=True,
        )  # fmt: skip
    except _refusals():
        raise _wrong() from None
    # Two answers with one counter at once: the second is refused.
    taken = Passkey.objects.filter(pk=key.pk, sign_count=key.sign_count).update(
        sign_count=found.new_sign_count, used_at=clock.now()
    )
    if not taken:
        raise _wrong()
    return key.user


def _asked(request: HttpRequest, options: Any) -> dict[str, Any]:
    from webauthn import options_to_json

    request.session[ASKED] = {"challenge": options.challenge.hex(), "at": clock.now().timestamp()}
    if not request.session.get("_auth_user_id"):
        request.session.set_expiry(ANSWER_WITHIN_SECONDS)
    told: dict[str, Any] = json.loads(options_to_json(options))
    return told


def _challenge(request: HttpRequest) -> bytes:
    """What was asked, once. Raises Problem where nothing was, or long ago."""
    asked = request.session.pop(ASKED, None)
    if asked is None or clock.now().timestamp() - float(asked["at"]) > ANSWER_WITHIN_SECONDS:
        raise Problem("wrong_passkey", "This took too long. Try again.")
    return bytes.fromhex(asked["challenge"])


def _wrong() -> Problem:
    return Problem("wrong_passkey", "This passkey does not let you in. Try again, or sign in with your password.")


def _refusals() -> tuple[type[Exception], ...]:
    """What is raised for an answer that is none: what strangers send may be of any form."""
    from webauthn.helpers.exceptions import WebAuthnException

    return (WebAuthnException, ValueError, KeyError, TypeError)
