"""What was found in the night, told in a brand's own morning: one notice, and a letter to whoever wants it by mail."""

from datetime import datetime

from django.conf import settings
from django.db.models import Max

from dakika_server.brands.models import Brand
from dakika_server.jobs.asking import ask
from dakika_server.notices.actions import notify
from dakika_server.notices.models import Notification
from dakika_server.notices.schedules import Due
from dakika_server.results.models import Finding
from dakika_server.shared import clock

MOST_TOLD = 8
KIND = "findings"


def _ask(brand: Brand, at: datetime) -> None:
    del at
    ask("results.find", brand_id=brand.pk, morning=True)


# Figures of the night are there by then, and people are not at work yet.
MORNING = Due(ask=_ask, hour=6)


def tell_of_findings(brand: Brand) -> int:
    """Tell everybody of the brand of what was found for the first time since the last morning; how many that is."""
    now = clock.now()
    today = now.astimezone(brand.zone).date()
    start = datetime.combine(today, datetime.min.time(), tzinfo=brand.zone)
    # What somebody had looked for in the afternoon is new the next morning; what was told is told.
    told = Notification.objects.filter(brand=brand, kind=KIND).aggregate(last=Max("at"))["last"]
    found = Finding.objects.filter(
        brand=brand, is_current=True, state=Finding.State.NEW, first_found_at__gt=told or start
    )
    count, new = found.count(), list(found.order_by("-weight")[:MOST_TOLD])
    if not new:
        return 0
    key = f"findings:{today.isoformat()}"
    more = f" and {count - 1} more" if count > 1 else ""
    notify(
        brand, kind=KIND, key=key, text=f"New this morning: {new[0].text}{more}", detail=new[0].detail,
        path="results/findings", letter=_letter(brand, new, count),
    )  # fmt: skip
    return count


def _letter(brand: Brand, findings: list[Finding], count: int) -> str:
    lines = [f"What the figures of {brand.name} say this morning:", ""]
    for finding in findings:
        lines += [f"- {finding.text}", f"  {finding.detail}".rstrip(), ""]
    if count > len(findings):
        lines += [f"And {count - len(findings)} more.", ""]
    return "\n".join([*lines, f"{settings.PUBLIC_ADDRESS}/{brand.slug}/results/findings"])
