"""What other programs are told of what came in."""

from dakika_server.sources.models import CollectionRun, Import
from dakika_server.webhooks.events import EventKind, happened, page

KINDS = {
    "profile.collected": EventKind(words="A profile was collected, or could not be", about={
        "run": "the collection's number", "profile": "the profile's number", "network": "where", "handle": "as whom",
        "state": "complete, partial or failed", "posts": "how many posts were seen", "message": "what went wrong",
        "page": "the page in Dakika",
    }),
    "file.brought_in": EventKind(words="A file, or rows that a program sent, came in", about={
        "import": "its number", "name": "its name", "kind": "posts, readings, audience or conversions",
        "state": "done or failed", "accepted": "how many rows came in", "message": "what went wrong",
        "page": "the page in Dakika",
    }),
}  # fmt: skip


def tell_of_collection(run: CollectionRun) -> None:
    """A collection is over."""
    profile = run.profile
    happened(profile.brand_id, "profile.collected", key=str(run.pk), about=lambda: {
        "run": run.pk, "profile": profile.pk, "network": profile.network, "handle": profile.handle,
        "state": run.state, "posts": run.posts_seen, "message": run.message,
        "page": page(profile.brand, f"sources/profiles/{profile.pk}"),
    })  # fmt: skip


def tell_of_file(item: Import) -> None:
    """A file is in, or could not be brought in."""
    happened(item.brand_id, "file.brought_in", key=str(item.pk), about=lambda: {
        "import": item.pk, "name": item.file_name, "kind": item.kind, "state": item.state, "accepted": item.accepted,
        "message": item.message, "page": page(item.brand, f"sources/files/{item.pk}"),
    })  # fmt: skip
