"""Promise: a picture is cut around its focus to the shape asked for, within its weight, and edits do what they say."""

import io
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from dakika_server.brands.models import Brand
from dakika_server.media import actions, checking, storage
from dakika_server.media.colours import contrast
from dakika_server.media.models import Asset
from dakika_server.media.pictures import Edits, Words, box_around, edited, fitted
from dakika_server.media.testing import brought, picture, video

JSON = "application/json"
sides = st.integers(2, 3000)
parts = st.floats(0, 1)


def opened(content: bytes) -> Any:
    return Image.open(io.BytesIO(content))


def kept(name: str) -> bytes:
    with storage.opened(name) as file:
        return bytes(file.read())


def noise(width: int, height: int) -> bytes:
    rng = np.random.default_rng(5)
    out = io.BytesIO()
    Image.fromarray(rng.integers(0, 255, (height, width, 3), dtype=np.uint8)).save(out, "PNG")
    return out.getvalue()


@given(sides, sides, st.floats(0.2, 5), parts, parts)
def test_the_box_lies_within_has_the_shape_and_holds_the_focus(
    width: int, height: int, shape: float, x: float, y: float
) -> None:
    left, top, right, bottom = box_around((width, height), shape, (x, y))
    assert 0 <= left < right <= width
    assert 0 <= top < bottom <= height
    assert left - 1 <= x * width <= right + 1
    assert top - 1 <= y * height <= bottom + 1
    wide, high = right - left, bottom - top
    assert abs(wide - high * shape) <= max(1.0, shape)


def test_it_is_cut_around_its_focus() -> None:
    halves = Image.new("RGB", (400, 100), "black")
    halves.paste("white", (300, 0, 400, 100))
    out = io.BytesIO()
    halves.save(out, "PNG")
    found = fitted(io.BytesIO(out.getvalue()), shape=1.0, focus=(0.9, 0.5), most_bytes=10**6)
    assert (found.width, found.height) == (100, 100)
    assert np.asarray(opened(found.content)).mean() > 250


def test_weight_is_kept_and_the_same_picture_is_the_same_bytes() -> None:
    content = noise(600, 400)
    first, again = (fitted(io.BytesIO(content), shape=None, focus=(0.5, 0.5), most_bytes=60_000) for _ in range(2))
    assert len(first.content) <= 60_000
    assert first == again
    assert first.width / first.height == pytest.approx(1.5, abs=0.02)


def test_edits_turn_cut_lighten_and_write() -> None:
    content = picture(400, 200)
    turned = opened(edited(io.BytesIO(content), Edits(turn=90)))
    assert turned.size == (200, 400)
    cut = opened(edited(io.BytesIO(content), Edits(crop=(0.5, 0, 0.5, 1))))
    assert cut.size == (200, 200)
    plain = np.asarray(opened(edited(io.BytesIO(content), Edits()))).mean()
    assert np.asarray(opened(edited(io.BytesIO(content), Edits(light=1.5)))).mean() > plain
    grey = np.asarray(opened(edited(io.BytesIO(content), Edits(saturation=0)))).astype(int)
    assert np.abs(grey[..., 0] - grey[..., 2]).max() <= 3
    for text in ("Open late tonight", "\u039d\u03cd\u03c7\u03c4\u03b1", "x" * 300, "\n\n", "\U0001f52d"):
        written = np.asarray(opened(edited(io.BytesIO(content), Edits(words=(Words(text=text, x=1, y=1, size=0.3),)))))
        assert written.shape == (200, 400, 3)
    blue = np.asarray(opened(edited(io.BytesIO(content), Edits(words=(Words(text="Hour", ground="#0000ff"),)))))
    assert (blue[..., 2] > 200).sum() > 500


def test_contrast_is_that_of_the_standard() -> None:
    """WCAG 2.2: black on white is 21 to 1, a colour on itself 1; #777777 on white 4.48 (value from memory)."""
    assert contrast("#000000", "#ffffff") == pytest.approx(21)
    assert contrast("#336699", "#336699") == pytest.approx(1)
    assert contrast("#777777", "#ffffff") == pytest.approx(4.48, abs=0.01)


