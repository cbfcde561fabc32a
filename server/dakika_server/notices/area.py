"""Notices, as they hand themselves in: what changes is told, what is due is asked for, letters go out."""

from dakika_server.accounts.letters import letters
from dakika_server.brands.actions import zone_changed
from dakika_server.brands.belongings import BELONGINGS, Belonging
from dakika_server.brands.everything import person_going
from dakika_server.brands.team import handed_over
from dakika_server.jobs.forgotten import add_waiting
from dakika_server.notices import monitored
from dakika_server.notices.changes import watch
from dakika_server.notices.choices import KINDS as NOTICES
from dakika_server.notices.choices import Kind
from dakika_server.notices.going import unname
from dakika_server.notices.jobs import WAITING
from dakika_server.notices.letters import tell_of_handing, write_letter
from dakika_server.notices.models import Notification
from dakika_server.notices.schedules import reckon_anew
from dakika_server.shared.areas import Area


def _connect() -> None:
    monitored.connect()
    NOTICES.add("mail", Kind(words="Letters of ours that did not go out"))
    NOTICES.add("team", Kind(words="What a colleague who left handed over to you"))
    add_waiting(WAITING)
    zone_changed.add("notices", reckon_anew)
    letters.add("notices", write_letter)
    handed_over.add("notices", tell_of_handing)
    person_going.add("notices", unname)
    BELONGINGS.add(
        "notices.notifications",
        Belonging(
            one="notice", many="notices", field="person", is_personal=True,
            rows=lambda brand, person: Notification.objects.filter(brand=brand, person=person),
        ),
    )  # fmt: skip
    watch({
        "notices_notification": "notices", "brands_campaign": "campaigns", "brands_membership": "team",
        "brands_invitation": "team",
    })  # fmt: skip


AREA = Area(name="notices", urls="dakika_server.notices.urls", connect=_connect)
