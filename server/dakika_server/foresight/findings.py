"""Posts that take off or fall flat: told within one collection, once."""

from datetime import datetime

import numpy as np
from dakika_core.results.findings import Statement, times
from dakika_core.values.text import opening_words

from dakika_server.brands.models import Brand
from dakika_server.foresight.models import Outlook
from dakika_server.jobs.asking import ask
from dakika_server.networks.definitions import network_name
from dakika_server.notices.actions import notify
from dakika_server.results.findings import Found
from dakika_server.sources.models import Profile
from dakika_server.webhooks.events import EventKind, happened, page

UNUSUAL = "post.unusual"
TOLD = {
    UNUSUAL: EventKind(words="A young post takes off or falls flat", about={
        "post": "its number in Results", "profile": "the profile's number", "network": "where",
        "is_ours": "or a competitor's", "state": "rising or flat", "hours": "how old it is",
        "interactions": "what it has", "heading": "what it is heading for", "low": "at least, 80 %",
        "high": "at most, 80 %", "page": "the page in Dakika",
    })
}  # fmt: skip
_UNUSUAL = (Outlook.State.RISING.value, Outlook.State.FLAT.value)
_WORDS = {Outlook.State.RISING.value: "is taking off", Outlook.State.FLAT.value: "is falling flat"}


def young_posts_out(brand: Brand, now: datetime) -> list[Found]:
    """Own young posts outside the band in which 95 % of their profile's posts were at that age."""
    del now
    found: list[Found] = []
    unusual = Outlook.objects.filter(brand=brand, profile__kind="own", state__in=_UNUSUAL)
    for one in unusual.select_related("profile", "post").order_by("-published_at"):
        statement = Statement(
            kind="young", subject=str(one.post_id), text=_text(one), detail=_detail(one), posts=(one.post_id,),
            size=abs(float(np.log(max(one.count, 0.5) / max(one.typical or 1.0, 0.5)))), certainty=0.95,
            evidence={"count": one.count, "age": round(one.age_hours, 1), "state": one.state,
                      "heading": one.heading, "low": one.heading_low, "high": one.heading_high},
        )  # fmt: skip
        found.append((statement, {"words": "Open the post", "path": f"results/posts/{one.post_id}"}))
    return found


def tell_of_unusual(profile: Profile) -> None:
    """Tell of posts that have left the band since the last collection; each once by its state, whoever looks again."""
    is_own = profile.kind == Profile.Kind.OWN
    # Of a competitor's posts those that take off, where somebody compares it: how it fails is its own affair.
    if not is_own and not profile.peer_sets.exists():
        return
    told, states = 0, _UNUSUAL if is_own else (Outlook.State.RISING.value,)
    unusual = Outlook.objects.filter(profile=profile, state__in=states)
    for one in unusual.select_related("profile__brand", "profile__competitor", "post"):
        _tell_of(profile, one)
        told += notify(
            profile.brand, kind="young", key=f"young:{one.post_id}:{one.state}", text=_text(one), detail=_detail(one),
            path=f"results/posts/{one.post_id}",
        )  # fmt: skip
    if told and is_own:
        ask("results.find", brand_id=profile.brand_id)


def _tell_of(profile: Profile, one: Outlook) -> None:
    happened(profile.brand_id, UNUSUAL, key=f"{one.post_id}:{one.state}", about=lambda: {
        "post": one.post_id, "profile": profile.pk, "network": profile.network, "is_ours": profile.kind == "own",
        "state": one.state, "hours": round(one.age_hours, 1), "interactions": one.count, "heading": one.heading,
        "low": one.heading_low, "high": one.heading_high, "page": page(profile.brand, f"results/posts/{one.post_id}"),
    })  # fmt: skip


def _text(one: Outlook) -> str:
    words = opening_words(one.post.text, 60) or one.post.format.replace("_", " ")
    whose = f" by {one.profile.competitor.name}" if one.profile.competitor else ""
    return f"“{words}”{whose} {_WORDS[one.state]} on {network_name(one.profile.network)}"


def _detail(one: Outlook) -> str:
    at = f"{one.age_hours:.0f} h" if one.age_hours >= 1 else "less than an hour"
    usual = f"{one.band_low or 0:,.0f} to {one.band_high:,.0f}" if one.band_high is not None else "fewer"
    index = f"{times(one.index)} what is typical then; " if one.index else ""
    return (
        f"{one.count:,.0f} interactions at {at}: {index}19 in 20 of its {one.band_posts} posts had {usual} by then. "
        f"Heading for {one.heading:,.0f} ({one.heading_low:,.0f} to {one.heading_high:,.0f}, 80 %)."
    )
