"""Networks, as they hand themselves in."""

from dakika_server.shared.areas import Area

AREA = Area(name="networks", urls="dakika_server.networks.urls")
