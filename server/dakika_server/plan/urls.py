"""Addresses of the plan."""

from django.urls import path

from dakika_server.plan.api import CheckView, PlannedPostView, PlanView, ScheduleView, WriteAgainView

urlpatterns = [
    path("brands/<slug:brand>/plan", PlanView.as_view()),
    path("brands/<slug:brand>/plan/check", CheckView.as_view()),
    path("brands/<slug:brand>/plan/again/<int:pk>", WriteAgainView.as_view()),
    path("brands/<slug:brand>/plan/<int:pk>", PlannedPostView.as_view()),
    path("brands/<slug:brand>/plan/<int:pk>/schedule", ScheduleView.as_view()),
]
