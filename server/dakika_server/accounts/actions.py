"""Changes that people make to their own account."""

import unicodedata
from typing import Any
from zoneinfo import available_timezones

from dakika_core.reports.languages import LANGUAGES
from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core import signing
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import IntegrityError, transaction

from dakika_server.accounts import letters
from dakika_server.accounts.models import User, normal_name
from dakika_server.accounts.sessions import end_other_sessions
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Problem, field_errors
from dakika_server.shared.keys import digest_of_key

ADDRESS_SECONDS = 24 * 3600
_SALT = "address"


def add_person(*, name: str, email: str, password: str, about: str = "") -> User:
    """A person who signs in with a password. Raises field errors, all of them at once.

    about: what else a password may not be made of, such as the name of their brand.
    """
    name = clean_name(name)
    wrong: dict[str, str] = {}
    if not name:
        wrong["name"] = "Say what you are called."
    if said := _wrong_address(email):
        wrong["email"] = said
    if said := _wrong_password(password, User(name=f"{name} {about}".strip(), email=normal_name(email))):
        wrong["password"] = said
    if wrong:
        raise field_errors(wrong)
    try:
        with transaction.atomic():
            return User.objects.create_user(email=email, password=password, name=name)
    except IntegrityError:
        raise field_errors({"email": "Somebody has this address already."}) from None


def change_account(user: User, *, name: str, language: str, time_zone: str, theme: str) -> User:
    """Change name, language, zone and theme. Raises field errors."""
    wrong: dict[str, str] = {}
    if not (name := clean_name(name)):
        wrong["name"] = "Say what you are called."
    if language not in LANGUAGES:
        wrong["language"] = f"Reports are written in {', '.join(LANGUAGES.values())}."
    if time_zone and time_zone not in available_timezones():
        wrong["time_zone"] = f"There is no time zone called {time_zone[:60]}."
    if wrong:
        raise field_errors(wrong)
    user.name, user.language, user.time_zone, user.theme = name, language, time_zone, theme
    with transaction.atomic():
        user.save(update_fields=["name", "language", "time_zone", "theme"])
        audit.record(user, "change_account", user, brand_id=None)
    return user


def change_password(user: User, *, current: str, password: str, session_key: str | None) -> User:
    """Change a password by the present one. Raises field errors. All sessions but session_key's end with it."""
    if not user.check_password(current):
        raise field_errors({"current": "This is not your present password."})
    with transaction.atomic():
        set_password(user, password, session_key=session_key)
        audit.record(user, "change_password", user, brand_id=None)
    return user


def set_password(user: User, password: str, session_key: str | None = None) -> None:
    """Keep a new password, tell its owner, and end their sessions but session_key's. Raises field errors."""
    if said := _wrong_password(password, user):
        raise field_errors({"password": said})
    user.set_password(password)
    user.save(update_fields=["password"])
    end_other_sessions(user, session_key)
    letters.tell(
        user, f"password:{user.pk}:{clock.now().timestamp()}", "Your password was changed",
        "Your password for Dakika was changed. Wherever else you were signed in, you no longer are.",
    )  # fmt: skip


def ask_for_address(user: User, email: str) -> None:
    """Write to a new address, so that it is shown to be theirs; until then they keep the old. Raises field errors.

    Whether somebody else has it is told by that letter alone, not to who asks.
    """
    new = normal_name(email)
    if said := _wrong_address(new):
        raise field_errors({"email": said})
    if new == user.email:
        raise field_errors({"email": "This is your address already."})
    key = signing.dumps([user.pk, user.email, new], salt=_SALT, compress=True)
    text = f"Hello {user.name},\n\nthe address below makes {new} the one you sign in with, for a day.\n\n"
    has_other = User.objects.filter(email=new).exists()
    with transaction.atomic():
        letters.write(
            # The same address is written to once a minute, another one at once.
            f"address:{user.pk}:{int(clock.now().timestamp()) // 60}:{digest_of_key(new)[:16]}", new,
            "Your new address for Dakika",
            "Somebody wishes to sign in to Dakika with this address, which is yours there already. Nothing was changed."
            if has_other else f"{text}{settings.PUBLIC_ADDRESS}/address#{key}", holds_key=True,
        )  # fmt: skip
        audit.record(user, "ask_for_address", user, brand_id=None)


def take_address(key: str) -> User:
    """Make an address that was written to the one to sign in with; the old one is told. Raises Problem."""
    over = Problem("key_over", "This address changes nothing any more: it is good for a day, and once. Ask anew.")
    try:
        pk, before, new = signing.loads(key[:2000], salt=_SALT, max_age=ADDRESS_SECONDS)
    except (signing.BadSignature, ValueError, TypeError):
        raise over from None
    try:
        with transaction.atomic():
            user = User.objects.select_for_update().filter(pk=pk, email=before, is_active=True).first()
            if user is None:
                raise over
            letters.tell(
                user, f"left:{user.pk}:{clock.now().timestamp()}", "You sign in with another address now",
                f"From now on you sign in to Dakika with {new}, and no longer with this address.",
            )  # fmt: skip
            user.email = new
            user.save(update_fields=["email"])
            audit.record(user, "change_address", user, brand_id=None)
    except IntegrityError:
        raise over from None
    return user


def clean_name(name: str) -> str:
    """A name on one line; nothing where nobody would see one (spaces of no width, marks of direction)."""
    told = " ".join(name.replace("\x00", "").split())[:120]
    return told if any(unicodedata.category(sign)[0] in "LNPS" for sign in told) else ""


def _wrong_address(email: str) -> str:
    try:
        validate_email(normal_name(email))
    except ValidationError:
        return "This is no e-mail address."
    return "" if len(email) <= 254 else "This address is too long."


def _wrong_password(password: str, user: Any) -> str:
    try:
        validate_password(password, user)
    except ValidationError as error:
        return " ".join(error.messages)
    return ""
