"""What results tell of a brand in overview: the main figures of four weeks, and the strongest finding."""

from datetime import datetime, timedelta

from dakika_core.metrics.catalogue import CATALOGUE

from dakika_server.brands.models import Brand
from dakika_server.brands.overview import Noted, OverviewFigure, OverviewPart
from dakika_server.figures.study import study_of
from dakika_server.results.models import Finding
from dakika_server.results.summary import Measured, summary_of

DAYS = 28
KEYS = ("followers", "reach", "interactions", "er_reach", "tracked_clicks")


def part_of(brand: Brand, now: datetime) -> OverviewPart:
    """Days that are over, so that the morning is not held against a whole day."""
    today = now.astimezone(brand.zone).date()
    values = {"first": today - timedelta(days=DAYS), "last": today - timedelta(days=1), "compare": "previous"}
    study = study_of(brand, values, now)
    found = Finding.objects.filter(brand=brand, is_current=True, state=Finding.State.NEW).order_by("-weight")
    strongest = found.first()
    return OverviewPart(
        figures=[_figure(one) for one in summary_of(study, [CATALOGUE[key] for key in KEYS])], findings=found.count(),
        stands_out=Noted(text=strongest.text, path="results/findings") if strongest else None,
    )  # fmt: skip


def _figure(one: Measured) -> OverviewFigure:
    return OverviewFigure(
        key=one.metric.key, name=one.metric.name, unit=one.metric.unit.value, more_is_better=one.metric.more_is_better,
        value=one.now.value, before=one.before.value, difference=one.change.difference, relative=one.change.relative,
    )  # fmt: skip
