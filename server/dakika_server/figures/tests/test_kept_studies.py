"""Promise: a study kept under a name is what it was for the whole team, and nobody keeps what they may not."""

from typing import Any

import pytest

from dakika_server.figures.actions import MOST_KEPT
from dakika_server.figures.models import KeptStudy
from dakika_server.shared.models import AuditEntry

pytestmark = pytest.mark.django_db
PATH = "/api/brands/orrery-house/studies"


def post(client: Any, **body: Any) -> Any:
    return client.post(PATH, body, content_type="application/json")


def test_what_is_kept_is_there_for_everybody_without_its_days(editor: Any, viewer: Any, client_of: Any) -> None:
    body = {
        "name": "  Workshops,  not boosted ",
        "tag": "7,3",
        "boosted": "no",
        "format": "!link",
        "first": "2026-11-01",
    }
    assert post(client_of(editor), **body).status_code == 201
    (kept,) = client_of(viewer).get(PATH).json()
    assert kept["name"] == "Workshops, not boosted"
    assert kept["query"] == {"tag": "3,7", "boosted": "no", "format": "!link", "compare": "previous"}
    assert AuditEntry.objects.filter(action="keep_study").count() == 1


def test_the_same_name_again_is_another_study(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    first = post(client, name="Night", tag="1").json()
    assert post(client, name="NIGHT", tag="2").json()["id"] == first["id"]
    assert KeptStudy.objects.get().query["tag"] == "2"


@pytest.mark.parametrize(
    "body",
    [{"tag": "1"}, {"name": " ", "tag": "1"}, {"name": "x" * 81, "tag": "1"}, {"name": "All"},
     {"name": "x", "tag": "one"}, {"name": "x", "format": "poem"}, {"name": "\x00", "tag": "1"}, {"name": ["x"], "tag": "1"}],
)  # fmt: skip
def test_what_is_no_study_is_refused_in_words(editor: Any, client_of: Any, body: dict[str, Any]) -> None:
    answer = post(client_of(editor), **body)
    assert answer.status_code == 400
    assert answer.json()["detail"]
    assert not KeptStudy.objects.exists()


def test_nobody_keeps_or_forgets_what_they_may_not(editor: Any, viewer: Any, stranger: Any, client_of: Any) -> None:
    kept = post(client_of(editor), name="Night", tag="1").json()["id"]
    assert post(client_of(viewer), name="Mine", tag="1").status_code == 403
    assert client_of(viewer).delete(f"{PATH}/{kept}").status_code == 403
    assert client_of(stranger).get(PATH).status_code == 404
    other = PATH.replace("orrery-house", "lantern-line")
    assert client_of(stranger).delete(f"{other}/{kept}").status_code == 404
    assert client_of(editor).delete(f"{PATH}/{kept}").status_code == 204
    assert client_of(editor).delete(f"{PATH}/{kept}").status_code == 404


def test_there_is_an_end_to_what_is_kept(brand: Any, editor: Any, client_of: Any) -> None:
    from dakika_server.shared import clock

    rows = [KeptStudy(brand=brand, name=str(i), query={"tag": "1"}, made_at=clock.now()) for i in range(MOST_KEPT)]
    KeptStudy.objects.bulk_create(rows)
    assert post(client_of(editor), name="One more", tag="1").status_code == 400
    assert post(client_of(editor), name="7", tag="2").status_code == 201
