"""Where everything is."""

from django.conf import settings
from django.urls import include, path
from django.views.generic import TemplateView

from studio.common import views as common
from studio.demo.parts import parts

handler500 = "studio.common.views.server_error"

urlpatterns = [
    path("", include("studio.quick.urls")),
    path("pieces/", include("studio.pieces.urls")),
    path("bowls/", include("studio.bowls.urls")),
    path("colours/", include("studio.swatches.urls")),
    path("studio/", include("studio.designs.urls")),
    path("day/", include("studio.day.urls")),
    path("cupboard/", include("studio.cupboard.urls")),
    path("learned/", include("studio.learned.urls")),
    path("wrong/", include("studio.rescue.urls")),
    path("notebook/", include("studio.notebook.urls")),
    path("demo/", include("studio.demo.urls")),
    path("", include("studio.accounts.urls")),
    path("about/", TemplateView.as_view(template_name="about.html"), name="about"),
    path("olive-ribbon.webmanifest", common.manifest, name="manifest"),
    path("send-again/", common.send_again, name="send-again"),
    path("healthz", common.healthz, name="healthz"),
    path("healthz/empty", common.empty, name="empty"),
]
if settings.DEBUG:
    urlpatterns.append(path("parts/", parts, name="parts"))
