"""Figures, as they hand themselves in: the kinds are the areas' above."""

from dakika_server.accounts.permissions import permit
from dakika_server.figures.permissions import ROWS
from dakika_server.notices.changes import watch
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import note_changes


def _connect() -> None:
    note_changes({
        "figures_keptstudy": None,
    })  # fmt: skip
    permit(ROWS)
    watch({"figures_keptstudy": "studies"})


AREA = Area(name="figures", urls="dakika_server.figures.urls", connect=_connect)
