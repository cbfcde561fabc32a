"""Every metric: what it means, how it adds up, what it is made of, who supplies it."""

from collections.abc import Iterable, Mapping
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


class AddsUp(StrEnum):
    """How values of a set are put together."""

    SUM = "sum"
    LAST = "last"
    RATIO_OF_SUMS = "ratio_of_sums"
    GEOMETRIC_MEAN = "geometric_mean"


class Over(StrEnum):
    """What a metric is counted over.

    received: what posts of any age gained in the period. published: the posts that were published
    in it, each at equal age. profile: what profiles report by the day. brought: what tracked links
    and the brand's own site counted in the period, whenever the post was published.
    """

    RECEIVED = "received"
    PUBLISHED = "published"
    PROFILE = "profile"
    BROUGHT = "brought"


# Names that a formula over posts may hold. `posts` counts posts; `followers` are those at publishing.
POST_UNITS: dict[str, Dimension] = {
    **{key: SECONDS if key.endswith("seconds") else COUNT for key in OBSERVED},
    "interactions": COUNT,
    "followers": COUNT,
    "posts": COUNT,
}
# Names of what links and sites count; they belong to days and networks, so a formula over posts cannot hold them.
BROUGHT_UNITS: dict[str, Dimension] = dict.fromkeys(("tracked_clicks", "visits", "click_visits", "conversions"), COUNT)
# What is kept by the day.
RECEIVED_NAMES = ("impressions", "reach", "interactions", "link_clicks")


