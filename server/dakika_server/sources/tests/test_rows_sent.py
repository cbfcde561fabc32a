"""Promise: rows that a program sends come in as a file with the same rows does: checked, once, undone as a whole."""

from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from django.db import connection
from django.test import Client

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand
from dakika_server.brands.tokens import make_program
from dakika_server.sources.files.reading import read_into
from dakika_server.sources.models import AudienceReading, Import, Post, PostReading, Profile, ProfileReading

pytestmark = pytest.mark.django_db
PATH = "/api/brands/orrery-house/sources/rows"
LETTERS = {"kind": "posts", "channel": "Night letter", "network": "Newsletter"}
ROWS = [
    {"published_at": "2026-11-02T09:00:00+00:00", "external_id": "n-41", "text": "Two moons, one night", "impressions": 4210, "link_clicks": 310},
    {"published_at": "2026-11-09T09:00:00+00:00", "external_id": "n-42", "text": "=SUM(A1)", "impressions": 4305},
]  # fmt: skip


@pytest.fixture
def program(editor: User, brand: Brand) -> Client:
    """A program of the brand that may bring in files and nothing else."""
    _, told = make_program(
        editor, brand, name="Letters", role="analyst", scopes=["sources.files", "brand.read"], days=30
    )
    return Client(headers={"authorization": f"Bearer {told}"})


def send(client: Client, **body: Any) -> Any:
    return client.post(PATH, {**LETTERS, "rows": ROWS, **body}, content_type="application/json")


def came_in(answer: Any) -> Import:
    assert answer.status_code == 202, answer.json()
    number = answer.json()["id"]
    read_into(number)
    return Import.objects.get(pk=number)


def test_posts_of_a_channel_that_no_network_connects(program: Client) -> None:
    done = came_in(send(program))
    assert (done.state, done.accepted, done.refused, done.posts_added) == ("done", 2, 0, 2)
    profile = Profile.objects.get(network="newsletter")
    assert (profile.name, profile.kind) == ("Night letter", "own")
    post = Post.objects.get(external_id="n-42")
    assert (post.text, post.published_at.isoformat()) == ("=SUM(A1)", "2026-11-09T09:00:00+00:00")
    reading = PostReading.objects.get(post__external_id="n-41")
    assert (reading.impressions, reading.link_clicks, reading.reactions) == (4210, 310, None)


def test_the_same_rows_again_add_nothing_and_their_channel_is_known(program: Client) -> None:
    came_in(send(program))
    again = came_in(send(program))
    assert (again.posts_added, again.known) == (0, 2)
    assert Profile.objects.filter(network="newsletter").count() == 1
    assert Post.objects.count() == 2


def test_readings_and_audiences_and_days_follow(program: Client) -> None:
    came_in(send(program))
    came_in(send(program, kind="post_readings", rows=[
        {"taken_at": "2026-11-10T09:00:00+00:00", "external_id": "n-41", "impressions": 4400},
    ]))  # fmt: skip
    came_in(send(program, kind="profile_readings", rows=[{"day": "2026-11-10", "followers": 5200}]))
    came_in(send(program, kind="audience", rows=[
        {"day": "2026-11-10", "dimension": "country", "segment": "PT", "share": 0.7},
        {"day": "2026-11-10", "dimension": "country", "segment": "BR", "share": 0.3},
    ]))  # fmt: skip
    assert PostReading.objects.get(impressions=4400).post.external_id == "n-41"
    assert ProfileReading.objects.get().followers == 5200
    assert {"PT": 0.7, "BR": 0.3}.items() <= AudienceReading.objects.get().segments.items()


def test_a_row_that_cannot_be_is_left_out_and_told(program: Client) -> None:
    done = came_in(send(program, rows=[*ROWS, {"published_at": "soon", "external_id": "n-43", "text": "x"}]))
    assert (done.accepted, done.refused) == (2, 1)
    refused = b"".join(program.get(f"/api/brands/orrery-house/sources/imports/{done.pk}/refused").streaming_content)
    assert "“soon” is not a date" in refused.decode()


@pytest.mark.parametrize(
    ("body", "field", "words"),
    [
        ({"rows": []}, "rows", "at least"), ({"rows": [{"likes": 3}]}, "rows", "no field likes"),
        ({"rows": [{"text": {"a": 1}}]}, "rows", "a text, a number"), ({"kind": "posts2"}, "kind", "not a valid choice"),
        ({"rows": [{"text": "x" * 100_001}]}, "rows", "more than 100000"), ({"network": ""}, "network", "Name the network"),
        ({"channel": ""}, "profile_id", "Choose the profile"), ({"profile_id": 10**9}, "profile_id", "one of the brand's"),
        ({"rows": 7}, "rows", "list"), ({"rows": [7]}, "rows", ""),
    ],
)  # fmt: skip
def test_what_cannot_be_is_told_and_leaves_nothing(program: Client, body: Any, field: str, words: str) -> None:
    answer = send(program, **body)
    assert answer.status_code == 400
    assert words in str(answer.json()["errors"][field])
    assert not Import.objects.exists()
    assert not Profile.objects.exists()


def test_rows_without_what_their_kind_needs_are_refused(program: Client) -> None:
    answer = send(program, rows=[{"text": "no date"}])
    assert (answer.status_code, answer.json()["type"].rpartition(":")[2]) == (400, "mapping_incomplete")
    assert not Import.objects.exists()


def test_the_profiles_of_another_brand_are_not_there(program: Client, stranger: User) -> None:
    other = Profile.objects.create(
        brand=Brand.objects.get(slug="lantern-line"), network="newsletter", external_id="x", handle="Night letter",
        name="Night letter", kind="own", added_at="2026-01-01T00:00:00Z",
    )  # fmt: skip
    assert send(program, profile_id=other.pk).status_code == 400
    came_in(send(program))
    assert Post.objects.filter(profile=other).count() == 0


def test_who_may_not_bring_files_may_not_send_rows(viewer: User, client_of: Any) -> None:
    assert send(client_of(viewer)).status_code == 403


@pytest.mark.django_db(transaction=True)
def test_two_programs_that_begin_a_channel_make_one(editor: User, brand: Brand) -> None:
    _, told = make_program(editor, brand, name="Letters", role="analyst", scopes=["sources.files"], days=30)

    def ask(n: int) -> int:
        try:
            client = Client(headers={"authorization": f"Bearer {told}"})
            rows = [{**ROWS[0], "external_id": f"n-{n}"}]
            return int(send(client, rows=rows).status_code)
        finally:
            connection.close()

    with ThreadPoolExecutor(4) as pool:
        assert list(pool.map(ask, range(4))) == [202] * 4
    assert Profile.objects.filter(network="newsletter").count() == 1
