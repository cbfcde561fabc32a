"""Whether other programs take what they are told."""

from dakika_server.monitoring.gauges import GAUGES, Gauge
from dakika_server.webhooks.models import HookDelivery


def connect() -> None:
    """Add to what is measured; each brand's admins are told by a notice."""
    GAUGES.add("dakika_webhook_deliveries_waiting", Gauge(
        words="Events on their way to other programs",
        read=lambda: [((), float(HookDelivery.objects.filter(state="waiting", webhook__is_on=True).count()))],
    ))  # fmt: skip
