"""Changes to a team's own metrics."""

import re
from typing import Any

from dakika_core.metrics.catalogue import CATALOGUE, POST_UNITS
from dakika_core.metrics.formula import FormulaError, read_formula
from django.db import IntegrityError, transaction
from django.http import Http404
from django.utils.text import slugify

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.results.models import OwnMetric
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors

MOST = 60


def add_own_metric(
    actor: Any, brand: Brand, *, name: str, definition: str, formula: str, more_is_better: bool
) -> OwnMetric:
    """Make a metric. Raises ValidationError for a formula that does not read or a name that is taken."""
    require(actor, brand, "results.metrics")
    if OwnMetric.objects.filter(brand=brand).count() >= MOST:
        raise field_errors({"name": f"A brand has at most {MOST} metrics of its own. Remove one first."})
    name, text = _checked(name, formula)
    return _saved(
        actor,
        OwnMetric(
            brand=brand, key=_free_key(brand, name), name=name, definition=definition.strip(), formula=text,
            more_is_better=more_is_better, created_by=actor, created_at=clock.now(),
        ),
        "add_own_metric",
    )  # fmt: skip


def change_own_metric(
    actor: Any, brand: Brand, metric_id: int, *, name: str, definition: str, formula: str, more_is_better: bool
) -> OwnMetric:
    """Change a metric; its key stays, so that views that show it go on working."""
    require(actor, brand, "results.metrics")
    metric = _of(brand, metric_id)
    metric.name, metric.formula = _checked(name, formula)
    metric.definition, metric.more_is_better = definition.strip(), more_is_better
    return _saved(actor, metric, "change_own_metric")


def remove_own_metric(actor: Any, brand: Brand, metric_id: int) -> None:
    """Take a metric away. Views that show it leave it out."""
    require(actor, brand, "results.metrics")
    with transaction.atomic():
        metric = _of(brand, metric_id)
        audit.record(actor, "remove_own_metric", metric, brand_id=brand.pk, name=metric.name)
        metric.delete()


def _of(brand: Brand, metric_id: int) -> OwnMetric:
    metric = OwnMetric.objects.filter(brand=brand, pk=metric_id).first()
    if metric is None:
        raise Http404
    return metric


def _checked(name: str, formula: str) -> tuple[str, str]:
    name = " ".join(name.replace("\x00", "").split())
    if not name:
        raise field_errors({"name": "Give the metric a name."})
    if name.casefold() in {metric.name.casefold() for metric in CATALOGUE.values()}:
        raise field_errors({"name": "The catalogue has a metric of this name already."})
    try:
        return name, read_formula(formula, POST_UNITS).text
    except FormulaError as error:
        raise field_errors({"formula": error.message}) from None


def _free_key(brand: Brand, name: str) -> str:
    base = "own_" + (re.sub(r"\W+", "_", slugify(name))[:32].strip("_") or "metric")
    taken = set(OwnMetric.objects.filter(brand=brand).values_list("key", flat=True))
    return next(key for key in (base, *(f"{base}_{i}" for i in range(2, MOST + 3))) if key not in taken)


def _saved(actor: Any, metric: OwnMetric, action: str) -> OwnMetric:
    try:
        with transaction.atomic():
            metric.save()
            audit.record(actor, action, metric, brand_id=metric.brand_id)
    except IntegrityError:
        raise field_errors({"name": "There is a metric of this name already."}) from None
    return metric