@dataclass(frozen=True, kw_only=True)
class Metric:
    """One entry of the catalogue. `note` says what a careful reader must know.

    formula is over counted names; metrics of profiles have none, they are read as they are told.
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

    @property
    def needs(self) -> tuple[str, ...]:
        """The observed metrics without which it cannot be said."""
        return _needs(self.formula) if self.formula else ()

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
            return "on our links" if self.needs[-1] == "tracked_clicks" else "by links and networks"
        if self.over is Over.RECEIVED:
            return "told by networks" if "link_clicks" in self.needs else "received"
        return ""

    def is_supplied_by(self, metrics: Iterable[str]) -> bool:
        """Whether a network that reports these metrics supplies it."""
        known = {*metrics, "followers", "posts", *BROUGHT_UNITS}
        return all(need in known or (need == "interactions" and known & {*INTERACTION_PARTS}) for need in self.needs)


@lru_cache(maxsize=1024)
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


def _profile(key: str, name: str, definition: str, unit: Unit = Unit.COUNT, adds_up: AddsUp = AddsUp.SUM,
             **more: object) -> Metric:  # fmt: skip
    return Metric(key=key, name=name, definition=definition, unit=unit, adds_up=adds_up, over=Over.PROFILE, **more)  # type: ignore[arg-type]


def _received(key: str, name: str, definition: str, formula: str, *, is_rate: bool = False, note: str = "") -> Metric:
    return Metric(
        key=key, name=name, definition=definition, unit=Unit.RATE if is_rate else Unit.COUNT,
        adds_up=AddsUp.RATIO_OF_SUMS if is_rate else AddsUp.SUM, over=Over.RECEIVED, formula=formula, note=note,
    )  # fmt: skip


def _brought(key: str, name: str, definition: str, formula: str, *, note: str = "") -> Metric:
    is_rate = "/" in formula
    return Metric(
        key=key, name=name, definition=definition, unit=Unit.RATE if is_rate else Unit.COUNT,
        adds_up=AddsUp.RATIO_OF_SUMS if is_rate else AddsUp.SUM, over=Over.BROUGHT, formula=formula, note=note,
    )  # fmt: skip


def _published(key: str, name: str, definition: str, formula: str, unit: Unit = Unit.RATE, **more: object) -> Metric:
    adds_up = AddsUp.SUM if unit is Unit.COUNT else AddsUp.RATIO_OF_SUMS
    given: dict[str, object] = {"adds_up": adds_up, **more}
    return Metric(
        key=key, name=name, definition=f"{definition}, over the posts published in the period at equal age.", unit=unit,
        over=Over.PUBLISHED, formula=formula, **given,  # type: ignore[arg-type]
    )  # fmt: skip


_ALL = (
    _profile("followers", "Followers", "People who follow the profiles at the end of the period.", adds_up=AddsUp.LAST,
             note="Somebody who follows two profiles is counted on each."),
    _profile("net_followers", "Net followers", "Followers gained less followers lost in the period."),
    _profile("gained_followers", "Followers gained", "People who began to follow the profiles in the period."),
    _profile("lost_followers", "Followers lost", "People who stopped following the profiles in the period.",
             more_is_better=False),
    _profile("follower_growth", "Follower growth",
             "Followers at the end less those at the start, divided by the latter, over profiles that have both.",
             Unit.RATE, AddsUp.RATIO_OF_SUMS),
    _profile("posts", "Posts", "Posts published in the period; removed ones are counted while they were up."),
    _profile("posts_per_week", "Posts per week",
             "Posts published in the period divided by its weeks, days without posts included.", Unit.PER_WEEK,
             AddsUp.RATIO_OF_SUMS),
    _profile("daily_reach", "Daily reach of the profile",
             "People who saw anything of the profile on a day, as networks or files tell it; the mean of the days.",
             Unit.NUMBER, AddsUp.RATIO_OF_SUMS, note="People of several days cannot be added up."),
    _profile("daily_impressions", "Impressions of the profile",
             "Times that anything of the profile was shown, as networks or files tell it by the day."),
    _profile("daily_profile_visits", "Visits to the profile",
             "Visits to the profile's own page, as networks or files tell them by the day."),
    _received("reach", "Reach", "People who saw a post, added over posts and days on which they first saw it.", "reach",
              note="Somebody who saw two posts is counted twice."),
    _received("impressions", "Impressions", "Times that posts were shown in the period, whenever they were published.",
              "impressions"),
    _received("interactions", "Interactions",
              "Reactions, comments, shares and saves received in the period, as far as the network reports them.",
              "interactions"),
    _received("er_reach", "Engagement by reach",
              "Interactions received in the period divided by reach gained in it, over posts that have both.",
              "interactions / reach", is_rate=True),
    _received("er_impressions", "Engagement by impressions",
              "Interactions received in the period divided by impressions in it, over posts that have both.",
              "interactions / impressions", is_rate=True),
    _received("clicks", "Link clicks", "Clicks on links in posts in the period, as the networks report them.",
              "link_clicks", note="Clicks on our own tracked links are counted one by one under Links."),
    _received("ctr", "Click rate", "Link clicks divided by impressions in the period, over posts that have both.",
              "link_clicks / impressions", is_rate=True),
    _brought("tracked_clicks", "Clicks on tracked links",
             "People's clicks on the brand's short links in the period, counted one by one; bots are left out.",
             "tracked_clicks", note="Link clicks are what the networks tell; the two differ, and Links says why."),
    _brought("visits", "Visits", "Visits to the brand's sites that came by a tracked link or from one of its networks.",
             "visits", note="Visits from elsewhere, and those typed in, are on the page of sites."),
    _brought("conversions", "Conversions", "Goals that were reached on such visits.", "conversions",
             note="Each is counted on the day and for the network of the visit that reached it; Attribution holds this "
                  "against other ways to give credit."),
    _brought("visit_rate", "Visit rate",
             "Visits that came by a tracked link divided by the clicks on tracked links, over days that have both.",
             "click_visits / tracked_clicks"),
    _brought("conversion_rate", "Conversion rate", "Conversions divided by visits, over days that have both.",
             "conversions / visits"),
    _published("er_followers", "Engagement by followers",
               "Interactions at equal age divided by followers at the time of publishing", "interactions / followers"),
    _published("interactions_per_1000", "Interactions per 1,000 followers",
               "Interactions for every thousand followers at the time of publishing",
               "1000 * interactions / followers", Unit.PER_1000),
    _published("interactions_per_post", "Interactions per post", "Interactions divided by the number of posts",
               "interactions / posts", Unit.PER_POST),
    _published("index", "Index", "Interactions divided by what is typical of profile and format; the geometric mean",
               "", Unit.INDEX, adds_up=AddsUp.GEOMETRIC_MEAN, note="1.00 is typical."),
    _published("reactions", "Reactions", "Reactions of every kind", "reactions", Unit.COUNT),
    _published("comments", "Comments", "Comments", "comments", Unit.COUNT),
    _published("shares", "Shares", "Times that posts were passed on", "shares", Unit.COUNT),
    _published("saves", "Saves", "Times that posts were kept for later", "saves", Unit.COUNT),
    _published("video_views", "Video views", "Times that videos were begun", "video_views", Unit.COUNT),
    _published("profile_visits", "Profile visits", "Visits to the profile after a post", "profile_visits", Unit.COUNT),
    _published("negative", "Hides and reports", "Times that posts were hidden or reported", "negative", Unit.COUNT,
               more_is_better=False),
    _published("applause", "Applause", "Reactions divided by the number of posts", "reactions / posts", Unit.PER_POST),
    _published("conversation", "Conversation", "Comments divided by the number of posts", "comments / posts",
               Unit.PER_POST),
    _published("amplification", "Amplification", "Shares divided by the number of posts", "shares / posts",
               Unit.PER_POST),
    _published("save_rate", "Save rate", "Saves divided by reach", "saves / reach"),
    _published("share_rate", "Share rate", "Shares divided by reach", "shares / reach"),
    _published("reach_rate", "Reach rate", "Reach divided by followers at the time of publishing", "reach / followers"),
    _published("view_through", "View-through", "Video views divided by impressions", "video_views / impressions"),
    _published("completion", "Completion", "Videos seen to their end divided by video views",
               "video_completions / video_views"),
    _published("watch_time", "Seconds per view", "Seconds watched divided by video views",
               "video_seconds / video_views", Unit.SECONDS),
)  # fmt: skip
CATALOGUE: dict[str, Metric] = {metric.key: metric for metric in _ALL}


def with_team(team: Mapping[str, Metric]) -> dict[str, Metric]:
    """The catalogue with a team's own metrics after it."""
    return {**CATALOGUE, **team}
