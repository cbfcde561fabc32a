"""Figures, as they hand themselves in: the kinds are the areas' above."""

from dakika_server.shared.areas import Area

AREA = Area(name="figures", urls="dakika_server.figures.urls")
