"""Every metric: what it means, how it adds up, what it is made of."""

from dataclasses import dataclass
from enum import StrEnum


class Unit(StrEnum):
    """Unit of a metric."""

    COUNT = "count"
    RATE = "rate"
    PER_1000 = "per_1000"
    PER_WEEK = "per_week"
    INDEX = "index"


class AddsUp(StrEnum):
    """How values of a set are put together."""

    SUM = "sum"
    LAST = "last"
    RATIO_OF_SUMS = "ratio_of_sums"
    MEDIAN = "median"


@dataclass(frozen=True, kw_only=True)
class Metric:
    """One entry of the catalogue. `note` says what a careful reader must know."""

    key: str
    name: str
    definition: str
    unit: Unit
    adds_up: AddsUp
    numerator: str | None = None
    denominator: str | None = None
    more_is_better: bool = True
    is_own_only: bool = False
    note: str = ""


_ALL = (
    Metric(
        key="followers",
        name="Followers",
        definition="People who follow the profiles at the end of the period.",
        unit=Unit.COUNT,
        adds_up=AddsUp.LAST,
        note="Somebody who follows two profiles is counted on each.",
    ),
    Metric(
        key="net_followers",
        name="Net followers",
        definition="Followers gained less followers lost in the period.",
        unit=Unit.COUNT,
        adds_up=AddsUp.SUM,
        is_own_only=True,
    ),
    Metric(
        key="posts",
        name="Posts",
        definition="Posts published in the period; removed ones are counted while they were up.",
        unit=Unit.COUNT,
        adds_up=AddsUp.SUM,
    ),
    Metric(
        key="reach",
        name="Reach",
        definition="People who saw a post, added over posts and days on which they first saw it.",
        unit=Unit.COUNT,
        adds_up=AddsUp.SUM,
        is_own_only=True,
        note="Somebody who saw two posts is counted twice.",
    ),
    Metric(
        key="impressions",
        name="Impressions",
        definition="Times that posts were shown in the period, whenever they were published.",
        unit=Unit.COUNT,
        adds_up=AddsUp.SUM,
        is_own_only=True,
    ),
    Metric(
        key="interactions",
        name="Interactions",
        definition="Reactions, comments, shares and saves received in the period, as far as the network reports them.",
        unit=Unit.COUNT,
        adds_up=AddsUp.SUM,
    ),
    Metric(
        key="er_reach",
        name="Engagement by reach",
        definition="Interactions received in the period divided by reach gained in it, over posts that have both.",
        unit=Unit.RATE,
        adds_up=AddsUp.RATIO_OF_SUMS,
        numerator="interactions",
        denominator="reach",
        is_own_only=True,
    ),
    Metric(
        key="er_impressions",
        name="Engagement by impressions",
        definition="Interactions received in the period divided by impressions in it, over posts that have both.",
        unit=Unit.RATE,
        adds_up=AddsUp.RATIO_OF_SUMS,
        numerator="interactions",
        denominator="impressions",
        is_own_only=True,
    ),
    Metric(
        key="er_followers",
        name="Engagement by followers",
        definition="Interactions at equal age divided by followers at the time of publishing, "
        "over the posts published in the period.",
        unit=Unit.RATE,
        adds_up=AddsUp.RATIO_OF_SUMS,
        numerator="interactions_at_age",
        denominator="followers_at_publishing",
    ),
    Metric(
        key="clicks",
        name="Link clicks",
        definition="Clicks on links in posts in the period, as the networks report them.",
        unit=Unit.COUNT,
        adds_up=AddsUp.SUM,
        is_own_only=True,
        note="Clicks on our own tracked links are counted one by one under Links.",
    ),
)
CATALOGUE: dict[str, Metric] = {metric.key: metric for metric in _ALL}
