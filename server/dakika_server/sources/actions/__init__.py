"""Changes to sources: connect, follow, collect."""

from dakika_server.sources.actions.collecting import request_run, start_collection, take_hook
from dakika_server.sources.actions.competitors import merge_competitors, move_profile, rename_competitor
from dakika_server.sources.actions.connecting import (
    choose_accounts,
    disconnect_profile,
    finish_consent,
    start_connection,
    take_picture_of,
)
from dakika_server.sources.actions.following import (
    add_competitor,
    discover_site,
    follow_found,
    search_profiles,
    stop_following,
)

__all__ = [
    "add_competitor",
    "choose_accounts",
    "disconnect_profile",
    "discover_site",
    "finish_consent",
    "follow_found",
    "merge_competitors",
    "move_profile",
    "rename_competitor",
    "request_run",
    "search_profiles",
    "start_collection",
    "start_connection",
    "stop_following",
    "take_hook",
    "take_picture_of",
]
