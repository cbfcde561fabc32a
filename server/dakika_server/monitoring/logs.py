"""Logs: a line for people or a JSON object for machines, with request, brand, person and job, and without secrets.

Whatever logs by the standard library goes the same way; what is bound to the context (structlog.contextvars) stands in
every line of a request or a job.
"""

import re
from collections.abc import MutableMapping
from typing import Any

import structlog

HIDDEN = "[hidden]"
# Our own tokens and secrets, bearer tokens, people and passwords in addresses, and what a query names as a secret.
_SECRETS = re.compile(
    r"(dakika_(?:hook_)?)[A-Za-z0-9_-]{20,}"
    r"|(Bearer )[^\s\"',]+"
    r"|(://)[^/\s:@]+:[^/\s@]+(?=@)"
    r"|([?&#](?:key|code|token|access_token|refresh_token|client_secret|password|signature|state)=)[^\s&\"'#]+",
    re.IGNORECASE,
)
# What a record of the standard library may say beside its message; all else that libraries hang on it is left out.
TOLD = ("status", "method", "route", "ms", "task", "attempt", "outcome", "sql", "queue")
_BEFORE = (
    structlog.contextvars.merge_contextvars,
    lambda _, __, told: {name: value for name, value in told.items() if value != ""},
    structlog.stdlib.add_log_level,
    structlog.stdlib.add_logger_name,
    structlog.stdlib.ExtraAdder(allow=TOLD),
    structlog.processors.TimeStamper(fmt="iso", utc=True),
    structlog.processors.format_exc_info,
    lambda _, __, told: without_secrets(told),
)


def without_secrets(told: MutableMapping[str, Any]) -> MutableMapping[str, Any]:
    """The same with what looks like a secret hidden, in the message, in what stands beside it and in a trace."""
    for name, value in told.items():
        if isinstance(value, str):
            told[name] = hide(value)
    return told


def hide(text: str) -> str:
    """A text in which nothing stands any more that opens something."""
    return _SECRETS.sub(lambda found: next(filter(None, found.groups()), "") + HIDDEN, text)


def logging_of(form: str) -> dict[str, Any]:
    """Python's logging, as Django configures it. form: text or json."""
    last = structlog.processors.JSONRenderer(ensure_ascii=False) if form == "json" else _as_line
    drop = structlog.stdlib.ProcessorFormatter.remove_processors_meta
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "formatters": {
            "told": {
                "()": structlog.stdlib.ProcessorFormatter, "foreign_pre_chain": [*_BEFORE], "processors": [drop, last],
            }
        },
        "handlers": {"out": {"class": "logging.StreamHandler", "formatter": "told"}},
        "root": {"handlers": ["out"], "level": "INFO"},
        # httpx logs whole addresses, in which tokens could stand; a request has its line already.
        "loggers": {
            name: {"level": level}
            for name, level in (
                ("httpx", "WARNING"), ("httpcore", "WARNING"), ("procrastinate.periodic", "WARNING"),
                ("procrastinate.worker", "WARNING"),
                ("axes", "WARNING"), ("django.request", "ERROR"), ("procrastinate.blueprints", "WARNING"),
            )
        },
    }  # fmt: skip


def _as_line(_: Any, __: str, told: MutableMapping[str, Any]) -> str:
    """For people: instant, level, who says it, what, and what it is about."""
    at, level, name, event = (told.pop(key, "") for key in ("timestamp", "level", "logger", "event"))
    trace = told.pop("exception", "")
    about = " ".join(f"{key}={value}" for key, value in told.items())
    line = " ".join(str(part) for part in (at, str(level).upper(), name, event, about) if part != "")
    # One line is one event, whatever somebody writes into a name.
    line = line.replace("\r", "\\r").replace("\n", "\\n")
    return f"{line}\n{trace}" if trace else line
