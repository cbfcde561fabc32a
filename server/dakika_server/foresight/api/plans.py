"""What planned posts will bring."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.foresight.levels import METRICS
from dakika_server.foresight.planned import ExpectedPost, Thought, expect, planned_weeks
from dakika_server.foresight.serializers import (
    ExpectedSerializer,
    ExpectSerializer,
    PlannedExpectedSerializer,
    PlannedQuerySerializer,
)
from dakika_server.shared import clock
from dakika_server.shared.parsers import read

LONGEST_DAYS = 100


class ExpectView(BrandView):
    """Posts that are thought of."""

    is_question = True

    @extend_schema(operation_id="expect_posts", request=ExpectSerializer, responses=ExpectedSerializer)
    def post(self, request: Request, brand: str) -> Response:
        """What each will bring by seven days, and all together."""
        thoughts = [
            Thought(
                profile_id=p["profile"], at=p["at"], format=p["format"], campaign_id=p.get("campaign"),
                tags=frozenset(p.get("tags", ())),
            )
            for p in read(ExpectSerializer, request.data)["posts"]
        ]  # fmt: skip
        each, together = expect(self.brand, thoughts)
        posts = [_expected(t.profile_id, one) for t, one in zip(thoughts, each, strict=True)]
        return Response(ExpectedSerializer({"posts": posts, "together": _metrics(together)}).data)


class PlannedView(BrandView):
    """The plan."""

    reads = "plan.read"

    @extend_schema(operation_id="expect_plan", parameters=[PlannedQuerySerializer], responses=PlannedExpectedSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """What everything planned between two days will bring: by post, and by week against the one before."""
        days = read(PlannedQuerySerializer, request.query_params)
        if not 0 <= (days["last"] - days["first"]).days <= LONGEST_DAYS:
            raise serializers.ValidationError({"last": f"Ask for 1 to {LONGEST_DAYS} days."})
        by_post, weeks = planned_weeks(self.brand, days["first"], days["last"], clock.now())
        values = {
            "posts": [
                {"id": pk, "profiles": [_expected(profile, one) for profile, one in found]}
                for pk, found in by_post.items()
            ],
            "weeks": [{**vars(week), "together": _metrics(week.metrics)} for week in weeks],
        }  # fmt: skip
        return Response(PlannedExpectedSerializer(values).data)


def _expected(profile: int, one: ExpectedPost) -> dict[str, Any]:
    return {
        "profile": profile, "expected": _metrics(one.metrics), "hour_index": one.hour_index, "posts": one.posts
    }  # fmt: skip


def _metrics(found: dict[str, Any]) -> dict[str, Any]:
    return {metric: found.get(metric) for metric in METRICS}
