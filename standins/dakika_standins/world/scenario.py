"""Who is in the world: the invented brands, their competitors, and how each of them posts."""

from dataclasses import dataclass, field


@dataclass(frozen=True, kw_only=True)
class Account:
    """A profile on a network, with its hidden strength and habits."""

    key: str
    network: str
    handle: str
    name: str
    subject: str
    followers: int
    daily_growth: float
    posts_per_week: float
    zones: dict[str, float]
    home_zone: str
    hours: tuple[int, ...] = (9, 10, 11, 12, 14, 15, 16, 17)
    formats: dict[str, float] = field(default_factory=lambda: {"text": 0.3, "link": 0.3, "image": 0.3, "album": 0.1})
    strength: float = 1.0
    owner: str = ""
    is_personal: bool = False
    website: str = ""


LISBON = {"Europe/Lisbon": 0.62, "America/Sao_Paulo": 0.30, "Europe/London": 0.08}
LISBON_ONLY = {"Europe/Lisbon": 0.9, "Europe/Madrid": 0.1}
ATHENS = {"Europe/Athens": 0.8, "Europe/Berlin": 0.2}
VIDEO = {"text": 0.15, "link": 0.2, "image": 0.25, "album": 0.1, "short_video": 0.3}


def _pair(subject: str, handle: str, name: str, zones: dict[str, float], home: str, sizes: tuple[int, int],
          weekly: tuple[float, float], **rest: object) -> list[Account]:  # fmt: skip
    return [
        Account(key=f"{network}-{handle}", network=network, handle=handle, name=name, subject=subject,
                followers=size, posts_per_week=rate, zones=zones, home_zone=home,
                daily_growth=0.0006 if network == "commons" else 0.0009, **rest)  # type: ignore[arg-type]
        for network, size, rate in zip(("commons", "brevi"), sizes, weekly, strict=True)
    ]  # fmt: skip


