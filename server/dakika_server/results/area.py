"""Results, as they hand themselves in: tags follow every collection."""

from dakika_server.accounts.permissions import permit
from dakika_server.brands.overview import overview_parts
from dakika_server.figures.kinds import register
from dakika_server.notices.changes import watch
from dakika_server.notices.choices import KINDS as NOTICES
from dakika_server.notices.choices import Kind
from dakika_server.notices.schedules import DUE
from dakika_server.results.brought import brought
from dakika_server.results.commented import comments_brought
from dakika_server.results.findings import TOLD
from dakika_server.results.kinds import KINDS
from dakika_server.results.models import PostTag
from dakika_server.results.morning import MORNING
from dakika_server.results.overview import part_of
from dakika_server.results.permissions import ROWS
from dakika_server.results.tagging import apply_rules
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import Noted, note_changes
from dakika_server.sources.forget import posts_forgotten
from dakika_server.sources.models import Post, Profile
from dakika_server.sources.rebuilding import collected
from dakika_server.webhooks.events import EVENTS


def _tag_now(profile: Profile) -> None:
    apply_rules(profile.brand_id, Post.objects.filter(profile=profile))


def _forget_posts(post_ids: list[int]) -> None:
    PostTag.objects.filter(post_id__in=post_ids)._raw_delete("default")


def _connect() -> None:
    NOTICES.add("findings", Kind(words="What the figures say in the morning"))
    note_changes({
        "results_finding": Noted(columns=("state",), has_rows=False), "results_ownmetric": None, "results_tag": None,
        "results_tagrule": None, "results_target": None,
    })  # fmt: skip
    EVENTS.add_all(TOLD)
    watch({"results_finding": "findings", "results_tag": "tags", "results_ownmetric": "metrics"})
    permit(ROWS)
    DUE.add("findings", MORNING)
    register(*KINDS)
    collected.add("results", _tag_now)
    posts_forgotten.add("results", _forget_posts)
    overview_parts.add("results", part_of)
    brought.add("results", comments_brought)


AREA = Area(name="results", urls="dakika_server.results.urls", connect=_connect)
