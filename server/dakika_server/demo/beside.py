"""The demo beside one's own brands: asked for, filled by the worker, taken away, and over by itself after a month."""

import json
import logging
import subprocess
import sys
import tempfile
from datetime import datetime, timedelta
from importlib.util import find_spec
from pathlib import Path
from typing import Any

from django.db import transaction

from dakika_server.accounts.models import User
from dakika_server.brands.actions import add_brand
from dakika_server.brands.everything import erase_brand
from dakika_server.brands.models import Brand, Membership
from dakika_server.demo.loading import BRANDS, load_beside
from dakika_server.demo.models import DemoBrand
from dakika_server.jobs.asking import ask
from dakika_server.shared import clock
from dakika_server.shared.errors import Conflict
from dakika_server.shared.locks import Lock, tried

log = logging.getLogger(__name__)
LASTS = timedelta(days=30)
# What makes the invented half-year; an installation may have been put together without it.
WORLD = "dakika_standins"
MOST_SECONDS = 300
State = DemoBrand.State


def is_offered() -> bool:
    """Whether a demo can be made here at all."""
    return find_spec(WORLD) is not None


def demo_of(person: User) -> DemoBrand | None:
    """The demo that stands beside a person's brands, or is being made or taken away."""
    return DemoBrand.objects.filter(person=person).select_related("brand").first()


def ask_for_demo(person: User) -> DemoBrand:
    """Have a demo made beside one's brands; the one that is there already stays, one that failed is tried again.

    Raises Conflict where it cannot be made here or the last one is just going, field errors for whoever may make no
    brand.
    """
    if not is_offered():
        raise Conflict("no_demo", "This installation was put together without the demo's data.")
    with transaction.atomic():
        # Of two clicks the second finds what the first made.
        User.objects.select_for_update().get(pk=person.pk)
        found = demo_of(person)
        if found is not None and found.state == State.GOING:
            raise Conflict("demo_is_going", "The last demo is just being taken away. Ask again in a minute.")
        if found is None:
            name, _, zone, _ = BRANDS["orrery"]
            brand = add_brand(person, name=f"{name} (demo)", time_zone=zone, first_weekday=0)
            brand.is_demo = True
            brand.save(update_fields=["is_demo"])
            found = DemoBrand.objects.create(brand=brand, person=person, asked_at=clock.now())
        elif found.state != State.FAILED:
            return found
        found.state = State.WAITING
        found.save(update_fields=["state"])
        ask("demo.fill", brand_id=found.pk)
    return found


class _TakenAway(Exception):
    """It is not wanted any more."""


def fill(brand_id: int) -> None:
    """Fill a demo that was asked for: all of it or, where it breaks off, nothing, so that it can be tried again.

    Whoever takes it away meanwhile does not wait for it.
    """
    with tried(Lock.DEMO, brand_id) as is_ours:
        waiting = DemoBrand.objects.filter(pk=brand_id, state=State.WAITING)
        demo = waiting.select_related("brand", "person").first()
        if not is_ours or demo is None:
            return
        try:
            archive = _archive()
            with transaction.atomic():
                load_beside(demo.person, demo.brand, archive)
                if not waiting.update(state=State.READY):
                    raise _TakenAway
        except Exception:
            if waiting.update(state=State.FAILED):
                log.exception("the demo of brand %s could not be made", brand_id)


def _archive() -> dict[str, Any]:
    """The invented half-year, made in a process of its own: the world is large, and forgotten with it."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "archive.json"
        command = [sys.executable, "-m", f"{WORLD}.archive", str(path)]
        subprocess.run(command, check=True, timeout=MOST_SECONDS, capture_output=True)
        archive: dict[str, Any] = json.loads(path.read_text())
        return archive


def take_away(person: User) -> None:
    """Take one's demo away: it is seen no more at once, and erased by the worker. Nothing where there is none."""
    demo = demo_of(person)
    if demo is not None:
        _take_away(demo)


def _take_away(demo: DemoBrand) -> None:
    with transaction.atomic():
        DemoBrand.objects.filter(pk=demo.pk).update(state=State.GOING)
        Membership.objects.filter(brand=demo.pk).delete()
        ask("demo.erase", brand_id=demo.pk)


def erase(brand_id: int) -> None:
    """Erase a demo that was taken away. A real brand is never erased by it."""
    demo = DemoBrand.objects.filter(pk=brand_id, state=State.GOING).select_related("brand").first()
    if demo is not None and demo.brand.is_demo:
        erase_brand(demo.brand)


def take_away_old(now: datetime) -> int:
    """Take away demos that were made a month ago; how many."""
    old = list(DemoBrand.objects.filter(asked_at__lt=now - LASTS).exclude(state=State.GOING))
    for demo in old:
        _take_away(demo)
    return len(old)


def erase_with_person(person: User, name: str, instead: str) -> None:
    """Whoever goes for good takes their demo along."""
    del name, instead
    demo = demo_of(person)
    if demo is not None:
        erase_brand(Brand.objects.get(pk=demo.pk))
