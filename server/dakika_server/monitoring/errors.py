"""Errors of our own, told to an address that is set: with request, brand and job, without people and what they sent."""

import sys
from typing import Any

from dakika_server.monitoring.logs import hide


def report_errors(address: str, release: str) -> None:
    """Begin to tell. Does nothing without an address."""
    if not address:
        return
    import sentry_sdk
    from sentry_sdk.integrations.django import DjangoIntegration
    from sentry_sdk.integrations.logging import LoggingIntegration

    sentry_sdk.init(
        dsn=address, release=release,
        # Nothing of people: no cookies, no bodies, no addresses, no values of variables in the trace.
        send_default_pii=False, max_request_body_size="never", include_local_variables=False, traces_sample_rate=0,
        auto_enabling_integrations=False, default_integrations=True, before_send=cleaned,
        integrations=[DjangoIntegration(), LoggingIntegration(event_level=None)], server_name="",
    )  # fmt: skip


def tell_of(error: BaseException) -> None:
    """Tell of an error that nobody else tells of."""
    if sdk := sys.modules.get("sentry_sdk"):
        sdk.capture_exception(error)


def cleaned(event: Any, hint: Any) -> Any:
    """An error as it may leave: no address in it that could hold somebody's key, and nothing that looks like one."""
    del hint
    from structlog.contextvars import get_contextvars

    asked = event.pop("request", None) or {}
    event["request"] = {"method": asked.get("method", "")}
    event.pop("user", None)
    event.pop("breadcrumbs", None)
    event["tags"] = {**(event.get("tags") or {}), **{k: str(v) for k, v in get_contextvars().items()}}
    for one in (event.get("exception") or {}).get("values", []):
        one["value"] = hide(str(one.get("value") or ""))
    if isinstance(event.get("logentry"), dict):
        event["logentry"] = {"message": hide(str(event["logentry"].get("message", "")))}
    return event
