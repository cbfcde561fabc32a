"""Tables of sources: profiles, posts and their readings, collection, files, feeds."""

from dakika_server.sources.models.collection import CollectionRun, Connection
from dakika_server.sources.models.feeds import Feed, FeedItem
from dakika_server.sources.models.files import Import, ImportChunk, ImportProblem
from dakika_server.sources.models.peers import PeerSet
from dakika_server.sources.models.posts import FORMATS, Comment, Post, PostReading, PostSource
from dakika_server.sources.models.profiles import (
    AudienceReading,
    Competitor,
    Credential,
    PresenceReading,
    Profile,
    ProfileReading,
    ProfileRebuild,
)

__all__ = [
    "FORMATS", "AudienceReading", "CollectionRun", "Comment", "Competitor", "Connection", "Credential", "Feed",
    "FeedItem", "Import", "ImportChunk", "ImportProblem", "PeerSet", "Post", "PostReading", "PostSource",
    "PresenceReading", "Profile", "ProfileReading", "ProfileRebuild",
]  # fmt: skip
