"""The demo, as it hands itself in."""

from dakika_server.brands.everything import person_going
from dakika_server.demo.beside import erase_with_person
from dakika_server.demo.jobs import WAITING
from dakika_server.jobs.forgotten import add_waiting
from dakika_server.shared.areas import Area


def _connect() -> None:
    add_waiting(WAITING)
    person_going.add("demo", erase_with_person)


AREA = Area(name="demo", urls="dakika_server.demo.urls", connect=_connect)
