"""The description of the API (OpenAPI 3.0.3), each area's part in its own room, and the whole of it put together."""

import re
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import Any

import yaml

ROOMS = Path(__file__).resolve().parent.parent
NAME = "openapi.yaml"
_REFERENCE = re.compile(r"#/components/(\w+)/(\w+)")
Description = dict[str, Any]
# The one in C is ten times as fast; where libyaml is missing, the other reads the same.
_LOADER = getattr(yaml, "CSafeLoader", yaml.SafeLoader)


def parts_of(whole: Description) -> dict[str, Description]:
    """Each area's operations, and the components that these name, however far away. An operation's tag is its area."""
    areas = sorted({tag for _, _, operation in _operations(whole) for tag in operation["tags"]})
    return {area: _part(whole, area) for area in areas}


def _operations(whole: Description) -> Iterator[tuple[str, str, Description]]:
    for path, methods in whole["paths"].items():
        for method, operation in methods.items():
            yield path, method, operation


def _part(whole: Description, area: str) -> Description:
    paths: dict[str, Description] = {}
    for path, method, operation in _operations(whole):
        if area in operation["tags"]:
            paths.setdefault(path, {})[method] = operation
    components: dict[str, Description] = {"securitySchemes": whole["components"]["securitySchemes"]}
    waiting = _named_in(paths)
    while waiting:
        kind, name = waiting.pop()
        if name not in components.setdefault(kind, {}):
            components[kind][name] = whole["components"][kind][name]
            waiting |= _named_in(components[kind][name])
    title = f"{whole['info']['title']}: {area}"
    return {
        "openapi": whole["openapi"], "info": {**whole["info"], "title": title}, "paths": paths,
        "components": {kind: dict(sorted(named.items())) for kind, named in sorted(components.items())},
    }  # fmt: skip


def _named_in(value: object) -> set[tuple[str, str]]:
    if isinstance(value, Mapping):
        reference = value.get("$ref")
        found = _REFERENCE.fullmatch(reference) if isinstance(reference, str) else None
        inside = {name for one in value.values() for name in _named_in(one)}
        return inside | ({(found[1], found[2])} if found else set())
    return {name for one in value for name in _named_in(one)} if isinstance(value, list) else set()


def written(part: Description) -> str:
    """A part as it stands in its file."""
    return yaml.safe_dump(part, sort_keys=False, allow_unicode=True, width=120)


def committed() -> dict[str, Path]:
    """The files of all areas, by the area's name."""
    return {path.parent.name: path for path in sorted(ROOMS.glob(f"*/{NAME}"))}


def whole_of(files: Mapping[str, Path]) -> Description:
    """The parts put together again."""
    parts = [yaml.load(path.read_text(), Loader=_LOADER) for path in files.values()]  # noqa: S506, a safe one
    made: Description = {"openapi": parts[0]["openapi"], "info": parts[0]["info"], "paths": {}, "components": {}}
    for part in parts:
        for path, methods in part["paths"].items():
            made["paths"].setdefault(path, {}).update(methods)
        for kind, named in part["components"].items():
            made["components"].setdefault(kind, {}).update(named)
    return made
