"""Networks, as they hand themselves in."""

from django.conf import settings

from dakika_server.networks.definitions import all_networks
from dakika_server.shared.areas import Area
from dakika_server.shared.security import picture_sources


def _picture_sources() -> list[str]:
    hosts = [f"https://{host}" for network in all_networks().values() for host in network.picture_hosts]
    return [*hosts, settings.STANDINS_ADDRESS] if settings.STANDINS_ADDRESS else hosts


def _connect() -> None:
    picture_sources.add("networks", _picture_sources)


AREA = Area(name="networks", urls="dakika_server.networks.urls", connect=_connect)
