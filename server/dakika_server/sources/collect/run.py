"""One collection run: its steps within a turn, what becomes of it, and when the profile is due again.

In the trade's words: crawl, sync, incremental collection.
"""

import logging
import random
from datetime import datetime, timedelta

from dakika_core.sources.retry import wait_seconds
from django.db import DataError, transaction

from dakika_server.networks.connectors.base import NetworkError, NotAuthorised, NotFound, Unavailable
from dakika_server.networks.connectors.registry import connected
from dakika_server.networks.definitions import network
from dakika_server.shared import clock
from dakika_server.sources.collect.steps import STEPS, Pause, Work
from dakika_server.sources.collect.tokens import token_of
from dakika_server.sources.models import CollectionRun, Credential, Post, Profile
from dakika_server.sources.rebuilding import request_rebuild
from dakika_server.sources.told import tell_of_collection

log = logging.getLogger(__name__)
OWN_EVERY, OTHERS_EVERY = timedelta(minutes=60), timedelta(hours=3)
SOONEST = timedelta(minutes=5)
AFTER_FAILURE, LONGEST_AFTER_FAILURE = timedelta(minutes=5), timedelta(hours=6)
MOST_TURNS = 2000
MOST_WAITS = 6
MISSING = {
    "profile": "followers, audience and posts", "audience": "the audience, and posts", "webhooks": "posts",
    "new posts": "the newest posts", "counters": "some posts' counters", "comments": "some comments",
    "history": "older posts",
}  # fmt: skip
_chance = random.Random()


def collect(run: CollectionRun) -> float | None:
    """Carry a run on for one turn. Returns in how many seconds it wants the next turn; None when it is over.

    What came before an error is kept; the run then says what is missing, and the next one brings it.
    """
    profile = run.profile
    run.state, run.resume_at = CollectionRun.State.RUNNING, None
    run.started_at = run.started_at or clock.now()
    run.turns += 1
    run.save(update_fields=["state", "resume_at", "started_at", "turns"])
    definition = network(profile.network)
    try:
        token = token_of(profile) if profile.kind == Profile.Kind.OWN else ""
        with connected(profile.network, token) as api:
            work = Work(
                network=api, definition=definition, run=run, profile=profile, now=clock.now(),
                requests_before=run.requests, slow_before=run.slow, refused_before=run.refused,
            )  # fmt: skip
            try:
                for name, step in STEPS:
                    work.begin(name)
                    step(work)
            finally:
                run.requests = work.requests_before + api.requests
                run.slow, run.refused = work.slow_before + api.slow, work.refused_before + api.refused
                run.calls_left = api.calls_left if api.calls_left is not None else run.calls_left
    except Pause as pause:
        return _lie_down(run, pause.seconds, pause.message)
    except NotAuthorised as error:
        if profile.credential_id is not None:
            Credential.objects.filter(pk=profile.credential_id).update(is_lapsed=True)
        return _end(run, CollectionRun.State.FAILED, str(error))
    except Unavailable as error:
        if error.wait_seconds is not None and run.refused <= MOST_WAITS and run.turns <= MOST_TURNS:
            return _lie_down(run, error.wait_seconds, f"{error} It asked us to wait.")
        return _end(run, _broken(run), str(error))
    except NotFound as error:
        return _end(run, CollectionRun.State.FAILED, f"{error} Was the profile renamed or closed?")
    except NetworkError as error:
        return _end(run, _broken(run), str(error))
    except (LookupError, TypeError, ValueError, ArithmeticError, DataError) as error:
        # A network that changes the shape of its answers, or says what cannot be stored, must not stop the others.
        log.exception("an answer of %s was not understood", profile.network)
        what = f"{definition.name} answered in a way that is not understood ({type(error).__name__} at {run.step})."
        return _end(run, _broken(run), f"{what} Its connector has to be looked at.")
    left_out = f"{work.impossible} figures could not be right and were left out." if work.impossible else ""
    return _end(run, CollectionRun.State.COMPLETE, left_out)


def _broken(run: CollectionRun) -> CollectionRun.State:
    return CollectionRun.State.PARTIAL if run.posts_seen else CollectionRun.State.FAILED


def _lie_down(run: CollectionRun, seconds: float, message: str) -> float:
    """Wait without holding a worker. Seconds get some jitter, so that not all come back at once."""
    seconds = seconds + (_chance.uniform(0.0, 2.0) if seconds else 0.0)
    run.state, run.message = CollectionRun.State.WAITING, message[:500]
    run.resume_at = clock.now() + timedelta(seconds=seconds)
    run.save()
    return seconds


def _end(run: CollectionRun, state: CollectionRun.State, message: str) -> float | None:
    """Close the run, and have worked out what follows from it; no further turn is wanted."""
    now = clock.now()
    run.state, run.message, run.ended_at = state, message[:500], now
    run.missing = MISSING.get(run.step, "") if state is not CollectionRun.State.COMPLETE else ""
    run.step = ""
    with transaction.atomic():
        run.save()
        Profile.objects.filter(pk=run.profile_id).update(next_run_at=next_run_at(run, now))
        if run.posts_seen:
            request_rebuild(run.profile)
        tell_of_collection(run)
    return None


def next_run_at(run: CollectionRun, now: datetime) -> datetime | None:
    """When the profile is due again: by its kind, earlier when a post is, later the oftener it failed.

    None for a lapsed authorisation: nothing is tried until somebody renews it.
    """
    profile = run.profile
    if run.state in (CollectionRun.State.FAILED, CollectionRun.State.PARTIAL):
        credential = Credential.objects.filter(pk=profile.credential_id or 0).first()
        if profile.kind == Profile.Kind.OWN and (credential is None or credential.is_lapsed):
            return None
        recent = CollectionRun.objects.filter(profile=profile, ended_at__isnull=False).order_by("-ended_at")[:8]
        failures = 0
        for state in recent.values_list("state", flat=True):
            if state == CollectionRun.State.COMPLETE:
                break
            failures += 1
        wait: timedelta = min(AFTER_FAILURE * 2 ** max(0, failures - 1), LONGEST_AFTER_FAILURE)
        return now + wait + timedelta(seconds=wait_seconds(6, _chance))
    every = OWN_EVERY if profile.kind == Profile.Kind.OWN else OTHERS_EVERY
    waiting = Post.objects.filter(profile=profile, next_reading_at__isnull=False, removed_at__isnull=True)
    due = waiting.order_by("next_reading_at").values_list("next_reading_at", flat=True).first()
    at: datetime = min(now + every, due) if due else now + every
    return max(now + SOONEST, at)
