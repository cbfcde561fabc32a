"""The demo's boosts, as if they had been asked for here, with all that their networks had told."""

from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import Any

from dakika_server.brands.models import Brand
from dakika_server.links.models import TrackedLink
from dakika_server.plan.models import Boost, BoostLimit, BoostReading
from dakika_server.shared import clock
from dakika_server.sources.models import Post

MONTH_CENTS = 30_000


def load_boosts(
    editor: Any,
    brand: Brand,
    rows: list[dict[str, Any]],
    links: Mapping[str, TrackedLink],
    *,
    are_followed: bool = True,
) -> None:
    """What a month may cost, and the boosts of the last weeks; those that run are followed on, or have ended."""
    BoostLimit.objects.create(brand=brand, cents=MONTH_CENTS, currency="EUR")
    for row in rows:
        post = Post.objects.filter(brand=brand, external_id=row["post"]).select_related("profile").first()
        if post is None or not row["readings"]:
            continue
        is_over = row["status"] in ("over", "stopped") or not are_followed
        last = row["readings"][-1]
        boost = Boost.objects.create(
            brand=brand, profile=post.profile, network=post.profile.network, post=post, cents=row["cents"],
            currency="EUR",
            link=links.get(row["code"]),
            starts_at=row["starts"], ends_at=row["ends"], countries=row["countries"], external_id=row["id"], attempts=1,
            state=Boost.State.ENDED if is_over else Boost.State.RUNNING, spent=last[1], impressions=last[2],
            reach=row["reach"], interactions=last[3], link_clicks=last[4], seen_at=last[0],
            ended_at=datetime.fromisoformat(row["ends"]) + timedelta(minutes=5) if is_over else None,
            next_at=None if is_over else clock.now(), made_by=editor, made_at=row["starts"],
        )  # fmt: skip
        BoostReading.objects.bulk_create(
            BoostReading(boost=boost, at=at, spent=spent, impressions=shown, interactions=liked, link_clicks=clicked)
            for at, spent, shown, liked, clicked in row["readings"]
        )
        Post.objects.filter(pk=post.pk).update(is_boosted=True)
