"""The demo's tags, metric and findings: what somebody would have set up in their first week."""

from typing import Any

from dakika_server.brands.models import Brand
from dakika_server.results.actions.own_metrics import add_own_metric
from dakika_server.results.actions.tags import add_rule, add_tag
from dakika_server.results.findings import find
from dakika_server.shared import clock

# Tag, colour, and what it catches by itself.
TAGS: dict[str, tuple[tuple[str, int, tuple[tuple[str, str], ...]], ...]] = {
    "orrery": (
        ("workshop", 2, (("hashtag", "workshop"), ("text", "workshops"), ("text", "sundial"))),
        ("sky tonight", 1, (("hashtag", "skytonight"), ("text", "tonight the moon"), ("text", "céu limpo"))),
        ("restoration", 5, (("hashtag", "restoration"), ("text", "escapement"), ("text", "moon disc"))),
        ("visitors", 4, (("hashtag", "guestbook"), ("text", "guest book"))),
        ("staff", 3, (("hashtag", "behindthedial"), ("text", "meet Tomás"))),
        ("night opening", 7, (("hashtag", "nightopening"), ("text", "late opening"))),
    ),
    "lantern": (
        ("timetable", 6, (("hashtag", "timetable"),)),
        ("aboard", 2, (("hashtag", "nightferry"),)),
        ("harbour", 1, (("hashtag", "harbour"),)),
        ("crew", 4, (("hashtag", "crew"),)),
    ),
}


def group_and_find(brands: dict[str, Brand], editor: Any) -> None:
    """Tag by rule, define a metric, and look for findings."""
    for key, brand in brands.items():
        for name, colour, rules in TAGS[key]:
            tag = add_tag(editor, brand, name=name, colour=colour)
            for kind, value in rules:
                add_rule(editor, brand, tag.pk, kind=kind, value=value)
        add_own_metric(
            editor, brand, name="Talk per thousand", formula="1000 * (comments + 2 * shares) / impressions",
            definition="Comments, and shares twice, for every thousand impressions.", more_is_better=True,
        )  # fmt: skip
        find(brand, clock.now())
