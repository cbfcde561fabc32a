"""Promise: everything of a brand or a person can be had as a file, without what opens anything; and taken out, so that
nothing of them is left in any table and nothing of anybody else is missing.

Held against the database itself: every table that there is, each row of it.
"""

import io
import json
import random
import re
import zipfile
from pathlib import Path
from typing import Any

import pytest
from django.core.management import CommandError, call_command
from django.db import connection

from upgrades.make import NOW, fill

LEFT_OUT = ("django_", "auth_", "axes_", "procrastinate_", "shared_")


@pytest.fixture
def world(db: Any, monkeypatch: pytest.MonkeyPatch) -> Any:
    """A brand of which everything is kept, and another one beside it with a few things of its own."""
    from dakika_server.accounts.models import User
    from dakika_server.brands.models import Brand, Campaign, Membership
    from dakika_server.links.models import LinkUse
    from dakika_server.links.testing import a_link, click
    from dakika_server.sources.models import Post

    monkeypatch.setenv("DAKIKA_FIXED_NOW", NOW)
    fill(random.Random(5))
    brand = Brand.objects.get()
    other = Brand.objects.create(name="Lantern Line", slug="lantern-line", time_zone="Europe/Athens")
    toma = User.objects.create(email="toma@ninthbell.example", name="Toma Quill", password="x")
    for one in (brand, other):
        Membership.objects.create(user=toma, brand=one, role="admin")
    Campaign.objects.create(
        brand=other, name="Night ferries", first_day="2026-11-01", last_day="2026-11-30", owner=toma
    )
    link = a_link(other, "ferry")
    click(link, 3, count=5)
    # What stands between two brands: it must not hold either of them.
    LinkUse.objects.create(link=link, post=Post.objects.filter(brand=brand).earliest("pk"))
    return brand


def everything() -> dict[str, list[dict[str, Any]]]:
    """Every row of ours, by table."""
    found: dict[str, list[dict[str, Any]]] = {}
    with connection.cursor() as cursor:
        for table in sorted(connection.introspection.table_names(cursor)):
            if table.startswith(LEFT_OUT):
                continue
            cursor.execute(f'SELECT to_jsonb(t) FROM "{table}" t')
            rows = [row if isinstance(row, dict) else json.loads(row) for (row,) in cursor.fetchall()]
            found[table] = sorted(rows, key=str)
    return found


def theirs(rows: dict[str, list[dict[str, Any]]], brand_id: int) -> dict[str, int]:
    return {
        table: count for table, told in rows.items()
        if (count := sum(row.get("brand_id") == brand_id for row in told))
    }  # fmt: skip


def test_every_table_of_ours_is_a_brands_a_persons_or_named_here() -> None:
    from dakika_server.brands.everything.tables import our_models, paths_to_brand

    nobodys = {one._meta.db_table for one in our_models() if one not in paths_to_brand()}
    assert nobodys == {
        # Of people, in all their brands.
        "accounts_user", "accounts_usersession",
        "accounts_totpsecret", "accounts_recoverycode", "accounts_passkey", "accounts_wrongcode", "notices_noticehours",
        "notices_noticebrowser",
        # Of the installation.
        "accounts_firstkey", "links_journal", "links_visitorsalt", "notices_mailfile", "notices_pushkey",
        "shared_rowchange", "shared_callcount",
    }  # fmt: skip


def test_a_brand_goes_with_all_its_rows_and_no_others(world: Any) -> None:
    from dakika_server.brands.everything import erase_brand
    from dakika_server.brands.models import Brand
    from dakika_server.shared.models import AuditEntry, RowChange

    other = Brand.objects.get(slug="lantern-line")
    before, number = everything(), world.pk
    assert len(theirs(before, number)) > 25, "there is something to take out"
    erase_brand(world)
    connection.check_constraints()
    after = everything()
    assert theirs(after, number) == {}
    assert not AuditEntry.objects.filter(brand_id=number).exists()
    assert not RowChange.objects.filter(before__brand_id=number).exists(), "what was noted of its going is gone as well"
    kept = {table: [r for r in rows if r.get("brand_id") == other.pk] for table, rows in before.items()}
    assert {t: [r for r in rows if r.get("brand_id") == other.pk] for t, rows in after.items()} == kept
    assert after["accounts_user"] == before["accounts_user"], "people stay"
    # Tables that lead to a brand by other rows: nothing that was the brand's is left there either.
    from dakika_server.brands.everything.tables import paths_to_brand, rows_of_brand

    for model in paths_to_brand():
        assert not rows_of_brand(model, number).exists(), model
        if model._meta.db_table in after:
            assert model._default_manager.count() == len(after[model._meta.db_table])


def test_what_is_left_can_be_worked_with(world: Any) -> None:
    from dakika_server.accounts.models import User
    from dakika_server.brands.everything import erase_brand
    from dakika_server.links.models import ClickTotal
    from django.test import Client

    erase_brand(world)
    client = Client()
    client.force_login(
        User.objects.get(email="toma@ninthbell.example"), backend="django.contrib.auth.backends.ModelBackend"
    )
    assert client.get("/api/brands/orrery-house").status_code == 404
    assert client.get("/api/brands/lantern-line/links").json()["links"][0]["code"] == "ferry"
    assert ClickTotal.objects.get().people == 5


