"""Campaign parameters by their open convention: source, medium, campaign, term, content.

Values are lower case with hyphens, since tools compare them by letter (common practice, no source).
"""

import re
import unicodedata
from dataclasses import dataclass

from dakika_core.networks.definition import NetworkDefinition


@dataclass(frozen=True, kw_only=True)
class Utm:
    """The five parameters; empty ones are left out of an address."""

    source: str = ""
    medium: str = ""
    campaign: str = ""
    term: str = ""
    content: str = ""

    def as_parameters(self) -> dict[str, str]:
        """Names and values as they stand in an address, in the usual order."""
        return {
            "utm_source": self.source,
            "utm_medium": self.medium,
            "utm_campaign": self.campaign,
            "utm_term": self.term,
            "utm_content": self.content,
        }


def slug(text: str) -> str:
    """Lower-case letters, digits and single hyphens: 'The Repaired Hour' gives 'the-repaired-hour'."""
    plain = unicodedata.normalize("NFKD", text).encode("ascii", "ignore").decode()
    return re.sub(r"[^a-z0-9]+", "-", plain.lower()).strip("-")


def utm_for(network: NetworkDefinition | None, campaign: str | None, content: str = "") -> Utm:
    """Parameters filled from the network and the campaign that a link is for."""
    return Utm(
        source=(network.utm_source or network.key) if network else "",
        medium=network.utm_medium if network else "",
        campaign=slug(campaign) if campaign else "",
        content=slug(content),
    )
