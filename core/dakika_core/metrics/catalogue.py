"""Every metric: those that the trade has names for, and every other base measure in every way it can be counted."""

from collections.abc import Iterator, Mapping
from dataclasses import replace

from dakika_core.metrics.measures import MEASURES, SUBJECTS, BaseMeasure
from dakika_core.metrics.metric import (
    POST_UNITS,
    RECEIVED_NAMES,
    AddsUp,
    Metric,
    Over,
    Unit,
    Way,
    team_metric,
)
from dakika_core.metrics.ways import WAY_NAMES, composed, total_of

__all__ = [
    "CATALOGUE", "MEASURES", "POST_UNITS", "RECEIVED_NAMES", "SUBJECTS", "WAY_NAMES", "AddsUp", "BaseMeasure", "Metric",
    "Over", "Unit", "Way", "team_metric", "with_team",
]  # fmt: skip


# What is left of two counts: it can be below nought, and chance in it is that of both.
NET = frozenset({"net_followers"})


def _profile(key: str, name: str, definition: str, unit: Unit = Unit.COUNT, adds_up: AddsUp = AddsUp.SUM,
             **more: object) -> Metric:  # fmt: skip
    return Metric(key=key, name=name, definition=definition, unit=unit, adds_up=adds_up, over=Over.PROFILE, **more)  # type: ignore[arg-type]


def _received(key: str, name: str, definition: str, formula: str, *, is_rate: bool = False, note: str = "") -> Metric:
    return Metric(
        key=key, name=name, definition=definition, unit=Unit.RATE if is_rate else Unit.COUNT,
        adds_up=AddsUp.RATIO_OF_SUMS if is_rate else AddsUp.SUM, over=Over.RECEIVED, formula=formula, note=note,
    )  # fmt: skip


def _brought(
    key: str, name: str, definition: str, formula: str, *, note: str = "", unit: Unit | None = None,
    more_is_better: bool = True,
) -> Metric:  # fmt: skip
    is_rate = "/" in formula
    return Metric(
        key=key, name=name, definition=definition, unit=unit or (Unit.RATE if is_rate else Unit.COUNT),
        adds_up=AddsUp.RATIO_OF_SUMS if is_rate else AddsUp.SUM, over=Over.BROUGHT, formula=formula, note=note,
        more_is_better=more_is_better,
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
    _profile("following", "Profiles followed", "Profiles that the profiles themselves follow at the end of the period.",
             adds_up=AddsUp.LAST),
    _profile("posts_total", "Posts on the profile",
             "Posts that stand on the profiles at the end of the period, as networks tell it.", adds_up=AddsUp.LAST),
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
    _brought("cost_per_thousand", "Cost per thousand", "What a thousand paid impressions cost.",
             "1000 * spend / paid_impressions", unit=Unit.MONEY, more_is_better=False),
    _brought("cost_per_click", "Cost per click",
             "What boosts cost, divided by people's clicks on their tracked links, over days that have both.",
             "spend / paid_clicks", unit=Unit.MONEY, more_is_better=False,
             note="Boosts without a link cost, too, and are in it."),
    _brought("cost_per_conversion", "Cost per conversion",
             "What boosts cost, divided by the goals reached on visits by their links, over days that have both.",
             "spend / paid_conversions", unit=Unit.MONEY, more_is_better=False,
             note="Goals that are reached later on another visit are not in it."),
    _brought("paid_return", "Return of what was paid", "The worth of paid conversions divided by what boosts cost.",
             "paid_value / spend", unit=Unit.NUMBER),
    _published("er_followers", "Engagement by followers",
               "Interactions at equal age divided by followers at the time of publishing", "interactions / followers"),
    _published("interactions_per_1000", "Interactions per 1,000 followers",
               "Interactions for every thousand followers at the time of publishing",
               "1000 * interactions / followers", Unit.PER_1000),
    _published("interactions_per_post", "Interactions per post", "Interactions divided by the number of posts",
               "interactions / posts", Unit.PER_POST),
    _published("index", "Index", "Interactions divided by what is typical of profile and format; the geometric mean",
               "", Unit.INDEX, adds_up=AddsUp.GEOMETRIC_MEAN, note="1.00 is typical."),
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
# Which base measure they count in which way; what is not here is a total under its measure's own key.
_COUNTED_AS = {
    "follower_growth": ("followers", Way.CHANGE), "posts_per_week": ("posts", Way.PER_WEEK),
    "clicks": ("link_clicks", Way.TOTAL), "ctr": ("link_clicks", Way.BY_IMPRESSIONS),
    "er_reach": ("interactions", Way.BY_REACH), "er_impressions": ("interactions", Way.BY_IMPRESSIONS),
    "er_followers": ("interactions", Way.PER_FOLLOWER), "interactions_per_1000": ("interactions", Way.PER_1000),
    "interactions_per_post": ("interactions", Way.PER_POST), "index": ("interactions", Way.INDEX),
    "visit_rate": ("click_visits", Way.BY_CLICKS), "conversion_rate": ("conversions", Way.BY_VISITS),
    "cost_per_thousand": ("spend", Way.BY_IMPRESSIONS), "cost_per_click": ("spend", Way.BY_CLICKS),
    "cost_per_conversion": ("spend", Way.BY_VISITS), "paid_return": ("paid_value", Way.BY_VISITS),
    "applause": ("reactions", Way.PER_POST), "conversation": ("comments", Way.PER_POST),
    "amplification": ("shares", Way.PER_POST), "save_rate": ("saves", Way.BY_REACH),
    "share_rate": ("shares", Way.BY_REACH), "reach_rate": ("reach", Way.PER_FOLLOWER),
    "view_through": ("video_views", Way.BY_IMPRESSIONS), "completion": ("video_completions", Way.BY_VIEWS),
    "watch_time": ("video_seconds", Way.BY_VIEWS),
}  # fmt: skip


def _named() -> Iterator[Metric]:
    for metric in _ALL:
        measure, way = _COUNTED_AS.get(metric.key, (metric.key, Way.TOTAL))
        yield replace(metric, measure=measure, way=way)


def _every() -> Iterator[Metric]:
    """The named ones, then of each base measure what has no name of its own."""
    named = list(_named())
    yield from named
    known = {(metric.measure, metric.way): metric for metric in named}
    for measure in MEASURES.values():
        total = known.get((measure.key, Way.TOTAL)) or total_of(measure)
        for metric in (total, *composed(measure, total)):
            if (metric.measure, metric.way) not in known:
                yield metric


CATALOGUE: dict[str, Metric] = {metric.key: metric for metric in _every()}


def with_team(team: Mapping[str, Metric]) -> dict[str, Metric]:
    """The catalogue with a team's own metrics after it."""
    return {**CATALOGUE, **team}
