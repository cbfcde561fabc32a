"""Short codes: letters that are not taken for one another, chosen words, and what may be neither.

Generated codes hold no vowels and few digits that stand for letters, so that they seldom read as
words (common practice, no source); what still offends without vowels is drawn again.

In the trade's words: URL shortener, slug.
"""

import re
from collections.abc import Callable

# No vowels; no 0 O 1 l I; no 3 4 5 7 8, which are read as e a s t b.
ALPHABET = "269bcdfghjkmnpqrstvwxz"
CODE_LENGTH = 7
CHOSEN = re.compile(r"^[a-z0-9](?:[a-z0-9_-]{1,30}[a-z0-9])$")
# From memory: abbreviations that offend in languages of our users.
OFFENSIVE = ("fck", "fkk", "kkk", "xxx", "wtf", "stfu", "cnt", "dck", "sht", "btch", "ngr", "nzs", "hh", "ss")
RESERVED = frozenset(
    {
        "health", "p", "l", "api", "app", "admin", "login", "logout", "help", "status", "static", "assets", "favicon",
        "robots", "sitemap", "index", "well-known", "security", "terms", "privacy", "imprint", "www", "qr", "none",
        "null",
    }
)  # fmt: skip


class CodeError(ValueError):
    """A chosen word that cannot be a short address; the text says why."""


def new_code(below: Callable[[int], int], *, length: int = CODE_LENGTH) -> str:
    """A code of `length` letters; `below(n)` draws a whole number from 0 to n - 1 (secrets.randbelow)."""
    while True:
        code = "".join(ALPHABET[below(len(ALPHABET))] for _ in range(length))
        if not any(bad in code for bad in OFFENSIVE):
            return code


def chosen_code(word: str) -> str:
    """A chosen word as it stands in the address, in lower case. Raises CodeError."""
    code = word.strip().lower()
    if not CHOSEN.match(code):
        raise CodeError(
            "Use 3 to 32 letters a to z, digits, hyphens or underscores, beginning and ending with one of the first."
        )
    if code in RESERVED:
        raise CodeError(f"“{code}” is kept for the application itself. Choose another word.")
    return code
