"""What other programs are told of posts that go out, or do not."""

from dakika_server.plan.models import Version
from dakika_server.webhooks.events import EventKind, happened, page

_ABOUT = {
    "planned_post": "its number in the plan", "title": "its working title", "network": "where", "profile": "as whom",
    "text": "its words there", "due_at": "its minute", "published_at": "when it went out",
    "address": "where it is seen", "post": "its number in Results, once it is out", "why": "what went wrong",
    "page": "the page in Dakika",
}  # fmt: skip
KINDS = {
    "post.published": EventKind(words="A post is out on a network", about=_ABOUT),
    "post.failed": EventKind(words="A post did not go out", about=_ABOUT),
    "post.missed": EventKind(words="A post’s minute went by", about=_ABOUT),
    "post.by_hand": EventKind(words="A post is to be published by hand now", about=_ABOUT),
}


def tell_of(pk: int, kind: str) -> None:
    """A version has come to its end, or to somebody's hand; once for each time it was set for. In its transaction."""
    version = Version.objects.select_related("planned_post", "profile__brand", "post").get(pk=pk)
    planned, profile = version.planned_post, version.profile
    due, out = version.due_at, version.published_at
    happened(profile.brand_id, kind, key=f"{pk}-{due:%Y%m%d%H%M}" if due else str(pk), about=lambda: {
        "planned_post": planned.pk, "title": planned.title, "network": profile.network, "profile": profile.pk,
        "text": version.text, "due_at": due.isoformat() if due else None,
        "published_at": out.isoformat() if out else None, "address": version.post.url if version.post else "",
        "post": version.post_id, "why": version.error, "page": page(profile.brand, f"plan/{planned.pk}"),
    })  # fmt: skip
