"""Files that speak of several accounts: which they are, how often, and which profiles of the brand they can be."""

import json
from collections import Counter
from typing import IO, Any

from dakika_core.sources.files.delimited import FileError

from dakika_server.sources.files.forms import Form
from dakika_server.sources.files.tables import open_table
from dakika_server.sources.models import Import, Profile

MOST_ROWS, MOST_ACCOUNTS = 500_000, 500
FORM = ("form", "encoding", "delimiter", "sheet", "head_row", "head_lines", "layout")
Key = tuple[str, str]


def form_of_item(item: Import) -> Form:
    """How a stored file is opened."""
    return Form(**{name: item.options[name] for name in FORM if name in item.options})


def key_of(network: object, handle: object) -> Key:
    """Network and handle in the form in which two are the same account."""
    return (
        "-".join(str(network or "").strip().lower().split()),
        " ".join(str(handle or "").strip().lower().removeprefix("@").split()),
    )


def _places(item: Import) -> dict[str, int]:
    return {key: item.mapping[key][0] for key in ("profile_network", "profile_handle") if item.mapping.get(key)}


def _counted_from(item: Import) -> list[object]:
    """What the accounts of a file follow from: the columns that name them, and how the file is opened."""
    return [sorted(_places(item).items()), [item.options.get(name) for name in FORM]]


def is_outdated(item: Import) -> bool:
    """Whether the accounts must be counted anew."""
    return bool(item.detected.get("counted_from") != json.loads(json.dumps(_counted_from(item))))


def count(item: Import, file: IO[bytes]) -> None:
    """Note in `detected` which accounts the rows name, the most frequent first; none where no column does."""
    places = _places(item)
    item.detected["counted_from"] = json.loads(json.dumps(_counted_from(item)))
    if not places:
        item.detected["accounts"] = []
        return
    counts: Counter[tuple[str, str]] = Counter()
    file.seek(0)
    try:
        for seen, (_, row) in enumerate(open_table(form_of_item(item), file, item.header, is_whole=True).rows):
            if seen >= MOST_ROWS or len(counts) > MOST_ACCOUNTS:
                break
            network, handle = (
                str(row[places[key]] or "").strip()[:120] if key in places and places[key] < len(row) else ""
                for key in ("profile_network", "profile_handle")
            )
            if network or handle:
                counts[_clean(network), _clean(handle)] += 1
    except FileError:
        # What cannot be read is said when the rows come in.
        pass
    merged: dict[Key, dict[str, Any]] = {}
    for (network, handle), rows in counts.most_common():
        one = merged.setdefault(key_of(network, handle), {"network": network, "handle": handle, "rows": 0})
        one["rows"] += rows
    item.detected["accounts"] = list(merged.values())[:MOST_ACCOUNTS]


def _clean(text: str) -> str:
    return text.replace("\x00", "").encode("utf-8", "replace").decode()


def with_profiles(item: Import) -> list[dict[str, Any]]:
    """The accounts with the profile of the brand that each can only be, if there is one: by handle or by name."""
    profiles = list(Profile.objects.filter(brand=item.brand_id).values_list("pk", "network", "handle", "name"))
    found = []
    for one in item.detected.get("accounts", []):
        network, handle = key_of(one["network"], one["handle"])
        fitting = {
            pk
            for pk, on, known, name in profiles
            if (not network or on.lower() == network)
            and (not handle or handle in (key_of("", known)[1], key_of("", name)[1]))
        }
        found.append({**one, "profile_id": fitting.pop() if len(fitting) == 1 else None})
    return found
