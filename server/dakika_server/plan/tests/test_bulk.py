"""Promise: a table becomes posts row by row, each checked by every network's rules, and all of it can be taken back."""

import csv
import io
import zipfile
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from openpyxl import Workbook

from dakika_server.brands.models import Brand, Campaign
from dakika_server.measures.testing import make_profile
from dakika_server.media.checking import check
from dakika_server.media.models import Asset
from dakika_server.media.testing import brought, picture
from dakika_server.plan import bulk
from dakika_server.plan.bulk import make_posts
from dakika_server.plan.models import Batch, BatchRow, PlannedPost, Version
from dakika_server.plan.reviewing import set_review_rules
from dakika_server.shared import clock
from dakika_server.timing.rhythms import keep_rhythm

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("media_folder")]
BASE = "/api/brands/orrery-house/plan"
JSON = "application/json"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def day(offset: int) -> str:
    return (clock.now() + timedelta(days=offset)).strftime("%Y-%m-%d")


def table(*rows: list[Any], header: str = "date,time,network,text,link,picture,campaign") -> bytes:
    out = io.StringIO()
    write = csv.writer(out)
    write.writerow(header.split(","))
    write.writerows(rows)
    return out.getvalue().encode()


def bring(client: Client, content: bytes, name: str = "december.csv") -> Any:
    return client.post(f"{BASE}/batches", {"file": SimpleUploadedFile(name, content)})


def choose(client: Client, told: dict[str, Any], **choices: Any) -> Any:
    body = {"columns": told["columns"], "choices": {**told["choices"], **choices}}
    return client.put(f"{BASE}/batches/{told['id']}", body, JSON)


def make(client: Client, told: dict[str, Any], **more: Any) -> Any:
    made = client.post(f"{BASE}/batches/{told['id']}/posts", more, JSON)
    if made.status_code == 202:
        make_posts(told["id"])
    return made


def wrong(told: dict[str, Any]) -> list[set[str]]:
    return [{one["field"] for one in row["problems"] if one["is_blocking"]} for row in told["rows"]]


def test_every_kind_of_error_is_told_where_it_is(client: Client, brand: Brand, editor: Any) -> None:
    make_profile(brand, "commons"), make_profile(brand, "pictor")
    Campaign.objects.create(brand=brand, name="Comets", first_day=clock.now().date(), last_day=clock.now().date())
    brought(editor, brand, picture(), name="clock.jpg")
    told = bring(client, table(
        [day(2), "19:30", "Commons", "Doors at eight", "", "", "comets"],
        [day(2), "19:30", "Pictor", "A picture is missing", "", "", ""],
        [day(2), "19:30", "Pictor", "With one", "", "clock.jpg", ""],
        [day(2), "19:30", "Pictor", "Of nobody", "", "other.jpg", ""],
        [day(2), "25:00", "Commons", "No such time", "", "", ""],
        [day(-2), "19:30", "Commons", "Over", "", "", ""],
        [day(2), "19:30", "Nowhere", "Whose?", "", "", ""],
        [day(2), "19:30", "", "Whose, again?", "", "", ""],
        [day(2), "19:30", "Commons", "", "", "", ""],
        [day(2), "19:30", "Commons", "x", "orrery", "", "Stars"],
        [day(2), "19:30", "Commons, Pictor", "y" * 5001, "", "clock.jpg", ""],
    )).json()  # fmt: skip
    assert wrong(told) == [
        set(), {"media"}, set(), {"media"}, {"at"}, {"at"}, {"profiles"}, {"profiles"}, {"text"}, {"link", "campaign"},
        {"text"},
    ]  # fmt: skip
    assert told["good"] == 2
    assert make(client, told).status_code == 409
    made = client.get(f"{BASE}/batches/{told['id']}/wrong")
    rows = list(csv.reader(io.StringIO(made.content.decode())))
    assert (len(rows), rows[0][-1], rows[1][-2]) == (10, "what is wrong", "3")


