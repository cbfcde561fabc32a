"""The ways of counting: a base measure and a way make a metric, with its name, definition, unit and rule.

Each way answers a question of its own, and none stands in for another: what came in all, what the middle post brought,
what a day brings, what part of everything this is, how it has changed.

In the trade's words: aggregation, key performance indicator.
"""

from collections.abc import Iterator

from dakika_core.metrics.formula import SECONDS
from dakika_core.metrics.measures import BaseMeasure
from dakika_core.metrics.metric import AddsUp, Metric, Over, Unit, Way

OF_POSTS = "over the posts published in the period at equal age"
# What is held against what, in the order in which a chooser offers it.
_AGAINST = {
    Way.BY_REACH: ("reach", "by reach", "divided by reach"),
    Way.BY_IMPRESSIONS: ("impressions", "by impressions", "divided by impressions"),
    Way.BY_VIEWS: ("video_views", "by video views", "divided by video views"),
    Way.PER_FOLLOWER: ("followers", "by followers", "divided by followers at the time of publishing"),
}
WAY_NAMES = {
    Way.TOTAL: "in all", Way.AT_AGE: "in all, at equal age", Way.PER_POST: "per post",
    Way.MEDIAN_POST: "the median post", Way.BEST_POST: "the best post", Way.PER_DAY: "per day",
    Way.PER_WEEK: "per week", Way.PER_FOLLOWER: "by followers",
    Way.PER_1000: "per 1,000 followers", Way.BY_REACH: "by reach", Way.BY_IMPRESSIONS: "by impressions",
    Way.BY_VIEWS: "by video views", Way.BY_VISITS: "per visit", Way.BY_CLICKS: "per click", Way.SHARE: "part of all",
    Way.CHANGE: "change", Way.INDEX: "against what is typical",
}  # fmt: skip
# What is told by person or by post and view alone says nothing when it is divided by itself or by its own part.
_NOT_AGAINST = {
    "impressions": {Way.BY_REACH, Way.BY_IMPRESSIONS, Way.BY_VIEWS, Way.PER_FOLLOWER},
    "reach": {Way.BY_REACH, Way.BY_IMPRESSIONS, Way.BY_VIEWS},
    "video_views": {Way.BY_VIEWS, Way.PER_FOLLOWER},
}
# Which are told per follower in the trade; the others have their thousand.
_PER_FOLLOWER = ("interactions", "reactions", "comments", "shares", "saves", "reach")
_OF_VIDEOS = (
    "interactions",
    "reactions",
    "comments",
    "shares",
    "saves",
    "follows",
    "video_seconds",
    "video_completions",
)
_PER_VISIT = ("single_visits", "site_pages", "site_seconds", "conversions", "converting_visits", "value")
_PER_CLICK = ("conversions", "value")
# Told in money however they are counted.
MONEY = ("value", "paid_value", "spend")


def total_of(measure: BaseMeasure) -> Metric:
    """How much of it there was in the period."""
    if measure.over is not Over.PUBLISHED:
        formula = measure.key if measure.over is Over.BROUGHT else ""
        words = f"{measure.definition}, in the period"
        return _metric(measure, Way.TOTAL, measure.key, measure.plural, words, formula=formula)
    if measure.by_day:
        return _metric(
            measure, Way.TOTAL, measure.key, measure.plural,
            f"{measure.definition} in the period, whenever they were published", over=Over.RECEIVED,
            formula=measure.key,
        )  # fmt: skip
    return _of_posts(measure, Way.TOTAL, measure.key, measure.plural, measure.definition, measure.key)


def composed(measure: BaseMeasure, total: Metric) -> Iterator[Metric]:
    """Every metric of a base measure but its total, which is given: those worked out from it carry it."""
    if measure.over is Over.PUBLISHED:
        yield from _by_post(measure)
    if measure.over is Over.BROUGHT:
        yield from _by_what_brought(measure)
    yield from _from_total(measure, total)


def _by_post(measure: BaseMeasure) -> Iterator[Metric]:
    key, plural, what = measure.key, measure.plural, measure.definition
    if measure.by_day:
        yield _of_posts(measure, Way.AT_AGE, f"{key}_at_age", f"{plural} at equal age", what, key)
    yield _of_posts(
        measure, Way.PER_POST, f"{key}_per_post", f"{plural} per post", f"{what}, divided by the number of posts",
        f"{key} / posts",
    )  # fmt: skip
    yield _metric(
        measure, Way.MEDIAN_POST, f"{key}_median", f"{plural} of the median post",
        f"{what}: as many of the posts published in the period have more of them as have fewer, at equal age",
        over=Over.PUBLISHED, adds_up=AddsUp.MEDIAN, formula=key,
    )  # fmt: skip
    yield _metric(
        measure, Way.BEST_POST, f"{key}_best", f"most {plural} of one post",
        f"{what}: the most that one post published in the period has, at equal age", over=Over.PUBLISHED,
        adds_up=AddsUp.LARGEST, formula=key,
    )  # fmt: skip
    yield _of_posts(
        measure, Way.PER_1000, f"{key}_per_1000", f"{plural} per 1,000 followers",
        f"{what}, for every thousand followers at the time of publishing", f"1000 * {key} / followers",
    )  # fmt: skip
    for way, (below, words, rule) in _AGAINST.items():
        if way in _NOT_AGAINST.get(key, ()):
            continue
        if (way is Way.PER_FOLLOWER and key not in _PER_FOLLOWER) or (way is Way.BY_VIEWS and key not in _OF_VIDEOS):
            continue
        yield _of_posts(measure, way, f"{key}_{way.value}", f"{plural} {words}", f"{what}, {rule}", f"{key} / {below}")


