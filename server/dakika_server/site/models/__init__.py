"""What people do on the brand's own site: visits, goals, conversions, and the access logs that tell of them."""

from dakika_server.site.models.logs import AccessLog, AccessLogChunk
from dakika_server.site.models.visits import Conversion, ConversionStage, Goal, Site, Visit

__all__ = ["AccessLog", "AccessLogChunk", "Conversion", "ConversionStage", "Goal", "Site", "Visit"]
