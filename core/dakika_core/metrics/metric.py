"""What a metric is: what it means, how it adds up, what it is made of, who supplies it."""

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache

from dakika_core.metrics.formula import COUNT, SECONDS, Dimension, Formula, read_formula
from dakika_core.metrics.observed import INTERACTION_PARTS, OBSERVED


class Unit(StrEnum):
    """Unit of a metric."""

    COUNT = "count"
    RATE = "rate"
    PER_1000 = "per_1000"
    PER_WEEK = "per_week"
    PER_POST = "per_post"
    INDEX = "index"
    SECONDS = "seconds"
    NUMBER = "number"
    CHANGE = "change"
    MONEY = "money"


class AddsUp(StrEnum):
    """How values of a set are put together."""

    SUM = "sum"
    LAST = "last"
    RATIO_OF_SUMS = "ratio_of_sums"
    GEOMETRIC_MEAN = "geometric_mean"
    MEDIAN = "median"
    LARGEST = "largest"
    CHANGE = "change"


class Way(StrEnum):
    """How a base measure is counted. What each means stands in metrics.ways."""

    TOTAL = "total"
    AT_AGE = "at_age"
    PER_POST = "per_post"
    MEDIAN_POST = "median_post"
    BEST_POST = "best_post"
    PER_DAY = "per_day"
    PER_WEEK = "per_week"
    PER_FOLLOWER = "per_follower"
    PER_1000 = "per_1000_followers"
    BY_REACH = "by_reach"
    BY_IMPRESSIONS = "by_impressions"
    BY_VIEWS = "by_views"
    BY_VISITS = "by_visits"
    BY_CLICKS = "by_clicks"
    SHARE = "share"
    CHANGE = "change"
    INDEX = "index"


class Over(StrEnum):
    """What a metric is counted over.

    received: what posts of any age gained in the period. published: the posts that were published
    in it, each at equal age. profile: what profiles report by the day. brought: what tracked links,
    the brand's own site and comments counted one by one in the period, whenever the post was published.
    """

    RECEIVED = "received"
    PUBLISHED = "published"
    PROFILE = "profile"
    BROUGHT = "brought"


# Ways that single out one post of a set.
OF_ONE_POST = (Way.MEDIAN_POST, Way.BEST_POST)
# Names that a formula over posts may hold. `posts` counts posts; `followers` are those at publishing.
POST_UNITS: dict[str, Dimension] = {
    **{key: SECONDS if key.endswith("seconds") else COUNT for key in OBSERVED},
    "interactions": COUNT,
    "followers": COUNT,
    "posts": COUNT,
}
# Names of what links and sites count; they belong to days and networks, so a formula over posts cannot hold them.
BROUGHT_NAMES = (
    "tracked_clicks", "click_visitors", "bot_clicks", "late_clicks", "page_views", "page_clicks", "visits",
    "click_visits", "single_visits", "site_pages", "site_seconds", "conversions", "converting_visits", "value",
    "first_comments", "commenters", "feed_views", "push_views", "spend", "paid_impressions", "paid_interactions",
    "paid_link_clicks", "paid_clicks", "paid_visits", "paid_conversions", "paid_value",
)  # fmt: skip
BROUGHT_UNITS: dict[str, Dimension] = {key: SECONDS if key.endswith("seconds") else COUNT for key in BROUGHT_NAMES}
# What is kept by the day.
RECEIVED_NAMES = ("impressions", "reach", "interactions", "link_clicks")


@dataclass(frozen=True, kw_only=True)
class Metric:
    """One entry of the catalogue: a base measure and a way of counting it. `note` says what a careful reader must know.

    formula is over counted names; metrics of profiles have none, they are read as they are told. `of` is the total
    that a metric by the day, a share of all or a change is worked out from. A team's own has no base measure.
    """

    key: str
    name: str
    definition: str
    unit: Unit
    adds_up: AddsUp
    over: Over
    formula: str = ""
    more_is_better: bool = True
    note: str = ""
    is_team: bool = False
    measure: str = ""
    way: Way = Way.TOTAL
    of: "Metric | None" = None

    @property
    def needs(self) -> tuple[str, ...]:
        """The observed metrics without which it cannot be said."""
        if self.of:
            return self.of.needs
        return _needs(self.formula) if self.formula else ()

    @property
    def is_of_posts(self) -> bool:
        """Whether it can be said of a single post."""
        return self.over in (Over.RECEIVED, Over.PUBLISHED) and self.of is None and self.way not in OF_ONE_POST

    @property
    def total(self) -> "Metric":
        """The metric that is counted: itself, but for what is worked out from a total."""
        return self.of or self

    @property
    def read(self) -> Formula:
        """Its formula as a tree."""
        return _read(self.formula)

    @property
    def numerator(self) -> str | None:
        """What stands above, where the metric is a plain ratio of two names."""
        return _plain_ratio(self.formula)[0]

    @property
    def denominator(self) -> str | None:
        """What stands below, where the metric is a plain ratio of two names."""
        return _plain_ratio(self.formula)[1]

    def counted(self, at: str) -> str:
        """What of its name is counted, in a few words beside it: figures of one name differ by it. at: the age."""
        if self.over is Over.PUBLISHED:
            return at
        if self.over is Over.BROUGHT:
            return _WHERE_BROUGHT.get(self.needs[-1], "by links and networks")
        if self.over is Over.RECEIVED:
            return "told by networks" if "link_clicks" in self.needs else "received"
        return ""

    def is_supplied_by(self, metrics: Iterable[str]) -> bool:
        """Whether a network that reports these metrics supplies it."""
        known = {*metrics, "followers", "posts", *BROUGHT_UNITS}
        return all(need in known or (need == "interactions" and known & {*INTERACTION_PARTS}) for need in self.needs)


_WHERE_BROUGHT = {
    **dict.fromkeys(("tracked_clicks", "click_visitors", "bot_clicks", "late_clicks"), "on our links"),
    **dict.fromkeys(("page_views", "page_clicks"), "on pages of links"),
    **dict.fromkeys(("first_comments", "commenters"), "under our posts"),
    "feed_views": "in the own feed",
    "push_views": "in browsers",
    **dict.fromkeys(("spend", *(name for name in BROUGHT_NAMES if name.startswith("paid_"))), "by boosts"),
}


@lru_cache(maxsize=4096)
def _read(formula: str) -> Formula:
    return read_formula(formula, POST_UNITS | BROUGHT_UNITS)


def _needs(formula: str) -> tuple[str, ...]:
    return _read(formula).names


def _plain_ratio(formula: str) -> tuple[str | None, str | None]:
    above, slash, below = formula.partition(" / ")
    if slash and {above, below} <= {*POST_UNITS, *BROUGHT_UNITS}:
        return above, below
    return None, None


def team_metric(key: str, name: str, definition: str, formula: str, *, more_is_better: bool) -> Metric:
    """A team's own metric as an entry of the catalogue. Raises FormulaError when the formula is wrong."""
    read = read_formula(formula, POST_UNITS)
    unit = {"rate": Unit.RATE, "count": Unit.COUNT, "seconds": Unit.SECONDS, "number": Unit.NUMBER}[read.unit]
    is_sum = read.unit == "count" and set(read.names) <= {*OBSERVED, "interactions", "posts"}
    return Metric(
        key=key, name=name, definition=definition or f"{formula}, over the posts published in the period at equal age.",
        unit=unit, adds_up=AddsUp.SUM if is_sum and "/" not in formula else AddsUp.RATIO_OF_SUMS, over=Over.PUBLISHED,
        formula=formula, more_is_better=more_is_better, is_team=True,
    )  # fmt: skip