def test_an_archive_holds_every_row_and_nothing_that_opens_anything(world: Any, tmp_path: Path) -> None:
    from dakika_server.brands.everything import give_brand

    counts = give_brand(world, tmp_path / "all.zip")
    rows = everything()
    with zipfile.ZipFile(tmp_path / "all.zip") as archive:
        assert "Orrery House" in archive.read("README.txt").decode()
        for table, told in theirs(rows, world.pk).items():
            lines = [json.loads(line) for line in archive.read(f"tables/{table}.jsonl").decode().splitlines()]
            assert len(lines) == told == counts[table], table
        names = {key for name in archive.namelist() if name.endswith(".jsonl")
                 for line in archive.read(name).decode().splitlines()[:1] for key in json.loads(line)}  # fmt: skip
        text = b"".join(archive.read(name) for name in archive.namelist()).decode()
    assert [name for name in names if re.search(r"password|secret|token|digest|sealed|private", name)] == []
    assert "argon2" not in text


def test_a_person_sees_all_that_names_them(world: Any) -> None:
    from dakika_server.accounts.models import User
    from dakika_server.brands.everything import person_as_text

    told = json.loads(person_as_text(User.objects.get(email="toma@ninthbell.example")))
    assert told["of"] == {"name": "Toma Quill", "email": "toma@ninthbell.example"}
    assert [one["name"] for one in told["tables"]["brands_campaign"]] == ["Night ferries"]
    assert len(told["tables"]["brands_membership"]) == 2
    assert "password" not in told["tables"]["accounts_user"][0]


def told_of(toma: Any, brand: Any, reader: Any) -> None:
    """What says of a person by name that they did something: to a colleague, to another program, under a post."""
    from dakika_server.notices.actions import notify
    from dakika_server.plan.models import PlannedPost, Remark
    from dakika_server.shared import audit, clock
    from dakika_server.webhooks.models import WebHook

    WebHook.objects.create(
        brand=brand, name="Board", address="https://board.example/", kinds=["brand.changed"], secret=b"x",
        made_at=clock.now(),
    )  # fmt: skip
    audit.record(toma, "change_brand", brand, brand_id=brand.pk)
    notify(brand, kind="task", key="t", text=f"{toma.name} gave you a task.", people=[reader.pk])
    planned = PlannedPost.objects.create(brand=brand, created_at=clock.now())
    audit.record(toma, "remark", planned, brand_id=brand.pk, by=toma.name)
    Remark.objects.create(planned_post=planned, person=toma, name=toma.name, text="Later, please.", at=clock.now())


def test_a_person_goes_and_nothing_names_them(world: Any) -> None:
    from dakika_server.accounts.models import User
    from dakika_server.brands.everything import erase_person
    from dakika_server.brands.models import Campaign, Membership
    from dakika_server.notices.models import Mail
    from dakika_server.shared import audit, clock
    from dakika_server.shared.models import AuditEntry

    toma = User.objects.get(email="toma@ninthbell.example")
    first = User.objects.exclude(pk=toma.pk).earliest("pk")
    other = Membership.objects.get(user=toma, brand__slug="lantern-line").brand
    Membership.objects.get_or_create(user=first, brand=other, defaults={"role": "admin"})
    toma.name = "Toma Q."
    toma.save()
    audit.record(toma, "change_account", toma, brand_id=None)
    audit.record(toma, "add_campaign", Campaign.objects.get(name="Night ferries"), brand_id=other.pk)
    Mail.objects.create(key="k", to=toma.email, subject="Hello Toma", text="Toma", made_at=clock.now(),
                        next_at=clock.now(), state="sent")  # fmt: skip
    told_of(toma, other, first)
    number = toma.pk
    erase_person(toma)
    connection.check_constraints()
    text = str(everything()) + str(list(AuditEntry.objects.values()))
    with connection.cursor() as cursor:
        cursor.execute("SELECT string_agg(to_jsonb(t)::text, '') FROM shared_rowchange t")
        text += cursor.fetchone()[0] or ""
    assert "toma@" not in text
    assert re.findall(".{80}Toma.{40}", text) == []
    assert Campaign.objects.get(name="Night ferries").owner == first, "what was theirs is somebody else's"
    assert AuditEntry.objects.get(action="add_campaign", brand_id=other.pk).actor_id == number, "that it was done stays"
    assert not User.objects.filter(pk=number).exists()


def test_the_last_admin_does_not_go(world: Any) -> None:
    from dakika_server.accounts.models import User

    with pytest.raises(CommandError, match="Lantern Line has no other admin"):
        call_command("everything", "erase", "person", "toma@ninthbell.example", "--yes")
    assert User.objects.filter(email="toma@ninthbell.example").exists()


def test_the_command_asks_and_says(world: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: Any) -> None:
    from dakika_server.brands.models import Brand

    with pytest.raises(CommandError, match="There is no brand nowhere here"):
        call_command("everything", "erase", "brand", "nowhere")
    with pytest.raises(CommandError, match="cannot be written"):
        call_command("everything", "export", "brand", "orrery-house", tmp_path / "no" / "such.zip")
    call_command("everything", "export", "brand", "orrery-house", tmp_path / "all.zip")
    call_command("everything", "export", "person", "TOMA@ninthbell.example", tmp_path / "toma.json")
    assert json.loads((tmp_path / "toma.json").read_text())["of"]["name"] == "Toma Quill"
    monkeypatch.setattr("sys.stdin", io.StringIO("orrery\n"))
    with pytest.raises(CommandError, match="Nothing was taken out"):
        call_command("everything", "erase", "brand", "orrery-house")
    monkeypatch.setattr("sys.stdin", io.StringIO("orrery-house\n"))
    call_command("everything", "erase", "brand", "orrery-house")
    assert not Brand.objects.filter(slug="orrery-house").exists()
    assert "rows went" in capsys.readouterr().out
