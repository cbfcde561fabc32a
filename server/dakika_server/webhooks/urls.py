"""Addresses of webhooks."""

from django.urls import path

from dakika_server.webhooks import api

urlpatterns = [
    path("brands/<slug:brand>/webhooks", api.WebHooksView.as_view()),
    path("brands/<slug:brand>/webhooks/<int:pk>", api.WebHookView.as_view()),
    path("brands/<slug:brand>/webhooks/<int:pk>/secret", api.SecretView.as_view()),
    path("brands/<slug:brand>/webhooks/<int:pk>/deliveries", api.DeliveriesView.as_view()),
    path("brands/<slug:brand>/webhooks/<int:pk>/deliveries/<int:delivery>", api.DeliveryView.as_view()),
]
