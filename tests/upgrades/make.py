"""Keeps an installation of today's version for the tests of later ones: every row, and every answer of its API.

`python -m upgrades.make NAME` (with PYTHONPATH as the tests have it) writes upgrades/NAME.json.gz from an empty,
migrated database that PGDATABASE names. It is done before a change that moves what is kept, and once for good.
"""

import gzip
import json
import os
import random
import sys
import uuid
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any

NOW = "2026-11-09T08:20:00+00:00"
FOLDER = Path(__file__).parent
NETWORKS = ("commons", "brevi", "pictor")
BRAND = "orrery-house"
# What other libraries keep, and what only passes.
LEFT_OUT = ("django_", "auth_", "axes_", "procrastinate_")


def main(name: str) -> None:
    os.environ["DAKIKA_FIXED_NOW"] = NOW
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "dakika_server.config.settings")
    import django

    django.setup()
    from upgrades.asking import addresses, answers

    fill(random.Random(7))
    kept = {
        "now": NOW,
        "migrations": leaves(),
        "tables": tables(),
        "answers": answers({path: path for path in addresses()}),
    }
    with gzip.GzipFile(FOLDER / f"{name}.json.gz", "wb", mtime=0) as file:
        file.write(json.dumps(kept, ensure_ascii=False).encode())


def leaves() -> dict[str, str]:
    """The newest migration of each of our areas."""
    from django.db import connection
    from django.db.migrations.loader import MigrationLoader

    found = MigrationLoader(connection).graph.leaf_nodes()
    from django.apps import apps

    return {label: name for label, name in found if apps.get_app_config(label).name.startswith("dakika_server")}


def tables() -> dict[str, dict[str, Any]]:
    """Every row of ours, as PostgreSQL copies it out."""
    from django.db import connection

    found: dict[str, dict[str, Any]] = {}
    for table in sorted(connection.introspection.table_names()):
        if table.startswith(LEFT_OUT):
            continue
        with connection.cursor() as cursor:
            columns = [f'"{c.name}"' for c in connection.introspection.get_table_description(cursor, table)]
            with cursor.copy(f'COPY "{table}" ({", ".join(columns)}) TO STDOUT') as copy:
                rows = b"".join(copy).decode()
        if rows:
            found[table] = {"columns": columns, "rows": rows}
    return found


def fill(rng: random.Random) -> None:
    """Profiles with posts, a competitor, tags, campaigns, links, clicks, visits, conversions, a plan, findings."""
    from dakika_server.accounts.models import User
    from dakika_server.brands.models import Brand, Campaign, Membership
    from dakika_server.results.actions.own_metrics import add_own_metric
    from dakika_server.results.findings import find
    from dakika_server.results.models import PostTag, Tag
    from dakika_server.shared import clock
    from dakika_server.sources.models import Competitor, Post

    person = User.objects.create_user("editor@ninthbell.example", "half past nine", name="Ed")
    brand = Brand.objects.create(name="Orrery House", slug=BRAND, time_zone="Europe/Lisbon")
    Membership.objects.create(user=person, brand=brand, role="admin")
    days = {"first_day": date(2026, 9, 1), "last_day": date(2026, 12, 1)}
    campaigns = [Campaign.objects.create(brand=brand, name=n, **days) for n in ("Night", "Hour")]
    tags = [Tag.objects.create(brand=brand, name=n, colour=1) for n in ("clocks", "people")]
    add_own_metric(person, brand, name="Talk", formula="comments / reach", definition="c", more_is_better=True)
    other = Competitor.objects.create(brand=brand, name="Half Moon")
    for network in NETWORKS:
        give_profile(rng, brand, network, campaigns, None)
    give_profile(rng, brand, "brevi", campaigns, other)
    for post in Post.objects.filter(brand=brand, profile__kind="own").order_by("pk"):
        if rng.random() < 0.4:
            PostTag.objects.create(tag=rng.choice(tags), post=post, is_off=rng.random() < 0.1)
    give_links(rng, brand, campaigns)
    give_plan(brand, person)
    find(brand, clock.now())


def give_profile(rng: random.Random, brand: Any, network: str, campaigns: list[Any], competitor: Any) -> None:
    from dakika_server.measures.measuring import measure_profile
    from dakika_server.sources.intake import PostIn, take_posts, take_profile_days
    from dakika_server.sources.models import Profile

    begin = datetime(2026, 8, 3, tzinfo=UTC)
    of = "own" if competitor is None else "competitor"
    profile = Profile.objects.create(
        brand=brand, network=network, external_id=f"{of}-{network}", handle=f"{of}{network}", name=network, kind=of,
        competitor=competitor, added_at=begin,
    )  # fmt: skip
    rows = []
    for i in range(60):
        at = begin + timedelta(seconds=rng.randrange(97 * 86_400))
        level = rng.lognormvariate(4, 0.8)
        final = {"reactions": level, "comments": level / 8, "shares": level / 12, "reach": 20 * level}
        if competitor is None:
            final |= {"impressions": 31 * level, "link_clicks": level / 5, "saves": level / 20}
        readings = [
            (at + timedelta(hours=h), {k: round(v * (1 - 2 ** (-h / 6))) for k, v in final.items()}, None)
            for h in sorted(rng.sample([1, 2, 5, 9, 20, 26, 50, 75, 120, 200, 300], 5))
        ]
        rows.append(PostIn(
            external_id=str(i), published_at=at, format=rng.choice(["text", "image", "link"]), text=f"Post {i} of {of}",
            url="", readings=readings, language=rng.choice(["en", "pt"]), is_boosted=rng.choice([True, False, None]),
            campaign_id=None if competitor else rng.choice([None, *campaigns]) and rng.choice(campaigns).pk,
        ))  # fmt: skip
    take_posts(profile, rows)
    total, told = rng.randint(500, 5000), []
    for n in range(98):
        came, went = rng.randint(0, 40), rng.randint(0, 20)
        total += came - went
        told.append(((begin + timedelta(days=n)).date(), total, came, went))
    take_profile_days(profile, told, taken_at=begin + timedelta(days=98))
    measure_profile(profile)


