"""What the process is told by its environment."""

import os
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit


@dataclass(frozen=True, kw_only=True)
class Config:
    """Settings of one redirect process. The database is named by libpq's own variables.

    hops: through how many proxies visitors come; None where these are told by their addresses.
    """

    folder: Path
    address: str
    proxies: str
    countries: str = ""
    hops: int | None = None

    @property
    def host(self) -> str:
        """The host that every brand's links answer on."""
        return urlsplit(self.address).netloc.lower()


def from_environment() -> Config:
    """Raises KeyError when the folder for journal and copy is not named."""
    return Config(
        folder=Path(os.environ["DAKIKA_LINKS_FOLDER"]),
        address=os.environ.get("DAKIKA_LINKS_ADDRESS", "http://127.0.0.1:8200"),
        proxies=os.environ.get("DAKIKA_TRUSTED_PROXIES", "127.0.0.1"),
        countries=os.environ.get("DAKIKA_COUNTRIES_FILE", ""),
        hops=int(hops) if (hops := os.environ.get("DAKIKA_TRUSTED_HOPS")) else None,
    )
