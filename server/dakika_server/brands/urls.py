"""Addresses of brands."""

from django.urls import path

from dakika_server.brands.api import everything, log, team, tokens
from dakika_server.brands.api.brands import (
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
    path("brands/<slug:brand>/log", log.LogView.as_view()),
    path("brands/<slug:brand>/log/csv", log.LogFileView.as_view()),
    path("account/everything", everything.OwnEverythingView.as_view()),
    path("account/tokens", tokens.OwnTokensView.as_view()),
    path("account/tokens/<int:pk>", tokens.OwnTokenView.as_view()),
    path("brands/<slug:brand>/team/programs", tokens.ProgramsView.as_view()),
    path("brands/<slug:brand>/team/programs/<int:pk>", tokens.ProgramView.as_view()),
    path("invitations/seen", team.InvitationSeenView.as_view()),
    path("invitations/taken", team.JoinView.as_view()),
    path("brands/<slug:brand>/team", team.TeamView.as_view()),
    path("brands/<slug:brand>/team/leaving", team.OwnLeavingView.as_view()),
    path("brands/<slug:brand>/team/invitations", team.InvitationsView.as_view()),
    path("brands/<slug:brand>/team/invitations/<int:pk>", team.InvitationView.as_view()),
    path("brands/<slug:brand>/team/<int:pk>", team.MemberView.as_view()),
    path("brands/<slug:brand>/team/<int:pk>/leaving", team.LeavingView.as_view()),
    path("brands/<slug:brand>/campaigns", CampaignsView.as_view()),
    path("brands/<slug:brand>/campaigns/<int:pk>", CampaignView.as_view()),
    path("brands/<slug:brand>/preferences", PreferencesView.as_view()),
    path("brands/<slug:brand>/preferences/<slug:name>", PreferenceView.as_view()),
]
