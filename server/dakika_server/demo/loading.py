"""The demo: what Dakika would hold had it collected the stand-ins' world for half a year.

It comes through the same intake as everything else; only the readings' dates are the archive's.
"""

from datetime import UTC, date, datetime, timedelta
from typing import Any

import httpx
from dakika_core.sources.schedule import next_reading_at
from django.db import connection, transaction

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand, Campaign, Membership
from dakika_server.demo.boosts import load_boosts
from dakika_server.demo.competitors import compare_in_sets
from dakika_server.demo.ideas import keep_ideas, write_feed_rules
from dakika_server.demo.links import load_links
from dakika_server.demo.outside import ADDRESSES_ALONE, Outside, at_work
from dakika_server.demo.own_feed import load_own_feed, load_push
from dakika_server.demo.pictures import bring_pictures
from dakika_server.demo.reports import make_reports
from dakika_server.demo.results import group_and_find
from dakika_server.demo.site import load_visits
from dakika_server.jobs.asking import ask
from dakika_server.links.models import TrackedLink
from dakika_server.measures.measuring import measure_profile
from dakika_server.networks.definitions import network
from dakika_server.plan.actions import save_planned_post, schedule_post
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.followed import follow_calendar
from dakika_server.plan.hashtags.sets import keep_hashtags
from dakika_server.plan.notes import add_note
from dakika_server.shared import clock
from dakika_server.shared.vault import seal
from dakika_server.sources.feeds import follow_feed
from dakika_server.sources.intake import PostIn, take_audience, take_posts, take_profile_days
from dakika_server.sources.models import (
    CollectionRun,
    Comment,
    Competitor,
    Credential,
    Post,
    PresenceReading,
    Profile,
)
from dakika_server.sources.models.profiles import FROM_FILE

EDITOR = ("mira@ninthbell.example", "Mira Doss")
VIEWER = ("guest@ninthbell.example", "Guest of the studio")
PASSWORD = "half past nine"  # noqa: S105 (the demo's own, printed at every start)
BRANDS = {"orrery": ("Orrery House", "orrery-house", "Europe/Lisbon", "museum"),
          "lantern": ("Lantern Line", "lantern-line", "Europe/Athens", "ferry")}  # fmt: skip
# Browsers that ask for messages.
BROWSERS = 34
FOLLOWED_DAYS = 92
# Days ago on which nothing could be collected: what is missing must be seen as missing.
HOLES = {("orrery", "brevi", "orreryhouse"): range(66, 69), ("", "pictor", "tidehall"): range(12, 17)}
LAPSED = ("orrery", "guildhall")


def load_demo() -> dict[str, int]:
    """Load everything in one transaction; returns counts by kind. Raises httpx.HTTPError without stand-ins."""
    outside = at_work()
    with httpx.Client(base_url=outside.standins, timeout=120.0) as world:
        archive = world.get("/control/archive").raise_for_status().json()
        owned = {(entry["network"], entry["owner"]) for entry in archive["profiles"] if entry["owner"] in BRANDS}
        grants = {
            (key, owner): world.post("/control/grant", json={"network": key, "owner": owner}).raise_for_status().json()
            for key, owner in sorted(owned)
        }
        browsers = world.post("/control/browsers", json={"subscribe": BROWSERS}).raise_for_status().json()
    with transaction.atomic():
        brands = _brands()
        campaigns = _campaigns(brands, archive["campaigns"])
        for entry in archive["profiles"]:
            for owner, brand in brands.items():
                if entry["owner"] == owner or (not entry["owner"] and entry["subject"] == BRANDS[owner][3]):
                    _profile(entry, brand, owner, campaigns, grants)
        editor = User.objects.get(email=EDITOR[0])
        links, clicks = load_links(editor, archive["links"], archive["page_visits"], brands, campaigns, outside)
        load_boosts(editor, brands["orrery"], archive["boosts"], links)
        load_own_feed(editor, brands["orrery"], clock.now())
        load_push(editor, brands["orrery"], browsers, clock.now())
        _plan(editor, brands["orrery"], campaigns)
        follow_calendar(editor, brands["orrery"], address=f"{outside.standins}/programmes/orreryhouse.ics")
        group_and_find(brands, editor)
        compare_in_sets(brands, editor)
        load_visits(archive["visits"], brands, clicks, outside)
        for pk in Profile.objects.filter(kind="own").order_by("pk").values_list("pk", flat=True):
            ask("foresight.look", profile_id=pk)
        _analyze()
    _feeds(brands, outside)
    keep_ideas(editor, brands["orrery"])
    write_feed_rules(editor, brands["orrery"])
    make_reports(editor, brands["orrery"])
    return {"posts": Post.objects.count(), "links": TrackedLink.objects.count()}


