"""The one clock. Everything else takes time as a value.

DAKIKA_FIXED_NOW (ISO 8601) stops it, for pictures and tests of the whole.
"""

import os
from datetime import UTC, datetime


def now() -> datetime:
    """The instant, UTC."""
    fixed = os.environ.get("DAKIKA_FIXED_NOW")
    return datetime.fromisoformat(fixed) if fixed else datetime.now(tz=UTC)
