"""Who is in the world: the invented brands, their competitors, and how each of them posts."""

from dataclasses import dataclass, field

from dakika_standins.world.rules import FORMATS


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


GROWTH = {
    "commons": 0.0006, "brevi": 0.0009, "pictor": 0.0011, "guildhall": 0.0007, "vignette": 0.0019, "corkboard": 0.0004,
    "longplay": 0.0006, "doorstep": 0.0003, "activitypub": 0.0008,
}  # fmt: skip
Presence = dict[str, tuple[int, float]]


def _everywhere(subject: str, handle: str, name: str, zones: dict[str, float], home: str, presence: Presence,
                **rest: object) -> list[Account]:  # fmt: skip
    """One owner's accounts: network to (followers at first, posts a week)."""
    own_formats = rest.pop("formats", None)
    made = []
    for network, (size, rate) in presence.items():
        formats = FORMATS.get(network) or own_formats
        more = {"formats": formats} if formats else {}
        made.append(
            Account(
                key=f"{network}-{handle}", network=network, handle=handle, name=name, subject=subject, followers=size,
                posts_per_week=rate, zones=zones, home_zone=home, daily_growth=GROWTH[network], website=handle,
                **rest, **more,  # type: ignore[arg-type]
            )
        )  # fmt: skip
    return made


def _person(network: str, handle: str, name: str, owner: str) -> Account:
    return Account(
        key=f"{network}-{handle.split('.')[0]}", network=network, handle=handle, name=name, subject="museum",
        followers=310, posts_per_week=1, zones=LISBON_ONLY, home_zone="Europe/Lisbon", daily_growth=0.0, owner=owner,
        is_personal=True, formats=FORMATS.get(network, VIDEO),
    )  # fmt: skip


ACCOUNTS: tuple[Account, ...] = (
    *_everywhere(
        "museum", "orreryhouse", "Orrery House", LISBON, "Europe/Lisbon",
        {"commons": (18400, 6), "brevi": (9200, 9), "pictor": (12600, 3.5), "guildhall": (3100, 1.1),
         "vignette": (5400, 1.5), "corkboard": (2200, 1.2), "longplay": (4700, 0.5), "doorstep": (900, 0.7)},
        owner="orrery", formats=VIDEO,
        # Working hours, with some evenings; nobody is at the desk when Brazil is.
        hours=(8, 9, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21),
    ),
    *_everywhere(
        "ferry", "lanternline", "Lantern Line", ATHENS, "Europe/Athens",
        {"commons": (26100, 5), "brevi": (7300, 7), "pictor": (8800, 2.5), "guildhall": (5200, 1.2),
         "doorstep": (1500, 0.8)},
        owner="lantern",
    ),
    Account(key="commons-orreryshop", network="commons", handle="orreryshop", name="Orrery House Shop",
            subject="museum", followers=2100, posts_per_week=3, zones=LISBON_ONLY, home_zone="Europe/Lisbon",
            daily_growth=0.0008, owner="orrery"),
    Account(key="commons-portaldoussky", network="commons", handle="portaldoussky", name="Port Aldous Night Sky",
            subject="museum", followers=5400, posts_per_week=2, zones=LISBON, home_zone="Europe/Lisbon",
            daily_growth=0.001, owner="orrery"),
    _person("commons", "mirela.duarte", "Mirela Duarte", "orrery"),
    _person("pictor", "mirela.duarte", "Mirela Duarte", "orrery"),
    _person("vignette", "mirela.duarte", "Mirela Duarte", "orrery"),
    *_everywhere("museum", "gnomongallery", "Gnomon Gallery", LISBON_ONLY, "Europe/Lisbon",
                 {"commons": (31200, 4), "brevi": (14100, 5), "pictor": (22000, 3.5), "vignette": (9000, 1.2),
                  "longplay": (2400, 0.4), "activitypub": (1800, 4)}, strength=1.1),
    *_everywhere("museum", "tidehall", "Tide Hall", LISBON_ONLY, "Europe/Lisbon",
                 {"commons": (12700, 3), "brevi": (4100, 4), "pictor": (5200, 2)}, strength=0.8),
    *_everywhere("museum", "halfmoon", "Halfmoon Planetarium", LISBON_ONLY, "Europe/Lisbon",
                 {"commons": (22300, 3.5), "brevi": (11800, 5), "pictor": (15000, 2.5), "vignette": (21000, 2.5),
                  "longplay": (11000, 0.9), "activitypub": (3900, 5)},
                 strength=1.45, formats={"text": 0.1, "link": 0.2, "image": 0.2, "short_video": 0.5}),
    *_everywhere("museum", "brassandbeam", "Brass & Beam", LISBON_ONLY, "Europe/Lisbon",
                 {"commons": (8900, 3), "brevi": (3600, 3), "corkboard": (1900, 1), "guildhall": (900, 0.5)}),
    *_everywhere("ferry", "skerrypassages", "Skerry Passages", ATHENS, "Europe/Athens",
                 {"commons": (40100, 4), "brevi": (12000, 4), "pictor": (17000, 2.5), "guildhall": (4000, 1)}),
    *_everywhere("ferry", "quietwater", "Quiet Water Line", ATHENS, "Europe/Athens",
                 {"commons": (19800, 3.5), "brevi": (5200, 4), "pictor": (6000, 2)}, strength=1.2),
    *_everywhere("ferry", "northholm", "Northholm Crossings", ATHENS, "Europe/Athens",
                 {"commons": (15500, 3.5), "brevi": (4400, 3), "vignette": (2500, 0.8)}, strength=0.9),
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
# What an owner writes for those of the audience who read another language: subject to language and topic.
OTHER_TEXTS: dict[str, tuple[str, dict[str, str]]] = {
    "museum": ("pt", {
        "restoration": "O escapamento do relógio do porto saiu da caixa pela primeira vez desde 1911.",
        "workshop": "Construa um relógio de sol que funciona na sua janela. Ainda há lugares para domingo.",
        "sky tonight": "Céu limpo esta noite em Port Aldous: Saturno fica sobre o farol até às onze.",
        "visitors": "Qual é o relógio mais antigo da sua família? Conte-nos aqui em baixo.",
        "staff": "A Marta dá corda a sessenta e três relógios todas as segundas-feiras.",
        "opening": "Abertura nocturna esta quinta-feira: a casa à luz das lâmpadas até à meia-noite.",
    }),
    "ferry": ("el", {
        "timetable": "Το χειμερινό πρόγραμμα είναι εδώ: ένα ακόμη νυχτερινό δρομολόγιο κάθε Παρασκευή.",
        "aboard": "Το τελευταίο φως στο κατάστρωμα σβήνει με το χέρι. Από το 1958.",
        "harbour": "Ομίχλη στο λιμάνι σήμερα το πρωί, και τρεις κόρνες που απαντούν η μία στην άλλη.",
        "crew": "Η Ελένη έχει κάνει αυτό το ταξίδι τέσσερις χιλιάδες φορές.",
    }),
}  # fmt: skip
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
