"""The weekly digest of a peer set: what changed, whose posts stood out, where we moved, what to look at."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from urllib.parse import urlencode

from dakika_core.competitors.field import PUBLIC
from dakika_core.metrics.catalogue import CATALOGUE
from dakika_core.values.text import opening_words
from django.conf import settings
from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import can
from dakika_server.competitors.benchmark import place_words
from dakika_server.competitors.field import in_set
from dakika_server.competitors.gap import gap_of, gap_words
from dakika_server.competitors.models import DigestReader
from dakika_server.competitors.presence import presence_of
from dakika_server.competitors.standings import Line, Standings, placed_by, standings_of
from dakika_server.figures.study import Study, study_of
from dakika_server.jobs.asking import ask
from dakika_server.networks.definitions import network_name
from dakika_server.notices.outbox import write_mail
from dakika_server.notices.schedules import Due
from dakika_server.notices.stopping import stop_headers
from dakika_server.results.queries import ordered, rows_of
from dakika_server.results.tables import of_posts, table_of
from dakika_server.shared import clock
from dakika_server.sources.models import PeerSet

DAYS = 7
# A post is told of from so many times its own usual on; so many of them at most.
STOOD_OUT, MOST_POSTS = 2.0, 5
# Followers and pace are counted, so every change is one; these are worth a line.
WORTH_TELLING = 0.1


def _ask(brand: Brand, at: datetime) -> None:
    if DigestReader.objects.filter(brand=brand).exists():
        ask("competitors.digest", brand_id=brand.pk, on=at.isoformat())


# On Monday morning by the brand's clock, of the seven days up to Sunday.
MONDAY = Due(ask=_ask, rule="FREQ=WEEKLY;BYDAY=MO", hour=7)


def send_digests(brand: Brand, on: datetime) -> int:
    """Write everybody's digest of the week before a day; how many letters. The same week is written once to each."""
    readers = DigestReader.objects.filter(brand=brand).select_related("person", "peers")
    sent = 0
    written: dict[int | None, tuple[str, str]] = {}
    for reader in readers:
        if not reader.person.email or not reader.person.is_active or not can(reader.person, brand, "brand.read"):
            continue
        if reader.peers_id not in written:
            written[reader.peers_id] = digest_of(brand, reader.peers, on)
        subject, text = written[reader.peers_id]
        stop = f"{settings.PUBLIC_ADDRESS.rstrip('/')}/api/digests/stop/{reader.token}"
        week = (on.astimezone(brand.zone).date() - timedelta(days=1)).isoformat()
        with transaction.atomic():
            sent += write_mail(
                key=f"digest:{reader.pk}:{week}", to=reader.person.email, subject=subject, brand=brand,
                text=f"{text}\n\nStop this digest: {stop}\n",
                headers=stop_headers(stop),
            ) is not None  # fmt: skip
    return sent


def digest_of(brand: Brand, peers: PeerSet | None, on: datetime) -> tuple[str, str]:
    """Subject and text of the week before a day."""
    last = on.astimezone(brand.zone).date() - timedelta(days=1)
    values = {"compare": "previous", "first": last - timedelta(days=DAYS - 1), "last": last}
    study = in_set(study_of(brand, values, clock.now(), kind=None), peers.pk if peers else None)
    standings = standings_of(study)
    name = peers.name if peers else "everybody we follow"
    at = f"{settings.PUBLIC_ADDRESS.rstrip('/')}/{brand.slug}/competitors"
    asked = {**({"set": peers.pk} if peers else {}), "first": values["first"], "last": last}
    parts = [
        ("What changed", _changed(study, standings)), ("Whose posts stood out", _stood_out(study, at)),
        ("Where we are", _moved(standings)), ("What to look at", _to_look_at(study)),
    ]  # fmt: skip
    body = "\n\n".join(
        f"{title}\n" + "\n".join(f"- {line}" for line in lines) for title, lines in parts if lines
    )  # fmt: skip
    head = f"{brand.name} and {name}, {values['first']:%d %b} to {last:%d %b %Y}, against the seven days before."
    closing = (
        f"Posts {study.age_words}, from public figures alone.\nAll figures with their basis: {at}?{urlencode(asked)}"
    )
    return f"{brand.name}: the week of {name}", f"{head}\n\n{body}\n\n{closing}"


