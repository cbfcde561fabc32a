"""Timing, as it hands itself in."""

from dakika_server.accounts.permissions import permit
from dakika_server.figures.kinds import register
from dakika_server.measures.measured import measured
from dakika_server.notices.changes import Watched, watch
from dakika_server.results.findings import finders
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import Noted, note_changes
from dakika_server.timing.findings import missed_hours, moved_rhythms
from dakika_server.timing.kinds import KINDS
from dakika_server.timing.permissions import ROWS
from dakika_server.timing.refitting import mark_stale


def _connect() -> None:
    note_changes({
        "timing_rhythm": None, "timing_trial": Noted(columns=("state", "was_kept")),
    })  # fmt: skip
    watch({"timing_rhythm": "rhythms", "timing_trial": "trials", "timing_estimate": Watched(thing="timing")})
    permit(ROWS)
    finders.add("timing", missed_hours)
    finders.add("timing.rhythms", moved_rhythms)
    measured.add("timing", mark_stale)
    register(*KINDS)


AREA = Area(name="timing", urls="dakika_server.timing.urls", connect=_connect)
