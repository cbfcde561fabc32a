"""Promise: what helps while one writes is one's own brand's, guarded, and says when it does not know."""

from datetime import timedelta
from io import BytesIO
from typing import Any

import pytest
from django.core.cache import cache
from django.test import Client
from PIL import Image

from dakika_server.brands.models import Brand, Membership
from dakika_server.links.actions import Draft, make_link
from dakika_server.measures.testing import make_profile
from dakika_server.media.testing import brought, picture
from dakika_server.plan import aids
from dakika_server.plan.actions import save_planned_post
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import PlannedPost, Writing
from dakika_server.plan.pages import page_says, with_embed
from dakika_server.shared import clock
from dakika_server.sources.models import AudienceReading, Competitor, Profile

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("media_folder")]
BASE = "/api/brands/orrery-house/plan"
JSON = "application/json"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def test_emoji_by_their_names_in_unicode(client: Client) -> None:
    found = {one["character"] for one in client.get(f"{BASE}/emoji?text=telescope").json()}
    assert "\N{TELESCOPE}" in found
    assert client.get(f"{BASE}/emoji?text=qqqq").json() == []
    assert client.get(f"{BASE}/emoji").status_code == 400


def test_boards_are_asked_for_and_a_network_that_is_away_is_said(client: Client, own_profile: Any, world: Any) -> None:
    cache.clear()
    profile = own_profile("corkboard")
    world.faults(corkboard__revoked=1)
    (told,) = client.get(f"{BASE}/options/{profile.pk}").json()
    assert (told["choices"], bool(told["problem"])) == ([], True)
    world.faults(corkboard__revoked=0)
    (told,) = client.get(f"{BASE}/options/{profile.pk}").json()
    assert "From the workshop" in told["choices"]
    assert client.get(f"{BASE}/options/999999").status_code == 404
    cache.clear()


def test_who_a_post_may_be_shown_to_and_what_part_of_the_audience_that_is(client: Client, own_profile: Any) -> None:
    cache.clear()
    profile = own_profile("commons")
    for day, share in (("2026-11-01", 0.9), ("2026-11-20", 0.58)):
        AudienceReading.objects.create(
            brand=profile.brand, profile=profile, day=day, dimension="country", segments={"PT": share, "BR": 0.3}
        )
    shown_in, place = client.get(f"{BASE}/options/{profile.pk}").json()
    assert (shown_in["key"], shown_in["is_many"], shown_in["is_required"]) == ("shown_in", True, False)
    assert shown_in["shares"] == {"PT": 0.58, "BR": 0.3}
    assert (place["key"], place["is_many"], place["shares"]) == ("place", False, {})
    assert "Orrery House" in place["choices"]
    cache.clear()


def test_a_page_says_what_it_is_by_open_graph_and_else_by_its_title() -> None:
    """The example of the Open Graph protocol's own page (ogp.me), from memory, with another title."""
    page = """<html><head><title>Plain &amp; old</title><meta property="og:title" content="The Repaired Hour" />
        <meta property="og:image" content="/rock.jpg"><meta name="description" content="d"></head>"""
    said = page_says(page, "https://orrery.example/a/b")
    assert (said.title, said.picture, said.description) == ("The Repaired Hour", "https://orrery.example/rock.jpg", "d")
    assert page_says("<title>Plain &amp; old</title><title>x</title>", "https://a.example").title == "Plain & old"
    assert page_says('<meta property="og:image" content="javascript:alert(1)">', "https://a.example").picture == ""
    assert page_says("<!--" * 50_000 + "<title", "https://a.example").title == ""


@pytest.mark.parametrize("address", ["http://127.0.0.1:1/", "http://169.254.169.254/latest", "http://localhost/x"])
def test_addresses_inside_are_never_called(address: str, client: Client) -> None:
    told = client.get(f"{BASE}/preview", {"address": address}).json()
    assert told["status"] == 0
    assert told["problem"]


def test_hashtag_sets_are_kept_clean_and_once_by_name(client: Client, brand: Brand) -> None:
    made = client.post(f"{BASE}/hashtags", {"name": " Sky ", "tags": ["#night", "night", "star gazing", "#"]}, content_type=JSON)  # fmt: skip
    assert made.json()["tags"] == ["night", "stargazing"]
    assert client.post(f"{BASE}/hashtags", {"name": "Sky", "tags": ["x"]}, content_type=JSON).status_code == 400
    assert client.post(f"{BASE}/hashtags", {"name": "None", "tags": ["#", "!"]}, content_type=JSON).status_code == 400
    pk = made.json()["id"]
    changed = client.put(f"{BASE}/hashtags/{pk}", {"name": "Sky", "tags": ["comet"]}, content_type=JSON)
    assert changed.json()["tags"] == ["comet"]
    assert client.delete(f"{BASE}/hashtags/{pk}").status_code == 204
    assert client.get(f"{BASE}/hashtags").json() == []