def test_good_ones_alone_are_made_with_links_and_files_and_all_is_taken_back(
    client: Client, brand: Brand, editor: Any
) -> None:
    commons, brevi = make_profile(brand, "commons"), make_profile(brand, "brevi")
    asset = brought(editor, brand, picture(), name="clock.jpg")
    told = bring(client, table(
        [day(2), "19:30", "Commons;Brevi", "Doors at eight", "https://orrery.example/doors", "clock.jpg", ""],
        [day(2), "25:00", "Commons", "Bad", "", "", ""],
    )).json()  # fmt: skip
    assert make(client, told, only_good=True).status_code == 202
    post = PlannedPost.objects.get()
    assert (post.state, post.media, post.scheduled_at.strftime("%H:%M")) == ("draft", [asset.pk], "19:30")  # type: ignore[union-attr]
    versions = {version.profile_id: version for version in post.versions.all()}
    assert set(versions) == {commons.pk, brevi.pk}
    assert versions[commons.pk].link_id != versions[brevi.pk].link_id
    assert "https://orrery.example/doors" not in versions[brevi.pk].text
    assert client.get(f"{BASE}/batches/{told['id']}").json()["made"] == 1
    assert make(client, told, only_good=True).status_code == 409
    assert client.delete(f"{BASE}/batches/{told['id']}/posts").json() == {"posts": 1}
    assert (PlannedPost.objects.count(), Batch.objects.get().state) == (0, "undone")


def test_nothing_is_taken_back_once_one_is_out(client: Client, brand: Brand) -> None:
    make_profile(brand, "commons")
    told = bring(client, table(*[[day(2), f"1{i}:00", "Commons", f"Post {i}", "", "", ""] for i in range(3)])).json()
    make(client, told)
    Version.objects.filter(text="Post 1").update(state="published")
    assert client.delete(f"{BASE}/batches/{told['id']}/posts").status_code == 409
    assert PlannedPost.objects.count() == 3


def test_a_mended_row_is_good_and_the_file_stays_as_it_came(client: Client, brand: Brand) -> None:
    make_profile(brand, "commons")
    told = bring(client, table([day(2), "25:00", "Nowhere", "Doors", "", "", ""])).json()
    path = f"{BASE}/batches/{told['id']}/rows/2"
    told = client.put(path, {"values": {"at": f"{day(2)} 19:30", "profiles": "Commons"}}, JSON).json()
    assert wrong(told) == [set()]
    assert BatchRow.objects.get().cells[1] == "25:00"
    assert client.put(path, {"values": {"colour": "red"}}, JSON).status_code == 400
    assert client.put(f"{BASE}/batches/{told['id']}/rows/99", {"values": {"text": "x"}}, JSON).status_code == 404


def test_times_are_spaced_or_put_into_free_standing_slots(client: Client, brand: Brand, editor: Any) -> None:
    profile = make_profile(brand, "commons")
    told = bring(client, table(*[["", "", "Commons", f"Post {i}", "", "", ""] for i in range(4)])).json()
    assert wrong(told) == [set()] * 4  # drafts may wait without a time
    first = clock.now().replace(microsecond=0) + timedelta(days=1)
    assert choose(client, told, times="spaced").status_code == 400
    told = choose(client, told, times="spaced", first=first.isoformat(), minutes=90).json()
    assert [datetime.fromisoformat(row["at"]) - first for row in told["rows"]] == [
        timedelta(minutes=90 * i) for i in range(4)
    ]
    keep_rhythm(editor, brand, profile.pk, [(60 * 19, False), (3 * 1440 + 60 * 12, False)], {}, None)
    told = choose(client, told, times="slots", becomes="scheduled").json()
    ats = [datetime.fromisoformat(row["at"]).astimezone(brand.zone) for row in told["rows"]]
    assert ats == sorted(set(ats))
    assert {(at.weekday(), at.hour) for at in ats} == {(0, 19), (3, 12)}
    make(client, told)
    assert sorted(PlannedPost.objects.values_list("scheduled_at", flat=True)) == [at.astimezone(UTC) for at in ats]
    assert set(PlannedPost.objects.values_list("state", flat=True)) == {"scheduled"}
    # The next table gets the slots after those.
    again = bring(client, table(["", "", "Commons", "Another", "", "", ""])).json()
    assert datetime.fromisoformat(choose(client, again, times="slots").json()["rows"][0]["at"]) > ats[-1]


