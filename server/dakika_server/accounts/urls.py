"""Addresses of accounts."""

from django.urls import path

from dakika_server.accounts.api import SessionView

urlpatterns = [path("session", SessionView.as_view())]
