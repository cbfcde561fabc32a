"""Addresses of notices."""

from django.urls import path

from dakika_server.notices import api

urlpatterns = [
    path("account/browsers", api.BrowsersView.as_view()),
    path("account/browsers/<int:pk>", api.BrowserView.as_view()),
    path("events", api.TicketView.as_view()),
    path("brands/<slug:brand>/notifications", api.NotificationsView.as_view()),
    path("brands/<slug:brand>/notifications/choices", api.ChoicesView.as_view()),
]
