"""Promise: a file neither makes one post of two nor two of one, and what it brought can be taken out in any order."""

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from dakika_server.measures.testing import make_profile
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Import, Post, PostReading, PostSource, Profile
from dakika_server.sources.testing import FILES, bring_in, brought, taken_out, upload

pytestmark = pytest.mark.django_db
AT = datetime(2026, 10, 20, 9, 30, 17, tzinfo=UTC)
TEXT = "A clock that only strikes at noon, and why"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Any:
    return client_of(editor)


@pytest.fixture
def known(brand: Any) -> Profile:
    """A profile whose network brought one post, with its seconds and its own identifier and address."""
    profile = make_profile(brand)
    take_posts(profile, [
        PostIn(external_id="n1", published_at=AT, format="text", text=TEXT, url="https://commons.example/o/n1",
               readings=[(AT + timedelta(hours=70), {"reactions": 5}, None)])
    ])  # fmt: skip
    return profile


@pytest.mark.parametrize(
    "row",
    [
        "date,id,text,likes\n2026-10-20T09:30:17Z,n1,%s,9\n",
        "date,link,text,likes\n2026-10-20T09:30:00Z,http://www.commons.example/o/n1/?utm_source=x,,9\n",
        "date,id,link,likes\n2026-10-20T09:30:00Z,export-77,https://commons.example/o/n1/,9\n",
        "date,id,text,likes\n2026-10-20T09:30:00Z,export-77,%s,9\n",
        "date,text,likes\n2026-10-20T09:30:00Z,%s,9\n",
        "date,text,likes\n20/10/2026,%s,9\n",
        "date,text,likes\n2026-10-20T10:30:00+01:00,%s,9\n",
    ],
    ids=[
        "identifier",
        "address",
        "own id, address",
        "own id, text and minute",
        "text and minute",
        "text and day",
        "zone",
    ],
)
def test_a_post_that_is_known_is_not_doubled(row: str, known: Profile, client: Any) -> None:
    rows = (row % TEXT if "%s" in row else row).replace(TEXT, f'"{TEXT}"')
    number = upload(client, rows).json()["item"]["id"]
    told = client.put(f"{FILES}/{number}", {"profile_id": known.pk}, content_type="application/json").json()
    assert told["known_in_sample"] == {"known": 1, "together": 0, "rows": 1}
    done = bring_in(client, number, profile_id=known.pk)
    assert (done.posts_added, done.known, done.added) == (0, 1, 1)
    assert Post.objects.get().external_id == "n1"
    assert PostReading.objects.filter(reactions=9).count() == 1


def test_other_posts_of_the_same_minute_day_or_page_stay_apart(known: Profile, client: Any) -> None:
    rows = (
        "date,id,text,link,likes\n"
        "2026-10-20T09:30:00Z,a,Another text of the same minute altogether,,1\n"
        f'2026-10-21T09:30:00Z,b,"{TEXT}",,2\n'
        "2026-10-20T15:00:00Z,c,Two posts that lead to one page: the first,https://a.example/shop,3\n"
        "2026-10-20T16:00:00Z,d,Two posts that lead to one page: the second,https://a.example/shop,4\n"
    )
    done = brought(client, rows, profile_id=known.pk)
    assert (done.posts_added, done.known, done.refused) == (4, 0, 0)


def test_one_identifier_over_other_instants_or_texts_is_refused_by_row(client: Any) -> None:
    rows = (
        "date,id,text,likes\n2026-10-01T10:00Z,x1,One text that is long enough,1\n"
        "2026-10-05T10:00Z,x1,One text that is long enough,2\n"
        "2026-10-01T10:00Z,x1,Quite another text that is long too,3\n"
        "2026-10-01T10:00Z,x1,One text that is long enough,4\n"
    )
    done = brought(client, rows)
    assert (done.posts_added, done.refused, done.together) == (1, 2, 1)
    messages = list(done.problems.order_by("row").values_list("row", "column", "message"))
    assert messages[0][:2] == (3, "id")
    assert "row 2 has the same identifier with another date" in messages[0][2]
    assert "another text" in messages[1][2]


