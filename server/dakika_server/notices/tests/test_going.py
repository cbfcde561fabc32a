"""Promise: who goes for good is named in no notice, and no word that only begins like the name is broken."""

from typing import Any

import pytest

from dakika_server.brands.models import Brand
from dakika_server.notices.actions import notify
from dakika_server.notices.going import unname
from dakika_server.notices.models import Notification

pytestmark = pytest.mark.django_db


@pytest.mark.parametrize(
    ("name", "text", "becomes"),
    [
        ("Ed", "Ed gave you a task: Edited by Ed. Ask Ed’s team, not Fred.",
         "X gave you a task: Edited by X. Ask X’s team, not Fred."),
        ("A. (B) [c]*", "A. (B) [c]* said yes", "X said yes"),
        ("Ελένη", "Η Ελένη, και η Ελένης", "Η X, και η Ελένης"),
        (r"\1 %s", r"from \1 %s to all", "from X to all"),
        ("", "Somebody said yes", "Somebody said yes"),
    ],
)  # fmt: skip
def test_the_name_goes_as_a_word(
    name: str, text: str, becomes: str, editor: Any, viewer: Any, brand: Brand, stranger: Any
) -> None:
    other = Brand.objects.get(slug="lantern-line")
    notify(brand, kind="task", key="t", text=text, people=[viewer.pk])
    notify(other, kind="task", key="t", text=text, people=[stranger.pk])
    unname(editor, name, "X")
    assert Notification.objects.get(brand=brand).text == becomes
    # Where they never were nobody means them.
    assert Notification.objects.get(brand=other).text == text