def _by_what_brought(measure: BaseMeasure) -> Iterator[Metric]:
    for way, keys, below, word in (
        (Way.BY_VISITS, _PER_VISIT, "visits", "visit"), (Way.BY_CLICKS, _PER_CLICK, "tracked_clicks", "click"),
    ):  # fmt: skip
        if measure.key in keys:
            yield _metric(
                measure, way, f"{measure.key}_per_{word}", f"{measure.plural} per {word}",
                f"{measure.definition}, divided by {WORDS_BELOW[below]}, over days that have both", over=Over.BROUGHT,
                adds_up=AddsUp.RATIO_OF_SUMS, formula=f"{measure.key} / {below}",
            )  # fmt: skip


WORDS_BELOW = {"visits": "visits", "tracked_clicks": "clicks on tracked links"}


def _from_total(measure: BaseMeasure, total: Metric) -> Iterator[Metric]:
    """By the day, as part of all, as a change: all three of a total; a level has no day, a mean of days no part."""
    key, plural, name = measure.key, measure.plural, total.name[0].lower() + total.name[1:]
    if total.adds_up is AddsUp.SUM:
        yield _metric(
            measure, Way.PER_DAY, f"{key}_per_day", f"{plural} per day",
            f"{measure.definition}; what came in the period, divided by its days that are over", over=total.over,
            adds_up=AddsUp.RATIO_OF_SUMS, of=total,
        )  # fmt: skip
    if total.adds_up in (AddsUp.SUM, AddsUp.LAST) and not measure.key.startswith("net_"):
        yield _metric(
            measure, Way.SHARE, f"{key}_share", f"part of all {plural}",
            f"What part of everything that the brand's own profiles, links and sites have of it ({name}) belongs to "
            "what is studied",
            over=total.over, adds_up=AddsUp.RATIO_OF_SUMS, of=total,
        )  # fmt: skip
    if not measure.key.startswith("net_"):
        yield _metric(
            measure, Way.CHANGE, f"{key}_change", f"change in {plural}",
            f"{total.name} of the period, held against the comparison period: how much more or less of it there is, "
            "as a part of what there was",
            over=total.over, adds_up=AddsUp.CHANGE, of=total,
        )  # fmt: skip


def _of_posts(measure: BaseMeasure, way: Way, key: str, name: str, definition: str, formula: str) -> Metric:
    adds_up = AddsUp.RATIO_OF_SUMS if "/" in formula else AddsUp.SUM
    return _metric(
        measure, way, key, name, f"{definition}, {OF_POSTS}", over=Over.PUBLISHED, adds_up=adds_up, formula=formula
    )


def _metric(measure: BaseMeasure, way: Way, key: str, name: str, definition: str, *, over: Over | None = None,
            adds_up: AddsUp = AddsUp.SUM, formula: str = "", of: Metric | None = None) -> Metric:  # fmt: skip
    return Metric(
        key=key, name=name[0].upper() + name[1:], definition=f"{definition}.", unit=unit_of(measure, way),
        adds_up=adds_up, over=over or measure.over, formula=formula,
        more_is_better=measure.more_is_better, note=measure.note, measure=measure.key, way=way, of=of,
    )  # fmt: skip


def unit_of(measure: BaseMeasure, way: Way) -> Unit:
    """In what a base measure is told when it is counted in a way."""
    if way is Way.CHANGE:
        return Unit.CHANGE
    if way is Way.SHARE:
        return Unit.RATE
    if measure.key in MONEY:
        return Unit.MONEY
    if measure.dimension == SECONDS:
        return Unit.SECONDS
    return {
        Way.PER_POST: Unit.PER_POST, Way.PER_DAY: Unit.NUMBER, Way.PER_1000: Unit.PER_1000,
        Way.MEDIAN_POST: Unit.NUMBER, **dict.fromkeys((*_AGAINST, Way.BY_CLICKS), Unit.RATE),
        Way.BY_VISITS: Unit.NUMBER if measure.key == "site_pages" else Unit.RATE,
    }.get(way, Unit.COUNT)  # fmt: skip