def test_what_is_written_is_kept_and_others_at_the_same_post_are_told(
    client: Client, brand: Brand, editor: Any, client_of: Any, stranger: Any
) -> None:
    planned = save_planned_post(editor, brand, title="T", versions=[])
    kept = {"planned": planned.pk, "content": {"text": "half a thou"}}
    assert client.put(f"{BASE}/writing", kept, content_type=JSON).json()["others"] == []
    assert client.get(f"{BASE}/writing?planned={planned.pk}").json()["content"] == {"text": "half a thou"}
    Membership.objects.create(user=stranger, brand=brand, role="author")
    other = client_of(stranger)
    told = other.put(f"{BASE}/writing", {"planned": planned.pk}, content_type=JSON).json()
    assert (told["content"], told["others"]) == (None, [editor.name])
    Writing.objects.filter(person=editor).update(at=clock.now() - timedelta(minutes=5))
    assert other.get(f"{BASE}/writing?planned={planned.pk}").json()["others"] == []
    assert client.delete(f"{BASE}/writing?planned={planned.pk}").status_code == 204
    assert client.get(f"{BASE}/writing?planned={planned.pk}").json()["content"] is None
    for wrong in ({"planned": 999_999}, {"content": "words"}, {"content": {"t": "x" * 250_000}}):
        assert client.put(f"{BASE}/writing", wrong, content_type=JSON).status_code in (400, 404)


def test_a_post_is_handed_to_other_brands_with_their_own_profiles_files_and_links(
    client: Client, brand: Brand, editor: Any
) -> None:
    other, closed = (Brand.objects.create(name=n, slug=n.lower(), time_zone="UTC") for n in ("Ninth", "Closed"))
    Membership.objects.create(user=editor, brand=other, role="author")
    theirs = make_profile(other, "commons")
    page = "https://orrery.example/tickets"
    profile = make_profile(brand, "commons")
    link = make_link(editor, brand, Draft(destination=page, profile_id=profile.pk))
    asset = brought(editor, brand, picture(30, 30))
    planned = save_planned_post(
        editor, brand, title="Night", common=Common(text=f"Come: {page}", media=(asset.pk,)),
        versions=[
            VersionInput(profile_id=profile.pk, link_id=link.pk),
            VersionInput(profile_id=make_profile(brand, "brevi").pk, text="Own"),
        ],
    )  # fmt: skip
    assert client.get(f"{BASE}/{planned.pk}/hand").json() == [{"slug": "ninth", "name": "Ninth"}]
    refused = client.post(f"{BASE}/{planned.pk}/hand", {"brands": ["ninth", "closed"]}, content_type=JSON)
    assert refused.status_code == 400
    assert PlannedPost.objects.filter(brand=closed).count() == 0
    (made,) = client.post(f"{BASE}/{planned.pk}/hand", {"brands": ["ninth"]}, content_type=JSON).json()
    drawn = PlannedPost.objects.get(pk=made["id"])
    assert (drawn.brand, drawn.text, drawn.state) == (other, f"Come: {page}", "draft")
    (version,) = drawn.versions.all()
    assert version.profile == theirs
    assert version.link is not None
    assert (version.link.brand, version.link.destination) == (other, page)
    assert version.link.code in version.text
    assert drawn.media != [asset.pk]


def test_options_of_a_network_without_any_are_none(brand: Brand) -> None:
    assert aids.options_of(make_profile(brand, "brevi")) == []


def test_a_page_that_names_an_oembed_document_is_told_by_it() -> None:
    """The discovery link and the example answer of oembed.com (4 and 2.3.4.2), from memory, with other words."""
    page = """<title>A film</title><link rel="alternate" type="application/json+oembed"
        href="/oembed?url=a&amp;format=json">"""
    said = page_says(page, "https://longplay.example/watch/1")
    assert said.embed == "https://longplay.example/oembed?url=a&format=json"
    told = with_embed(
        said, '{"version":"1.0","type":"video","title":"The repaired hour","author_name":"Orrery House",'
        '"provider_name":"Longplay","thumbnail_url":"/still.jpg","html":"<script>"}', "https://longplay.example/oembed",
    )  # fmt: skip
    assert (told.title, told.description) == ("The repaired hour", "Orrery House · Longplay")
    assert told.picture == "https://longplay.example/still.jpg"
    for broken in ("", "[]", '{"title": 4, "thumbnail_url": "javascript:alert(1)"}', "[" * 100_000):
        assert with_embed(said, broken, "https://longplay.example/oembed") == said


