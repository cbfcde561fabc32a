"""The metrics that a reading of a post can hold, in their fixed order."""

OBSERVED = (
    "impressions",
    "reach",
    "reactions",
    "comments",
    "shares",
    "saves",
    "link_clicks",
    "profile_visits",
    "video_views",
    "video_seconds",
    "video_completions",
    "calls",
    "directions",
    "negative",
    "reactions_like",
    "reactions_warmth",
    "reactions_amusement",
    "reactions_wonder",
    "reactions_dismay",
    "shares_with_words",
    "follows",
    "unfollows",
    "bookings",
)
INTERACTION_PARTS = ("reactions", "comments", "shares", "saves")
DEFAULT_AGES_HOURS = (24, 72, 168, 672)
# How a post begins: no study is made at these, but its growth and what is typical of it are told.
EARLY_AGES_HOURS = (1, 3, 6, 12)
# Two more that stand beside them: the count at the latest reading, whenever it was, and the final count.
LATEST_AGE, FINAL_AGE = 0, -1
# Metrics of a profile on a day, beside its followers.
OBSERVED_OF_PROFILE = (
    "followers",
    "following",
    "posts_total",
    "gained",
    "lost",
    "reach",
    "impressions",
    "profile_visits",
)
AUDIENCE_DIMENSIONS = ("age", "gender", "country", "language", "city", "source")
