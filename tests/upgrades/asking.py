"""Everything that can be read of a brand by its address, in several studies."""

import json
from collections.abc import Mapping
from typing import Any

from django.db import connection
from django.test import Client

BASE = "/api/brands/orrery-house"
PERIOD = "first=2026-09-28&last=2026-11-08"
STUDIES = ("", "&network=brevi", "&profile={profiles}", "&format=image", "&tag={tags}", "&campaign={campaigns}&age=24",
           "&boosted=yes&compare=year_before")  # fmt: skip
# Addresses that look at no study, and those that ask with more.
PLAIN = (
    "/campaigns", "/links/settings", "/site/sites", "/overview", "/plan?first=2026-11-09&last=2026-11-15",
    "/plan/{plan}", "/preferences", "/results/findings", "/results/metrics", "/results/tags", "/sources",
    "/sources/feeds", "/sources/health", "/sources/imports", "/sources/profiles/{profiles}",
    "/sources/posts/{posts}/comments", "/results/posts/{posts}", "/timing", "/timing?profile={profiles}",
    "/sources/export?what=posts", "/sources/export?what=clicks", "/sources/export?what=conversions",
    "/results/tags/caught?kind=text&value=post",
)  # fmt: skip
STUDIED = (
    "/competitors", "/line", "/links", "/links/{links}", "/site/attribution", "/site/attribution?by=campaign",
    "/site/attribution?by=post&window=7", "/links/behind?day=2026-10-14", "/site/conversions",
    "/site/conversions/{conversions}", "/site/funnel", "/site/funnel?by=post", "/site/funnel?by=campaign",
    "/links/pages", "/site/traffic", "/results/audience", "/figures/results.course/basis?cell=er_reach",
    "/figures/results.course/basis?cell=visits", "/results/decomposition?metric=interactions", "/results/decomposition?metric=visits",
    "/figures/results.posts/table", "/results/footing", "/results/groups?by=format&metric=interactions",
    "/results/groups?by=tag&metric=er_reach", "/results/groups?by=weekday&metric=reach",
    "/results/metrics/tried?formula=reactions%2Freach", "/results/posts?sort=-interactions",
    "/results/posts/top?metric=interactions&end=top&limit=10", "/results/posts/totals?by=network",
    "/results/spikes?metric=interactions", "/results/spikes/behind?metric=interactions&day=2026-10-14",
    "/results/summary?metrics=followers,posts,reach,interactions,er_reach,clicks,visits,conversions",
    "/results/summary?metrics=tracked_clicks,click_visits,impressions,net_followers",
)  # fmt: skip
TABLES = {"profiles": "sources_profile", "posts": "sources_post", "tags": "results_tag", "campaigns": "brands_campaign",
          "links": "links_trackedlink", "conversions": "site_conversion", "plan": "plan_plannedpost"}  # fmt: skip


def addresses() -> list[str]:
    """All of them, with keys that exist."""
    with connection.cursor() as cursor:
        keys = {}
        for name, table in TABLES.items():
            cursor.execute(f"SELECT min(id) FROM {table}")
            keys[name] = cursor.fetchone()[0]
    asked = [*PLAIN, *(f"{path}{'&' if '?' in path else '?'}{PERIOD}{study}" for path in STUDIED for study in STUDIES)]
    return [path.format(**keys) for path in asked]


def answers(paths: Mapping[str, str]) -> dict[str, Any]:
    """What is answered at addresses, by their names; what is no JSON as text."""
    from dakika_server.accounts.models import User

    client = Client(SERVER_NAME="127.0.0.1")
    client.force_login(User.objects.earliest("pk"), backend="django.contrib.auth.backends.ModelBackend")
    found = {}
    for name, path in paths.items():
        answer = client.get(f"{BASE}{path}")
        assert answer.status_code == 200, f"{path}: {answer.status_code} {answer.content[:400]!r}"
        body = answer.getvalue().decode()
        found[name] = json.loads(body) if "json" in answer["Content-Type"] else body
    return found
