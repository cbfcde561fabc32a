"""Links over HTTP."""

from dakika_server.links.api.figures import DayBehindView, LinkDetailView, LinksView
from dakika_server.links.api.making import BulkPreviewView, BulkView, CheckView, PreviewView, QrView
from dakika_server.links.api.pages import LinkPagesView, LinkPageView
from dakika_server.links.api.settings import DomainChoiceView, DomainView, LinkSettingsView

__all__ = [
    "BulkPreviewView", "BulkView", "CheckView", "DayBehindView", "DomainChoiceView", "DomainView", "LinkDetailView",
    "LinkPageView", "LinkPagesView", "LinkSettingsView", "LinksView", "PreviewView", "QrView",
]  # fmt: skip
