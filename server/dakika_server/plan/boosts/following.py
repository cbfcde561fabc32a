"""Telling networks of boosts, following what they spend and bring, and stopping them: money is spent once.

Two transactions around one call, as publishing has it. The first says that the network is about to be told; the
network is told with the boost's key; the second writes down what it said. Killed anywhere, the boost is asked about
again with the same key, and the network answers with the one that is there already.
"""

import logging
from datetime import datetime, timedelta

from django.db import OperationalError, transaction
from django.db.models import Q

from dakika_server.links.serializers.making import short_address
from dakika_server.networks.connectors.base import (
    BoostOut,
    BoostSeen,
    BoostStatus,
    NetworkError,
    NotAuthorised,
    NotFound,
    Refused,
    Target,
    Unavailable,
)
from dakika_server.networks.connectors.registry import connected
from dakika_server.networks.definitions import network_name
from dakika_server.notices.actions import notify
from dakika_server.plan.models import Boost, BoostReading
from dakika_server.shared import audit, clock
from dakika_server.sources.collect import token_of
from dakika_server.sources.models import Profile

log = logging.getLogger(__name__)
State = Boost.State
EVERY = timedelta(minutes=10)
AGAIN, LONGEST_AGAIN = timedelta(seconds=30), timedelta(minutes=30)
# Networks correct what they told of a boost for some days after it is over.
SETTLES_FOR, SETTLES_EVERY = timedelta(days=3), timedelta(hours=6)


def look_after(boost_id: int) -> None:
    """Do for a boost what is to be done: tell its network, ask how it stands, stop it."""
    boost = _begin(boost_id)
    if boost is None or boost.profile is None:
        return
    target = Target(handle=boost.profile.handle, external_id=boost.profile.external_id, is_own=True)
    try:
        with connected(boost.network, token_of(boost.profile)) as there:
            if boost.external_id:
                seen = there.boost_seen(target, boost.external_id)
            else:
                seen = there.boost(target, _out(boost), idempotency_key=boost.idempotency_key.hex)
                _known(boost, seen.external_id)
            is_open = seen.status in (BoostStatus.WAITING, BoostStatus.RUNNING)
            if is_open and (boost.state == State.STOPPING or seen.cents > boost.cents):
                seen = there.stop_boost(target, seen.external_id)
    except Unavailable as error:
        _later(boost, str(error), error.wait_seconds)
    except NotAuthorised as error:
        _later(boost, str(error), None)
        _tell(boost, "authorise", f"The boost on {network_name(boost.network)} cannot be followed", str(error))
    except (Refused, NotFound) as error:
        _refused(boost, error)
    except NetworkError as error:
        _later(boost, str(error), None)
    except OperationalError:
        raise
    except Exception:
        # What a network says may be anything; it may have taken the boost, too. The same key is asked with again.
        log.exception("boost %s: what the network said was not understood", boost.pk)
        name = network_name(boost.network)
        _later(boost, f"{name} answered with what is not understood.", None)
    else:
        _record(boost, seen)


def claim_due(now: datetime) -> list[int]:
    """Boosts whose networks are to be asked now; each is claimed for a while."""
    with transaction.atomic():
        due = Boost.objects.select_for_update(skip_locked=True).filter(next_at__lte=now).order_by("next_at")[:200]
        found = [boost.pk for boost in due]
        Boost.objects.filter(pk__in=found).update(next_at=now + AGAIN)
    return found


def _begin(boost_id: int) -> Boost | None:
    with transaction.atomic():
        boost = (
            Boost.objects.select_for_update(of=("self",))
            .select_related("profile__brand", "post", "link")
            .filter(pk=boost_id)
            .filter(
                Q(state__in=[State.ASKED, State.RUNNING, State.STOPPING]) | Q(state=State.ENDED, next_at__isnull=False)
            )
            .first()
        )
        if boost is None:
            return None
        if boost.post is None and not boost.external_id and not boost.attempts:
            # Its post was taken out of the application before anybody was told.
            boost.state, boost.error, boost.next_at = State.REFUSED, "Its post is not here any more.", None
            boost.save()
            return None
        boost.attempts += 1
        boost.next_at = clock.now() + AGAIN
        boost.save(update_fields=["attempts", "next_at"])
    return boost


