"""Addresses of files of people."""

from django.urls import path

from dakika_server.media.api import (
    AssetContentView,
    AssetsView,
    AssetView,
    CollectionView,
    EditsView,
    FromAddressView,
    LentView,
    ReplaceView,
    SequenceView,
    StillView,
    TagsView,
    UploadsView,
    UploadView,
    UsesView,
    ZipView,
)

HOME = "brands/<slug:brand>/media"
urlpatterns = [
    path("media/lent/<str:token>", LentView.as_view()),
    path(HOME, AssetsView.as_view()),
    path(f"{HOME}/from-address", FromAddressView.as_view()),
    path(f"{HOME}/uploads", UploadsView.as_view()),
    path(f"{HOME}/uploads/<int:pk>", UploadView.as_view()),
    path(f"{HOME}/collection", CollectionView.as_view()),
    path(f"{HOME}/sequences", SequenceView.as_view()),
    path(f"{HOME}/<int:pk>/still", StillView.as_view()),
    path(f"{HOME}/tags", TagsView.as_view()),
    path(f"{HOME}/zip", ZipView.as_view()),
    path(f"{HOME}/<int:pk>/edits", EditsView.as_view()),
    path(f"{HOME}/<int:pk>/uses", UsesView.as_view()),
    path(f"{HOME}/<int:pk>/replace", ReplaceView.as_view()),
    path(f"{HOME}/<int:pk>", AssetView.as_view()),
    path(f"{HOME}/<int:pk>/<str:purpose>", AssetContentView.as_view()),
]
