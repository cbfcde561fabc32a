"""Collection: bringing what the networks say of a profile, in turns, within their limits."""

from dakika_server.sources.collect.run import collect
from dakika_server.sources.collect.tokens import token_of

__all__ = ["collect", "token_of"]
