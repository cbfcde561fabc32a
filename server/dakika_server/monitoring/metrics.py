"""Metrics in the text format of OpenMetrics: requests and jobs as they were, and what areas measure when asked.

Processes of one machine count into files of one folder (PROMETHEUS_MULTIPROC_DIR), which are read together.

In the trade's words: observability, telemetry.
"""

import logging
import os
from collections.abc import Iterator
from hmac import compare_digest
from pathlib import Path

from django.conf import settings
from django.db import DatabaseError, transaction
from django.http import HttpRequest, HttpResponse
from prometheus_client import CollectorRegistry, Counter, Histogram, disable_created_metrics
from prometheus_client.core import GaugeMetricFamily, Metric
from prometheus_client.multiprocess import MultiProcessCollector
from prometheus_client.openmetrics.exposition import CONTENT_TYPE_LATEST, generate_latest
from prometheus_client.registry import Collector

from dakika_server.monitoring.gauges import GAUGES
from dakika_server.shared.problems import plain_problem

log = logging.getLogger(__name__)
disable_created_metrics()  # type: ignore[no-untyped-call]
_OWN = CollectorRegistry()
_SECONDS = (0.01, 0.025, 0.05, 0.1, 0.15, 0.3, 0.6, 1.0, 2.5, 5.0, 10.0, 30.0)
REQUESTS = Histogram(
    "dakika_request_seconds", "How long requests took", ["area", "method", "status"], buckets=_SECONDS, registry=_OWN
)
JOBS = Histogram(
    "dakika_job_seconds", "How long jobs took", ["task", "outcome"], registry=_OWN,
    buckets=(0.1, 0.5, 1.0, 5.0, 15.0, 60.0, 300.0, 1800.0),
)  # fmt: skip
SLOW_QUERIES = Counter("dakika_slow_queries", "Queries that took longer than is usual", registry=_OWN)
ERRORS = Counter("dakika_errors", "Errors of our own", ["part"], registry=_OWN)


class _Gauges(Collector):
    """What areas measure, each in a transaction of its own: one that fails leaves out nothing but itself."""

    def collect(self) -> Iterator[Metric]:
        """Read them all."""
        for name, gauge in sorted(GAUGES.items()):
            family = GaugeMetricFamily(name, gauge.words, labels=gauge.labels)
            try:
                with transaction.atomic():
                    for labels, value in gauge.read():
                        family.add_metric(labels, value)
            except (DatabaseError, OSError) as error:
                log.warning("%s could not be read: %s", name, str(error).partition("\n")[0])
                continue
            yield family


def metrics(request: HttpRequest) -> HttpResponse:
    """For whoever has the token that is set; there is nothing here where none is."""
    if not settings.METRICS_TOKEN:
        return plain_problem(404, "not_found", "There is nothing here, or you may not see it.")
    told = request.headers.get("Authorization", "").removeprefix("Bearer ")
    if not compare_digest(told.encode(), settings.METRICS_TOKEN.encode()):
        return plain_problem(401, "unauthorised", "Ask with the token that is set.", **{"WWW-Authenticate": "Bearer"})
    registry = CollectorRegistry()
    if folder := os.environ.get("PROMETHEUS_MULTIPROC_DIR"):
        if Path(folder).is_dir():
            MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
    else:
        registry.register(_OWN)
    registry.register(_Gauges())
    told = generate_latest(registry)  # type: ignore[no-untyped-call]
    return HttpResponse(told, content_type=CONTENT_TYPE_LATEST)
