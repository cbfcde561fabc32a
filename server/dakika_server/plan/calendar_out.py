"""The plan for other programs: as a table, as a workbook, as a calendar (RFC 5545), and as one to subscribe to.

A subscribed calendar has an address of its own, told once; its key is kept as a digest, and another one ends it.

In the trade's words: calendar subscription, iCalendar.
"""

import csv
import io
from collections.abc import Iterable, Iterator
from datetime import UTC, datetime, timedelta
from typing import Any

from dakika_core.sources.files.guard import neutralise
from dakika_core.values.period import Period
from django.conf import settings
from django.db import transaction
from django.http import Http404
from icalendar import Calendar, Event
from openpyxl import Workbook
from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE

from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.permissions import may, require
from dakika_server.networks.definitions import network_name
from dakika_server.plan.models import CalendarKey, PlannedPost
from dakika_server.plan.queries import planned_between
from dakika_server.shared import audit, clock
from dakika_server.shared.keys import digest_of_key, new_key

HEAD = (
    "day", "time", "network", "profile", "state", "working title", "text", "headline", "first comment", "link",
    "campaign",
)  # fmt: skip
BACK, AHEAD = timedelta(days=60), timedelta(days=366)
# A post takes no time; a calendar shows what takes some.
SHOWN_FOR = timedelta(minutes=15)
LONGEST = 2_000


def rows_of(brand: Brand, period: Period) -> Iterator[tuple[Any, ...]]:
    """A row for each version with a minute in a period, by the brand's clock."""
    for planned in planned_between(brand.pk, period.start, period.end):
        for version in planned.versions.all():
            at = (version.due_at or planned.scheduled_at or period.start).astimezone(brand.zone)
            profile = version.profile
            yield (
                f"{at:%Y-%m-%d}", f"{at:%H:%M}", network_name(profile.network), profile.name, version.state,
                planned.title,
                version.text, version.headline, version.first_comment,
                version.link.destination if version.link else "", planned.campaign.name if planned.campaign else "",
            )  # fmt: skip


def as_csv(brand: Brand, period: Period) -> str:
    """The plan of some days as CSV (RFC 4180), formulas made harmless. It can be brought in again."""
    out = io.StringIO()
    write = csv.writer(out)
    write.writerow(HEAD)
    write.writerows([neutralise(cell) for cell in row] for row in rows_of(brand, period))
    return out.getvalue()


def as_workbook(brand: Brand, period: Period) -> bytes:
    """The same as a workbook."""
    book = Workbook(write_only=True)
    sheet = book.create_sheet("Plan")
    sheet.append(HEAD)
    for row in rows_of(brand, period):
        sheet.append([ILLEGAL_CHARACTERS_RE.sub("", str(neutralise(cell))) for cell in row])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def as_calendar(brand: Brand, planned: Iterable[PlannedPost]) -> bytes:
    """Planned posts as events (RFC 5545, 3.6.1); each is the same event however often it is changed."""
    calendar = Calendar()
    calendar.add("prodid", "-//Dakika//plan//EN")
    calendar.add("version", "2.0")
    calendar.add("name", f"{brand.name}: plan")
    host = settings.PUBLIC_ADDRESS.rpartition("//")[2]
    for one in planned:
        if one.scheduled_at is None:
            continue
        versions = list(one.versions.all())
        networks = ", ".join(dict.fromkeys(network_name(version.profile.network) for version in versions))
        event = Event()
        event.add("uid", f"planned-{one.pk}@{host}")
        event.add("dtstamp", clock.now().astimezone(UTC))
        event.add("dtstart", one.scheduled_at.astimezone(UTC))
        event.add("duration", SHOWN_FOR)
        event.add("sequence", one.edition)
        event.add("status", "CONFIRMED" if one.state in ("scheduled", "publishing", "published") else "TENTATIVE")
        event.add("summary", _plain(one.title or one.text or "A post")[:200] + (f" ({networks})" if networks else ""))
        text = one.text or next((version.text for version in versions if version.text), "")
        event.add("description", _plain(f"{one.state.replace('_', ' ')}\n{text}")[:LONGEST])
        event.add("url", f"{settings.PUBLIC_ADDRESS}/{brand.slug}/plan/{one.pk}")
        calendar.add_component(event)
    found: bytes = calendar.to_ical()
    return found


def _plain(text: str) -> str:
    """A text without what a calendar cannot hold (RFC 5545, 3.3.11: no control characters but the end of a line)."""
    return "".join(letter for letter in text if letter == "\n" or letter.isprintable())


def subscribe(actor: Any, brand: Brand) -> str:
    """A new address at which a person's calendar program finds the plan; the one before ends."""
    require(actor, brand, "plan.read")
    told, digest = new_key()
    with transaction.atomic():
        key, _ = CalendarKey.objects.update_or_create(
            brand=brand, person=actor, defaults={"digest": digest, "made_at": clock.now()}
        )
        audit.record(actor, "subscribe_to_plan", key, brand_id=brand.pk)
    return f"{settings.PUBLIC_ADDRESS}/api/plan-calendars/{told}.ics"


def unsubscribe(actor: Any, brand: Brand) -> None:
    """End one's address."""
    with transaction.atomic():
        found = CalendarKey.objects.filter(brand=brand, person=actor).first()
        if found is not None:
            audit.record(actor, "unsubscribe_from_plan", found, brand_id=brand.pk)
            found.delete()


def subscribed(told: str) -> bytes:
    """The calendar behind an address. Raises Http404 for one that is none, or whose owner may not look any more."""
    key = CalendarKey.objects.select_related("brand").filter(digest=digest_of_key(told)).first()
    if key is None:
        raise Http404
    member = Membership.objects.filter(brand=key.brand, user=key.person).first()
    if member is None or not may(member.role, "plan.read"):
        raise Http404
    now: datetime = clock.now()
    return as_calendar(key.brand, planned_between(key.brand_id, now - BACK, now + AHEAD))
