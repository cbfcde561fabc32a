"""Reads for links: from sums that the database keeps, a fixed number of queries whatever the size."""

from dakika_server.links.queries.figures import Figures, Scope, begun_days, figures_of, life_of
from dakika_server.links.queries.links import links_of, one_link, pages_of

__all__ = ["Figures", "Scope", "begun_days", "figures_of", "life_of", "links_of", "one_link", "pages_of"]
