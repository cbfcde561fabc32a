"""Competitors, as they hand themselves in."""

from dakika_server.shared.areas import Area

AREA = Area(name="competitors", urls="dakika_server.competitors.urls")
