"""Words that the bases of results share."""

from collections.abc import Iterable

from dakika_core.metrics.catalogue import MEASURES, Metric, Over, Way
from dakika_core.metrics.measures import SITE
from dakika_core.values.figure import Figure

from dakika_server.figures.kinds import Behind

_COUNTED = {"net_followers": "days", "gained_followers": "days", "lost_followers": "days", "posts": "posts",
            "visit_rate": "clicks", "conversion_rate": "visits"}  # fmt: skip
# What is counted one by one, by the name that stands last in a metric's formula.
_BROUGHT = {"value": "conversions", "site_pages": "pages", "site_seconds": "seconds", "click_visits": "visits",
            "single_visits": "visits", "converting_visits": "visits", "tracked_clicks": "clicks",
            "bot_clicks": "clicks", "late_clicks": "clicks", "page_clicks": "clicks", "page_views": "views",
            "click_visitors": "people", "commenters": "people", "first_comments": "comments"}  # fmt: skip


def things_of(metric: Metric) -> str:
    """What a metric is counted over."""
    metric = metric.total
    if metric.over is Over.BROUGHT:
        return _BROUGHT.get(metric.needs[-1], metric.needs[-1])
    if metric.measure == "posts":
        return "posts"
    return _COUNTED.get(metric.key, "profiles" if metric.over is Over.PROFILE else "posts")


def interval_words(metric: Metric) -> str:
    """What is taken as chance in its interval."""
    if metric.over is Over.BROUGHT:
        return "how much its days differ" if metric.way is Way.CHANGE else "each by itself"
    return {
        Way.MEDIAN_POST: "the posts' ranks", Way.CHANGE: "how many posts there are, and what each brings",
    }.get(metric.way, "the posts as a sample")  # fmt: skip


def behind_of(metric: Metric) -> Behind:
    """Where the single things are that it is made of."""
    if metric.over is not Over.BROUGHT or metric.measure in ("first_comments", "commenters"):
        return Behind(path="results/posts", name="The posts behind it")
    if metric.measure in ("page_views", "page_clicks"):
        return Behind(path="links/pages", name="The pages of links")
    if MEASURES[metric.measure].subject == SITE:
        return Behind(path="site", name="The site behind it")
    return Behind(path="links", name="The links behind it")


def _thing(things: str, count: int) -> str:
    if count != 1:
        return things
    return "person" if things == "people" else things.removesuffix("s")


def counted_words(figure: Figure, things: str) -> str:
    """How many are in it."""
    return f"{figure.n:,} {_thing(things, figure.n)}"


def missing_words(figure: Figure, things: str) -> str:
    """That something is missing, where no other words tell why."""
    if not figure.missing:
        return ""
    verb = "tells" if figure.missing == 1 else "tell"
    return f"{figure.missing:,} {_thing(things, figure.missing)} {verb} nothing of it."


def defined(metrics: Iterable[Metric]) -> list[tuple[str, str]]:
    """What each metric means, as it stands in a file."""
    return [
        (m.name, " ".join(filter(None, [m.definition, m.note, f"Formula: {m.formula}." if m.formula else ""])))
        for m in metrics
    ]
