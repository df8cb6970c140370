"""The address of the outbox."""

from django.urls import path

from ypsil.web.outbox.views import outbox

urlpatterns = [path("outbox/", outbox, name="outbox")]
