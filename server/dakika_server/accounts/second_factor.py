"""Something that one has besides what one knows: codes by time (RFC 6238) and codes for when the device is gone.

In the trade's words: multi-factor authentication, TOTP, recovery codes.
"""

import base64
import hmac
import secrets
from datetime import timedelta

from django.db import transaction

from dakika_server.accounts import letters
from dakika_server.accounts.models import Passkey, RecoveryCode, TotpSecret, User, WrongCode
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Problem, TooOften, field_errors
from dakika_server.shared.keys import digest_of_key
from dakika_server.shared.vault import seal, unseal

ISSUER = "Dakika"
# RFC 4226, section 4, R6: 160 bits. RFC 6238, section 5.2: one step of delay either way.
SECRET_BYTES, STEP_SECONDS, STEPS_ASIDE, DIGITS = 20, 30, 1, 6
RECOVERY_CODES, RECOVERY_BYTES, RECOVERY_GROUP = 10, 15, 6
MOST_WRONG, WRONG_WITHIN = 5, timedelta(minutes=15)


def ways_of(user: User) -> list[str]:
    """What somebody may show after their password: "code", "passkey"; none where the password is enough."""
    ways = ["code"] if TotpSecret.objects.filter(user=user, confirmed_at__isnull=False).exists() else []
    return [*ways, *(["passkey"] if Passkey.objects.filter(user=user).exists() else [])]


def begin_totp(user: User) -> tuple[str, str]:
    """A new secret for somebody's device, in base 32, and its address (otpauth). It counts once `confirm_totp` ran."""
    import pyotp

    secret = base64.b32encode(secrets.token_bytes(SECRET_BYTES)).decode()
    with transaction.atomic():
        kept = TotpSecret.objects.select_for_update().filter(user=user).first()
        if kept is not None and kept.confirmed_at is not None:
            raise field_errors({"code": "Codes are asked for already. Take them away first to use another device."})
        TotpSecret.objects.update_or_create(user=user, defaults={"sealed": seal(secret), "last_step": 0})
    return secret, pyotp.TOTP(secret).provisioning_uri(name=user.email, issuer_name=ISSUER)


def confirm_totp(user: User, code: str) -> list[str]:
    """Ask for codes from now on; returns codes for when the device is gone. Raises field errors for a wrong code."""
    with transaction.atomic():
        kept = TotpSecret.objects.select_for_update().filter(user=user, confirmed_at__isnull=True).first()
        if kept is None:
            raise field_errors({"code": "Begin anew: there is no secret that waits for its first code."})
        if not _takes(kept, code):
            raise field_errors({"code": "This is not the code of this minute. Is the device's clock right?"})
        kept.confirmed_at = clock.now()
        kept.save(update_fields=["confirmed_at"])
        audit.record(user, "add_totp", user, brand_id=None)
        letters.tell(
            user, f"totp:{kept.pk}:{kept.confirmed_at.timestamp()}", "Codes are asked for at your sign-in",
            "From now on Dakika asks for a code of your device when you sign in.",
        )  # fmt: skip
        return new_recovery_codes(user)


def remove_totp(user: User) -> None:
    """Ask for codes no more. Without any second factor left the recovery codes go, too."""
    with transaction.atomic():
        gone, _ = TotpSecret.objects.filter(user=user).delete()
        if not ways_of(user):
            RecoveryCode.objects.filter(user=user).delete()
        if gone:
            audit.record(user, "remove_totp", user, brand_id=None)
            letters.tell(
                user, f"no-totp:{user.pk}:{clock.now().timestamp()}", "Codes are no longer asked for at your sign-in",
                "Dakika no longer asks for a code of your device when you sign in.",
            )  # fmt: skip


def new_recovery_codes(user: User) -> list[str]:
    """Ten codes, told once; those before are worth nothing any more."""
    codes = [_recovery_code() for _ in range(RECOVERY_CODES)]
    with transaction.atomic():
        RecoveryCode.objects.filter(user=user).delete()
        RecoveryCode.objects.bulk_create(RecoveryCode(user=user, digest=digest_of_key(_plain(c))) for c in codes)
        audit.record(user, "make_recovery_codes", user, brand_id=None)
    return codes


def _recovery_code() -> str:
    """120 bits of chance in base 32, in groups that can be typed."""
    text = base64.b32encode(secrets.token_bytes(RECOVERY_BYTES)).decode().lower()
    return "-".join(text[i : i + RECOVERY_GROUP] for i in range(0, len(text), RECOVERY_GROUP))


def check_code(user: User, code: str) -> None:
    """Take a code of a device or one for recovery. Raises Problem wrong_code, throttled; each code counts once.

    Guesses are counted by person, under a lock: as many at once as one likes are five in a quarter of an hour.
    """
    with transaction.atomic():
        User.objects.select_for_update().get(pk=user.pk)
        since = clock.now() - WRONG_WITHIN
        wrong = WrongCode.objects.filter(user=user, at__gt=since).count()
        is_right = wrong < MOST_WRONG and (_is_totp(user, code) or _is_recovery(user, code))
        if not is_right and wrong < MOST_WRONG:
            WrongCode.objects.create(user=user, at=clock.now())
            if wrong + 1 == MOST_WRONG:
                letters.tell(
                    user, f"guessed:{user.pk}:{since.timestamp()}", "Somebody has your password but not your codes",
                    "Somebody signed in with your password and gave five wrong codes. They did not come in.",
                )  # fmt: skip
    if is_right:
        return
    if wrong >= MOST_WRONG:
        raise TooOften(
            "Too many wrong codes. Wait a quarter of an hour and try again.", int(WRONG_WITHIN.total_seconds())
        )
    raise Problem("wrong_code", "This is not the code of this minute, and none for recovery that is left.")


def _is_totp(user: User, code: str) -> bool:
    kept = TotpSecret.objects.select_for_update().filter(user=user, confirmed_at__isnull=False).first()
    return kept is not None and _takes(kept, code)


def _takes(kept: TotpSecret, code: str) -> bool:
    """Whether a code is that of a step about now that no code was taken of yet; it is taken with that."""
    import pyotp

    digits = code.replace(" ", "")
    if len(digits) != DIGITS or not (digits.isascii() and digits.isdigit()):
        return False
    totp, now = pyotp.TOTP(unseal(kept.sealed), digits=DIGITS, interval=STEP_SECONDS), int(clock.now().timestamp())
    for aside in range(-STEPS_ASIDE, STEPS_ASIDE + 1):
        step = now // STEP_SECONDS + aside
        if step > kept.last_step and hmac.compare_digest(totp.at(step * STEP_SECONDS), digits):
            kept.last_step = step
            kept.save(update_fields=["last_step"])
            return True
    return False


def _is_recovery(user: User, code: str) -> bool:
    taken = RecoveryCode.objects.filter(user=user, digest=digest_of_key(_plain(code)), used_at__isnull=True).update(
        used_at=clock.now()
    )
    if taken:
        left = RecoveryCode.objects.filter(user=user, used_at__isnull=True).count()
        audit.record(user, "use_recovery_code", user, brand_id=None, left=left)
        letters.tell(
            user, f"recovery:{user.pk}:{left}:{clock.now().timestamp()}", "A recovery code was used",
            f"Somebody signed in with one of your recovery codes. {left} are left; you can make new ones on your page.",
        )  # fmt: skip
    return taken > 0


def _plain(code: str) -> str:
    return "".join(code.split()).replace("-", "").lower()
