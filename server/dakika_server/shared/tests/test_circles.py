"""Promise: no module needs, by whatever way round, one that needs it; imports inside functions are counted."""

import grimp

ROOMS = ("dakika_core", "dakika_server", "dakika_redirect", "dakika_standins")


def circles(needs: dict[str, set[str]]) -> list[set[str]]:
    """Sets of modules of which each needs each other (Tarjan, SIAM Journal on Computing 1, 1972)."""
    number: dict[str, int] = {}
    lowest: dict[str, int] = {}
    waiting: list[str] = []
    found: list[set[str]] = []

    def visit(module: str) -> None:
        number[module] = lowest[module] = len(number)
        waiting.append(module)
        for other in needs[module]:
            if other not in number:
                visit(other)
            if other in waiting:
                lowest[module] = min(lowest[module], lowest[other])
        if lowest[module] == number[module]:
            at = waiting.index(module)
            circle = set(waiting[at:])
            del waiting[at:]
            if len(circle) > 1:
                found.append(circle)

    for module in needs:
        if module not in number:
            visit(module)
    return found


def test_a_circle_is_found() -> None:
    assert circles({"a": {"b"}, "b": {"c"}, "c": {"b"}, "d": {"a"}}) == [{"b", "c"}]
    assert circles({"a": {"b"}, "b": set()}) == []


def test_there_is_none() -> None:
    graph = grimp.build_graph(*ROOMS, cache_dir=None)
    modules = {name for name in graph.modules if ".tests" not in name and ".migrations" not in name}
    needs = {name: graph.find_modules_directly_imported_by(name) & modules for name in modules}
    assert len(needs) > 300
    assert circles(needs) == []
