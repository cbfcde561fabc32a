"""Promise: a password is long and on no list of breached ones, and nothing else is asked of it (NIST SP 800-63B-4).

Held against the standard's own words (3.1.1.2): at least fifteen characters where it is the only factor, counted in
code points; no rules of composition; NFKC or NFKD before it is hashed; nothing cut off; the whole one compared with a
list of those that are common, expected or breached, and with the person's and the service's own names.
"""

import pytest
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError

from dakika_server.accounts.models import User

MIRA = User(name="Mira Halloran", email="mira.halloran@ninthbell.example")


def said(password: str) -> str:
    try:
        validate_password(password, MIRA)
    except ValidationError as error:
        return " ".join(error.messages)
    return ""


@pytest.mark.parametrize(
    "password",
    [
        "blue kettle under the bridge", "kettlebridgeorchardnine", "ένα μπλε βραστό κάτω", "水の下の青いやかんと橋の上の時計",
        "🐢🐢 turtle walks past nine", "4817 2093 6651 0098 3", " spaces at both ends count ",
    ],
)  # fmt: skip
def test_long_ones_are_taken_whatever_they_are_made_of(password: str) -> None:
    assert said(password) == ""


@pytest.mark.parametrize(
    ("password", "why"),
    [
        ("Tr0ub4dor&3", "at least 15"), ("fourteen signs", "at least 15"), ("é" * 7 + "e\u0301" * 7, "at least 15"),
        ("x" * 201, "at most 200"), ("passwordpassword1", "guessed early"), ("qwertyuiopasdfgh", "guessed early"),
        ("123456789012345", "guessed early"), ("aaaaaaaaaaaaaaaaaaaaaaa", "guessed early"),
        ("mirahalloran2026", "guessed early"), ("dakikadakika2026", "guessed early"),
        ("mira.halloran@ninthbell.example", "guessed early"),
    ],
)  # fmt: skip
def test_short_ones_and_those_that_are_guessed_first_are_refused_with_the_reason(password: str, why: str) -> None:
    assert why in said(password)


def test_the_estimate_of_a_long_one_takes_no_longer(django_assert_num_queries: object) -> None:
    """Its time grows with the square of the length: no more than 72 signs are looked at."""
    assert said("many different words of which none belongs to another " * 3) == ""


@pytest.mark.django_db
def test_letters_that_keyboards_write_differently_are_the_same() -> None:
    composed, decomposed = "caf\u00e9 kettle under bridge", "cafe\u0301 kettle under bridge"
    person = User.objects.create_user("a@ninthbell.example", composed, name="A")
    assert person.check_password(decomposed)
    assert not person.check_password(composed + " ")
    assert not person.check_password(None)


@pytest.mark.django_db
def test_passwords_of_before_still_open_as_they_were_typed() -> None:
    from django.contrib.auth.hashers import make_password

    typed = "cafe\u0301 of long ago"
    person = User.objects.create(email="b@ninthbell.example", name="B", password=make_password(typed))
    assert person.check_password(typed)
    assert not person.check_password("caf\u00e9 of long ago")