def test_an_identifier_that_belongs_to_an_old_post_of_other_words_is_refused(known: Profile, client: Any) -> None:
    done = brought(
        client, "date,id,text,likes\n2026-06-01T10:00Z,n1,Something else entirely here,1\n", profile_id=known.pk
    )
    assert (done.refused, Post.objects.count()) == (1, 1)
    assert "belongs to a post of 2026-10-20" in done.problems.get().message


def test_rows_that_say_neither_text_nor_address_are_as_many_posts_as_they_are(client: Any) -> None:
    rows = "date,likes,comments\n" + "".join(f"2026-10-0{d},{n},{n}\n" for d in (1, 2) for n in (7, 7, 9))
    first = brought(client, rows)
    assert (first.posts_added, first.together) == (6, 0)
    again = brought(client, rows + "2026-10-03,1,1\n", profile_id=first.profile_id)
    assert (again.posts_added, again.known, Post.objects.count()) == (1, 6, 7)


def test_places_of_rows_alike_go_on_after_a_kill(client: Any, monkeypatch: Any) -> None:
    from dakika_server.sources.files import reading

    monkeypatch.setattr(reading, "ROWS_AT_FIRST", 2)
    monkeypatch.setattr(reading, "ROWS_AT_ONCE", 2)
    number = upload(client, "date,likes\n" + "2026-10-01,7\n" * 6).json()["item"]["id"]
    client.post(f"{FILES}/{number}", {"new_profile": "X", "network": "commons"}, content_type="application/json")
    commit, calls = reading._commit, []

    def dies(*args: Any) -> None:
        calls.append(1)
        if len(calls) == 3:
            raise KeyboardInterrupt
        commit(*args)

    monkeypatch.setattr(reading, "_commit", dies)
    with pytest.raises(KeyboardInterrupt):
        reading.read_into(number)
    monkeypatch.setattr(reading, "_commit", commit)
    reading.read_into(number)
    assert (Post.objects.count(), Import.objects.get(pk=number).posts_added) == (6, 6)


# -- what is remembered


ODD = "A;B;C\n{};Words that are long enough;{}\n"


def settled(client: Any, rows: str, profile: Profile, **options: Any) -> Import:
    number = upload(client, rows).json()["item"]["id"]
    mapping = {"published_at": [0], "text": [1], "saves": [2]}
    answer = client.put(f"{FILES}/{number}", {"mapping": mapping, "options": options}, content_type="application/json")
    assert answer.status_code == 200, answer.content
    return bring_in(client, number, profile_id=profile.pk)


def test_what_is_remembered_is_of_the_profile_it_was_told_for(brand: Any, client: Any) -> None:
    one, other = make_profile(brand, name="one"), make_profile(brand, name="other")
    settled(client, ODD.format("2026-10-01", 7), one, zone="America/Sao_Paulo")
    number = upload(client, ODD.format("2026-10-02", 7)).json()["item"]["id"]
    for_one = client.put(f"{FILES}/{number}", {"profile_id": one.pk}, content_type="application/json").json()
    assert (for_one["options"]["zone"], for_one["detected"]["remembered_of"]) == ("America/Sao_Paulo", "one")
    for_other = client.put(f"{FILES}/{number}", {"profile_id": other.pk}, content_type="application/json").json()
    assert (for_other["options"]["zone"], for_other["detected"]["is_remembered"]) == ("Europe/Lisbon", False)
    assert "saves" not in for_other["mapping"]
    again = client.put(f"{FILES}/{number}", {"profile_id": one.pk}, content_type="application/json").json()
    assert again["detected"]["is_remembered"]
    for_new = client.put(f"{FILES}/{number}", {"profile_id": 0}, content_type="application/json").json()
    assert (for_new["options"]["zone"], for_new["detected"]["is_remembered"]) == ("Europe/Lisbon", False)


