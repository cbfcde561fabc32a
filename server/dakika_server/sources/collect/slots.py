"""Who may call a network now: a few at a time, so that a slow network never holds all workers.

In the trade's words: concurrency limit, semaphore, fairness.
"""

from collections.abc import Iterator
from contextlib import AbstractContextManager, ExitStack, contextmanager

from dakika_server.shared.locks import Lock, number_of, tried

PLACES_PER_NETWORK = 2


@contextmanager
def place_at(network: str) -> Iterator[bool]:
    """A place among the network's callers for as long as the block runs; False when all are taken."""
    with ExitStack() as held:
        places = (number_of(f"{network} {n}".encode()) for n in range(PLACES_PER_NETWORK))
        yield any(held.enter_context(tried(Lock.NETWORK_PLACE, place)) for place in places)


def only_one(run_id: int) -> AbstractContextManager[bool]:
    """Whether nobody else is at this run. A run may be asked for twice; it is carried out by one."""
    return tried(Lock.COLLECTION_RUN, run_id)
