"""All addresses: the API by area, the short links, and the front end for everything else."""

from django.urls import include, path, re_path

from dakika_server.config.areas import AREAS
from dakika_server.links.redirect import follow_link
from dakika_server.monitoring.api import ready
from dakika_server.monitoring.metrics import metrics
from dakika_server.plan.own_feed.serving import feed, picture, seen
from dakika_server.plan.web_push import subscribing as push
from dakika_server.shared.frontend import front_end, health, shared
from dakika_server.shared.reference import description, reference
from dakika_server.site.collecting import collect, visit_script
from dakika_server.sources.api.connecting import network_hook

handler400 = "dakika_server.shared.problems.bad_request"
handler403 = "dakika_server.shared.problems.forbidden"
handler404 = "dakika_server.shared.problems.not_found"
handler500 = "dakika_server.shared.problems.defect"
urlpatterns = [
    path("l/<str:code>", follow_link),
    path("visit.js", visit_script),
    path("collect/<str:key>", collect),
    path("feeds/<str:key>.atom", feed),
    path("feeds/seen/<uuid:guid>.gif", seen),
    path("feeds/pictures/<uuid:guid>", picture),
    path("push/ask.js", push.asking_script),
    path("push/shown/<uuid:token>", push.shown),
    path("push/<str:key>/", push.asking_page),
    path("push/<str:key>/key", push.channel_key),
    path("push/<str:key>/worker.js", push.worker_script),
    path("push/<str:key>/subscribers", push.subscribe),
    path("push/<str:key>/leave", push.leave),
    path("api/description", description),
    path("api/reference", reference),
    path("health", health),
    path("ready", ready),
    path("metrics", metrics),
    path("share", shared),
    path("hooks/<str:network>/<int:profile>", network_hook),
    *(path("api/", include(area.urls)) for area in AREAS if area.urls),
    re_path(r"^(?!api/|assets/|l/|hooks/|collect/|feeds/|push/).*$", front_end),
]
