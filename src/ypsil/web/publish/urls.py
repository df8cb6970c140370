"""Addresses of Publish."""

from django.urls import path

from ypsil.web.publish import views

urlpatterns = [
    path("reports/<str:uid>/publish/", views.publish, name="publish"),
    path("reports/<str:uid>/preview/", views.preview, name="preview"),
    path("reports/<str:uid>/files/<str:ending>/", views.report_file, name="report-file"),
    path("r/<str:token>/", views.published, name="published"),
    path("r/<str:token>/layout/<str:digest>.css", views.published_layout, name="published-layout"),
    path("r/<str:token>/pictures/<str:digest>/", views.published_picture, name="published-picture"),
]
