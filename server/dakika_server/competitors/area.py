"""Competitors, as they hand themselves in."""

from dakika_server.accounts.permissions import permit
from dakika_server.brands.belongings import BELONGINGS, Belonging
from dakika_server.competitors.digest import MONDAY
from dakika_server.competitors.kinds import KINDS
from dakika_server.competitors.models import DigestReader
from dakika_server.competitors.permissions import ROWS
from dakika_server.figures.kinds import register
from dakika_server.notices.changes import watch
from dakika_server.notices.schedules import DUE
from dakika_server.shared.areas import Area


def _connect() -> None:
    permit(ROWS)
    register(*(kind() for kind in KINDS))
    DUE.add("competitors-digest", MONDAY)
    watch({"sources_peerset": "sets"})
    BELONGINGS.add(
        "competitors.digests",
        Belonging(
            one="weekly digest", many="weekly digests", field="person", is_personal=True,
            rows=lambda brand, person: DigestReader.objects.filter(brand=brand, person=person),
        ),
    )  # fmt: skip


AREA = Area(name="competitors", urls="dakika_server.competitors.urls", connect=_connect)
