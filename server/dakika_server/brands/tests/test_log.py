"""Promise: every change is told with who, what, before and after, and from where; it is found again, and stays as it was."""

import csv
import io
import re
from datetime import date, timedelta
from pathlib import Path
from typing import Any

import pytest
from django.apps import apps
from django.db import InternalError, ProgrammingError, connection, transaction
from django.test import Client

from dakika_server.accounts.models import User
from dakika_server.brands.log import HEAD
from dakika_server.brands.models import Brand, Campaign, Membership
from dakika_server.shared import audit, clock
from dakika_server.shared.log import VERBS, forget_old, words_of
from dakika_server.shared.models import AuditEntry, RowChange
from dakika_server.shared.row_changes import NEVER, NOTED

# Rows belong to entries by their transaction, so that these tests commit.
pytestmark = pytest.mark.django_db(transaction=True)
BASE = "/api/brands/orrery-house"
CAMPAIGN = {"name": "Night Openings", "first_day": "2026-11-01", "last_day": "2026-11-30"}


@pytest.fixture
def admin(editor: User, client_of: Any) -> Client:
    made: Client = client_of(editor)
    return made


def send(client: Client, path: str, method: str = "post", **body: Any) -> Any:
    return getattr(client, method)(f"{BASE}/{path}", body, content_type="application/json")


def log(client: Client, **asked: Any) -> list[dict[str, Any]]:
    answer = client.get(f"{BASE}/log", asked)
    assert answer.status_code == 200, answer.json()
    told: list[dict[str, Any]] = answer.json()["entries"]
    return told


def values(entry: dict[str, Any]) -> dict[str, tuple[Any, Any]]:
    return {one["name"]: (one["before"], one["after"]) for row in entry["rows"] for one in row["values"]}


def test_a_change_is_told_with_who_what_before_after_and_from_where(admin: Client) -> None:
    pk = send(admin, "campaigns", **CAMPAIGN).json()["id"]
    admin.put(
        f"{BASE}/campaigns/{pk}", {**CAMPAIGN, "name": "Night Openings II", "last_day": "2026-12-06"},
        content_type="application/json", headers={"x-forwarded-for": "203.0.113.9"},
    )  # fmt: skip
    changed, added = log(admin)
    assert (changed["who"], changed["words"], changed["name"]) == ("Ed", "changed campaign", "Night Openings II")
    assert values(changed) == {
        "name": ("Night Openings", "Night Openings II"), "last day": ("2026-11-30", "2026-12-06"),
    }  # fmt: skip
    assert changed["rows"][0]["way"] == "changed"
    assert changed["address"] in ("127.0.0.1", "203.0.113.9")
    assert (added["words"], added["rows"][0]["way"], values(added)["name"]) == (
        "added campaign", "made", (None, "Night Openings"),
    )  # fmt: skip


def test_what_a_statement_changes_of_many_rows_is_told_of_each(admin: Client, editor: User, brand: Brand) -> None:
    """Without a save() of each: by the database, whichever way it is done."""
    for n in range(3):
        Campaign.objects.create(brand=brand, name=f"C{n}", first_day=date(2026, 11, 1), last_day=date(2026, 11, 2))
    with transaction.atomic():
        Campaign.objects.filter(brand=brand).update(colour=4)
        audit.record(editor, "change_several", brand, brand_id=brand.pk)
    (entry,) = log(admin, text="several")
    assert [(row["name"], row["values"][0]["before"], row["values"][0]["after"]) for row in entry["rows"]] == [
        ("C0", 1, 4), ("C1", 1, 4), ("C2", 1, 4),
    ]  # fmt: skip


def test_what_was_rolled_back_is_not_told(editor: User, brand: Brand) -> None:
    with pytest.raises(ZeroDivisionError), transaction.atomic():
        Brand.objects.filter(pk=brand.pk).update(name="Other")
        audit.record(editor, "change_brand", brand, brand_id=brand.pk)
        raise ZeroDivisionError
    assert not AuditEntry.objects.exists()
    assert not RowChange.objects.filter(after__name="Other").exists()


