"""Addresses."""

from django.urls import include, path

urlpatterns = [
    path("", include("ypsil.web.accounts.urls")),
    path("", include("ypsil.web.outbox.urls")),
    path("", include("ypsil.web.gather.urls")),
    path("", include("ypsil.web.compose.urls")),
    path("", include("ypsil.web.proof.urls")),
    path("", include("ypsil.web.publish.urls")),
]
