"""Addresses of brands."""

from django.urls import path

from dakika_server.brands.api import (
    BeginView,
    BrandDetailView,
    BrandsView,
    CampaignsView,
    CampaignView,
    FirstStepsView,
    OverviewView,
    PeopleView,
    PreferencesView,
    PreferenceView,
)

urlpatterns = [
    path("begin", BeginView.as_view()),
    path("brands", BrandsView.as_view()),
    path("brands/<slug:brand>", BrandDetailView.as_view()),
    path("brands/<slug:brand>/overview", OverviewView.as_view()),
    path("brands/<slug:brand>/first-steps", FirstStepsView.as_view()),
    path("brands/<slug:brand>/people", PeopleView.as_view()),
    path("brands/<slug:brand>/campaigns", CampaignsView.as_view()),
    path("brands/<slug:brand>/campaigns/<int:pk>", CampaignView.as_view()),
    path("brands/<slug:brand>/preferences", PreferencesView.as_view()),
    path("brands/<slug:brand>/preferences/<slug:name>", PreferenceView.as_view()),
]
