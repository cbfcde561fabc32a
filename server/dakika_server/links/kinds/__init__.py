"""The figures of links."""

from dakika_server.links.kinds.clicks import Clicks
from dakika_server.links.kinds.hours import Hours
from dakika_server.links.kinds.life import Life
from dakika_server.links.kinds.links import Links
from dakika_server.links.kinds.spread import Spread

KINDS = (Clicks(), Links(), Spread(), Hours(), Life())
