"""Boosts: money that shows a post to more people, spent evenly between two instants and never more than was said.

What they bring comes on top of what a post gets by itself; the networks tell the two apart, each in its own way.
"""

from datetime import UTC, datetime, timedelta
from typing import Any

from dakika_standins.state import State
from dakika_standins.world.model import WorldPost, seed_of

CURRENCY = "EUR"
LEAST_CENTS, MOST_CENTS, MOST_DAYS = 500, 500_000, 30
# Cents for a thousand times shown; the narrower the audience, the dearer.
THOUSAND_CENTS = (280, 620)
CLICKED, LIKED = 0.011, 0.014
COUNTRIES = ("PT", "BR", "GB", "ES", "GR", "IT", "DE")
AGES = ("18-24", "25-34", "35-44", "45-54", "55+")
COUNTS = ("impressions", "reach", "reactions", "link_clicks")


class BoostRefused(Exception):
    """A boost that the network does not take; the text says why."""


def begin(
    state: State, post: WorldPost, *, cents: int, starts: datetime, ends: datetime, countries: list[str],
    ages: list[str], link: str, once: str,
) -> tuple[dict[str, Any], bool]:  # fmt: skip
    """Begin a boost once per its word `once`: the boost, and whether it is new. Raises BoostRefused."""
    key = f"{post.account}:{once}"
    known = next((one for one in boosts(state).values() if one["key"] == key), None)
    if known is not None:
        return known, False
    if not LEAST_CENTS <= cents <= MOST_CENTS:
        raise BoostRefused(f"a budget from {LEAST_CENTS // 100} to {MOST_CENTS // 100} {CURRENCY}")
    if not timedelta(hours=1) <= ends - starts <= timedelta(days=MOST_DAYS) or ends <= state.now():
        raise BoostRefused(f"an hour to {MOST_DAYS} days, and not over yet")
    if not set(countries) <= {*COUNTRIES} or not set(ages) <= {*AGES}:
        raise BoostRefused("countries and ages that are offered")
    if not once:
        raise BoostRefused("a word that says which boost this is")
    return plant(state, post, cents=cents, starts=max(starts, state.now() - timedelta(minutes=1)), ends=ends,
                 countries=countries, ages=ages, link=link, key=key), True  # fmt: skip


def plant(
    state: State, post: WorldPost, *, cents: int, starts: datetime, ends: datetime, countries: list[str],
    ages: list[str], link: str, key: str,
) -> dict[str, Any]:  # fmt: skip
    """Write a boost down, whenever it began."""
    found = {
        "id": f"b{len(boosts(state)) + 1:05d}", "post": post.id, "account": post.account, "cents": cents,
        "starts": starts.isoformat(), "ends": ends.isoformat(), "countries": countries, "ages": ages, "link": link,
        "key": key, "stopped": None,
    }  # fmt: skip
    boosts(state)[found["id"]] = found
    state.save()
    return found


def boosts(state: State) -> dict[str, dict[str, Any]]:
    """All of them by identifier."""
    found: dict[str, dict[str, Any]] = state.data["boosts"]
    return found


def stop(state: State, boost: dict[str, Any]) -> None:
    """Spend no more of it; what is spent is spent."""
    if boost["stopped"] is None and state.now() < datetime.fromisoformat(boost["ends"]):
        boost["stopped"] = state.now().isoformat()
        state.save()


def told(state: State, boost: dict[str, Any], at: datetime | None = None) -> dict[str, int]:
    """What a boost has spent (cents) and brought at an instant. With the fault `overspends` it spends a third more."""
    starts, ends = datetime.fromisoformat(boost["starts"]), datetime.fromisoformat(boost["ends"])
    until = datetime.fromisoformat(boost["stopped"]) if boost["stopped"] else ends
    now = min(at or state.now(), until)
    share = min(1.0, max(0.0, (now - starts) / (ends - starts)))
    network = state.world.accounts[boost["account"]].network
    spent = int(boost["cents"] * share * (4 / 3 if state.fault(network, "overspends") else 1))
    dice = seed_of(state.world.seed, "boost", boost["id"], boost["post"])
    low, high = THOUSAND_CENTS
    price = low + dice % (high - low)
    narrow = (1.25 if boost["countries"] else 1.0) * (1.2 if boost["ages"] else 1.0)
    shown = int(spent / (price * narrow) * 1000)
    # How well it is liked is the post's own; small differences come of the draw.
    mood = 0.8 + dice // 1000 % 400 / 1000
    return {
        "cents": spent, "impressions": shown, "reach": int(shown * 0.71), "reactions": int(shown * LIKED * mood),
        "link_clicks": int(shown * CLICKED * mood) if boost["link"] else 0,
    }  # fmt: skip


def status(state: State, boost: dict[str, Any]) -> str:
    """Whether it is to come, runs, was stopped or is over."""
    now = state.now()
    if boost["stopped"]:
        return "stopped"
    if now >= datetime.fromisoformat(boost["ends"]):
        return "over"
    return "runs" if now >= datetime.fromisoformat(boost["starts"]) else "waits"


def paid_of(state: State, post: WorldPost, at: datetime | None = None) -> dict[str, int]:
    """What all boosts of a post brought together; nothing of one that has none."""
    mine = [told(state, one, at) for one in boosts(state).values() if one["post"] == post.id]
    return {name: sum(one[name] for one in mine) for name in COUNTS} if mine else {}


def instant(told_at: Any) -> datetime:
    """An instant as ISO 8601 writes it. Raises BoostRefused."""
    try:
        found = datetime.fromisoformat(str(told_at))
    except ValueError:
        raise BoostRefused("instants as ISO 8601 has them") from None
    return found if found.tzinfo else found.replace(tzinfo=UTC)
