"""Promise: what is saved is what was shown: every figure of the summary follows from the rows, and says what it means."""

import csv
import io
from typing import Any

import numpy as np
import pytest
from openpyxl import load_workbook

from dakika_server.measures.testing import QUERY, fill, make_profile
from dakika_server.sources.models import Post

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/results"
FIGURES = "/api/brands/orrery-house/figures"
METRICS = (
    "followers,posts,reach,impressions,interactions,er_reach,er_impressions,clicks,ctr,net_followers,lost_followers,"
    "er_followers"
)


@pytest.fixture
def posts(brand: Any) -> None:
    rng = np.random.default_rng(3)

    def made(i: int) -> dict[str, Any]:
        counts = {"reactions": int(rng.integers(5, 400)), "comments": int(rng.integers(0, 20)), "link_clicks": i % 7}
        seen = int(rng.integers(800, 9000))
        return {
            "counts": counts | {"impressions": seen, "reach": int(seen * 0.8)},
            "text": f'=SUM(A1) post {i}, "quoted"',
        }

    fill(make_profile(brand), 60, made)


def rows_of(answer: Any) -> list[dict[str, str]]:
    text = b"".join(answer.streaming_content).decode()
    mark, _, rest = text.partition("\r\n")
    assert mark.startswith("Dakika export,results.")
    table, _, _ = rest.partition("\r\n\r\n")
    return list(csv.DictReader(io.StringIO(table)))


def numbers(rows: list[dict[str, str]], name: str) -> np.ndarray:
    return np.array([float(row[name]) if row[name] else np.nan for row in rows])


def test_every_figure_of_the_summary_follows_from_the_exported_rows(client: Any, posts: None) -> None:
    shown = {
        m["key"]: m["now"]["value"] for m in client.get(f"{BASE}/summary?{QUERY}&metrics={METRICS}").json()["metrics"]
    }
    days = rows_of(client.get(f"{FIGURES}/results.course/table?{QUERY}&metrics={METRICS}"))
    assert len(days) == 30, "no total among the days"
    assert all(row["Posts"].isdigit() for row in days), "a count is a whole number"
    for key, name in (("reach", "Reach"), ("impressions", "Impressions"), ("interactions", "Interactions"),
                      ("clicks", "Link clicks"), ("posts", "Posts"), ("net_followers", "Net followers"),
                      ("lost_followers", "Followers lost")):  # fmt: skip
        assert np.nansum(numbers(days, name)) == pytest.approx(shown[key], rel=1e-5), key
    assert numbers(days, "Followers")[-1] == shown["followers"]
    sums = {name: np.nansum(numbers(days, name)) for name in ("Interactions", "Reach", "Impressions", "Link clicks")}
    assert shown["er_reach"] == pytest.approx(sums["Interactions"] / sums["Reach"], rel=1e-5)
    assert shown["er_impressions"] == pytest.approx(sums["Interactions"] / sums["Impressions"], rel=1e-5)
    assert shown["ctr"] == pytest.approx(sums["Link clicks"] / sums["Impressions"], rel=1e-5)


def test_figures_of_posts_follow_from_the_exported_posts(client: Any, posts: None) -> None:
    metrics = "er_followers,interactions_per_post,applause,index,reactions"
    shown = {
        m["key"]: m["now"]["value"] for m in client.get(f"{BASE}/summary?{QUERY}&metrics={metrics}").json()["metrics"]
    }
    columns = "interactions,er_followers,reactions"
    rows = rows_of(client.get(f"{FIGURES}/results.posts/table?{QUERY}&columns={columns}"))
    assert len(rows) == 60
    offsets = {row["published_at"][:10] < "2026-10-25": row["published_at"][-6:] for row in rows}
    assert offsets == {True: "+01:00", False: "+00:00"}, (
        "the brand's clock with its offset, on either side of the change"
    )
    assert not any(row["Interactions"].endswith(".0") for row in rows)
    interactions, reactions = numbers(rows, "Interactions"), numbers(rows, "Reactions")
    followers = interactions / numbers(rows, "Engagement by followers")
    assert shown["er_followers"] == pytest.approx(np.nansum(interactions) / np.nansum(followers))
    assert shown["interactions_per_post"] == pytest.approx(np.nanmean(interactions))
    assert shown["applause"] == pytest.approx(np.nanmean(reactions))
    assert shown["reactions"] == pytest.approx(np.nansum(reactions))
    index = numbers(rows, "Index")
    assert shown["index"] == pytest.approx(np.exp(np.nanmean(np.log(index[index > 0]))))


def test_the_file_says_what_each_figure_means_and_runs_nothing(client: Any, posts: None) -> None:
    answer = client.get(f"{FIGURES}/results.posts/table?{QUERY}&columns=er_reach")
    assert answer["Content-Disposition"] == 'attachment; filename="orrery-house-posts-2026-10-01-2026-10-30.csv"'
    text = b"".join(answer.streaming_content).decode()
    assert "Formula: interactions / reach." in text
    assert "2026-10-01 to 2026-10-30, days of Europe/Lisbon" in text
    days = b"".join(client.get(f"{FIGURES}/results.course/table?{QUERY}&metrics=posts").streaming_content).decode()
    assert '"Posts, whole period",60; comparison' in days
    assert "'=SUM(A1) post 3" in text
    assert ",=SUM" not in text


@pytest.mark.parametrize(
    ("kind", "what"), [("posts", "posts"), ("course", "days"), ("groups", "groups"), ("audience", "audience")]
)
def test_every_table_is_a_workbook_with_its_definitions(client: Any, posts: None, kind: str, what: str) -> None:
    answer = client.get(f"{FIGURES}/results.{kind}/table?{QUERY}&form=xlsx&by=format")
    book = load_workbook(io.BytesIO(b"".join(answer.streaming_content)))
    assert book.sheetnames == [what, "definitions"]
    about = {row[0].value: row[1].value for row in book["definitions"].iter_rows()}
    assert about["Brand"] == "Orrery House"
    mark, head = ([cell.value for cell in row] for row in list(book[what].iter_rows())[:2])
    assert mark[:2] == ["Dakika export", f"results.{what}"]
    assert head[0] in ("published_at", "day", "group", "dimension")
    for row in list(book[what].iter_rows())[1:3]:
        assert not any(str(cell.value).startswith("=") for cell in row)


def test_what_is_no_table_is_refused(client: Any, posts: None) -> None:
    assert client.get(f"{FIGURES}/results.secrets/table?{QUERY}").status_code == 404
    assert client.get(f"{FIGURES}/results.groups/table?{QUERY}&metric=followers").status_code == 400


def test_filters_hold_for_the_file_too(client: Any, posts: None) -> None:
    Post.objects.filter(pk__in=Post.objects.values_list("pk", flat=True)[:7]).update(language="pt")
    assert len(rows_of(client.get(f"{FIGURES}/results.posts/table?{QUERY}&language=pt"))) == 7
    assert len(rows_of(client.get(f"{FIGURES}/results.posts/table?{QUERY}&text=post 3"))) == 11
