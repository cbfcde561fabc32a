"""The week of a question."""

from datetime import datetime, timedelta
from typing import Any

from dakika_core.timing.best_times import HourEffects
from dakika_core.timing.proposals import free_hours, propose_slots
from dakika_core.values.period import HOURS_PER_WEEK, hour_of_week
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.sources.models import Profile
from dakika_server.timing.planned import planned_between
from dakika_server.timing.queries import Week, week_of
from dakika_server.timing.questions import WANTED, QuestionSerializer, question_of
from dakika_server.timing.serializers import TimingSerializer

FREE_HOURS = 6
CURVES = ("index", "low80", "high80", "low95", "high95", "nearby", "from_posts", "certainty")


class TimingView(BrandView):
    """When to publish."""

    @extend_schema(operation_id="read_timing", parameters=[QuestionSerializer], responses=TimingSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The week of a question: index by hour with its uncertainty, presence, posts, what is missed and crowded."""
        now = clock.now()
        question = question_of(self.brand, read(QuestionSerializer, request.query_params), now)
        if question is None:
            raise Http404
        return Response(TimingSerializer(_values(week_of(question, now), now)).data)


def _values(week: Week, now: datetime) -> dict[str, Any]:
    question, answer, audience = week.question, week.answer, week.audience
    zone, effects, facts = question.zone, answer.effects, answer.facts
    hours = [{name: getattr(effects, name)[h] for name in CURVES} for h in range(HOURS_PER_WEEK)]
    planned = planned_between([p.pk for p in question.profiles], now, now + timedelta(days=7))
    choices = Profile.objects.filter(brand=question.brand, is_followed=True).order_by("-kind", "name", "network")
    return {
        "chosen": [_choice(p) for p in question.profiles], "profiles": [_choice(p) for p in choices],
        "of": question.wanted.key, "wanted": WANTED.values(), "zone": str(zone),
        "brand_zone": question.brand.time_zone,
        "audience_zones": [group.zone for group in audience.groups] if audience else [],
        "groups": [
            {"zone": g.zone, "share": g.share, "countries": g.countries,
             "presence": audience.by_group[g.zone].round(4).tolist()}
            for g in audience.groups
        ] if audience else [],
        "groups_by": audience.source if audience else "", "presence_week": audience.week if audience else None,
        "presence": audience.presence.round(4).tolist() if audience else None,
        **{name: facts[name] for name in ("age_hours", "untimed", "posts_used", "counted", "pooled", "pooled_posts",
                                          "alone", "stands_by", "has_effect", "odds")},
        "made_at": answer.made_at, "is_stale": answer.is_stale, "hours": hours, "posts_at": week.posts_at,
        "audience_at": week.audience_at, "ticks": week.ticks,
        "planned": [{**vars(p), "hour": hour_of_week(p.at, zone)} for p in planned],
        "free": _free(effects, hours, zone, [p.at for p in planned], now), "missed": week.missed,
        "crowded": week.crowded, "held": answer.held,
    }  # fmt: skip


def _free(effects: HourEffects, hours: list[dict[str, Any]], zone: Any, taken: list[datetime], now: datetime) -> Any:
    slots = propose_slots(
        index=effects.index, candidates=free_hours(now, zone), zone=zone, taken=taken, count=FREE_HOURS
    )
    return [{"at": s.at, "hour": hour_of_week(s.at, zone), **hours[int(hour_of_week(s.at, zone))]} for s in slots]


def _choice(profile: Profile) -> dict[str, Any]:
    return {"id": profile.pk, "name": profile.name, "network": profile.network, "is_own": profile.kind == "own"}
