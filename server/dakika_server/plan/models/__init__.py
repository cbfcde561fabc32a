"""Tables of the plan: posts and their versions, the calendar, saying yes, many at once, ideas, hashtags."""

from dakika_server.plan.models.boosts import Boost, BoostLimit, BoostReading
from dakika_server.plan.models.bulk import Batch, BatchRow
from dakika_server.plan.models.calendar import CalendarEvent, CalendarKey, FollowedCalendar, Note
from dakika_server.plan.models.feed_rules import FeedRule, FeedRuleItem
from dakika_server.plan.models.hashtags import FollowedHashtag, HashtagReading, HashtagSet
from dakika_server.plan.models.ideas import Idea, IdeaGroup, Template
from dakika_server.plan.models.own_feed import OwnFeed, OwnFeedItem, OwnFeedSeen
from dakika_server.plan.models.posts import STATES, ChannelRules, Pause, PlannedPost, Version, Writing
from dakika_server.plan.models.repetition import Repetition, SeasonReturn
from dakika_server.plan.models.review import Guest, Look, Remark, ReviewRules, ReviewVerdict, Task, Vote
from dakika_server.plan.models.several import SeveralChange
from dakika_server.plan.models.web_push import PushChannel, PushDelivery, PushMessage, PushSeen, PushSubscriber

__all__ = [
    "STATES", "Batch", "BatchRow", "Boost", "BoostLimit", "BoostReading", "CalendarEvent", "CalendarKey",
    "ChannelRules", "FeedRule", "FeedRuleItem", "FollowedCalendar", "FollowedHashtag", "Guest", "HashtagReading",
    "HashtagSet", "Idea", "IdeaGroup", "Look", "Note", "OwnFeed", "OwnFeedItem", "OwnFeedSeen", "Pause",
    "PlannedPost", "PushChannel", "PushDelivery", "PushMessage", "PushSeen", "PushSubscriber", "Remark",
    "Repetition", "ReviewRules", "ReviewVerdict", "SeasonReturn", "SeveralChange", "Task",
    "Template", "Version", "Vote", "Writing",
]  # fmt: skip
