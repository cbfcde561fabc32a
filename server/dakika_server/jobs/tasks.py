"""What all jobs share."""

import functools
from collections.abc import Callable
from typing import Any, ParamSpec, TypeVar

from django.db import close_old_connections

from dakika_server.shared.hooks import Registry

# What the worker runs around every job, in the queue's own form (procrastinate.middleware), by name.
AROUND_JOBS: Registry[Callable[..., Any]] = Registry("what is done around every job")
P = ParamSpec("P")
R = TypeVar("R")


def in_database(task: Callable[P, R]) -> Callable[P, R]:
    """A job that uses the database: dead connections are dropped before, and none are left behind after."""

    @functools.wraps(task)
    def run(*args: P.args, **kwargs: P.kwargs) -> R:
        close_old_connections()
        try:
            return task(*args, **kwargs)
        finally:
            close_old_connections()

    return run
