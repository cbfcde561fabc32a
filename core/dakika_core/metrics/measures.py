"""The base measures: everything that is counted, by whom, in which words. metrics.ways says how each can be counted.

The words are the trade's (common practice, no source); which network tells what stands in its definition file.
"""

from dataclasses import dataclass

from dakika_core.metrics.formula import COUNT, SECONDS, Dimension
from dakika_core.metrics.metric import Over


@dataclass(frozen=True, kw_only=True)
class BaseMeasure:
    """One thing that is counted.

    plural stands in names such as "Comments per post", the definition is a phrase without a full stop. by_day: it is
    also kept by the day on which it came, whenever the post was published. is_of_reached: people, of whom those of
    several days or posts cannot be told apart. subject is the heading that it is found under.
    """

    key: str
    plural: str
    definition: str
    over: Over
    subject: str
    dimension: Dimension = COUNT
    by_day: bool = False
    more_is_better: bool = True
    note: str = ""


def _posts(subject: str, key: str, plural: str, definition: str, **more: object) -> BaseMeasure:
    return BaseMeasure(key=key, plural=plural, definition=definition, over=Over.PUBLISHED, subject=subject, **more)  # type: ignore[arg-type]


def _days(subject: str, key: str, plural: str, definition: str, **more: object) -> BaseMeasure:
    return BaseMeasure(key=key, plural=plural, definition=definition, over=Over.PROFILE, subject=subject, **more)  # type: ignore[arg-type]


def _counted(subject: str, key: str, plural: str, definition: str, **more: object) -> BaseMeasure:
    return BaseMeasure(key=key, plural=plural, definition=definition, over=Over.BROUGHT, subject=subject, **more)  # type: ignore[arg-type]


SEEN, DONE, FELT, VIDEO = "Being seen", "What people did", "Reactions by kind", "Video"
PLACE, PROFILE, TALK, LINKS, SITE = "A place of one's own", "The profile", "Comments", "Tracked links", "The site"
PAID = "Paid for"
SUBJECTS = (SEEN, DONE, FELT, VIDEO, PLACE, PROFILE, TALK, LINKS, SITE, PAID)

