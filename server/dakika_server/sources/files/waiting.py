"""Files that wait for a worker to look into them."""

from typing import Any

from dakika_server.jobs.asking import ask
from dakika_server.sources.models import Import

# Where it stands on the file what a person said of it since.
ASKED = "asked"


def have_looked_into(item: Import, asked: dict[str, Any] | None = None) -> None:
    """Have a file looked into; `asked` is what a person said of it since. The caller saves it, in a transaction."""
    item.state = Import.State.LOOKING
    item.message = ""
    item.detected[ASKED] = asked
    ask("sources.look_into_file", import_id=item.pk)
