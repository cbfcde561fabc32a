"""Brands, as they hand themselves in."""

from dakika_server.accounts.permissions import permit
from dakika_server.accounts.queries import brands_seen
from dakika_server.brands.permissions import ROWS
from dakika_server.brands.queries import brands_of
from dakika_server.shared.areas import Area


def _connect() -> None:
    permit(ROWS)
    # Sessions show the brands of a person; accounts stand below and cannot ask themselves.
    brands_seen.add("brands", brands_of)


AREA = Area(name="brands", urls="dakika_server.brands.urls", connect=_connect)