def _analyze() -> None:
    """So many rows at once: what is asked of them is planned by how many there are now, not by how few there were."""
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE")


def load_beside(editor: User, brand: Brand, archive: dict[str, Any]) -> None:
    """The museum's half-year alone, into a brand that is there and empty, in one transaction.

    Nothing is connected, followed or sent out: it is for looking around beside one's own figures.
    """
    brands = {"orrery": brand}
    with transaction.atomic():
        campaigns = _campaigns(brands, [row for row in archive["campaigns"] if row["owner"] == "orrery"])
        for entry in archive["profiles"]:
            if entry["owner"] == "orrery" or (not entry["owner"] and entry["subject"] == BRANDS["orrery"][3]):
                _profile(entry, brand, "orrery", campaigns, None)
        _analyze()
        rows = [row for row in archive["links"] if row["owner"] == "orrery"]
        links, clicks = load_links(editor, rows, archive["page_visits"], brands, campaigns, ADDRESSES_ALONE)
        load_boosts(editor, brand, archive["boosts"], links, are_followed=False)
        load_own_feed(editor, brand, clock.now())
        _analyze()
        _plan(editor, brand, campaigns, is_scheduled=False)
        group_and_find(brands, editor)
        compare_in_sets(brands, editor, has_digest=False)
        load_visits(archive["visits"], brands, clicks, ADDRESSES_ALONE)
        keep_ideas(editor, brand)
        make_reports(editor, brand)
        for pk in Profile.objects.filter(brand=brand, kind="own").order_by("pk").values_list("pk", flat=True):
            ask("foresight.look", profile_id=pk)


def _feeds(brands: dict[str, Brand], outside: Outside) -> None:
    """The competitors' news."""
    editor = User.objects.get(email=EDITOR[0])
    for site in ("gnomongallery", "halfmoon"):
        follow_feed(editor, brands["orrery"], address=f"{outside.standins}/feeds/{site}.atom")


def _brands() -> dict[str, Brand]:
    people = [(User.objects.create_user(email, PASSWORD, name=name), role)
              for (email, name), role in ((EDITOR, "admin"), (VIEWER, "viewer"))]  # fmt: skip
    made = {}
    for key, (name, slug, zone, _) in BRANDS.items():
        made[key] = Brand.objects.create(name=name, slug=slug, time_zone=zone)
        for person, role in people:
            Membership.objects.create(user=person, brand=made[key], role=role)
    return made


def _campaigns(brands: dict[str, Brand], rows: list[dict[str, Any]]) -> dict[tuple[str, str], Campaign]:
    return {
        (row["owner"], row["name"]): Campaign.objects.create(
            brand=brands[row["owner"]],
            name=row["name"],
            first_day=row["first"],
            last_day=row["last"],
            colour=row["colour"],
        )
        for row in rows
    }