def test_where_somebody_has_to_say_yes_they_wait_for_it(client: Client, brand: Brand, editor: Any) -> None:
    make_profile(brand, "commons")
    set_review_rules(editor, brand, steps=["guest"], may_approve_own=False, remind_hours=24)
    told = bring(client, table([day(2), "19:30", "Commons", "Doors", "", "", ""])).json()
    told = choose(client, told, becomes="scheduled").json()
    make(client, told)
    assert PlannedPost.objects.get().state == "in_review"


def test_cut_off_while_making_it_goes_on_and_makes_none_twice(
    client: Client, brand: Brand, monkeypatch: pytest.MonkeyPatch
) -> None:
    make_profile(brand, "commons")
    told = bring(client, table(*[[day(2), f"1{i}:00", "Commons", f"Post {i}", "", "", ""] for i in range(5)])).json()
    client.post(f"{BASE}/batches/{told['id']}/posts", {}, JSON)
    real, done = bulk._make, []

    class Killed(BaseException):
        """As a kill."""

    def dies(*args: Any) -> None:
        if len(done) == 2:
            raise Killed
        done.append(1)
        real(*args)

    with monkeypatch.context() as patched:
        patched.setattr(bulk, "_make", dies)
        with pytest.raises(Killed):
            make_posts(told["id"])
    assert bulk.making() == [told["id"]]
    make_posts(told["id"])
    assert sorted(PlannedPost.objects.values_list("text", flat=True)) == [f"Post {i}" for i in range(5)]
    assert Batch.objects.get().state == "made"


def test_workbooks_too_and_what_is_no_table_is_said(client: Client, brand: Brand) -> None:
    make_profile(brand, "commons")
    book = Workbook()
    sheet = book.active
    sheet.append(["Date", "Time", "Channel", "Text"])
    sheet.append(
        [
            (clock.now() + timedelta(days=3)).replace(tzinfo=None, hour=0, minute=0, second=0, microsecond=0),
            "18:15",
            "Commons",
            "From a workbook",
        ]
    )
    out = io.BytesIO()
    book.save(out)
    told = bring(client, out.getvalue(), "december.xlsx").json()
    assert (told["good"], told["rows"][0]["written_at"][-5:]) == (1, "18:15")
    for content in (b"%PDF-1.4 x", b"a,b\n", b"PK\x03\x04broken", b"\x00" * 50):
        assert bring(client, content).status_code == 400


def test_no_more_than_a_thousand_rows_and_what_is_left_out_is_counted(client: Client, brand: Brand) -> None:
    make_profile(brand, "commons")
    told = bring(client, table(*[[day(2), "19:30", "Commons", f"Post {i}", "", "", ""] for i in range(1003)])).json()
    assert (len(told["rows"]), told["left_out"]) == (1000, 3)


def test_tables_are_the_brands_own(client: Client, brand: Brand, viewer: Any, stranger: Any, client_of: Any) -> None:
    make_profile(brand, "commons")
    told = bring(client, table([day(2), "19:30", "Commons", "Doors", "", "", ""])).json()
    at = f"/batches/{told['id']}"
    assert client_of(stranger).get(f"/api/brands/lantern-line/plan{at}").status_code == 404
    assert client_of(stranger).delete(f"/api/brands/lantern-line/plan{at}").status_code == 404
    assert client_of(viewer).get(f"{BASE}{at}").status_code == 200
    assert bring(client_of(viewer), table(["a"])).status_code == 403
    assert client_of(viewer).post(f"{BASE}{at}/posts", {}, JSON).status_code == 403
    assert client.delete(f"{BASE}{at}").status_code == 204


