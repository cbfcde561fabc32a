"""A profile was measured: what rests on its measures is brought up to date by the areas above."""

from dakika_server.shared.hooks import Hook
from dakika_server.sources.models import Profile

measured: Hook[[Profile], None] = Hook("a profile was measured")