def _profile(
    entry: dict[str, Any], brand: Brand, owner: str, campaigns: dict[tuple[str, str], Campaign],
    grants: dict[tuple[str, str], dict[str, Any]] | None,
) -> None:  # fmt: skip
    """A profile with all that was collected of it. grants: without any it is one from a file, which nobody asks."""
    is_own = entry["owner"] == owner
    competitor = None if is_own else Competitor.objects.get_or_create(brand=brand, name=entry["name"])[0]
    now = clock.now()
    profile = Profile.objects.create(
        brand=brand, competitor=competitor, external_id=entry["id"] if grants else f"{FROM_FILE}{entry['id']}",
        network=entry["network"], handle=entry["handle"], name=entry["name"], kind="own" if is_own else "competitor", picture=entry["picture"],
        added_at=now - timedelta(days=FOLLOWED_DAYS), history_done_at=now,
        next_run_at=now + timedelta(minutes=30) if grants else None,
        credential=_credential(brand, entry["network"], grants[entry["network"], owner]) if grants and is_own else None,
    )  # fmt: skip
    half_life = network(entry["network"]).half_life_hours
    take_posts(profile, [_post(p, entry["metrics"], campaigns, owner, half_life) for p in entry["posts"]])
    if is_own:
        _comments(profile, entry["posts"], now)
    days = [(date.fromisoformat(d), total, new, gone) for d, total, new, gone in entry["days"]]
    if not is_own:
        days = [(d, total, None, None) for d, total, _, _ in days]
    holes = HOLES.get((owner if is_own else "", entry["network"], entry["handle"]), range(0))
    take_profile_days(profile, [row for row in days if (now.date() - row[0]).days not in holes], taken_at=now)
    if is_own and network(entry["network"]).offer.has_presence:
        PresenceReading.objects.create(
            brand=brand, profile=profile, day=now.date(), hours_utc=entry["online"], zones=entry["zones"]
        )
    for day, made in entry["audience"] if is_own else []:
        told = network(entry["network"]).offer.audience
        take_audience(profile, date.fromisoformat(day), {k: v for k, v in made.items() if k in told})
    if grants:
        _runs(profile, holes, now, posts=len(entry["posts"]))
    if grants and is_own and (owner, entry["network"]) == LAPSED:
        Credential.objects.filter(pk=profile.credential_id or 0).update(is_lapsed=True)
        Profile.objects.filter(pk=profile.pk).update(next_run_at=None)
    if is_own and entry["network"] == "commons":
        Brand.objects.filter(pk=brand.pk).update(picture=profile.picture, picture_from=profile.pk)
    measure_profile(profile)


def _credential(brand: Brand, key: str, grant: dict[str, Any]) -> Credential:
    expires = datetime.now(tz=UTC) + timedelta(seconds=grant["expires_in"])
    return Credential.objects.create(
        brand=brand, network=key, access=seal(grant["access_token"]), refresh=seal(grant["refresh_token"]),
        expires_at=expires, scopes=grant["scope"].split(),
    )  # fmt: skip


def _comments(profile: Profile, posts: list[dict[str, Any]], now: datetime) -> None:
    keys = dict(Post.objects.filter(profile=profile).values_list("external_id", "pk"))
    rows = [
        Comment(brand_id=profile.brand_id, post_id=keys[p["id"]], external_id=identifier, author=author, text=text,
                written_at=at, seen_at=now)
        for p in posts
        for identifier, author, text, at in p["comments"]
    ]  # fmt: skip
    Comment.objects.bulk_create(rows, batch_size=5000)
    with connection.cursor() as cursor:
        cursor.execute(
            "UPDATE sources_post p SET comments_read = c.n FROM (SELECT post_id, count(*) AS n FROM sources_comment "
            "GROUP BY post_id) c WHERE c.post_id = p.id AND p.profile_id = %s",
            [profile.pk],
        )


def _runs(profile: Profile, holes: range, now: datetime, *, posts: int) -> None:
    """A collection a day since the profile was followed, none on the days of a hole, the day after it a partial one."""
    made = []
    last = now - timedelta(minutes=7)
    clock_then = last.astimezone(profile.brand.zone).time()
    for ago in range(FOLLOWED_DAYS - 1, -1, -1):
        if ago in holes:
            continue
        # A day of the brand's own clocks: with summer time between, the same instant may be the next day's there.
        day = now.date() - timedelta(days=ago)
        at = datetime.combine(day, clock_then, tzinfo=profile.brand.zone) if ago else last
        is_partial = ago + 1 in holes
        made.append(
            CollectionRun(
                brand_id=profile.brand_id, profile=profile, state="partial" if is_partial else "complete", asked_at=at,
                started_at=at, ended_at=at + timedelta(seconds=4), posts_seen=posts if ago == 0 else 12, turns=1,
                readings_new=0 if ago == 0 else 12, requests=4, posts_new=0, slow=3 if is_partial else 0,
                refused=5 if is_partial else 0, missing="some posts' counters" if is_partial else "",
                message=f"{network(profile.network).name} has trouble (status 500)." if is_partial else "",
            )
        )  # fmt: skip
    CollectionRun.objects.bulk_create(made)


