"""Promise: a report is made, changed, stepped back and copied without losing anybody's work, and holds only what is whole."""

import copy
from datetime import timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand, Membership
from dakika_server.media.testing import brought, picture
from dakika_server.reports.models import Report, ReportVersion
from dakika_server.reports.templates import TEMPLATES
from dakika_server.reports.testing import content_of, report
from dakika_server.shared import clock

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("media_folder")]
HOME = "/api/brands/orrery-house/reports"
JSON = "application/json"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.mark.parametrize("template", sorted(TEMPLATES))
def test_every_template_makes_a_report_that_can_be_saved_and_shown(
    client: Client, template: str, own_profile: Any
) -> None:
    own_profile()
    made = client.post(HOME, {"template": template, "language": "pt"}, JSON)
    assert made.status_code == 201, made.json()
    body = made.json()
    kept = client.put(f"{HOME}/{body['id']}", body, JSON)
    assert kept.status_code == 200, kept.json()
    # Nothing was changed, so nothing was saved.
    assert kept.json()["edition"] == 1
    shown = client.get(f"{HOME}/{body['id']}/shown").json()
    assert [page["id"] for page in shown["pages"]] == [page["id"] for page in body["pages"]]
    for page in shown["pages"]:
        for item in page["items"]:
            assert not item["error"], item
            assert item["study"].startswith("Studying")


def test_what_a_colleague_saved_is_never_overwritten(client: Client, editor: Any, brand: Brand) -> None:
    made = report(editor, brand)
    body = content_of(made)
    assert client.put(f"{HOME}/{made.pk}", {**body, "title": "Mine"}, JSON).json()["edition"] == 2
    answer = client.put(f"{HOME}/{made.pk}", {**body, "title": "Theirs"}, JSON)
    assert answer.status_code == 409
    assert Report.objects.get().title == "Mine"


def test_one_steps_back_and_forward_again(client: Client, editor: Any, brand: Brand) -> None:
    made = report(editor, brand)
    body = content_of(made)
    for title in ("First", "Second", "Third"):
        body = client.put(f"{HOME}/{made.pk}", {**body, "title": title}, JSON).json()
    versions = client.get(f"{HOME}/{made.pk}/versions").json()
    # Changes of one sitting are one step.
    assert [one["edition"] for one in versions] == [1]
    ReportVersion.objects.update(at=clock.now() - timedelta(hours=1))
    body = client.put(f"{HOME}/{made.pk}", {**body, "title": "Fourth"}, JSON).json()
    back = client.put(f"{HOME}/{made.pk}/versions", {"edition": 1}, JSON).json()
    assert back["title"] == "Weekly review"
    forward = client.put(f"{HOME}/{made.pk}/versions", {"edition": body["edition"]}, JSON).json()
    assert forward["title"] == "Fourth"
    named = client.post(f"{HOME}/{made.pk}/versions", {"name": "As sent"}, JSON)
    assert (named.status_code, named.json()["name"]) == (201, "As sent")
    assert client.put(f"{HOME}/{made.pk}/versions", {"edition": 999}, JSON).status_code == 404


def broken(body: dict[str, Any], path: str, value: Any) -> dict[str, Any]:
    found: Any = copy.deepcopy(body)
    at: Any = found
    *way, last = [int(part) if part.isdigit() else part for part in path.split(".")]
    for part in way:
        at = at[part]
    at[last] = value
    return dict(found)


@pytest.mark.parametrize(
    ("path", "value"),
    [
        ("pages", []), ("pages", "x"), ("pages", [7]), ("language", "xx"), ("edition", "x"), ("study", [1]),
        ("study", {"span": "tomorrow"}), ("study", {"nonsense": "1"}), ("study", {"tag": "x"}), ("study", {"first": "2026-13-01"}),
        ("look", {"accent": "red"}), ("look", {"accent": "#12345"}), ("look", 5),
        ("pages.0.ground", "url(x)"), ("pages.0.id", "UPPER"), ("pages.0.items.0.kind", "no.such"),
        ("pages.0.items.0.kind", 5), ("pages.0.items.0.params", {"metrics": ["a"]}),
        ("pages.0.items.0.params", {"nonsense": "1"}), ("pages.0.items.0.params", {"metrics": "x" * 500}),
        ("pages.0.items.0.x", 5), ("pages.0.items.0.w", 99), ("pages.0.items.0.x", "left"), ("pages.0.items.0.h", 0),
        ("pages.0.items.0.drawing", "cloud"), ("pages.0.items.0.study", "x"), ("pages.0.items.0.study", {"span": 3}),
        ("pages.0.items.0.asset", 9), ("pages.0.items.0.id", "a b"), ("pages.0.items.1.y", 1),
        ("pages.0.words", [[{"text": "x", "what": "nothing"}]]), ("pages.0.words", [["x"]]), ("pages.0.words", "x"),
        ("pages.0.words", [[{"text": "x" * 5000}]]), ("pages.0.words", [[]] * 50), ("look", {"logo": 12345}),
        ("title", ""), ("title", "x" * 200),
    ],
)  # fmt: skip
def test_what_is_not_whole_is_refused_and_says_where(
    client: Client, editor: Any, brand: Brand, path: str, value: Any
) -> None:
    made = report(editor, brand)
    answer = client.put(f"{HOME}/{made.pk}", broken(content_of(made), path, value), JSON)
    assert answer.status_code == 400, answer.json()
    assert answer.json()["errors"], answer.json()
    assert Report.objects.get().edition == 1


