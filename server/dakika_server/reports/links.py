"""Links that open a report to people outside: with or without a password, until they end, live or as it was.

The key is told once and kept as a digest, the password as a hash; wrong passwords are counted by link and by caller.

In the trade's words: share link, password protection.
"""

import json
from datetime import datetime, timedelta
from typing import Any

from django.contrib.auth.hashers import check_password, make_password
from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.db.models import F
from django.http import Http404

from dakika_server.brands.permissions import require
from dakika_server.reports.models import Report, ReportLink
from dakika_server.shared import audit, clock
from dakika_server.shared.callers import slow_down
from dakika_server.shared.errors import field_errors
from dakika_server.shared.keys import digest_of_key, new_key

LONGEST = timedelta(days=366 * 3)
MOST_LINKS = 200
SHORTEST_PASSWORD = 6
MOST_TRIES, MOST_TRIES_OF_LINK = 5, 30
# Each opening works its figures out anew.
MOST_OPENINGS = 30


def links_of(report: Report) -> list[ReportLink]:
    """A report's links, the latest first."""
    return list(report.links.order_by("-made_at").defer("shown")[:MOST_LINKS])


def make_link(
    actor: Any,
    report: Report,
    *,
    name: str,
    until: datetime,
    password: str,
    is_frozen: bool,
    shown: dict[str, Any] | None,
) -> tuple[ReportLink, str]:
    """A link, and the key that opens it: told now and never again. Raises field errors."""
    require(actor, report.brand, "reports.share")
    name = " ".join(name.replace("\x00", "").split())[:80]
    now = clock.now()
    wrong: dict[str, str] = {}
    if not name:
        wrong["name"] = "Say who it is for."
    if not now < until <= now + LONGEST:
        wrong["until"] = "Choose an end within three years from now."
    if password and len(password) < SHORTEST_PASSWORD:
        wrong["password"] = f"A password has at least {SHORTEST_PASSWORD} characters."
    if report.links.filter(revoked_at=None, until__gt=now).count() >= MOST_LINKS:
        wrong["name"] = "There are very many links already. Take some back."
    if wrong:
        raise field_errors(wrong)
    key, digest = new_key()
    with transaction.atomic():
        made = ReportLink.objects.create(
            brand=report.brand, report=report, name=name, digest=digest, until=until, is_frozen=is_frozen,
            password=make_password(password) if password else "", made_by=actor, made_at=now,
            shown=shown if is_frozen else None,
        )  # fmt: skip
        audit.record(actor, "share_report", made, brand_id=report.brand_id, until=until.isoformat(), frozen=is_frozen)
    return made, key


def revoke_link(actor: Any, report: Report, pk: int) -> None:
    """Take a link back: it opens nothing from now on. Raises Http404."""
    require(actor, report.brand, "reports.share")
    with transaction.atomic():
        found = ReportLink.objects.select_for_update().filter(report=report, pk=pk).first()
        if found is None:
            raise Http404
        ReportLink.objects.filter(pk=pk).update(revoked_at=found.revoked_at or clock.now(), shown=None)
        audit.record(actor, "revoke_report_link", found, brand_id=report.brand_id)


def opened(key: str, password: str, caller: str) -> ReportLink:
    """The link that a key opens. Raises Http404 for none, PermissionDenied without the right password, TooOften.

    Whoever tries passwords is slowed down, by caller and for all callers of the link together.
    """
    now = clock.now()
    live = ReportLink.objects.select_related("report", "brand").filter(
        digest=digest_of_key(key), revoked_at=None, until__gt=now, report__removed_at=None
    )
    link = live.first()
    if link is None:
        raise Http404
    slow_down(f"report-open-{link.pk}", caller, MOST_OPENINGS)
    if link.password:
        if not password:
            raise PermissionDenied("This report asks for a password.")
        slow_down(f"report-{link.pk}", caller, MOST_TRIES)
        slow_down(f"report-{link.pk}", "", MOST_TRIES_OF_LINK)
        if not check_password(password, link.password):
            raise PermissionDenied("This is not the password of this report.")
    return link


def visited(link: ReportLink) -> None:
    """Somebody looked."""
    ReportLink.objects.filter(pk=link.pk).update(visits=F("visits") + 1, visited_at=clock.now())


def frozen(report: Report, shown: dict[str, Any]) -> dict[str, Any]:
    """What a frozen link keeps: the report as it is, and what it shows. Values are those that are sent."""
    kept: dict[str, Any] = json.loads(
        json.dumps(
            {
                "title": report.title, "language": report.language, "look": report.look,
                "pages": [{**page, "notes": ""} for page in report.pages],
                "shown": shown, "as_of": clock.now().isoformat(),
            }
        )
    )  # fmt: skip
    return kept
