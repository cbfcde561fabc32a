"""Addresses of timing."""

from django.urls import path

from dakika_server.timing.api.rhythms import DueView, ProposeView, RhythmsView, RhythmView
from dakika_server.timing.api.trials import StopTrialView, TrialLengthView, TrialsView
from dakika_server.timing.api.week import TimingView

_BRAND = "brands/<slug:brand>/timing"
urlpatterns = [
    path(_BRAND, TimingView.as_view()),
    path(f"{_BRAND}/rhythms", RhythmsView.as_view()),
    path(f"{_BRAND}/rhythms/propose", ProposeView.as_view()),
    path(f"{_BRAND}/rhythms/<int:profile>", RhythmView.as_view()),
    path(f"{_BRAND}/slots", DueView.as_view()),
    path(f"{_BRAND}/trials", TrialsView.as_view()),
    path(f"{_BRAND}/trials/length", TrialLengthView.as_view()),
    path(f"{_BRAND}/trials/<int:pk>/stop", StopTrialView.as_view()),
]
