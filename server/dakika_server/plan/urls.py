"""Addresses of the plan."""

from django.urls import path

from dakika_server.plan.api import (
    CheckView,
    FillView,
    IdeasView,
    MoveView,
    PlannedPostView,
    PlanView,
    ScheduleView,
    WriteAgainView,
)

urlpatterns = [
    path("brands/<slug:brand>/plan", PlanView.as_view()),
    path("brands/<slug:brand>/plan/ideas", IdeasView.as_view()),
    path("brands/<slug:brand>/plan/check", CheckView.as_view()),
    path("brands/<slug:brand>/plan/again/<int:pk>", WriteAgainView.as_view()),
    path("brands/<slug:brand>/plan/fill", FillView.as_view()),
    path("brands/<slug:brand>/plan/<int:pk>/move", MoveView.as_view()),
    path("brands/<slug:brand>/plan/<int:pk>", PlannedPostView.as_view()),
    path("brands/<slug:brand>/plan/<int:pk>/schedule", ScheduleView.as_view()),
]
