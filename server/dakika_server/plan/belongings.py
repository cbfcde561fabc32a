"""What of the plan is somebody's: handed over when they leave, or ended with them."""

from dakika_core.plan.states import State

from dakika_server.brands.belongings import Belonging
from dakika_server.plan.models import CalendarKey, FeedRule, PlannedPost, SeasonReturn, Task

_OUT = [State.PUBLISHED.value, State.IDEA.value]

OURS = {
    "plan.posts": Belonging(
        one="post that is not out yet", many="posts that are not out yet", field="created_by",
        rows=lambda brand, person: PlannedPost.objects.filter(brand=brand, created_by=person).exclude(state__in=_OUT),
    ),
    "plan.tasks": Belonging(
        one="task to do", many="tasks to do", field="person",
        rows=lambda brand, person: Task.objects.filter(brand=brand, person=person, done_at=None),
    ),
    "plan.feed_rules": Belonging(
        one="rule for a feed", many="rules for feeds", field="made_by",
        rows=lambda brand, person: FeedRule.objects.filter(brand=brand, made_by=person),
    ),
    "plan.season_returns": Belonging(
        one="post that comes back", many="posts that come back", field="set_by",
        rows=lambda brand, person: SeasonReturn.objects.filter(brand=brand, set_by=person),
    ),
    # An address that shows the plan to whoever has it: it ends with its owner's part in it.
    "plan.calendar_keys": Belonging(
        one="calendar address", many="calendar addresses", field="person", is_personal=True,
        rows=lambda brand, person: CalendarKey.objects.filter(brand=brand, person=person),
    ),
}  # fmt: skip
