"""Calendars of others beside the plan: followed by their address, asked for anew some times a day, never trusted."""

import logging
import random
from datetime import timedelta
from typing import Any
from urllib.parse import urlsplit

from dakika_core.plan.calendars import CalendarError, Event, calendar_name, events_between
from dakika_core.sources.retry import next_try
from dakika_core.values.addresses import AddressError, clean_destination
from django.db import IntegrityError, OperationalError, transaction
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.networks.fetcher import Fetched, FetchError, fetch, place_for_people
from dakika_server.plan.models import CalendarEvent, FollowedCalendar
from dakika_server.shared import apart, audit, clock
from dakika_server.shared.errors import Conflict, field_errors

log = logging.getLogger(__name__)
ACCEPT = "text/calendar, application/octet-stream;q=0.5, text/plain;q=0.3"
EVERY, LONGEST_WAIT = timedelta(hours=6), timedelta(days=2)
# What is kept of a calendar: as far as the plan looks back and ahead.
BACK, AHEAD = timedelta(days=120), timedelta(days=400)
MOST = 30
SECONDS, MEGABYTES = 15, 600


def follow_calendar(actor: Any, brand: Brand, *, address: str, name: str = "") -> FollowedCalendar:
    """Show a calendar beside the plan. webcal addresses are read over https.

    Raises field errors for what is no calendar or cannot be had, Conflict for one that is followed already.
    """
    require(actor, brand, "plan.write")
    if FollowedCalendar.objects.filter(brand=brand).count() >= MOST:
        raise Conflict("too_many_calendars", f"{MOST} calendars are followed already. Take one away first.")
    try:
        address = clean_destination(_on_the_web(address))
        with place_for_people():
            got = fetch(address, accept=ACCEPT)
        events, own_name = _read(brand, got)
    except (AddressError, FetchError, CalendarError) as error:
        raise field_errors({"address": str(error)}) from None
    called = " ".join(name.replace("\x00", "").split()) or own_name or urlsplit(address).hostname or address
    try:
        with transaction.atomic():
            made = FollowedCalendar.objects.create(brand=brand, address=address, name=called[:200])
            _store(made, events, got)
            audit.record(actor, "follow_calendar", made, brand_id=brand.pk)
    except IntegrityError:
        raise Conflict("already_followed", "This calendar is followed already.") from None
    return made


def leave_calendar(actor: Any, brand: Brand, pk: int) -> None:
    """Take a calendar and its events away. Raises Http404."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        found = FollowedCalendar.objects.filter(brand=brand, pk=pk).first()
        if found is None:
            raise Http404
        audit.record(actor, "leave_calendar", found, brand_id=brand.pk)
        found.delete()


def refresh_calendar(pk: int) -> None:
    """Ask for a calendar anew. What goes wrong is written on it; its events stay as they were known."""
    followed = FollowedCalendar.objects.select_related("brand").filter(pk=pk).first()
    if followed is None:
        return
    # The days that are kept move on, so that an unchanged calendar is read anew once a day all the same.
    is_fresh = followed.fetched_at is not None and clock.now() - followed.fetched_at < timedelta(days=1)
    asked = {"If-None-Match": followed.etag} if followed.etag and is_fresh else {}
    try:
        got = fetch(followed.address, accept=ACCEPT, headers=asked)
        if got.status == 304:
            FollowedCalendar.objects.filter(pk=pk).update(next_at=clock.now() + EVERY, failures=0, message="")
            return
        events, _ = _read(followed.brand, got)
        with transaction.atomic():
            _store(followed, events, got)
    except (FetchError, CalendarError) as error:
        _note_failure(followed, str(error))
    except OperationalError:
        raise
    except Exception:
        # Whatever it is, it is asked for again later and not for ever.
        log.exception("calendar %s could not be taken in", pk)
        _note_failure(followed, "What came from there could not be taken in.")


def claim_due() -> list[int]:
    """Those to be asked for now, each told once: whoever loses the job leaves it to the next turn."""
    now = clock.now()
    due = list(FollowedCalendar.objects.filter(next_at__lte=now).order_by("next_at").values_list("pk", flat=True)[:200])
    FollowedCalendar.objects.filter(pk__in=due).update(next_at=now + EVERY)
    return due


def _on_the_web(address: str) -> str:
    scheme, colon, rest = address.strip().partition(":")
    return f"https:{rest}" if colon and scheme.lower() in ("webcal", "webcals") else address


def _read(brand: Brand, got: Fetched) -> tuple[list[Event], str]:
    today = clock.now().astimezone(brand.zone).date()
    bounds: Any = {"seconds": SECONDS, "megabytes": MEGABYTES}
    try:
        name: str = apart.called(calendar_name, got.content, **bounds)
        events: list[Event] = apart.called(
            events_between, got.content, today - BACK, today + AHEAD, brand.zone, **bounds
        )
    except apart.TooMuch:
        raise CalendarError(
            "This calendar takes far longer to read than one of its size does. It is not read."
        ) from None
    return events, name


def _store(followed: FollowedCalendar, events: list[Event], got: Fetched) -> None:
    followed.events.all().delete()
    CalendarEvent.objects.bulk_create(
        CalendarEvent(calendar=followed, first=one.first, last=one.last, at=one.at, text=one.text) for one in events
    )
    now = clock.now()
    followed.etag, followed.fetched_at, followed.next_at = got.headers.get("etag", "")[:300], now, now + EVERY
    followed.failures, followed.message = 0, ""
    followed.save()


def _note_failure(followed: FollowedCalendar, message: str) -> None:
    again = next_try(clock.now(), followed.failures, every=EVERY, longest=LONGEST_WAIT, chance=random.Random())
    FollowedCalendar.objects.filter(pk=followed.pk).update(
        failures=followed.failures + 1, message=message[:500], next_at=again
    )