def _post(
    entry: dict[str, Any], metrics: list[str], campaigns: dict[tuple[str, str], Campaign], owner: str, half_life: float
) -> PostIn:
    readings = [
        (datetime.fromisoformat(at), dict(zip(metrics, values, strict=True)), None) for at, *values in entry["readings"]
    ]
    campaign = campaigns.get((owner, entry["campaign"]))
    published = datetime.fromisoformat(entry["at"])
    return PostIn(
        external_id=entry["id"], published_at=published, format=entry["format"], text=entry["text"], url=entry["url"],
        readings=readings, campaign_id=campaign.pk if campaign else None,
        next_reading_at=next_reading_at(published, readings[-1][0] if readings else None, half_life),
        language=entry["language"], is_boosted=entry["boosted"], picture=entry["picture"],
    )  # fmt: skip


def _plan(editor: User, brand: Brand, campaigns: dict[tuple[str, str], Campaign], *, is_scheduled: bool = True) -> None:
    """A handful of posts for the days to come, scheduled or as drafts with their hours."""
    own = {p.network: p for p in Profile.objects.filter(brand=brand, kind="own")}
    start = clock.now().astimezone(brand.zone).replace(hour=0, minute=0, second=0, microsecond=0)
    opening, hour = campaigns["orrery", "Night Openings"], campaigns["orrery", "The Repaired Hour"]
    rows = [
        (
            1,
            9.5,
            "Winding day",
            "Monday's round: sixty-three clocks, two hours and ten minutes. #behindthedial",
            None,
            ("commons", "brevi"),
        ),
        (1, 20.0, "Sky tonight", "Clear sky tonight. The roof terrace opens at nine. #skytonight", None, ("brevi",)),
        (
            2,
            12.25,
            "The tide dial",
            "The tide dial is back on the harbour clock. Come and see it move.",
            hour,
            ("commons",),
        ),
        (
            3,
            18.5,
            "Night opening",
            "The house by lamplight until midnight, this Thursday. #nightopening",
            opening,
            ("commons", "brevi"),
        ),
        (
            5,
            11.0,
            "Water clocks",
            "How do you cut a gear by hand? Rui shows it on Sunday. #workshop",
            None,
            ("commons",),
        ),
    ]
    for day, at, title, text, campaign, networks in rows:
        when = start + timedelta(days=day, hours=at)
        versions = [VersionInput(profile_id=own[key].pk, text=text) for key in networks]
        planned = save_planned_post(
            editor,
            brand,
            title=title,
            scheduled_at=when,
            campaign_id=campaign.pk if campaign else None,
            versions=versions,
        )
        if is_scheduled and day != 5:
            schedule_post(editor, planned, at=when)
    pictures = bring_pictures(editor, brand)
    opens = start + timedelta(days=4, hours=20)
    save_planned_post(
        editor, brand, title="The orrery by lamplight", scheduled_at=opens, campaign_id=opening.pk,
        common=Common(
            text="The planets turn once a night, by hand. Come and turn them. #skytonight",
            headline="The orrery by lamplight", media=(pictures["orrery.jpg"].pk, pictures["roof.jpg"].pk),
            first_comment="Doors at eight, the last turn at eleven.",
        ),
        versions=[
            VersionInput(profile_id=own["pictor"].pk),
            VersionInput(profile_id=own["commons"].pk, text="The planets turn once a night, by hand. Bring the children."),
            VersionInput(profile_id=own["corkboard"].pk, media=[pictures["orrery.jpg"].pk],
                         options={"board": "Night sky"}, scheduled_at=opens + timedelta(hours=1)),
        ],
    )  # fmt: skip
    keep_hashtags(editor, brand, name="Night sky", tags=["skytonight", "orrery", "lisbon"])
    first = (start + timedelta(days=8)).date()
    add_note(editor, brand, first=first, last=first + timedelta(days=1), text="Closed for the winter winding")
    save_planned_post(editor, brand, title="Guest book", versions=[
        VersionInput(profile_id=own["commons"].pk, text="“I came for the rain and stayed for the pendulums.”")])  # fmt: skip
