"""Addresses of competitors."""

from django.urls import path

from dakika_server.competitors.api import sets, views

_HOME = "brands/<slug:brand>/competitors"
urlpatterns = [
    path(_HOME, views.TableView.as_view()),
    path(f"{_HOME}/benchmark", views.BenchmarkView.as_view()),
    path(f"{_HOME}/axes", views.AxesView.as_view()),
    path(f"{_HOME}/posts", views.BestPostsView.as_view()),
    path(f"{_HOME}/posts/looked", sets.LookedView.as_view()),
    path(f"{_HOME}/presence", views.PresenceView.as_view()),
    path(f"{_HOME}/works", views.WorksView.as_view()),
    path(f"{_HOME}/gap", views.GapView.as_view()),
    path(f"{_HOME}/sets", sets.PeerSetsView.as_view()),
    path(f"{_HOME}/sets/<int:pk>", sets.PeerSetView.as_view()),
    path(f"{_HOME}/digest", sets.DigestView.as_view()),
    path("digests/stop/<str:token>", sets.stop_digest),
]
