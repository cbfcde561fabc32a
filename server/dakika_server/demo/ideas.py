"""The demo's ideas, from all they can come from and in all states; and rules by which feeds give more."""

from datetime import time
from typing import Any

from dakika_core.metrics.observed import LATEST_AGE

from dakika_server.brands.models import Brand, Membership
from dakika_server.measures.models import PostMeasure
from dakika_server.media.models import Asset
from dakika_server.plan.feed_rules.keeping import FeedRuleContent, keep_feed_rule
from dakika_server.plan.feed_rules.running import run_feed_rules
from dakika_server.plan.hashtags.sets import follow_hashtag
from dakika_server.plan.ideas.keeping import IdeaContent, IdeaOrigin, keep_group, keep_idea, write_idea
from dakika_server.plan.ideas.templates import keep_template
from dakika_server.plan.models import FeedRule
from dakika_server.plan.remarks import remark, vote
from dakika_server.plan.reviewing import teller_of
from dakika_server.shared import clock
from dakika_server.sources.models import Feed, FeedItem, Profile


def keep_ideas(editor: Any, brand: Brand) -> None:
    """A dozen ideas in two groups, some wanted, one written out; two templates, and hashtags to follow."""
    winter = keep_group(editor, brand, name="For the winter").pk
    makers = keep_group(editor, brand, name="Behind the dial").pk
    own = {one.network: one.pk for one in Profile.objects.filter(brand=brand, kind="own")}
    pictures = {asset.name: asset.pk for asset in Asset.objects.filter(brand=brand)}
    roof = [pictures[name] for name in ("roof.jpg",) if name in pictures]

    def kept(title: str, note: str = "", group: int | None = None, origin: IdeaOrigin = NOTHING, **more: Any) -> Any:
        return keep_idea(editor, brand, IdeaContent(title=title, note=note, group=group, **more), origin)[0]

    kept("The sound of sixty-three clocks", "Record the round of Monday from the stairs, no words over it.", makers,
         wishes=[own["vignette"], own["pictor"]])  # fmt: skip
    snow = kept("Frost on the roof terrace", "As soon as it freezes: the first who is in takes it.", winter,
                wishes=[own["pictor"], own["commons"]], media=roof,
                page="https://orreryhouse.example/roof")  # fmt: skip
    kept("Why a year has no whole number of days", "The gear with 235 teeth, and what it is for.", makers,
         wishes=[own["longplay"]])  # fmt: skip
    kept(
        "Saturdays after eight",
        "The index is high then and we are hardly ever there.",
        origin=IdeaOrigin(origin="hour", view="timing"),
    )
    best = _best(brand, "own")
    again = keep_idea(editor, brand, IdeaContent(note="Once more, from the stairs this time.", group=makers),
                      IdeaOrigin(origin="post", post=best))[0] if best else None  # fmt: skip
    theirs = _best(brand, "competitor")
    if theirs:
        keep_idea(editor, brand, IdeaContent(note="We have better pictures of the same.", group=winter),
                  IdeaOrigin(origin="post", post=theirs))  # fmt: skip
    item = FeedItem.objects.filter(brand=brand).order_by("-published_at").first()
    if item:
        keep_idea(editor, brand, IdeaContent(group=winter), IdeaOrigin(origin="feed", item=item.pk))
    members = [row.user for row in Membership.objects.filter(brand=brand).exclude(user=editor).select_related("user")]
    for person in [editor, *members]:
        vote(teller_of(person, brand), snow.planned_post, 1)
    if again is not None:
        vote(teller_of(editor, brand), again.planned_post, -1)
    remark(
        teller_of((members or [editor])[0], brand), snow.planned_post, text="Who has the key to the terrace at seven?"
    )
    write_idea(editor, kept("The gardener's sundial", "It is an hour off, and right.", winter, wishes=[own["commons"]]))
    for tag in ("skytonight", "workshop", "nightsky"):
        follow_hashtag(editor, brand, tag)
    keep_template(editor, brand, name="Late opening", text="{What} is open until {hour} this {day}.\n\nCome by: {page}",
                  first_comment="Doors at {doors}.")  # fmt: skip
    keep_template(
        editor, brand, name="From the workshop", text="{Whose} hands, {how many} hours: {what} is whole again."
    )


def write_feed_rules(editor: Any, brand: Brand) -> None:
    """Two rules for what the others' news tell: ideas of it, and drafts of what is about the night sky."""
    own = {one.network: one.pk for one in Profile.objects.filter(brand=brand, kind="own")}
    feeds = {feed.title: feed for feed in Feed.objects.filter(brand=brand)}
    news = keep_template(editor, brand, name="Seen elsewhere", text="{title}, at {feed}.\n\n{summary}\n\n{address}")
    for title, feed in feeds.items():
        is_first = feed == next(iter(feeds.values()))
        content = FeedRuleContent(
            name=f"Ideas from {title}"[:80] if is_first else f"{title}, passed on"[:80], feed=feed.pk,
            becomes="idea" if is_first else "draft", template=None if is_first else news.pk,
            profiles=[own["commons"], own["brevi"]], most_a_day=2, none_of=["job*"],
            quiet_from=time(21), quiet_to=time(8),
        )  # fmt: skip
        rule = keep_feed_rule(editor, brand, content)
        # As if it had stood since the feed is followed: what came then it has decided on.
        FeedRule.objects.filter(pk=rule.pk).update(since=feed.added_at)
    run_feed_rules(clock.now())


NOTHING = IdeaOrigin()


def _best(brand: Brand, kind: str) -> int | None:
    """The post of a kind of profile that rises furthest above its own usual."""
    found = PostMeasure.objects.filter(brand=brand, profile__kind=kind, age_hours=LATEST_AGE, index__isnull=False)
    return found.order_by("-index").values_list("post", flat=True).first()
