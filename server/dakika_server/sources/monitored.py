"""Whether profiles are collected."""

from datetime import timedelta

from dakika_server.monitoring.gauges import GAUGES, Gauge, Sample, samples, total
from dakika_server.monitoring.status import PARTS, Part, Standing
from dakika_server.shared import clock
from dakika_server.sources.models import CollectionRun, Profile

LATE, ENDED = "dakika_profiles_late", "dakika_collections"
# Due for so long, a profile waits for places, not for its turn.
LATE_AFTER = timedelta(hours=1)
MANY = 0.5


def _late() -> float:
    return float(Profile.objects.filter(is_followed=True, next_run_at__lt=clock.now() - LATE_AFTER).count())


def _outcomes() -> list[Sample]:
    """Collections of an hour by network and how they ended."""
    ended = CollectionRun.objects.filter(ended_at__gte=clock.now() - timedelta(hours=1))
    counted: dict[tuple[str, ...], float] = {}
    for network, state in ended.values_list("profile__network", "state"):
        counted[network, state] = counted.get((network, state), 0) + 1
    return sorted(counted.items())


def _look() -> Standing:
    late, ended = total(LATE), samples(ENDED)
    runs = sum(count for _, count in ended)
    failed = sum(count for (_, state), count in ended if state == CollectionRun.State.FAILED)
    told = f"{runs:.0f} within an hour, {failed:.0f} failed; {late:.0f} profiles are more than an hour late."
    if late:
        return Standing(told=told, is_well=False, advice="More places for them: DAKIKA_WORKER_PLACES=collect=12.")
    if runs and failed / runs > MANY:
        return Standing(told=told, is_well=False, advice="Health, under Sources, says of each profile what to do.")
    return Standing(told=told)


def connect() -> None:
    """Add to what is measured and looked at."""
    GAUGES.add(LATE, Gauge(words="Profiles that were due an hour ago", read=lambda: [((), _late())]))
    GAUGES.add(ENDED, Gauge(words="Collections that ended within an hour", labels=("network", "state"), read=_outcomes))
    PARTS.add("collecting", Part(words="Collecting", look=_look))
