"""Who follows and what they say: make-up of audiences, invented names, comments."""

NAMES = (
    "Ana Pires", "Tomé Vale", "Rita Sol", "Bruno Maré", "Ivo Lanz", "Kaia Trell", "Nilo Costa", "Sena Farol",
    "Duda Brasil", "Caio Ventura", "Lia Norte", "Otto Brandt", "Mina Koros", "Dimos Elia", "Zoe Pharos", "Yael Brook",
)  # fmt: skip
COMMENTS = (
    "Beautiful. I could listen to that strike all day.", "Is it open on Sundays?", "My grandfather had one like it.",
    "We came last week and the queue was far too long.", "When is the next evening?", "Thank you for sharing this.",
    "Do you have this in Portuguese as well?", "The lamps are out of order again, it seems.", "❤️", "👏👏",
    "Can one book for a school class?", "Que maravilha!", "Sad to see the ticket price go up.", "See you on Saturday.",
)  # fmt: skip
_AGE = {"13-17": 0.05, "18-24": 0.16, "25-34": 0.26, "35-44": 0.22, "45-54": 0.16, "55-64": 0.1, "65+": 0.05}
_YOUNGER = {"13-17": 0.14, "18-24": 0.34, "25-34": 0.27, "35-44": 0.13, "45-54": 0.08, "55-64": 0.03, "65+": 0.01}
_COUNTRIES = {
    "museum": {"PT": 0.58, "BR": 0.3, "GB": 0.05, "ES": 0.04, "FR": 0.03},
    "ferry": {"GR": 0.71, "DE": 0.16, "CY": 0.05, "IT": 0.05, "GB": 0.03},
}
_LANGUAGES = {"museum": {"pt": 0.86, "en": 0.1, "es": 0.04}, "ferry": {"el": 0.74, "de": 0.14, "en": 0.12}}
_CITIES = {
    "museum": {"Port Aldous": 0.34, "Lisboa": 0.21, "São Paulo": 0.17, "Porto": 0.12, "Rio de Janeiro": 0.09,
               "London": 0.07},
    "ferry": {"Athina": 0.43, "Thessaloniki": 0.22, "Berlin": 0.16, "Patra": 0.12, "Nicosia": 0.07},
}  # fmt: skip
_SOURCES = {"search": 0.31, "suggestions": 0.27, "posts passed on": 0.22, "our site": 0.14, "other": 0.06}


def audience_base(subject: str, network: str) -> dict[str, dict[str, float]]:
    """Make-up at the beginning of the history: dimension to segment to share."""
    women = 0.58 if network in ("pictor", "corkboard") else 0.49
    return {
        "age": _YOUNGER if network in ("vignette", "brevi") else _AGE,
        "gender": {"female": women, "male": 0.97 - women, "unknown": 0.03},
        "country": _COUNTRIES[subject],
        "language": _LANGUAGES[subject],
        "city": _CITIES[subject],
        "source": _SOURCES,
    }
