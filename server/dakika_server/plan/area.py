"""The plan, as it hands itself in."""

from dakika_server.accounts.permissions import permit
from dakika_server.brands.belongings import BELONGINGS
from dakika_server.brands.overview import overview_parts
from dakika_server.figures.kinds import register
from dakika_server.jobs.forgotten import add_waiting
from dakika_server.media.actions import replaced, used_for
from dakika_server.notices.changes import Watched, watch
from dakika_server.notices.choices import KINDS as NOTICES
from dakika_server.notices.choices import Kind
from dakika_server.plan import jobs
from dakika_server.plan.belongings import OURS
from dakika_server.plan.boosts.brought import paid_brought, paid_by_post
from dakika_server.plan.boosts.following import money_runs_on
from dakika_server.plan.boosts.kind import Boosts
from dakika_server.plan.hashtags.kind import HashtagCourse
from dakika_server.plan.kinds import KINDS
from dakika_server.plan.media_uses import replace, uses
from dakika_server.plan.models import Boost, PlannedPost, SeasonReturn, Version
from dakika_server.plan.overview import part_of
from dakika_server.plan.own_feed.brought import views_brought
from dakika_server.plan.permissions import ROWS
from dakika_server.plan.queries import planned_of, times_of
from dakika_server.plan.told import KINDS as TOLD
from dakika_server.results.brought import brought, brought_by_post
from dakika_server.shared.areas import Area
from dakika_server.shared.row_changes import Noted, note_changes
from dakika_server.sources.actions.connecting import disconnecting
from dakika_server.sources.forget import posts_forgotten
from dakika_server.timing.planned import planned_on, times_taken
from dakika_server.webhooks.events import EVENTS

BRAND_OF_VERSION = "(SELECT brand_id FROM plan_plannedpost WHERE id = touched.planned_post_id)"

BRAND_OF_RULE = "(SELECT brand_id FROM plan_feedrule WHERE id = touched.rule_id)"


def _forget_posts(post_ids: list[int]) -> None:
    Version.objects.filter(post_id__in=post_ids).update(post=None)
    PlannedPost.objects.filter(from_post_id__in=post_ids).update(from_post=None)
    SeasonReturn.objects.filter(post_id__in=post_ids).delete()
    Boost.objects.filter(post_id__in=post_ids).update(post=None)


def _connect() -> None:
    NOTICES.add("review", Kind(words="Posts that wait for your yes, and what is said about yours"))
    NOTICES.add("publishing", Kind(words="Posts that did not go out, or not wholly"))
    NOTICES.add("plan", Kind(words="What rules, boosts and returns do by themselves"))
    NOTICES.add("task", Kind(words="Tasks that somebody gives you"))
    EVENTS.add_all(TOLD)
    note_changes({
        "plan_plannedpost": None, "plan_note": None, "plan_pause": None, "plan_channelrules": None,
        "plan_version": Noted(columns=("text", "headline", "media", "options", "own", "first_comment", "due_at")),
        "plan_boost": Noted(columns=("state", "cents", "ends_at", "countries", "ages", "stopped_by_id")),
        "plan_boostlimit": None, "plan_followedcalendar": Noted(columns=("address", "name")), "plan_feedrule": None,
        "plan_hashtagset": None, "plan_followedhashtag": None, "plan_ideagroup": None, "plan_idea": None,
        "plan_template": None, "plan_ownfeed": None, "plan_pushchannel": None, "plan_repetition": None,
        "plan_seasonreturn": Noted(columns=("month", "day", "days_before", "set_by_id")), "plan_reviewrules": None,
        "plan_guest": Noted(columns=("name", "may", "until", "revoked_at")), "plan_task": None,
    })  # fmt: skip
    watch({
        "plan_plannedpost": "plan", "plan_version": Watched(thing="plan", brand=BRAND_OF_VERSION),
        "plan_note": "plan", "plan_pause": "plan", "plan_followedcalendar": "plan",
        "plan_idea": "ideas", "plan_ideagroup": "ideas", "plan_batch": "batches",
        "plan_hashtagset": "hashtags", "plan_hashtagreading": "hashtags", "plan_followedhashtag": "hashtags",
        "plan_task": "tasks", "plan_guest": "guests", "plan_boost": "boosts", "plan_boostlimit": "boosts",
        "plan_ownfeed": "own_feed", "plan_ownfeeditem": "own_feed", "plan_feedrule": "feed_rules",
        "plan_pushchannel": "push", "plan_pushmessage": "push", "plan_pushsubscriber": "push",
        "plan_feedruleitem": Watched(thing="feed_rules", brand=BRAND_OF_RULE),
    })  # fmt: skip
    permit(ROWS)
    register(*KINDS, Boosts(), HashtagCourse())
    add_waiting(jobs.WAITING)
    times_taken.add("plan", times_of)
    planned_on.add("plan", planned_of)
    used_for.add("plan", uses)
    replaced.add("plan", replace)
    posts_forgotten.add("plan", _forget_posts)
    overview_parts.add("plan", part_of)
    for key, kind in OURS.items():
        BELONGINGS.add(key, kind)
    disconnecting.add("plan", money_runs_on)
    brought.add("plan", paid_brought)
    brought.add("own feed", views_brought)
    brought_by_post.add("plan", paid_by_post)


AREA = Area(name="plan", urls="dakika_server.plan.urls", connect=_connect)
