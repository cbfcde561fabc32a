"""The country of a network address, from a table that ships with a package: nobody is asked, nothing is kept.

In the trade's words: geolocation.
"""

from functools import lru_cache
from pathlib import Path
from typing import Any

PACKAGED = "geoip2fast-ipv6.dat.gz"


class Countries:
    """ISO 3166-1 codes by address. `path` names another table of the same package's form."""

    def __init__(self, path: str = "") -> None:
        import geoip2fast

        file = path or str(Path(geoip2fast.__file__).parent / PACKAGED)
        self._table: Any = geoip2fast.GeoIP2Fast(geoip2fast_data_file=file)
        self.of = lru_cache(maxsize=8192)(self._of)

    @property
    def source(self) -> str:
        """What the table is and when it was made."""
        return str(self._table.source_info)

    def _of(self, address: str) -> str:
        """Two letters, or nothing for addresses that are no country's."""
        try:
            code = str(self._table.lookup(address).country_code or "")
        except (ValueError, IndexError):
            return ""
        return code if len(code) == 2 and code.isalpha() else ""