def give_links(rng: random.Random, brand: Any, campaigns: list[Any]) -> None:
    from dakika_core.site.visits import arrival_of
    from dakika_server.links.jobs import count_people
    from dakika_server.links.models import Click, LinkPage, LinkPageEntry, LinkUse, TrackedLink
    from dakika_server.site.models import AccessLog, Conversion, ConversionStage, Goal, Site
    from dakika_server.site.visiting import VisitIn, take_visits
    from dakika_server.sources.models import Post

    made = datetime(2026, 8, 10, 9, tzinfo=UTC)
    site = Site.objects.create(brand=brand, name="House", hosts=["orrery.example"], key="k" * 20, created_at=made)
    goals = [
        Goal.objects.create(brand=brand, name="Ticket", kind="page", pattern="*/thanks", cents=1400),
        Goal.objects.create(brand=brand, name="Order", kind="import", cents=500),
    ]
    AccessLog.objects.create(
        brand=brand, site=site, created_at=made, file_name="a.log", size=12, state="done", visits=3
    )
    posts = list(Post.objects.filter(brand=brand, profile__kind="own").order_by("pk"))
    links, clicks, visits = [], [], []
    for i in range(8):
        page = f"https://orrery.example/p{i}"
        link = TrackedLink.objects.create(
            brand=brand, code=f"code{i}", name=f"Link {i}", destination=page, target=page, created_at=made,
            network=rng.choice(NETWORKS), campaign=rng.choice([None, *campaigns]),
        )  # fmt: skip
        links.append(link)
        for post in rng.sample(posts, 3):
            LinkUse.objects.create(link=link, post=post)
    leaf = LinkPage.objects.create(brand=brand, slug="house", title="House", words="All", created_at=made)
    LinkPageEntry.objects.create(page=leaf, link=links[0], title="First", position=0)
    for i in range(600):
        link, at = rng.choice(links), made + timedelta(seconds=rng.randrange(90 * 86_400))
        click = Click(
            brand=brand, link=link, key=uuid.UUID(int=i + 1), at=at, visitor=rng.randbytes(2) * 8,
            referrer=rng.choice(["", "brevi.example"]), device=rng.choice(["phone", "computer"]), country="PT",
            browser="B", language="pt", bot_reason=rng.choice(["", "", "", "agent"]), is_over=rng.random() < 0.05,
            page=rng.choice([None, None, leaf]),
        )  # fmt: skip
        clicks.append(click)
        if rng.random() < 0.5:
            target = f"{link.target}?dk={click.key}" if rng.random() < 0.8 else f"{link.target}?utm_source=letter"
            ends = ["/thanks"] if rng.random() < 0.2 else []
            visits.append(VisitIn(
                visitor=click.visitor, arrival=arrival_of(target, "", ["orrery.example"]), started=at,
                ended=at + timedelta(minutes=4), pages=1 + len(ends), paths=["/p", *ends], device="phone", country="PT",
            ))  # fmt: skip
    Click.objects.bulk_create(clicks)
    count_people(brand.pk)
    take_visits(site, visits, "script")
    for i in range(40):
        bought = Conversion.objects.create(
            brand=brand, goal=goals[1], visitor=rng.choice(clicks).visitor, key=f"order {i}",
            at=made + timedelta(seconds=rng.randrange(90 * 86_400)), cents=rng.randrange(9000),
            currency=rng.choice(["EUR", "EUR", "BRL"]), stage=rng.choice(["", "lead", "offer"]), contact=f"c{i}",
        )  # fmt: skip
        if bought.stage:
            ConversionStage.objects.create(conversion=bought, stage=bought.stage, at=bought.at)


def give_plan(brand: Any, person: Any) -> None:
    from dakika_server.plan.actions import VersionInput, save_planned_post, schedule_post
    from dakika_server.sources.models import Profile

    profile = Profile.objects.get(brand=brand, network="commons")
    for day in (10, 12):
        planned = save_planned_post(
            person, brand, title=f"On the {day}th", scheduled_at=datetime(2026, 11, day, 18, tzinfo=UTC),
            versions=[VersionInput(profile_id=profile.pk, text="Come and see")],
        )  # fmt: skip
        if day == 12:
            schedule_post(person, planned, edition=planned.edition)


if __name__ == "__main__":
    main(sys.argv[1])