def _relative(now: float | None, before: float | None) -> float | None:
    return None if now is None or not before else now / before - 1


def _changed(study: Study, standings: Standings) -> list[str]:
    lines = []
    for line in standings.lines:
        told = []
        growth = line.now["growth"].value
        if growth is not None and abs(growth) >= WORTH_TELLING / 10:
            gained = line.now["gained"].value or 0
            told.append(f"{gained:+,.0f} followers ({growth:+.1%})")
        pace, was = line.now["posts_per_week"].value, line.before["posts_per_week"].value
        if pace is not None and was is not None and abs(pace - was) >= max(2, WORTH_TELLING * 5 * was):
            told.append(f"{pace:.0f} posts, {was:.0f} the week before")
        if apart := _is_apart(line):
            told.append(apart)
        if told:
            lines.append(f"{'We' if line.member.is_own else line.member.name}: {'; '.join(told)}")
    for network in presence_of(study):
        for one in network.members:
            if one.entered and not one.member.is_own:
                lines.append(f"{one.member.name} published on {network.name} for the first time on {one.entered:%d %b}")
    return lines or ["Nothing that goes beyond the usual of a week."]


def _is_apart(line: Line) -> str:
    """Interactions a post against the week before, only where both intervals lie apart."""
    now, before = line.now["interactions_per_post"], line.before["interactions_per_post"]
    change = _relative(now.value, before.value)
    if change is None or not now.interval or not before.interval:
        return ""
    if now.interval.low > before.interval.high or now.interval.high < before.interval.low:
        return f"{now.value:,.0f} interactions a post ({change:+.0%}, the intervals lie apart)"
    return ""


def _stood_out(study: Study, at: str) -> list[str]:
    others = replace(study, profiles=tuple(p for p in study.profiles if p.kind != "own"))
    found = table_of(others).filter(index__gte=STOOD_OUT)
    ids = list(ordered(found, "-index", CATALOGUE).values_list("pk", flat=True)[:MOST_POSTS])
    home = at.rpartition("/")[0]
    lines = []
    whose = {p.pk: p.competitor.name if p.competitor else study.brand.name for p in others.profiles}
    for row in rows_of(ids, of_posts(CATALOGUE, "index")):
        post = row.post
        words = opening_words(post.text, 80) or post.format.replace("_", " ")
        owner = whose[row.profile_id]
        lines.append(
            f"{owner} on {network_name(post.profile.network)}: \u201c{words}\u201d, "
            f"{row.index:.1f} times its own usual ({home}/results/posts/{row.post_id})"
        )
    return lines or [f"No post got {STOOD_OUT:.0f} times its own usual."]


def _moved(standings: Standings) -> list[str]:
    ours = standings.ours
    if ours is None:
        return []
    lines = []
    for key in ("followers", "interactions_per_week", "interactions_per_1000"):
        metric, place = PUBLIC[key], ours.place[key]
        if place is None or place.of < 2:
            continue
        others = [line.before[key] for line in standings.lines]
        before = placed_by(metric, others, [""] * len(others))[standings.lines.index(ours)]
        moved = ""
        # A place that may be chance has not moved as far as one knows.
        if before and before.rank != place.rank and before.is_sure and place.is_sure:
            moved = f"; the week before number {before.rank}"
        next_up = ""
        if place.to_next and not metric.is_of_posts:
            next_up = f"; {place.to_next:,.0f} to {place.next_name}"
        lines.append(f"{metric.name[0].upper()}{metric.name[1:]}: {place_words(place)}{moved}{next_up}")
    return lines


def _to_look_at(study: Study) -> Sequence[str]:
    found = gap_of(study)
    lines = [gap_words(found)] if found.gap else []
    silent = [
        f"{one.member.name} has published nothing on {network.name} since {one.left:%d %b}"
        for network in presence_of(study) for one in network.members if one.left and not one.member.is_own
    ]  # fmt: skip
    return [*lines, *silent[:3]]
