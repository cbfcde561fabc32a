"""Promise: the weekly digest says what changed and no more, goes out once to those who want it, and stops by one click."""

from datetime import UTC, datetime
from typing import Any

import pytest

from dakika_server.brands.models import Brand, Membership
from dakika_server.competitors.digest import MONDAY, digest_of, send_digests
from dakika_server.competitors.models import DigestReader
from dakika_server.competitors.testing import a_set, field_of, rival
from dakika_server.measures.testing import fill, make_profile
from dakika_server.notices.models import Mail
from dakika_server.notices.schedules import next_of

pytestmark = pytest.mark.django_db
# A Monday; the week before it is the 19th to the 25th.
ON = datetime(2026, 10, 26, 7, tzinfo=UTC)


@pytest.fixture
def reader(editor: Any, brand: Brand) -> DigestReader:
    editor.email = "editor@ninthbell.example"
    editor.save()
    return DigestReader.objects.create(brand=brand, person=editor, since=ON)


def test_it_tells_of_posts_that_stood_out_and_where_we_are(brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 30)
    fill(rival(brand), 30, lambda n: {"counts": {"reactions": 200 if n == 20 else 30 + n % 3},
                                      "text": "The great find" if n == 20 else "Post"})  # fmt: skip
    field_of(brand, 3)
    subject, text = digest_of(brand, None, ON)
    assert subject == "Orrery House: the week of everybody we follow"
    assert "19 Oct to 25 Oct 2026" in text
    assert "Halfmoon on Commons: “The great find”" in text
    assert "/results/posts/" in text
    assert "Followers: we are number" in text
    assert "From public figures alone" in text or "from public figures alone" in text


def test_it_can_be_read_before_it_is_had(
    brand: Brand, viewer: Any, client_of: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("DAKIKA_FIXED_NOW", ON.isoformat())
    fill(make_profile(brand, name="Us"), 30)
    chosen = a_set(brand, *field_of(brand, 3))
    path, client = "/api/brands/orrery-house/competitors/digest", client_of(viewer)
    for asked, peers in (({}, None), ({"set": chosen.pk}, chosen)):
        subject, text = digest_of(brand, peers, ON)
        assert client.get(path, asked).json() == {"subject": subject, "text": text}
    assert not DigestReader.objects.exists()
    assert not Mail.objects.exists()
    assert client.get(path, {"set": 987654}).status_code == 400


def test_a_week_like_any_other_says_so(brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 30)
    fill(rival(brand), 30)
    _, text = digest_of(brand, None, ON)
    assert "No post got 2 times its own usual." in text


def test_it_is_written_once_a_week_with_the_header_that_ends_it(brand: Brand, reader: DigestReader) -> None:
    fill(make_profile(brand, name="Us"), 30)
    assert send_digests(brand, ON) == 1
    assert send_digests(brand, ON) == 0, "the same week again"
    mail = Mail.objects.get()
    assert mail.to == "editor@ninthbell.example"
    assert mail.headers["List-Unsubscribe-Post"] == "List-Unsubscribe=One-Click"
    assert mail.headers["List-Unsubscribe"].endswith(f"/api/digests/stop/{reader.token}>")
    assert reader.token in mail.text


def test_who_has_left_the_brand_or_has_no_address_is_sent_nothing(brand: Brand, reader: DigestReader) -> None:
    Membership.objects.filter(user=reader.person).delete()
    assert send_digests(brand, ON) == 0
    assert not Mail.objects.exists()


def test_a_set_that_was_emptied_or_has_nobody_of_ours_breaks_no_letter(brand: Brand, reader: DigestReader) -> None:
    reader.peers = a_set(brand, fill(rival(brand), 5))
    reader.save()
    assert send_digests(brand, ON) == 1
    reader.peers.profiles.clear()
    _, text = digest_of(brand, reader.peers, ON)
    assert "Nothing that goes beyond" in text


def test_monday_morning_is_the_brands_own_also_when_clocks_change(brand: Brand) -> None:
    """Lisbon leaves summer time on 25 October 2026: seven o'clock stays seven o'clock."""
    begins = datetime(2026, 10, 1, MONDAY.hour)  # noqa: DTZ001
    first = next_of(MONDAY.rule, begins, brand.zone, datetime(2026, 10, 18, 12, tzinfo=UTC))
    second = next_of(MONDAY.rule, begins, brand.zone, datetime(2026, 10, 20, tzinfo=UTC))
    assert (first, second) == (datetime(2026, 10, 19, 6, tzinfo=UTC), datetime(2026, 10, 26, 7, tzinfo=UTC))
