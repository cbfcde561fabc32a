"""Addresses of reports."""

from django.urls import path

from dakika_server.reports.api import deliveries, links, out, reports

HOME = "brands/<slug:brand>/reports"
urlpatterns = [
    path(HOME, reports.ReportsView.as_view()),
    path(f"{HOME}/beginnings", reports.BeginningsView.as_view()),
    path(f"{HOME}/<int:pk>", reports.ReportView.as_view()),
    path(f"{HOME}/<int:pk>/shown", reports.ReportShownView.as_view()),
    path(f"{HOME}/<int:pk>/items", reports.ReportItemsView.as_view()),
    path(f"{HOME}/<int:pk>/versions", reports.ReportVersionsView.as_view()),
    path(f"{HOME}/<int:pk>/copy", reports.ReportCopyView.as_view()),
    path(f"{HOME}/<int:pk>/away", reports.ReportAwayView.as_view()),
    path(f"{HOME}/<int:pk>/pdf", out.ReportPdfView.as_view()),
    path(f"{HOME}/<int:pk>/table", out.ReportTableView.as_view()),
    path(f"{HOME}/<int:pk>/links", links.ReportLinksView.as_view()),
    path(f"{HOME}/<int:pk>/links/<int:link>", links.ReportLinkView.as_view()),
    path(f"{HOME}/<int:pk>/deliveries", deliveries.DeliveriesView.as_view()),
    path(f"{HOME}/<int:pk>/deliveries/<int:delivery>", deliveries.DeliveryView.as_view()),
    path(f"{HOME}/<int:pk>/deliveries/<int:delivery>/send", deliveries.SendNowView.as_view()),
    path(f"{HOME}/<int:pk>/runs", deliveries.DeliveryRunsView.as_view()),
    path(f"{HOME}/<int:pk>/runs/<int:run>", deliveries.DeliveryRunView.as_view()),
    path("report/stop/<str:token>", deliveries.stop_delivery),
    path("report", links.OpenReportView.as_view()),
]