ACCOUNTS: tuple[Account, ...] = (
    *_pair("museum", "orreryhouse", "Orrery House", LISBON, "Europe/Lisbon", (18400, 9200), (6, 11),
           owner="orrery", website="orreryhouse", formats=VIDEO,
           # Working hours, with some evenings; nobody is at the desk when Brazil is.
           hours=(8, 9, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21)),
    *_pair("ferry", "lanternline", "Lantern Line", ATHENS, "Europe/Athens", (26100, 7300), (6, 9), owner="lantern",
           website="lanternline"),
    Account(key="commons-orreryshop", network="commons", handle="orreryshop", name="Orrery House Shop",
            subject="museum", followers=2100, posts_per_week=3, zones=LISBON_ONLY, home_zone="Europe/Lisbon",
            daily_growth=0.0008, owner="orrery"),
    Account(key="commons-portaldoussky", network="commons", handle="portaldoussky", name="Port Aldous Night Sky",
            subject="museum", followers=5400, posts_per_week=2, zones=LISBON, home_zone="Europe/Lisbon",
            daily_growth=0.001, owner="orrery"),
    Account(key="commons-mirela", network="commons", handle="mirela.duarte", name="Mirela Duarte", subject="museum",
            followers=310, posts_per_week=1, zones=LISBON_ONLY, home_zone="Europe/Lisbon", daily_growth=0.0,
            owner="orrery", is_personal=True),
    *_pair("museum", "gnomongallery", "Gnomon Gallery", LISBON_ONLY, "Europe/Lisbon", (31200, 14100), (5, 7),
           strength=1.1),
    *_pair("museum", "tidehall", "Tide Hall", LISBON_ONLY, "Europe/Lisbon", (12700, 4100), (3, 5), strength=0.8),
    *_pair("museum", "halfmoon", "Halfmoon Planetarium", LISBON_ONLY, "Europe/Lisbon", (22300, 11800), (4, 6),
           strength=1.45, formats={"text": 0.1, "link": 0.2, "image": 0.2, "short_video": 0.5}),
    *_pair("museum", "brassandbeam", "Brass & Beam", LISBON_ONLY, "Europe/Lisbon", (8900, 3600), (4, 4)),
    *_pair("ferry", "skerrypassages", "Skerry Passages", ATHENS, "Europe/Athens", (40100, 12000), (5, 5)),
    *_pair("ferry", "quietwater", "Quiet Water Line", ATHENS, "Europe/Athens", (19800, 5200), (4, 5), strength=1.2),
    *_pair("ferry", "northholm", "Northholm Crossings", ATHENS, "Europe/Athens", (15500, 4400), (4, 4), strength=0.9),
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Campaign:
    """A campaign of a brand: days before the anchor, and the share of its posts in that time."""

    owner: str
    name: str
    start_days_ago: int
    end_days_ago: int
    share: float
    lift: float
    colour: int


CAMPAIGNS = (
    Campaign(owner="orrery", name="Night Openings", start_days_ago=150, end_days_ago=-30, share=0.2, lift=0.1, colour=1),
    Campaign(owner="orrery", name="The Repaired Hour", start_days_ago=62, end_days_ago=-20, share=0.4, lift=0.3, colour=2),
    Campaign(owner="orrery", name="School Mornings", start_days_ago=80, end_days_ago=10, share=0.15, lift=-0.2, colour=3),
    Campaign(owner="lantern", name="Winter Timetable", start_days_ago=70, end_days_ago=-10, share=0.3, lift=0.05, colour=1),
)  # fmt: skip

TEXTS: dict[str, dict[str, tuple[str, ...]]] = {
    "museum": {
        "restoration": (
            "The escapement of the harbour clock is out of its case for the first time since 1911.",
            "Forty-one screws, no two alike. Inês is putting the tide dial back together.",
            "Before and after: the moon disc of our oldest longcase clock.",
            "What a hundred years of oil does to a brass wheel, and what we do about it.",
            "The repaired hour strikes again on Saturday at noon. Come and listen.",
        ),
        "workshop": (
            "Build a sundial that works in your own window. Places left for Sunday.",
            "How do you cut a gear by hand? Rui shows it in ninety seconds.",
            "Our winter workshops are open for booking: sundials, star maps, pocket watches.",
            "Children built eleven working water clocks yesterday. Nine of them leak.",
        ),
        "sky tonight": (
            "Clear sky tonight over Port Aldous: Saturn stands above the lighthouse until eleven.",
            "The roof terrace opens at nine. Bring a coat; the telescope does not mind the cold.",
            "Tonight the moon passes in front of a star you can see without glasses.",
            "Look south at ten: the three bright ones in a row are a belt.",
        ),
        "visitors": (
            "A visitor asked which clock in the house is right. We counted: four of sixty-three.",
            "“I came for the rain and stayed for the pendulums.” From the guest book.",
            "Two friends met again under the orrery after thirty years. We saved the date.",
            "What is the oldest clock in your family? Tell us below.",
        ),
        "staff": (
            "Marta winds sixty-three clocks every Monday. It takes her two hours and ten minutes.",
            "Meet Tomás, who listens to clocks for a living.",
            "We are looking for somebody who likes small screws and early mornings.",
        ),
        "opening": (
            "Night opening this Thursday: the house by lamplight until midnight.",
            "Late opening, low light, and every clock in the house striking ten.",
            "School mornings: free guides for classes, Tuesdays and Wednesdays.",
        ),
    },
    "ferry": {
        "timetable": (
            "The winter timetable is out: one more night crossing on Fridays.",
            "Boarding from nine, lights down at eleven, land in sight at six.",
            "Tomorrow's crossing leaves half an hour early to stay ahead of the wind.",
        ),
        "aboard": (
            "The last lamp on deck is put out by hand. It has been since 1958.",
            "Soup at midnight: what the galley cooks when everybody else sleeps.",
            "A cabin with a window, or a deck chair under a blanket?",
            "Dogs aboard: what to bring, where to walk, whom to ask.",
        ),
        "harbour": (
            "Fog in the harbour this morning, and three horns answering each other.",
            "The new pier is open. Follow the green lanterns.",
            "Sunrise over the breakwater, seen from the bridge.",
        ),
        "crew": (
            "Eleni has made this crossing four thousand times and still looks up for the lighthouse.",
            "Meet the night crew: nine people, two cooks, one cat.",
        ),
    },
}
TAILS = ("", "", "", " More on our site.", " Details at the link.", " What do you think?", " Save the date.")
HASHTAGS = {
    "museum": {
        "restoration": "#restoration", "workshop": "#workshop", "sky tonight": "#skytonight", "visitors": "#guestbook",
        "staff": "#behindthedial", "opening": "#nightopening",
    },
    "ferry": {"timetable": "#timetable", "aboard": "#nightferry", "harbour": "#harbour", "crew": "#crew"},
}  # fmt: skip
TOPIC_EFFECT = {
    "restoration": 0.15, "workshop": -0.05, "sky tonight": 0.3, "visitors": 0.1, "staff": 0.0, "opening": 0.05,
    "timetable": -0.2, "aboard": 0.2, "harbour": 0.1, "crew": 0.15,
}  # fmt: skip
FORMAT_EFFECT = {"text": 0.0, "link": -0.15, "image": 0.2, "album": 0.3, "short_video": 0.5, "long_video": 0.2}
HALF_LIFE_HOURS = {"commons": 5.0, "brevi": 0.75}