def test_what_is_taken_by_a_channel_without_a_connection_is_said_and_then_checked(
    client: Client, brand: Brand, viewer: Any, stranger: Any, client_of: Any
) -> None:
    rules = {"text_limit": 20, "most_pictures": 1, "needs_picture": True, "has_links": False, "most_hashtags": 1}
    assert client_of(viewer).post(f"{BASE}/channels", {"name": "Window"}, JSON).status_code == 403
    made = client.post(f"{BASE}/channels", {"name": "Window", "rules": rules}, JSON).json()
    assert (made["rules"]["text_limit"], made["rules"]["title_limit"]) == (20, 0)

    def problems(text: str, **more: Any) -> set[str]:
        asked = {"versions": [{"profile_id": made["id"], "text": text, **more}]}
        (told,) = client.post(f"{BASE}/check", asked, JSON).json()
        return {one["code"] for one in told["problems"] if one["is_blocking"]}

    assert "needs_media" in problems("Open")
    assert len(problems("Far more words than the window has room for")) == 2
    path = f"{BASE}/channels/{made['id']}"
    assert (
        client_of(stranger)
        .put(f"/api/brands/lantern-line/plan/channels/{made['id']}", {"rules": None}, JSON)
        .status_code
        == 404
    )
    assert client.put(path, {"rules": {"text_limit": 0}}, JSON).status_code == 400
    assert client.put(path, {"rules": {"text_limit": 9, "needs_picture": True}}, JSON).status_code == 400
    assert client.put(path, {"rules": None}, JSON).json()["rules"] is None
    assert problems("Far more words than the window has room for") == set()
    assert [one["name"] for one in client.get(f"{BASE}/channels").json()] == ["Window"]
    known = make_profile(brand, "commons")
    assert client.put(f"{BASE}/channels/{known.pk}", {"rules": None}, JSON).status_code == 404


def test_a_channel_says_its_shapes_and_weights_and_files_are_taken_along_so(
    client: Client, brand: Brand, editor: Any, stranger: Any, client_of: Any
) -> None:
    rules = {"text_limit": 90, "most_pictures": 2, "narrowest": 1, "widest": 1.5, "largest_picture_mb": 0.05}
    wrong = {"name": "Door", "rules": {**rules, "widest": 0.5}}
    refused = client.post(f"{BASE}/channels", wrong, JSON)
    assert (refused.status_code, "narrower than" in refused.content.decode()) == (400, True)
    channel = client.post(f"{BASE}/channels", {"name": "Door", "rules": rules}, JSON).json()
    assert channel["rules"] == {**rules, **{k: channel["rules"][k] for k in channel["rules"].keys() - rules.keys()}}
    content = BytesIO()
    Image.effect_noise((600, 1200), 90).convert("RGB").save(content, "PNG")
    tall = brought(editor, brand, content.getvalue(), name="tall.png")
    asked = {"versions": [{"profile_id": channel["id"], "text": "Open", "media": [tall.pk]}]}
    (told,) = client.post(f"{BASE}/check", asked, JSON).json()
    assert {one["code"] for one in told["problems"]} >= {"is_cut", "is_lightened"}
    made = client.post(BASE, {**asked, "common": None}, JSON).json()
    version = made["versions"][0]["id"]
    answer = client.get(f"{BASE}/versions/{version}/files/0")
    taken = answer.getvalue()
    assert len(taken) <= 50_000
    with Image.open(BytesIO(taken)) as picture:
        assert picture.width == picture.height
    assert answer["Content-Disposition"] == 'attachment; filename="tall.jpg"'
    assert answer["Content-Type"] == "application/octet-stream"
    for path, status in ((f"{BASE}/versions/{version}/files/1", 409), (f"{BASE}/versions/{version + 99}/files/0", 404)):
        assert client.get(path).status_code == status
    elsewhere = f"/api/brands/lantern-line/plan/versions/{version}/files/0"
    assert client_of(stranger).get(elsewhere).status_code == 404


def test_whoever_is_named_by_a_handle_of_another_network_is_told(client: Client, brand: Brand) -> None:
    us = make_profile(brand, "brevi")
    owner = Competitor.objects.create(brand=brand, name="Halfmoon")
    for network, handle in (("brevi", "halfmoonpl"), ("commons", "halfmoon")):
        one = make_profile(brand, network, owner.name)
        Profile.objects.filter(pk=one.pk).update(kind="competitor", competitor=owner, handle=handle)

    def said(text: str, **more: Any) -> list[tuple[str, str, bool]]:
        asked = {"versions": [{"profile_id": us.pk, "text": text, **more}]}
        (told,) = client.post(f"{BASE}/check", asked, JSON).json()
        found = [one for one in told["problems"] if one["code"] == "called_otherwise"]
        return [(one["message"], one["part"], one["is_blocking"]) for one in found]

    wanted = "@halfmoon is Halfmoon elsewhere: on Brevi they are @halfmoonpl."
    assert said("With @halfmoon") == [(wanted, "text", False)]
    assert said("Tonight", first_comment="by @halfmoon") == [(wanted, "first_comment", False)]
    assert said("With @halfmoonpl and @somebody") == []


def test_the_picture_of_a_card_is_one_of_the_brands_files(client: Client, brand: Brand, editor: Any) -> None:
    profile = make_profile(brand, "commons")
    asset = brought(editor, brand, picture())

    def code(number: str) -> int:
        options = {"card_title": "The hour", "card_picture": number}
        body = {"title": "x", "versions": [{"profile_id": profile.pk, "text": "a", "options": options}]}
        return int(client.post(BASE, body, JSON).status_code)

    assert (code(str(asset.pk)), code("999999"), code("none"), code("\u0663")) == (201, 400, 400, 400)