_ALL = (
    _posts(SEEN, "impressions", "impressions", "Times that posts were shown", by_day=True),
    _posts(SEEN, "reach", "reach", "People who saw a post, added over posts", by_day=True,
           note="Somebody who saw two posts is counted twice."),
    _posts(DONE, "interactions", "interactions",
           "Reactions, comments, shares and saves, as far as the network reports them", by_day=True),
    _posts(DONE, "reactions", "reactions", "Reactions of every kind"),
    _posts(DONE, "comments", "comments", "Comments"),
    _posts(DONE, "shares", "shares", "Times that posts were passed on"),
    _posts(DONE, "shares_with_words", "shares with own words",
           "Times that posts were passed on with words of one's own", note="They are among the shares."),
    _posts(DONE, "saves", "saves", "Times that posts were kept for later"),
    _posts(DONE, "link_clicks", "link clicks", "Clicks on links in posts, as the networks report them", by_day=True,
           note="Clicks on our own tracked links are counted one by one under Links."),
    _posts(DONE, "profile_visits", "profile visits", "Visits to the profile after a post"),
    _posts(DONE, "follows", "new followers of posts", "People who began to follow after a post",
           note="Networks tell which post it was; those who came by other ways are not among them."),
    _posts(DONE, "unfollows", "followers lost by posts", "People who stopped following after a post",
           more_is_better=False),
    _posts(DONE, "negative", "hides and reports", "Times that posts were hidden or reported", more_is_better=False),
    _posts(FELT, "reactions_like", "likes", "Reactions that say no more than that somebody likes it",
           note="They are among the reactions, as every kind of them is."),
    _posts(FELT, "reactions_warmth", "warm reactions", "Reactions of affection"),
    _posts(FELT, "reactions_amusement", "amused reactions", "Reactions of amusement"),
    _posts(FELT, "reactions_wonder", "wondering reactions", "Reactions of wonder"),
    _posts(FELT, "reactions_dismay", "dismayed reactions", "Reactions of sorrow or anger", more_is_better=False),
    _posts(VIDEO, "video_views", "video views", "Times that videos were begun"),
    _posts(VIDEO, "video_seconds", "seconds watched", "Seconds that videos were watched", dimension=SECONDS),
    _posts(VIDEO, "video_completions", "videos seen to the end", "Times that videos were seen to their end"),
    _posts(PLACE, "calls", "calls", "Calls to the place from a post"),
    _posts(PLACE, "directions", "direction requests", "Times that people asked for the way from a post"),
    _posts(PLACE, "bookings", "bookings from posts", "Times that people booked by a post's button"),
    _days(PROFILE, "followers", "followers", "People who follow the profiles",
          note="Somebody who follows two profiles is counted on each."),
    _days(PROFILE, "net_followers", "net followers", "Followers gained less followers lost"),
    _days(PROFILE, "gained_followers", "followers gained", "People who began to follow the profiles"),
    _days(PROFILE, "lost_followers", "followers lost", "People who stopped following the profiles",
          more_is_better=False),
    _days(PROFILE, "following", "profiles followed", "Profiles that the profiles themselves follow"),
    _days(PROFILE, "posts", "posts", "Posts published; removed ones are counted while they were up"),
    _days(PROFILE, "posts_total", "posts on the profile", "Posts that stand on the profiles, as networks tell it"),
    _days(PROFILE, "daily_reach", "daily reach of the profile",
          "People who saw anything of the profile on a day, as networks or files tell it",
          note="People of several days cannot be added up."),
    _days(PROFILE, "daily_impressions", "impressions of the profile",
          "Times that anything of the profile was shown, as networks or files tell it by the day"),
    _days(PROFILE, "daily_profile_visits", "visits to the profile",
          "Visits to the profile's own page, as networks or files tell them by the day"),
    _counted(TALK, "first_comments", "first comments",
             "Comments by people of whom no earlier one under the brand's posts is known"),
    _counted(TALK, "commenters", "commenters", "People who wrote comments under our posts, counted once a day",
             note="Somebody who comments on two days is counted on each."),
    _counted(LINKS, "tracked_clicks", "clicks on tracked links",
             "People's clicks on the brand's short links, counted one by one; bots are left out",
             note="Link clicks are what the networks tell; the two differ, and Links says why."),
    _counted(LINKS, "click_visitors", "clickers", "People who clicked on a tracked link, counted once a day and link",
             note="Estimated without cookies, for days that are over (UTC)."),
    _counted(LINKS, "bot_clicks", "bots' clicks", "Clicks on tracked links that programs made, counted apart",
             more_is_better=False),
    _counted(LINKS, "late_clicks", "clicks on links that are over",
             "People's clicks on tracked links after these had ended or while they were paused", more_is_better=False,
             note="They are not among the clicks on tracked links."),
    _counted(LINKS, "page_views", "views of link pages", "Times that people opened one of the brand's pages of links",
             note="A page of links belongs to no network."),
    _counted(LINKS, "page_clicks", "clicks on link pages",
             "People's clicks on tracked links that came by a page of links"),
    _counted(SITE, "feed_views", "views of the own feed", "Times that people saw items of the brand's own feed",
             note="Readers that load no pictures are not counted. A feed belongs to no network."),
    _counted(SITE, "push_views", "messages shown", "Times that browsers showed a message they had asked for",
             note="Each browser shows a message once. Messages belong to no network."),
    _counted(SITE, "visits", "visits",
             "Visits to the brand's sites that came by a tracked link or from one of its networks",
             note="Visits from elsewhere, and those typed in, are on the page of sites."),
    _counted(SITE, "click_visits", "visits by tracked links",
             "Visits to the brand's sites that came by a tracked link"),
    _counted(SITE, "single_visits", "visits of a single page", "Such visits that ended on the page they began with",
             more_is_better=False),
    _counted(SITE, "site_pages", "pages looked at", "Pages of the brand's sites that such visits looked at"),
    _counted(SITE, "site_seconds", "seconds on the site", "Seconds between the first and the last page of such visits",
             dimension=SECONDS, note="How long the last page was looked at is not known."),
    _counted(SITE, "conversions", "conversions", "Goals that were reached on such visits",
             note="Each is counted on the day and for the network of the visit that reached it; Attribution holds "
                  "this against other ways to give credit."),
    _counted(SITE, "converting_visits", "visits that reached a goal", "Such visits on which any goal was reached"),
    _counted(SITE, "value", "value", "What conversions on such visits are worth, in the currency of most goals",
             note="Amounts in other currencies are not converted and not in it."),
    _counted(PAID, "spend", "spend", "What boosts cost, as networks tell it, in the currency of most goals",
             more_is_better=False, note="Amounts in other currencies are not converted and not in it."),
    _counted(PAID, "paid_impressions", "paid impressions", "Times that boosts showed posts",
             note="They are not among the impressions."),
    _counted(PAID, "paid_interactions", "paid interactions", "Reactions and the like that boosts brought",
             note="They are not among the interactions."),
    _counted(PAID, "paid_link_clicks", "paid link clicks", "Clicks on links of boosts, as the networks report them",
             note="They are not among the link clicks."),
    _counted(PAID, "paid_clicks", "paid clicks on tracked links",
             "People's clicks on the tracked links of boosts, counted one by one",
             note="They are not among the clicks on tracked links."),
    _counted(PAID, "paid_visits", "paid visits", "Visits to the brand's sites that came by the links of boosts",
             note="They are not among the visits."),
    _counted(PAID, "paid_conversions", "paid conversions", "Goals that were reached on such visits",
             note="They are not among the conversions."),
    _counted(PAID, "paid_value", "paid value", "What such conversions are worth, in the currency of most goals",
             note="Amounts in other currencies are not converted and not in it."),
)  # fmt: skip
MEASURES: dict[str, BaseMeasure] = {measure.key: measure for measure in _ALL}
