"""What may be a password: NIST SP 800-63B-4, 3.1.1.2. Long, known to no list of breached ones, and otherwise free.

No rule asks for capitals, digits or signs, and none for a new one by the calendar: both make passwords worse.
"""

import unicodedata
from typing import Any

from django.core.exceptions import ValidationError

# By that standard: where the password alone lets somebody in. Counted in code points.
SHORTEST = 15
LONGEST = 200
# What an estimate of guesses has to reach: 10 ** 10 of them, some years at a sign-in that is slowed down.
FEWEST_GUESSES = 10.0
# What the installation is called; passwords made of it are guessed first.
OF_HERE = ("dakika",)
# The estimate's time grows with the square of what it looks at.
LOOKED_AT = 72


def normal_password(password: str) -> str:
    """The one form that is kept: NFKC, as keyboards differ in how they write the same letters (3.1.1.2)."""
    return unicodedata.normalize("NFKC", password)


class LengthValidator:
    """At least fifteen characters, at most two hundred; spaces count, and none is cut off."""

    def validate(self, password: str, user: Any = None) -> None:
        """Raises ValidationError."""
        del user
        length = len(normal_password(password))
        if length < SHORTEST:
            raise ValidationError(
                f"This has {length} characters, and a password has at least {SHORTEST}. Four words that do not belong "
                "together will do.",
                code="password_too_short",
            )
        if length > LONGEST:
            raise ValidationError(f"A password has at most {LONGEST} characters.", code="password_too_long")

    def get_help_text(self) -> str:
        """What is asked for."""
        return f"At least {SHORTEST} characters."


class GuessesValidator:
    """Not on the list of breached passwords and not made of what such a list is made of, or of the person's own names.

    The list and the words are those of the package zxcvbn (Wheeler, "zxcvbn: Low-Budget Password Strength Estimation",
    USENIX Security 2016), which tells after how many guesses one would be found.
    """

    def validate(self, password: str, user: Any = None) -> None:
        """Raises ValidationError with what is wrong in the estimate's words."""
        # Half a second to import, and wanted seldom.
        from zxcvbn import zxcvbn

        own = [*OF_HERE, *_words_of(user)]
        found = zxcvbn(normal_password(password)[:LOOKED_AT], user_inputs=own)
        if found["guesses_log10"] < FEWEST_GUESSES:
            why = found["feedback"]["warning"].rstrip(".")
            raise ValidationError(
                f"This one is guessed early{': ' + why[0].lower() + why[1:] if why else ''}. Take words that do not "
                "belong together.",
                code="password_guessed_early",
            )

    def get_help_text(self) -> str:
        """What is asked for."""
        return "Not one that others use."


def _words_of(user: Any) -> list[str]:
    """Name and address of a person, whole and in parts."""
    said = [getattr(user, "name", "") or "", getattr(user, "email", "") or ""]
    parts = [part for text in said for part in text.replace("@", " ").replace(".", " ").split()]
    return [text for text in [*said, *parts] if len(text) > 2]