@pytest.mark.django_db
@pytest.mark.usefixtures("media_folder")
def test_what_is_worked_on_is_another_file_made_once(brand: Brand, editor: Any, client_of: Any) -> None:
    source = brought(editor, brand, picture(400, 200))
    client = client_of(editor)
    base = f"/api/brands/orrery-house/media/{source.pk}"
    asked = {"turn": 90, "words": [{"text": "Open late"}]}
    made = client.post(f"{base}/edits", asked, content_type=JSON).json()
    assert client.post(f"{base}/edits", asked, content_type=JSON).json()["id"] == made["id"]
    checking.check(made["id"])
    told = client.get(f"/api/brands/orrery-house/media/{made['id']}").json()
    assert (told["state"], told["width"], told["height"], told["made_from"]) == ("ready", 200, 400, source.pk)
    assert Asset.objects.get(pk=source.pk).state == "ready"
    pale = {"words": [{"text": "x", "colour": "#ffffff", "ground": "#fefefe"}]}
    assert "too near" in str(client.post(f"{base}/edits", pale, content_type=JSON).json())
    for wrong in ({"turn": 45}, {"light": 99}, {"crop": {"left": 0}}, {"words": [{"text": "x", "colour": "red"}]}):
        assert client.post(f"{base}/edits", wrong, content_type=JSON).status_code == 400


@pytest.mark.django_db
@pytest.mark.usefixtures("media_folder")
def test_tags_focus_and_several_files_at_once(brand: Brand, editor: Any, client_of: Any) -> None:
    import zipfile

    one, two = (brought(editor, brand, picture(n, n), "../../clock.exe") for n in (20, 30))
    client = client_of(editor)
    base = "/api/brands/orrery-house/media"
    told = client.patch(f"{base}/{one.pk}", {"tags": [" night ", "night", "sky"], "focus_x": 0.2, "focus_y": 1}, content_type=JSON)  # fmt: skip
    assert (told.json()["tags"], told.json()["focus_x"]) == (["night", "sky"], 0.2)
    assert client.get(f"{base}/tags").json() == [{"tag": "night", "files": 1}, {"tag": "sky", "files": 1}]
    assert [row["id"] for row in client.get(f"{base}?tag=sky").json()["assets"]] == [one.pk]
    assert client.patch(f"{base}/{one.pk}", {"focus_x": 2}, content_type=JSON).status_code == 400
    answer = client.post(f"{base}/zip", {"assets": [one.pk, two.pk]}, content_type=JSON)
    packed = zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content)))
    assert packed.namelist() == ["clock.jpg", "clock 2.jpg"]
    assert client.post(f"{base}/zip", {"assets": [one.pk, 999_999]}, content_type=JSON).status_code == 404


@pytest.mark.django_db
@pytest.mark.usefixtures("media_folder")
@pytest.mark.parametrize("address", ["http://127.0.0.1:1/x.png", "http://10.0.0.1/", "ftp://a.example/x"])
def test_files_inside_are_never_fetched(address: str, editor: Any, brand: Brand, client_of: Any) -> None:
    told = client_of(editor).post(
        "/api/brands/orrery-house/media/from-address", {"address": address}, content_type=JSON
    )
    assert told.status_code == 400
    assert Asset.objects.count() == 0


def test_a_copy_of_the_same_for_another_brand_is_its_own(
    db: None, media_folder: Any, editor: Any, brand: Brand
) -> None:
    from dakika_server.brands.models import Membership

    other = Brand.objects.create(name="Other", slug="other", time_zone="UTC")
    Membership.objects.create(user=editor, brand=other, role="admin")
    source = brought(editor, brand, picture(20, 20))
    actions.change_asset(editor, brand, source.pk, words="A clock", focus=(0.1, 0.9))
    copied = actions.copy_asset(editor, Asset.objects.get(pk=source.pk), other)
    assert (copied.brand, copied.words, copied.focus_x) == (other, "A clock", 0.1)
    assert copied.file != source.file


