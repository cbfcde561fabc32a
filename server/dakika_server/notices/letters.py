"""What areas below have written: letters about accounts, and a word to who was given something."""

from dakika_server.accounts.letters import Letter
from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand
from dakika_server.notices.actions import notify
from dakika_server.notices.outbox import write_mail
from dakika_server.shared import clock


def write_letter(letter: Letter) -> None:
    """Put a letter about an account into the outbox."""
    write_mail(key=letter.key, to=letter.to, subject=letter.subject, text=letter.text, is_confidential=letter.holds_key)


def tell_of_handing(brand: Brand, person: User, to: User, what: str) -> None:
    """Tell somebody what they were given."""
    notify(
        brand, kind="team", key=f"handed:{person.pk}:{clock.now().timestamp()}",
        text=f"{person.name} left {brand.name}, and you have what was theirs: {what}", people=[to.pk],
    )  # fmt: skip
