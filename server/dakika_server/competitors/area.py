"""Competitors, as they hand themselves in."""

from dakika_server.competitors.kinds import Standings
from dakika_server.figures.kinds import register
from dakika_server.shared.areas import Area


def _connect() -> None:
    register(Standings())


AREA = Area(name="competitors", urls="dakika_server.competitors.urls", connect=_connect)