@pytest.mark.django_db
@pytest.mark.usefixtures("media_folder")
def test_a_still_shows_the_moment_and_pictures_become_a_film(brand: Brand, editor: Any, client_of: Any) -> None:
    """The film's seconds and pixels are read back by ffprobe of Debian."""
    import json
    import subprocess
    import tempfile

    film = brought(editor, brand, video(frames=100), "film.mp4")
    pictures = [brought(editor, brand, picture(w, h), f"{w}.jpg") for w, h in ((300, 200), (90, 160))]
    client = client_of(editor)
    base = "/api/brands/orrery-house/media"
    late, early = (client.post(f"{base}/{film.pk}/still", {"seconds": s}, content_type=JSON).json() for s in (1.5, 0.0))
    brightness = []
    for made in (early, late):
        checking.check(made["id"])
        asset = Asset.objects.get(pk=made["id"])
        assert (asset.kind, asset.made_from_id) == ("picture", film.pk)
        brightness.append(float(np.asarray(opened(kept(asset.renditions.get(purpose="full").file))).mean()))
    assert brightness[1] > brightness[0] + 50, "the film grows brighter"
    asked = {"pictures": [one.pk for one in pictures], "seconds": 1.5, "shape": 0.5625}
    made = client.post(f"{base}/sequences", asked, content_type=JSON).json()
    checking.check(made["id"])
    asset = Asset.objects.get(pk=made["id"])
    assert (asset.state, asset.kind, asset.media_type) == ("ready", "video", "video/mp4")
    assert asset.width / asset.height == pytest.approx(0.5625, abs=0.01)  # type: ignore[operator]
    with tempfile.NamedTemporaryFile(suffix=".mp4") as file:
        file.write(kept(asset.file))
        file.flush()
        told = json.loads(subprocess.run(
            ["ffprobe", "-v", "error", "-print_format", "json", "-show_format", "-show_streams", file.name],
            check=True, capture_output=True,
        ).stdout)  # fmt: skip
    assert float(told["format"]["duration"]) == pytest.approx(3.0, abs=0.1)
    assert float(told["format"]["duration"]) == pytest.approx(asset.seconds, abs=0.05)
    assert (told["streams"][0]["width"], told["streams"][0]["height"]) == (asset.width, asset.height)
    for wrong in ({"pictures": [film.pk]}, {"pictures": []}, {"pictures": [pictures[0].pk], "seconds": 99}):
        assert client.post(f"{base}/sequences", wrong, content_type=JSON).status_code == 400
    assert client.post(f"{base}/{pictures[0].pk}/still", {"seconds": 1}, content_type=JSON).status_code == 409


@pytest.mark.django_db
@pytest.mark.usefixtures("media_folder")
def test_pictures_from_elsewhere_keep_author_and_licence(brand: Brand, editor: Any, client_of: Any, world: Any, settings: Any) -> None:  # fmt: skip
    settings.COLLECTION_ADDRESS = f"{world.address}/collection"
    client = client_of(editor)
    base = "/api/brands/orrery-house/media/collection"
    found = client.get(f"{base}?text=tower+night").json()
    assert [one["title"] for one in found] == ["A tower clock by night"]
    made = client.post(base, {"key": found[0]["key"]}, content_type=JSON).json()
    assert found[0]["author"] in made["origin"]
    assert found[0]["licence"] in made["origin"]
    assert client.post(base, {"key": "no-such"}, content_type=JSON).status_code == 400
    assert client.post(base, {"key": "../x"}, content_type=JSON).status_code == 400
    settings.COLLECTION_ADDRESS = ""
    assert "No outside collection" in client.get(f"{base}?text=tower").json()["detail"]
