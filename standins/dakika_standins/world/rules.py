"""How the networks of the world differ: life curves, what they count, whom they tell, how much a follower sees."""

from dataclasses import dataclass, field


@dataclass(frozen=True, kw_only=True)
class Rules:
    """One network. seen: impressions (or views) per follower; shares are of those.

    parts are of another counter, such as followers that came of visits to the profile.
    """

    half_life_hours: float
    own: tuple[str, ...]
    public: tuple[str, ...]
    seen: float
    shares: dict[str, float]
    needs_business: bool = True
    scopes: tuple[str, str] = ("read", "publish")
    parts: dict[str, tuple[str, float]] = field(default_factory=dict)


RULES: dict[str, Rules] = {
    "commons": Rules(
        half_life_hours=5.0,
        own=("impressions", "reach", "reactions", "comments", "shares", "link_clicks", "negative"),
        public=("reactions", "comments", "shares"),
        seen=0.32,
        shares={"reactions": 0.042, "comments": 0.0009, "shares": 0.0067, "link_clicks": 0.011, "negative": 0.0003},
    ),
    "brevi": Rules(
        half_life_hours=0.75,
        own=("impressions", "reactions", "comments", "shares", "link_clicks", "shares_with_words"),
        public=("reactions", "comments", "shares"),
        seen=0.42,
        shares={"reactions": 0.021, "comments": 0.0006, "shares": 0.0034, "link_clicks": 0.011},
        needs_business=False,
        scopes=("read", "write"),
        parts={"shares_with_words": ("shares", 0.2)},
    ),
    "pictor": Rules(
        half_life_hours=20.0,
        own=("impressions", "reach", "reactions", "comments", "saves", "shares", "profile_visits", "follows"),
        public=("reactions", "comments"),
        seen=0.38,
        shares={"reactions": 0.055, "comments": 0.0008, "saves": 0.009, "shares": 0.005, "profile_visits": 0.006},
        scopes=("insights", "compose"),
        parts={"follows": ("profile_visits", 0.06)},
    ),
    "guildhall": Rules(
        half_life_hours=24.0,
        own=("impressions", "reach", "reactions", "comments", "shares", "link_clicks"),
        public=("reactions", "comments"),
        seen=0.28,
        shares={"reactions": 0.024, "comments": 0.0015, "shares": 0.002, "link_clicks": 0.014},
        scopes=("org.read", "org.write"),
    ),
    "vignette": Rules(
        half_life_hours=72.0,
        own=("video_views", "reach", "reactions", "comments", "shares", "video_seconds", "video_completions"),
        public=("video_views", "reactions", "comments"),
        seen=0.75,
        shares={"reactions": 0.058, "comments": 0.0007, "shares": 0.008, "video_seconds": 11.5,
                "video_completions": 0.36},
        scopes=("clips:read", "clips:write"),
    ),
    "corkboard": Rules(
        half_life_hours=720.0,
        own=("impressions", "saves", "link_clicks", "comments"),
        public=("saves", "comments"),
        seen=1.1,
        shares={"saves": 0.021, "link_clicks": 0.012, "comments": 0.0008},
        scopes=("pins.read", "pins.write"),
    ),
    "longplay": Rules(
        half_life_hours=168.0,
        own=("video_views", "video_seconds", "video_completions", "reactions", "comments", "shares", "follows",
             "unfollows"),
        public=("video_views", "reactions", "comments"),
        seen=0.35,
        shares={"video_seconds": 172.0, "video_completions": 0.27, "reactions": 0.04, "comments": 0.006,
                "shares": 0.004},
        scopes=("channel.reports", "channel.upload"),
        parts={"follows": ("video_views", 0.003), "unfollows": ("video_views", 0.0006)},
    ),
    "doorstep": Rules(
        half_life_hours=96.0,
        own=("impressions", "link_clicks", "calls", "directions", "bookings"),
        public=(),
        seen=0.5,
        shares={"link_clicks": 0.02, "calls": 0.006, "directions": 0.018},
        scopes=("place.read", "place.post"),
        parts={"bookings": ("link_clicks", 0.07)},
    ),
    "activitypub": Rules(
        half_life_hours=3.0,
        own=(),
        public=("reactions", "comments", "shares"),
        seen=0.4,
        shares={"reactions": 0.02, "comments": 0.0015, "shares": 0.007},
        needs_business=False,
    ),
}  # fmt: skip
HALF_LIFE_HOURS = {network: rules.half_life_hours for network, rules in RULES.items()}
FORMATS: dict[str, dict[str, float]] = {
    "pictor": {"image": 0.5, "album": 0.25, "short_video": 0.25},
    "guildhall": {"text": 0.3, "link": 0.4, "image": 0.3},
    "vignette": {"short_video": 1.0},
    "corkboard": {"image": 1.0},
    "longplay": {"long_video": 0.8, "short_video": 0.2},
    "doorstep": {"text": 0.5, "image": 0.3, "link": 0.2},
    "activitypub": {"text": 0.5, "link": 0.3, "image": 0.2},
}
