"""The figures of the site."""

from dakika_server.site.kinds.attribution import Attribution
from dakika_server.site.kinds.funnel import Funnels
from dakika_server.site.kinds.traffic import TrafficByDay

KINDS = (TrafficByDay(), Funnels(), Attribution())
