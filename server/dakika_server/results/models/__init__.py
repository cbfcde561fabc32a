"""Tables of results: what follows from the readings, and what people add to it."""

from dakika_server.results.models.findings import Finding
from dakika_server.results.models.measures import FINAL, LATEST, PostDay, PostMeasure, ProfileDay, ProfilePublished
from dakika_server.results.models.own_metrics import OwnMetric
from dakika_server.results.models.tags import PostTag, Tag, TagRule

__all__ = [
    "FINAL",
    "LATEST",
    "Finding",
    "OwnMetric",
    "PostDay",
    "PostMeasure",
    "PostTag",
    "ProfileDay",
    "ProfilePublished",
    "Tag",
    "TagRule",
]
