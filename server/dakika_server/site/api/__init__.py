"""Site over HTTP."""

from dakika_server.site.api.attribution import AttributionView
from dakika_server.site.api.conversions import ConversionsView, ConversionView
from dakika_server.site.api.funnel import FunnelView
from dakika_server.site.api.sites import GoalsView, GoalView, SiteLogsView, SitesView, SiteView
from dakika_server.site.api.traffic import TrafficView

__all__ = [
    "AttributionView", "ConversionView", "ConversionsView", "FunnelView", "GoalView", "GoalsView", "SiteLogsView",
    "SiteView", "SitesView", "TrafficView",
]  # fmt: skip