def test_names_and_pictures_are_the_reports_and_the_brands_own(
    client: Client, editor: Any, brand: Brand, stranger: Any
) -> None:
    made = report(editor, brand)
    body = content_of(made)
    twice = copy.deepcopy(body)
    twice["pages"][1]["items"][0]["id"] = twice["pages"][0]["items"][0]["id"]
    assert client.put(f"{HOME}/{made.pk}", twice, JSON).status_code == 400
    other = Membership.objects.get(user=stranger).brand
    theirs, ours = brought(stranger, other, picture()), brought(editor, brand, picture())
    assert client.put(f"{HOME}/{made.pk}", broken(body, "look.logo", theirs.pk), JSON).status_code == 400
    assert client.put(f"{HOME}/{made.pk}", broken(body, "look.logo", ours.pk), JSON).status_code == 200


def test_a_figure_is_put_into_a_report_from_where_it_stands(client: Client, editor: Any, brand: Brand) -> None:
    made = report(editor, brand, "blank")
    body = {"kind": "results.groups", "params": {"by": "tag"}, "study": {"network": "brevi"}, "drawing": "bars"}
    pages = [client.post(f"{HOME}/{made.pk}/items", body, JSON).json()["page"] for _ in range(5)]
    kept = Report.objects.get()
    assert pages[:4] == [kept.pages[0]["id"]] * 4
    assert pages[4] == kept.pages[1]["id"]
    assert kept.edition == 6
    item = kept.pages[0]["items"][0]
    assert (item["study"], item["params"], item["drawing"]) == ({"network": "brevi"}, {"by": "tag"}, "bars")
    for wrong in ({**body, "kind": "x"}, {**body, "params": {"by": "x"}}, {**body, "drawing": "x"}, {}):
        assert client.post(f"{HOME}/{made.pk}/items", wrong, JSON).status_code == 400


def test_a_copy_in_another_brand_leaves_behind_what_is_ours(
    client: Client, editor: Any, brand: Brand, stranger: Any
) -> None:
    other = Membership.objects.get(user=stranger).brand
    made = report(editor, brand)
    study = {"profile": "1", "tag": "2", "campaign": "3", "network": "brevi", "span": "last_7"}
    pages = copy.deepcopy(made.pages)
    pages[0]["items"][0]["study"] = study
    Report.objects.update(study=study, pages=pages, label="Clients")
    asked = {"brand": other.slug}
    assert client.post(f"{HOME}/{made.pk}/copy", asked, JSON).status_code == 404
    Membership.objects.create(user=editor, brand=other, role="viewer")
    assert client.post(f"{HOME}/{made.pk}/copy", asked, JSON).status_code == 403
    Membership.objects.filter(user=editor, brand=other).update(role="author")
    assert client.post(f"{HOME}/{made.pk}/copy", asked, JSON).status_code == 201
    copied = Report.objects.get(brand=other)
    assert copied.study == copied.pages[0]["items"][0]["study"] == {"network": "brevi", "span": "last_7"}
    assert copied.title == "Weekly review (copy)"
    own = client.post(f"{HOME}/{made.pk}/copy", {"is_template": True}, JSON).json()
    assert [one["id"] for one in client.get(f"{HOME}/beginnings").json()["own"]] == [own["id"]]
    from_own = client.post(HOME, {"own": own["id"], "title": "For them"}, JSON).json()
    assert (from_own["title"], from_own["study"]["tag"], from_own["is_template"]) == ("For them", "2", False)


def test_reports_are_found_labelled_taken_away_and_brought_back(client: Client, editor: Any, brand: Brand) -> None:
    first, second = report(editor, brand, title="Spring at Gnomon"), report(editor, brand, title="Autumn")
    Report.objects.filter(pk=second.pk).update(label="Clients")
    assert [one["title"] for one in client.get(HOME, {"text": "spring"}).json()["reports"]] == ["Spring at Gnomon"]
    found = client.get(HOME, {"label": "Clients"}).json()
    assert [one["title"] for one in found["reports"]] == ["Autumn"]
    assert found["labels"] == ["Clients"]
    assert client.put(f"{HOME}/{first.pk}/away", {"is_away": True}, JSON).status_code == 204
    assert [one["title"] for one in client.get(HOME).json()["reports"]] == ["Autumn"]
    assert client.get(f"{HOME}/{first.pk}").status_code == 404
    client.put(f"{HOME}/{first.pk}/away", {"is_away": False}, JSON)
    assert client.get(f"{HOME}/{first.pk}").status_code == 200


def test_who_may(editor: Any, brand: Brand, viewer: Any, stranger: Any, client_of: Any) -> None:
    made = report(editor, brand)
    body = content_of(made)
    looks = client_of(viewer)
    assert looks.get(f"{HOME}/{made.pk}/shown").status_code == 200
    assert looks.put(f"{HOME}/{made.pk}", body, JSON).status_code == 403
    assert looks.post(HOME, {"template": "weekly"}, JSON).status_code == 403
    assert looks.get(f"{HOME}/{made.pk}/links").status_code == 403
    away = client_of(stranger)
    for path in ("", "/shown", "/versions"):
        assert away.get(f"{HOME}/{made.pk}{path}").status_code == 404
        assert away.get(f"/api/brands/lantern-line/reports/{made.pk}{path}").status_code == 404


def test_the_list_costs_as_many_queries_for_two_reports_as_for_ten(
    client: Client, editor: Any, brand: Brand, django_assert_max_num_queries: Any
) -> None:
    for _ in range(10):
        report(editor, brand)
    with django_assert_max_num_queries(8):
        assert len(client.get(HOME).json()["reports"]) == 10
