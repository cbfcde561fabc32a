"""The metrics that a reading of a post can hold, in their fixed order."""

OBSERVED = (
    "impressions",
    "reach",
    "reactions",
    "comments",
    "shares",
    "saves",
    "link_clicks",
    "video_views",
    "negative",
)
INTERACTION_PARTS = ("reactions", "comments", "shares", "saves")
DEFAULT_AGES_HOURS = (24, 72, 168, 672)