def _out(boost: Boost) -> BoostOut:
    return BoostOut(
        post_id=boost.post.external_id if boost.post else "", cents=boost.cents, currency=boost.currency,
        starts_at=boost.starts_at, ends_at=boost.ends_at, countries=tuple(boost.countries), ages=tuple(boost.ages),
        link=short_address(boost.link) if boost.link else "",
    )  # fmt: skip


def _known(boost: Boost, external_id: str) -> None:
    """Written down at once: what follows may be killed."""
    Boost.objects.filter(pk=boost.pk).update(external_id=external_id)


def _record(boost: Boost, seen: BoostSeen) -> None:
    """Write down what a network told; an answer that was overtaken by a later one changes nothing."""
    now = clock.now()
    with transaction.atomic():
        kept = Boost.objects.select_for_update().get(pk=boost.pk)
        kept.external_id, kept.error, kept.attempts = seen.external_id, "", 1
        is_newer = kept.seen_at is None or seen.as_of >= kept.seen_at
        if is_newer:
            kept.spent, kept.impressions, kept.reach = max(kept.spent, seen.cents), seen.impressions, seen.reach
            kept.interactions, kept.link_clicks, kept.seen_at = seen.interactions, seen.link_clicks, seen.as_of
            BoostReading.objects.update_or_create(
                boost=kept, at=seen.as_of.replace(second=0, microsecond=0),
                defaults={"spent": kept.spent, "impressions": seen.impressions, "interactions": seen.interactions,
                          "link_clicks": seen.link_clicks},
            )  # fmt: skip
        is_over = seen.status in (BoostStatus.STOPPED, BoostStatus.OVER)
        if is_over and kept.state != State.ENDED:
            kept.state, kept.ended_at = State.ENDED, now
            audit.record(None, "boost_over", kept, brand_id=kept.brand_id, spent=kept.spent)
        elif not is_over and kept.state == State.ASKED:
            kept.state = State.RUNNING
        if kept.state == State.ENDED:
            is_settled = kept.ended_at is not None and now - kept.ended_at > SETTLES_FOR
            kept.next_at = None if is_settled else now + SETTLES_EVERY
        else:
            kept.next_at = min(now + EVERY, max(kept.ends_at, now + AGAIN))
        kept.save()
    if kept.spent > kept.cents:
        name = network_name(boost.network)
        _tell(kept, "overspent", f"{name} has taken more than the budget of a boost",
              f"{kept.spent / 100:,.2f} {kept.currency} of {kept.cents / 100:,.2f}. It was stopped; "
              f"ask {name} for the difference.")  # fmt: skip


def _later(boost: Boost, error: str, wait: float | None) -> None:
    """Ask again later, less and less often; the budget stays counted as given as long as nobody knows."""
    # Where money is to be stopped, nobody waits long.
    longest = 2 * AGAIN if boost.state == State.STOPPING else LONGEST_AGAIN
    again = timedelta(seconds=wait) if wait else min(longest, AGAIN * 2 ** min(boost.attempts, 10))
    Boost.objects.filter(pk=boost.pk).update(error=error[:300], next_at=clock.now() + again)


def _refused(boost: Boost, error: NetworkError) -> None:
    """The network will not. Of a boost that it never took nothing is spent.

    One that it took and now denies counts as given until some days after its end: nobody knows what is spent.
    """
    now = clock.now()
    with transaction.atomic():
        kept = Boost.objects.select_for_update().get(pk=boost.pk)
        kept.error = str(error)[:300]
        if not kept.external_id:
            kept.state, kept.next_at = State.REFUSED, None
        elif now > kept.ends_at + SETTLES_FOR:
            kept.state, kept.ended_at, kept.next_at = State.ENDED, kept.ended_at or now, None
        else:
            kept.next_at = now + LONGEST_AGAIN
        kept.save()
    _tell(boost, "refused", f"{network_name(boost.network)} refused a boost", str(error))


def _tell(boost: Boost, what: str, text: str, detail: str) -> None:
    notify(
        boost.brand, kind="plan", permission="plan.boost", key=f"boost-{boost.pk}-{what}", text=f"{text}.",
        detail=detail, path=f"results/paid?boost={boost.pk}",
    )  # fmt: skip


def money_runs_on(profile: Profile) -> str:
    """Why a profile cannot go: money runs on it that nobody could stop afterwards. Nothing where none does."""
    is_open = Boost.objects.filter(profile=profile, state__in=[State.ASKED, State.RUNNING, State.STOPPING]).exists()
    return "A boost runs on this profile. Stop it first, and wait until it is over." if is_open else ""