def test_a_row_that_breaks_is_told_and_the_others_are_made(
    client: Client, brand: Brand, monkeypatch: pytest.MonkeyPatch
) -> None:
    make_profile(brand, "commons")
    told = bring(client, table(*[[day(2), f"1{i}:00", "Commons", f"Post {i}", "", "", ""] for i in range(3)])).json()
    real = bulk.save_planned_post

    def breaks(*args: Any, **values: Any) -> Any:
        if values["common"].text == "Post 1":
            raise RuntimeError("nobody thought of it")
        return real(*args, **values)

    monkeypatch.setattr(bulk, "save_planned_post", breaks)
    make(client, told)
    after = client.get(f"{BASE}/batches/{told['id']}").json()
    assert (after["state"], after["made"]) == ("made", 2)
    assert [bool(row["made_problem"]) for row in after["rows"]] == [False, True, False]


def test_what_was_exported_comes_back_as_it_was(client: Client, brand: Brand, editor: Any) -> None:
    profile = make_profile(brand, "commons")
    told = bring(client, table([day(2), "19:30", "Commons", "=Doors", "https://orrery.example/d", "", ""])).json()
    make(client, told)
    again = client.get(f"{BASE}/export?form=csv&first={day(1)}&last={day(3)}").content
    (row,) = bring(client, again).json()["rows"]
    assert (row["is_good"], row["written_at"], row["profiles"]) == (True, f"{day(2)} 19:30", [profile.pk])
    assert row["values"]["text"].startswith("=Doors")
    assert row["values"]["link"] == "https://orrery.example/d"


def zipped(**files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, content in files.items():
            archive.writestr(name.replace("__", "."), content)
    return out.getvalue()


def bring_zip(client: Client, told: dict[str, Any], content: bytes) -> Any:
    file = SimpleUploadedFile("december.zip", content, "application/zip")
    return client.post(f"{BASE}/batches/{told['id']}/pictures", {"file": file})


def test_pictures_in_an_archive_are_found_by_the_names_in_the_rows(client: Client, brand: Brand, editor: Any) -> None:
    make_profile(brand)
    # The library has this very picture under another name, and another one under this name.
    known = brought(editor, brand, picture(40, 40), name="from-last-year.jpg")
    brought(editor, brand, picture(30, 30), name="roof.jpg")
    told = bring(client, table(
        [day(3), "10:00", "Commons", "The roof", "", "roof.jpg", ""],
        [day(4), "10:00", "Commons", "The dome", "", "dome.png", ""],
        [day(5), "10:00", "Commons", "The door", "", "door.jpg", ""],
    )).json()  # fmt: skip
    assert [row["is_good"] for row in told["rows"]] == [True, False, False]
    answer = bring_zip(client, told, zipped(roof__jpg=picture(40, 40), dome__png=picture(50, 50), notes__txt=b"x"))
    assert (answer.json()["brought"], answer.json()["left_out"]) == (2, 1)
    assert answer.json()["left"][0]["name"] == "notes.txt"
    for asset in Asset.objects.filter(state="checking"):
        check(asset.pk)
    rows = client.get(f"{BASE}/batches/{told['id']}").json()["rows"]
    assert [row["is_good"] for row in rows] == [True, True, False]
    make(client, told, only_good=True)
    assert PlannedPost.objects.get(text="The roof").media == [known.pk]
    assert len(PlannedPost.objects.get(text="The dome").media) == 1
    # What is made takes no pictures any more.
    assert bring_zip(client, told, zipped(a__jpg=picture())).status_code == 409


def test_an_archive_that_is_none_or_of_elsewhere(
    client: Client, brand: Brand, viewer: Any, stranger: Any, client_of: Any
) -> None:
    make_profile(brand)
    told = bring(client, table([day(3), "10:00", "Commons", "The roof", "", "roof.jpg", ""])).json()
    for content in (b"no archive", zipped(), zipped(a__txt=b"x")):
        answer = bring_zip(client, told, content)
        assert answer.status_code == 400
        assert answer.json()["errors"]["file"]
    # One that is called a picture and is none is looked into by the worker, and refused there.
    bring_zip(client, told, zipped(roof__jpg=b"<script>alert(1)</script>"))
    check(Asset.objects.get().pk)
    rows = client.get(f"{BASE}/batches/{told['id']}").json()["rows"]
    assert not rows[0]["is_good"]
    assert bring_zip(client_of(viewer), told, zipped(a__jpg=picture())).status_code == 403
    assert bring_zip(client_of(stranger), told, zipped(a__jpg=picture())).status_code == 404
