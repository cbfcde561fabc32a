"""Addresses of foresight."""

from django.urls import path

from dakika_server.foresight.api.calibration import CalibrationView
from dakika_server.foresight.api.plans import ExpectView, PlannedView
from dakika_server.foresight.api.posts import PostOutlookView, UnderWayView

_BRAND = "brands/<slug:brand>/foresight"
urlpatterns = [
    path(f"{_BRAND}/under-way", UnderWayView.as_view()),
    path(f"{_BRAND}/posts/<int:pk>", PostOutlookView.as_view()),
    path(f"{_BRAND}/expected", ExpectView.as_view()),
    path(f"{_BRAND}/planned", PlannedView.as_view()),
    path(f"{_BRAND}/calibration", CalibrationView.as_view()),
]
