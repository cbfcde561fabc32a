"""Promise: areas above answer those below under names of their own, in no order of their making, and none twice."""

import pytest
from django.apps import apps

from dakika_server.config.areas import AREAS
from dakika_server.shared.areas import AreaConfig, area_in
from dakika_server.shared.hooks import AlreadyAddedError, Hook, Registry


@pytest.mark.parametrize("order", [("plan", "links", "results"), ("results", "plan", "links")])
def test_whoever_comes_first_the_order_is_that_of_the_names(order: tuple[str, ...]) -> None:
    hook: Hook[[int], str] = Hook("something happened")
    for area in order:
        hook.add(area, lambda number, area=area: f"{area} {number}")
    assert hook(3) == ["links 3", "plan 3", "results 3"]


def test_nobody_answers_twice() -> None:
    hook: Hook[[], None] = Hook("something happened")
    hook.add("links", lambda: None)
    with pytest.raises(AlreadyAddedError, match="links answers something happened already"):
        hook.add("links", lambda: None)


def test_a_registry_keeps_what_it_has() -> None:
    tables = Registry("tables", {"posts": 1})
    tables.add("clicks", 2)
    with pytest.raises(AlreadyAddedError, match="tables has posts already"):
        tables.add("posts", 3)
    assert dict(tables) == {"posts": 1, "clicks": 2}
    assert ("nothing" in tables, len(tables)) == (False, 2)


def test_every_area_hands_itself_in_under_the_name_of_its_room() -> None:
    rooms = {config.name.rpartition(".")[2] for config in apps.get_app_configs() if isinstance(config, AreaConfig)}
    assert {area.name for area in AREAS} == rooms
    assert {"sources", "results", "links", "plan"} <= rooms


def test_it_was_connected_once_when_the_application_started() -> None:
    with pytest.raises(AlreadyAddedError):
        area_in("dakika_server.links").connect()
