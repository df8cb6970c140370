"""Addresses of Publish."""

from django.urls import path

from ypsil.web.publish import file_views, views

urlpatterns = [
    path("reports/<str:uid>/publish/", views.publish, name="publish"),
    path("reports/<str:uid>/preview/", views.preview, name="preview"),
    path("reports/<str:uid>/files/", file_views.ask_file, name="ask-file"),
    path("reports/<str:uid>/files/<str:ending>/", file_views.report_file, name="report-file"),
    path("files/<str:uid>/", file_views.ordered, name="ordered"),
    path("files/<str:uid>/state/", file_views.ordered_state, name="ordered-state"),
    path("files/<str:uid>/content/", file_views.ordered_file, name="ordered-file"),
    path("r/<str:token>/", views.published, name="published"),
    path("r/<str:token>/layout/<str:digest>.css", views.published_layout, name="published-layout"),
    path("r/<str:token>/pictures/<str:digest>/", views.published_picture, name="published-picture"),
]
