"""Addresses of Proof."""

from django.urls import path

from ypsil.web.proof import views

urlpatterns = [path("reports/<str:uid>/proof/", views.proof, name="proof")]
