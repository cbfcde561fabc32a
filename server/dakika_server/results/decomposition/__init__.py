"""What made the difference between two periods."""

from dakika_server.results.decomposition.making import Decomposition, decomposed

__all__ = ["Decomposition", "decomposed"]
