"""Letters to a person about their own account. The area above that has the outbox writes them."""

from dataclasses import dataclass

from dakika_server.accounts.models import User
from dakika_server.shared.hooks import Hook


@dataclass(frozen=True, kw_only=True)
class Letter:
    """A letter to be written. key: the same is written once; holds_key: a key stands in it, so its text is not kept."""

    key: str
    to: str
    subject: str
    text: str
    holds_key: bool = False


letters: Hook[[Letter], object] = Hook("letters about accounts")
_END = "\n\nIf this was not you, change your password, and tell somebody who looks after Dakika at your place."


def write(key: str, to: str, subject: str, text: str, *, holds_key: bool = False) -> None:
    """Write a letter in the caller's transaction."""
    letters(Letter(key=key, to=to, subject=subject, text=text, holds_key=holds_key))


def tell(user: User, key: str, subject: str, text: str) -> None:
    """Tell somebody what was changed of their account, so that they learn of it when it was somebody else."""
    write(key, user.email, subject, f"Hello {user.name},\n\n{text}{_END}")
