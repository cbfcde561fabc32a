"""What people add to results: tags, metrics of their own, targets, findings."""

from dakika_server.results.models.findings import Finding
from dakika_server.results.models.own_metrics import OwnMetric
from dakika_server.results.models.tags import PostTag, Tag, TagRule
from dakika_server.results.models.targets import Target

__all__ = ["Finding", "OwnMetric", "PostTag", "Tag", "TagRule", "Target"]
