"""Foresight, as it hands itself in: it follows every measuring of a profile."""

from dakika_server.figures.kinds import register
from dakika_server.foresight.findings import TOLD, tell_of_unusual, young_posts_out
from dakika_server.foresight.kinds import UnderWay, WereWeRight
from dakika_server.foresight.looking import forget_outlooks, look_ahead
from dakika_server.foresight.queries import order_of_young, young_of
from dakika_server.measures.measured import measured
from dakika_server.notices.changes import watch
from dakika_server.notices.choices import KINDS as NOTICES
from dakika_server.notices.choices import Kind
from dakika_server.results.findings import finders
from dakika_server.results.young import young_order, young_posts
from dakika_server.shared.areas import Area
from dakika_server.sources.forget import posts_forgotten
from dakika_server.sources.models import Profile
from dakika_server.webhooks.events import EVENTS


def _look(profile: Profile) -> None:
    look_ahead(profile)
    tell_of_unusual(profile)


def _connect() -> None:
    register(WereWeRight(), UnderWay())
    NOTICES.add("young", Kind(words="Posts that do unusually well or badly in their first hours"))
    EVENTS.add_all(TOLD)
    watch({"foresight_projection": "posts"})
    measured.add("foresight", _look)
    finders.add("foresight", young_posts_out)
    young_posts.add("foresight", young_of)
    young_order.add("foresight", order_of_young)
    posts_forgotten.add("foresight", forget_outlooks)


AREA = Area(name="foresight", urls="dakika_server.foresight.urls", connect=_connect)
