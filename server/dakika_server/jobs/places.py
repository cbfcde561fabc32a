"""Places of the worker: which queues are taken together, and how many of their jobs run at once.

Queues are told apart by how long what is asked may wait. Publishing at the minute never waits behind a long collection
or a large file; nor does a small file wait behind a large one, or behind the figures that are worked out from it.

In the trade's words: concurrency, worker pool, priority queue.
"""

from collections.abc import Collection, Mapping

# By what waits: letters and what is published at its minute; collecting; what people look on while it is done; figures;
# findings, which rest on all figures of a brand; what is large; other programs; pages for paper.
PLACES: dict[str, tuple[tuple[str, ...], int]] = {
    "now": (("publish", "upkeep", "mail"), 3),
    "collect": (("collect", "feeds"), 6),
    "files": (("files",), 2),
    "measure": (("measure",), 2),
    "findings": (("findings",), 1),
    "bulk": (("bulk",), 1),
    # Whoever is told may be slow: nobody else waits for them.
    "webhooks": (("webhooks",), 2),
    # One browser draws them all, a page at a time; beside it the figures of the next are worked out.
    "render": (("render", "printing"), 2),
}
# A worker that is told to take the one takes the other along: installations that part their workers by name need not
# be told anew when a queue is parted.
ALONG = {"findings": "measure"}
MOST_PLACES = 64


def places(
    asked: str, usual: Mapping[str, tuple[tuple[str, ...], int]] = PLACES, *, only: Collection[str] = ()
) -> dict[tuple[str, ...], int]:
    """Queues to places, as settings ask ("collect=12,render=2") over the usual ones. only: of these alone, if any.

    Raises ValueError for a name that is none, and for a number that is no number of places.
    """
    found = {name: count for name, (_, count) in usual.items()}
    for part in filter(None, (part.strip() for part in asked.split(","))):
        name, _, count = part.partition("=")
        if name not in found:
            raise ValueError(f"there are no places called {name}: {', '.join(found)}")
        if not count.isascii() or not count.isdigit() or not 1 <= int(count) <= MOST_PLACES:
            raise ValueError(f"{part} is no number of places from 1 to {MOST_PLACES}")
        found[name] = int(count)
    taken = {name for name in usual if not only or name in only or ALONG.get(name) in only}
    return {queues: found[name] for name, (queues, _) in usual.items() if name in taken}