def test_people_are_told_by_their_names(admin: Client, viewer: User, brand: Brand) -> None:
    other = User.objects.create(email="other@ninthbell.example", name="Otha")
    Membership.objects.create(user=other, brand=brand, role="author")
    pk = send(admin, "campaigns", **CAMPAIGN, owner=viewer.pk).json()["id"]
    send(admin, f"campaigns/{pk}", "put", **CAMPAIGN, owner=other.pk)
    assert values(log(admin)[0]) == {"owner": ("Vi", "Otha")}
    User.objects.filter(pk=other.pk).delete()
    assert log(admin)[0]["rows"][0]["values"][0]["before"] == "Vi"


def test_it_is_searched_and_narrowed(admin: Client, editor: User, viewer: User, brand: Brand) -> None:
    send(admin, "campaigns", **CAMPAIGN)
    send(admin, f"team/{viewer.pk}", "put", role="analyst")
    with transaction.atomic():
        audit.record(None, "make_batch", brand, brand_id=brand.pk)
    asked = {
        "night": ["added campaign"], "added": ["added campaign"], "analyst": ["changed role"], "openings added": ["added campaign"],
        "ed": ["changed role", "added campaign"], "nothing-like-it": [], "100%_": [], "made batch": ["made batch"],
    }  # fmt: skip
    for text, wanted in asked.items():
        found = [entry["words"] for entry in log(admin, text=text)]
        assert found == wanted or set(wanted) <= set(found), text
    assert [entry["words"] for entry in log(admin, person=0)] == ["made batch"]
    assert {entry["who"] for entry in log(admin, person=editor.pk)} == {"Ed"}
    assert [entry["words"] for entry in log(admin, subject="Membership")] == ["changed role"]
    today = clock.now().astimezone(brand.zone).date()
    assert len(log(admin, first=today, last=today)) == 3
    assert log(admin, last=today - timedelta(days=1)) == []
    choices = admin.get(f"{BASE}/log").json()
    assert [one["name"] for one in choices["people"]] == ["Ed", ""]
    assert [one["name"] for one in choices["subjects"]] == ["brand", "campaign", "membership"]


@pytest.mark.parametrize(
    "asked", [{"first": "2026-12-02", "last": "2026-12-01"}, {"person": "x"}, {"cursor": "zzz"}, {"first": "31-12"}]
)
def test_what_cannot_be_is_told(admin: Client, asked: dict[str, str]) -> None:
    assert admin.get(f"{BASE}/log", asked).status_code == 400
    assert log(admin, last="9999-12-31", text="\u202e%'\"; --") == []


def test_pages_tell_each_entry_once(admin: Client, editor: User, brand: Brand) -> None:
    instant = clock.now()
    AuditEntry.objects.bulk_create(
        AuditEntry(at=instant, actor_id=editor.pk, brand_id=brand.pk, action="tag_posts", subject="Brand", subject_id=n)
        for n in range(95)
    )
    seen, cursor = [], ""
    while True:
        page = admin.get(f"{BASE}/log", {"cursor": cursor}).json()
        seen += [entry["number"] for entry in page["entries"]]
        cursor = page["next"]
        if not cursor:
            break
    assert sorted(seen) == list(range(95))


def test_as_a_file_each_column_is_a_line_and_runs_nothing(admin: Client) -> None:
    send(admin, "campaigns", **{**CAMPAIGN, "name": "=1+1"})
    answer = admin.get(f"{BASE}/log/csv")
    rows = list(csv.reader(io.StringIO(b"".join(answer.streaming_content).decode())))
    assert tuple(rows[0]) == HEAD
    names = {row[10]: row[12] for row in rows[1:]}
    assert names["name"] == "'=1+1"
    assert {row[1] for row in rows[1:]} == {"Ed"}


