"""How far behind the redirect's journal the database is."""

from collections.abc import Iterable
from pathlib import Path

from django.conf import settings

from dakika_server.links.models import Journal
from dakika_server.monitoring.gauges import GAUGES, Gauge, Sample, samples
from dakika_server.monitoring.status import PARTS, Part, Standing, in_bytes

BEHIND, SUFFIX = "dakika_journal_behind_bytes", ".clicks"
# A click is some two hundred bytes: so much is a minute of a redirect at full speed.
MUCH_BYTES = 20 * 1000 * 1000


def _behind() -> Iterable[Sample]:
    """Bytes of the journal that are not taken in; nothing where the journal is on another machine."""
    folder = Path(settings.LINKS_FOLDER)
    if not folder.is_dir():
        return []
    sizes = {path.name: path.stat().st_size for path in folder.glob(f"*{SUFFIX}") if path.exists()}
    taken = dict(Journal.objects.filter(name__in=sizes).values_list("name", "taken"))
    return [((), float(sum(max(0, size - taken.get(name, 0)) for name, size in sizes.items())))]


def _look() -> Standing:
    found = samples(BEHIND)
    if not found:
        return Standing(told="Its journal is on another machine.")
    behind = found[0][1]
    if behind > MUCH_BYTES:
        return Standing(told=f"{in_bytes(behind)} of clicks wait to be taken in.", is_well=False,
                        advice="No click is lost. Look whether the redirect runs, and what its log says.")  # fmt: skip
    return Standing(
        told="All clicks are taken in." if not behind else f"{in_bytes(behind)} of clicks are on their way."
    )


def connect() -> None:
    """Add to what is measured and looked at."""
    GAUGES.add(BEHIND, Gauge(words="Bytes of the redirect's journal that are not in the database yet", read=_behind))
    PARTS.add("redirect", Part(words="Redirect", look=_look))
