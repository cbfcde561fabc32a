"""Promise: what stood in the database before this version stands in it after: files that wait, posts that files brought."""

from collections.abc import Iterator
from datetime import UTC, datetime
from typing import Any

import pytest
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from dakika_server.shared.tables import empty_database

BEFORE = [("results", "0004_fill_measures"), ("sources", "0004_post_picture")]
NOW = datetime(2026, 11, 1, tzinfo=UTC)


@pytest.fixture
def before(transactional_db: None) -> Iterator[Any]:
    """A database of its own with the tables as they were."""
    with empty_database(connection):
        executor = MigrationExecutor(connection)
        executor.migrate(BEFORE)
        yield executor.loader.project_state(BEFORE).apps


def test_files_and_their_posts_are_carried_over(before: Any) -> None:
    brand = before.get_model("brands", "Brand").objects.create(name="B", slug="b", time_zone="Europe/Lisbon")
    profile = before.get_model("sources", "Profile").objects.create(
        brand=brand, network="commons", external_id="file:x", handle="h", name="n", kind="own", added_at=NOW
    )
    item = before.get_model("sources", "Import").objects.create(
        brand=brand, profile=profile, created_at=NOW, file_name="old.csv", digest="d", kind="posts", state="waiting",
        header=["Date", "Text"], sample=[["2026-10-01", "x"]], mapping={"published_at": 0, "text": 1},
        detected={"is_day_first": None, "decimal": ""},
        options={"form": "csv", "encoding": "utf-8", "delimiter": ";", "decimal": "", "is_day_first": False,
                 "zone": "Europe/Lisbon"},
    )  # fmt: skip
    post = before.get_model("sources", "Post").objects.create(
        brand=brand, profile=profile, external_id="e1", published_at=NOW, format="text", first_import=item
    )
    before.get_model("sources", "PostReading").objects.create(
        brand=brand, post=post, taken_at=NOW, reactions=5, import_id=item.pk
    )
    executor = MigrationExecutor(connection)
    executor.migrate(executor.loader.graph.leaf_nodes())

    from dakika_server.sources.files.upload import preview_of
    from dakika_server.sources.models import Import, Post, PostSource, ProfileRebuild

    carried = Import.objects.get()
    assert carried.mapping == {"published_at": [0], "text": [1]}
    assert (carried.options["date_order"], carried.options["as_of"][:10]) == ("mdy", "2026-11-01")
    assert "is_day_first" not in {**carried.options, **carried.detected}
    # A file that waited can still be looked at and brought in.
    assert [values["text"] for _, values in preview_of(carried).items] == ["x"]
    assert Post.objects.get().has_time
    assert PostSource.objects.get().import_id == carried.pk
    # Figures are worked out anew, since the final count is new.
    assert ProfileRebuild.objects.get().is_open