def test_brands_do_not_see_each_others_log(admin: Client, stranger: User, client_of: Any) -> None:
    send(admin, "campaigns", **CAMPAIGN)
    theirs = client_of(stranger)
    assert theirs.get(f"{BASE}/log").status_code == 404
    assert theirs.get("/api/brands/lantern-line/log").json()["entries"] == []


@pytest.mark.parametrize("model", [AuditEntry, RowChange])
def test_it_cannot_be_edited(admin: Client, model: Any) -> None:
    send(admin, "campaigns", **CAMPAIGN)
    field = "action" if model is AuditEntry else "name"
    for attempt in (lambda: model.objects.update(**{field: "x"}), lambda: model.objects.all().delete()):
        with pytest.raises((InternalError, ProgrammingError), match="is not changed"), transaction.atomic():
            attempt()
    assert not model.objects.filter(**{field: "x"}).exists()
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("SET LOCAL dakika.erases_log = 'on'")
        with pytest.raises((InternalError, ProgrammingError)), transaction.atomic():
            model.objects.update(**{field: "x"})
        assert model.objects.all().delete()[0]


def test_it_ends_with_its_days_and_rows_of_no_entry_after_one(
    admin: Client, brand: Brand, monkeypatch: pytest.MonkeyPatch
) -> None:
    send(admin, "campaigns", **CAMPAIGN)
    Brand.objects.filter(pk=brand.pk).update(picture="/by/itself.png")
    assert forget_old(timedelta(days=30)) == (0, 0)
    later = clock.now() + timedelta(days=2)
    monkeypatch.setattr(clock, "now", lambda: later)
    of_no_entry = RowChange.objects.exclude(transaction__in=AuditEntry.objects.values("transaction")).count()
    assert of_no_entry >= 1
    assert forget_old(timedelta(days=30)) == (0, of_no_entry)
    assert values(log(admin)[0])["name"] == (None, "Night Openings")
    later = clock.now() + timedelta(days=40)
    monkeypatch.setattr(clock, "now", lambda: later)
    entries, rows = forget_old(timedelta(days=30))
    assert entries == 1
    assert rows >= 1
    assert log(admin) == []


def test_secrets_are_noted_nowhere(admin: Client) -> None:
    """Every column of every table that is noted: what opens something is left out by name."""
    opens = re.compile(r"(password|secret|token|digest|sealed|private|verifier|(^|_)keys?$)")
    models = {model._meta.db_table: model for model in apps.get_models()}
    for table in NOTED:
        columns = {str(field.column) for field in models[table]._meta.concrete_fields}
        assert {column for column in columns if opens.search(column)} <= {*NEVER}, table
    key = send(admin, "team/invitations", email="toma@ninthbell.example", role="viewer").json()["address"]
    from dakika_server.shared.keys import digest_of_key

    told = str(list(RowChange.objects.values()))
    assert "toma@ninthbell.example" in told
    assert digest_of_key(key.partition("#")[2]) not in told


def test_long_texts_are_cut(brand: Brand) -> None:
    Campaign.objects.create(
        brand=brand, name="C", first_day=date(2026, 11, 1), last_day=date(2026, 11, 2), profiles=list(range(5000))
    )
    (row,) = RowChange.objects.filter(table="brands_campaign")
    assert row.after is not None
    assert (len(row.after["profiles"]), row.after["profiles"][-1], row.after["name"]) == (601, "…", "C")


def test_every_action_is_told_in_words() -> None:
    """Actions begin with a verb that is told as done."""
    root = Path(__file__).parents[2]
    text = "\n".join(path.read_text() for path in root.rglob("*.py") if "tests" not in path.parts)
    actions = set(re.findall(r"audit\.record\(\s*[\w.]+,\s*\"([a-z_]+)\"", text))
    assert len(actions) > 100
    assert {one.partition("_")[0] for one in actions} <= {*VERBS}, "a verb is missing in shared/log.py"
    assert words_of("add_link_domain") == "added link domain"
