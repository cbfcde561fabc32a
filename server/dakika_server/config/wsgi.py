"""Entry point of the web server."""

import gc
import os
from importlib import import_module

from django.conf import settings
from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "dakika_server.config.settings")
application = get_wsgi_application()


def _settle() -> None:
    """Load every view now, and leave what stands then out of the garbage collector's rounds.

    Some hundred thousand objects stay for the life of a process. Going through them cost a request now and then a
    fifth of a second.
    """
    import_module(settings.ROOT_URLCONF)
    gc.collect()
    gc.freeze()


_settle()
