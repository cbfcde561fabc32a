"""Words that the bases of results share."""

from collections.abc import Iterable

from dakika_core.metrics.catalogue import Metric, Over
from dakika_core.values.figure import Figure

_COUNTED = {"net_followers": "days", "gained_followers": "days", "lost_followers": "days", "posts": "posts",
            "posts_per_week": "posts", "tracked_clicks": "clicks", "visits": "visits", "conversions": "conversions",
            "visit_rate": "clicks", "conversion_rate": "visits"}  # fmt: skip


def things_of(metric: Metric) -> str:
    """What a metric is counted over."""
    return _COUNTED.get(metric.key, "profiles" if metric.over is Over.PROFILE else "posts")


def _thing(things: str, count: int) -> str:
    return things.removesuffix("s") if count == 1 else things


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
