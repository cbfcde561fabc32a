"""Queries that take long: their text in the log, never what was asked with.

In the trade's words: slow query log.
"""

import logging
import time
from collections.abc import Callable
from typing import Any

from django.conf import settings

from dakika_server.monitoring.metrics import SLOW_QUERIES

log = logging.getLogger("dakika.slow_query")
LONGEST_TEXT = 1500


def watch_queries(sender: object, connection: Any, **more: object) -> None:
    """Answers Django's signal that a connection was made."""
    del sender, more
    if settings.SLOW_QUERY_MS and note_if_slow not in connection.execute_wrappers:
        connection.execute_wrappers.append(note_if_slow)


def note_if_slow(execute: Callable[..., Any], sql: str, params: Any, many: bool, context: Any) -> Any:  # noqa: FBT001
    """Around every query; what it was asked with stays out of the log, for it may be people's."""
    begun = time.monotonic()
    try:
        return execute(sql, params, many, context)
    finally:
        ms = (time.monotonic() - begun) * 1000
        if settings.SLOW_QUERY_MS and ms >= settings.SLOW_QUERY_MS:
            SLOW_QUERIES.inc()
            log.warning("slow query", extra={"ms": round(ms), "sql": " ".join(str(sql).split())[:LONGEST_TEXT]})
