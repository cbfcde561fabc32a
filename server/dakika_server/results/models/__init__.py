"""What people add to results: tags, metrics of their own, findings."""

from dakika_server.results.models.findings import Finding
from dakika_server.results.models.own_metrics import OwnMetric
from dakika_server.results.models.tags import PostTag, Tag, TagRule

__all__ = ["Finding", "OwnMetric", "PostTag", "Tag", "TagRule"]
