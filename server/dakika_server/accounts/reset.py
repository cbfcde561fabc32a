"""A new password by mail, for who forgot theirs. Nobody learns from it whether an address is known.

In the trade's words: password reset, account enumeration.
"""

from django.conf import settings
from django.contrib.auth.tokens import default_token_generator
from django.core import signing
from django.db import transaction

from dakika_server.accounts import letters
from dakika_server.accounts.actions import set_password
from dakika_server.accounts.models import RecoveryCode, TotpSecret, User, normal_name
from dakika_server.accounts.sessions import end_other_sessions
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Problem

# However often it is asked for: a letter each so many seconds.
LETTER_EVERY_SECONDS = 300
_SUBJECT = "A new password for Dakika"
_TEXT = (
    "Hello {name},\n\nsomebody asked for a new password for you, and the address below sets one. It can be used once, "
    "within an hour.\n\n{address}\n\nIf it was not you, do nothing: your password stays as it is."
)


def write_reset(email: str) -> bool:
    """Write the letter for an address, where somebody has it; whether a letter was written. Runs in the worker.

    The web asks for this whatever the address is, so that its answer takes the same time for all.
    """
    user = User.objects.filter(email=normal_name(email), is_active=True, is_program=False).first()
    if user is None:
        return False
    text = _TEXT.format(name=user.name, address=_address(user))
    slot = int(clock.now().timestamp()) // LETTER_EVERY_SECONDS
    with transaction.atomic():
        audit.record(None, "ask_reset", user, brand_id=None)
        letters.write(f"reset:{user.pk}:{slot}", user.email, _SUBJECT, text, holds_key=True)
    return True


def let_in(user: User) -> str:
    """For who lost their device and their codes: whatever is asked for besides a password ends, and so do sessions and
    the password. Returns an address that sets a new one. For the one who runs the installation; the person is told.
    """
    with transaction.atomic():
        TotpSecret.objects.filter(user=user).delete()
        RecoveryCode.objects.filter(user=user).delete()
        user.passkeys.all().delete()
        end_other_sessions(user, None)
        user.set_unusable_password()
        user.save(update_fields=["password"])
        audit.record(None, "reset_account", user, brand_id=None)
        letters.tell(
            user, f"let-in:{user.pk}:{clock.now().timestamp()}", "Your account was opened anew",
            "Whoever runs Dakika at your place took your codes and passkeys away, so that you can set a new password.",
        )  # fmt: skip
    return _address(user)


def _address(user: User) -> str:
    """Where a new password is set, with a key that counts once."""
    key = signing.dumps([user.pk, default_token_generator.make_token(user)], salt="reset", compress=True)
    return f"{settings.PUBLIC_ADDRESS}/reset#{key}"


def reset_password(key: str, password: str) -> User:
    """Set a new password with the key of a letter; everywhere they are signed out. Raises Problem, field errors.

    The key counts once: it is made of the password's hash and of when they signed in last (Django's token).
    """
    with transaction.atomic():
        user = _person(key)
        set_password(user, password)
        audit.record(user, "reset_password", user, brand_id=None)
    return user


def _person(key: str) -> User:
    over = Problem("key_over", "This address sets no password any more: it is used once, and within an hour. Ask anew.")
    try:
        pk, token = signing.loads(key[:2000], salt="reset", max_age=24 * 3600)
    except (signing.BadSignature, ValueError, TypeError):
        raise over from None
    user = User.objects.select_for_update().filter(pk=pk, is_active=True).first()
    if user is None or not default_token_generator.check_token(user, token):
        raise over
    return user
