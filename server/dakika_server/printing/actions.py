"""Asking for a page on paper, and making it."""

from datetime import timedelta
from typing import Any

from django.db import transaction
from django.db.models import Q
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import membership_of
from dakika_server.jobs.asking import ask as ask_job
from dakika_server.printing import chromium
from dakika_server.printing.models import PrintedPage
from dakika_server.shared import clock
from dakika_server.shared.errors import Conflict, Problem
from dakika_server.shared.locks import Lock, wait_within_transaction

KEPT = timedelta(days=1)
MOST_WAITING = 5
LARGEST = 20 * 1024 * 1024
State = PrintedPage.State
UNFINISHED = (State.WAITING, State.PRINTING)


def ask(person: Any, brand: Brand, path: str, file_name: str) -> PrintedPage:
    """Have a page of a brand printed soon. The same page that is still to come is not asked for twice.

    path: an address of ours, made of checked values. Raises Conflict when a person has too many to come.
    """
    membership_of(person, brand.slug)
    with transaction.atomic():
        wait_within_transaction(Lock.PRINTING_ASKED, person.pk)
        to_come = PrintedPage.objects.filter(person=person, state__in=UNFINISHED)
        page = to_come.filter(brand=brand, path=path).defer("content").first()
        if page is not None:
            return page
        if to_come.count() >= MOST_WAITING:
            raise Conflict("too_many_pages", f"{MOST_WAITING} of your pages are still to come. Wait for one.")
        page = PrintedPage.objects.create(
            brand=brand, person=person, path=path, file_name=file_name, asked_at=clock.now()
        )
        ask_job("printing.print_one", page_id=page.pk)
    return page


def make(page_id: int) -> None:
    """Print a page that waits, or that a worker died over. Whatever ends it is told in words."""
    found = PrintedPage.objects.filter(pk=page_id, state__in=UNFINISHED)
    page = found.select_related("person", "brand").first()
    if page is None:
        return
    found.update(state=State.PRINTING)
    content, detail = None, ""
    try:
        # Who left the brand in the meantime gets nothing of it any more.
        membership_of(page.person, page.brand.slug)
        content = chromium.print_page(page.person, page.path)
    except Http404:
        detail = "You no longer see this brand."
    except Problem as problem:
        detail = str(problem.detail)
    except Exception:
        found.update(state=State.FAILED, ended_at=clock.now(), detail="It could not be printed. Try again, or tell us.")
        raise
    if content is not None and len(content) > LARGEST:
        content, detail = None, "This page is larger than can be kept. Print it in your browser instead."
    found.update(
        state=State.FAILED if content is None else State.DONE, content=content, detail=detail, ended_at=clock.now()
    )


def pages_before(page: PrintedPage) -> int:
    """How many are to be made before a page that waits."""
    earlier = Q(asked_at__lt=page.asked_at) | Q(asked_at=page.asked_at, pk__lt=page.pk)
    return PrintedPage.objects.filter(earlier, state__in=UNFINISHED).count()


def forget_old() -> int:
    """Throw away the pages whose day is over; returns how many."""
    return PrintedPage.objects.filter(asked_at__lt=clock.now() - KEPT).delete()[0]