def test_what_is_remembered_never_stands_against_the_file_itself(brand: Any, client: Any) -> None:
    profile = make_profile(brand)
    settled(client, ODD.format("03/04/2026", 7), profile, date_order="mdy", decimal=".")
    again = upload(client, ODD.format("25/04/2026", "1.234,5")).json()
    assert (again["options"]["date_order"], again["options"]["decimal"]) == ("dmy", ",")
    # Where the file tells nothing, what was told counts.
    open_still = upload(client, ODD.format("05/04/2026", 7)).json()
    assert (open_still["options"]["date_order"], open_still["options"]["decimal"]) == ("mdy", ".")


def test_what_was_undone_or_forgotten_is_no_proposal(brand: Any, client: Any) -> None:
    profile = make_profile(brand)
    done = settled(client, ODD.format("2026-10-01", 7), profile, zone="America/Sao_Paulo")
    number = upload(client, ODD.format("2026-10-02", 7)).json()["item"]["id"]
    forgotten = client.put(f"{FILES}/{number}", {"is_forgotten": True}, content_type="application/json").json()
    assert (forgotten["detected"]["is_remembered"], forgotten["options"]["zone"]) == (False, "Europe/Lisbon")
    assert not upload(client, ODD.format("2026-10-03", 7)).json()["detected"]["is_remembered"]
    Import.objects.update(is_forgotten=False)
    taken_out(client, done.pk)
    assert not upload(client, ODD.format("2026-10-03", 7)).json()["detected"]["is_remembered"]


# -- taking out


OLDER = "date,id,text,likes\n" + "".join(
    f"2026-10-0{d}T10:00Z,p{d},Post number {d} of the month,{d}\n" for d in range(1, 6)
)
NEWER = OLDER + "2026-10-06T10:00Z,p6,Post number 6 of the month,6\n"


@pytest.mark.parametrize("order", [(0, 1, 2), (2, 1, 0), (1, 0, 2), (0, 2, 1), (1, 2, 0), (2, 0, 1)])
def test_in_whatever_order_files_are_undone_nothing_is_left(order: tuple[int, ...], client: Any) -> None:
    first = brought(client, OLDER, "a 2026-10-20.csv")
    into = {"profile_id": first.profile_id}
    # The second brings later readings; the third says of known posts nothing new at all, yet speaks of them.
    files = [
        first,
        brought(client, NEWER, "b 2026-10-25.csv", **into),
        brought(client, "date,id,text\n2026-10-01T10:00Z,p1,Post number 1 of the month\n", **into),
    ]
    for place in order[:2]:
        taken_out(client, files[place].pk)
    last = files[order[2]]
    left = {0: 5, 1: 6, 2: 1}[order[2]]
    assert Post.objects.count() == left, "what the last file speaks of is still there"
    taken_out(client, last.pk)
    assert not Post.objects.exists()
    assert not PostReading.objects.exists()
    assert not PostSource.objects.exists()
    assert not Profile.objects.exists()


def test_what_the_network_brought_stays_when_a_file_is_undone(known: Profile, client: Any) -> None:
    done = brought(client, f'date,text,likes\n2026-10-20T09:30:00Z,"{TEXT}",9\n', profile_id=known.pk)
    taken_out(client, done.pk)
    assert Post.objects.get().external_id == "n1"
    assert PostReading.objects.get().reactions == 5


def test_a_profile_that_is_erased_in_the_middle_ends_its_file(client: Any, monkeypatch: Any) -> None:
    from dakika_server.sources.files import reading

    monkeypatch.setattr(reading, "ROWS_AT_FIRST", 10)
    monkeypatch.setattr(reading, "ROWS_AT_ONCE", 10)
    rows = "date,id,likes\n" + "".join(f"2026-10-01T{i % 24:02d}:00Z,p{i},{i}\n" for i in range(40))
    number = upload(client, rows).json()["item"]["id"]
    client.post(f"{FILES}/{number}", {"new_profile": "X", "network": "commons"}, content_type="application/json")
    commit = reading._commit

    def erased_after(*args: Any) -> None:
        commit(*args)
        Post.objects.all().delete()
        Profile.objects.all().delete()

    monkeypatch.setattr(reading, "_commit", erased_after)
    reading.read_into(number)
    ended = Import.objects.get(pk=number)
    assert (ended.state, ended.rows_read) == ("failed", 10)
    assert "erased" in ended.message
    assert not Post.objects.exists()
