"""Monitoring, as it hands itself in."""

from django.conf import settings
from django.db.backends.signals import connection_created

from dakika_server.accounts.permissions import permit
from dakika_server.jobs.tasks import AROUND_JOBS
from dakika_server.monitoring.errors import report_errors
from dakika_server.monitoring.permissions import ROWS
from dakika_server.monitoring.slow_queries import watch_queries
from dakika_server.monitoring.version import version
from dakika_server.monitoring.work import note_job
from dakika_server.shared.areas import Area


def _connect() -> None:
    permit(ROWS)
    AROUND_JOBS.add("monitoring", note_job)
    connection_created.connect(watch_queries, dispatch_uid="monitoring.slow_queries")
    report_errors(settings.ERRORS_ADDRESS, version())


AREA = Area(name="monitoring", urls="dakika_server.monitoring.urls", connect=_connect)
