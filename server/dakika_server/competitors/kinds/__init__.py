"""Figures of competitors, all from what networks show of everybody."""

from dakika_server.competitors.kinds.band import Band
from dakika_server.competitors.kinds.best import BestPosts
from dakika_server.competitors.kinds.followers import Followers
from dakika_server.competitors.kinds.gap import GapKind
from dakika_server.competitors.kinds.presence import Presence
from dakika_server.competitors.kinds.table import Table
from dakika_server.competitors.kinds.works import FieldWorks

KINDS = (Table, Band, GapKind, Presence, FieldWorks, BestPosts, Followers)
__all__ = ["KINDS"]
