"""Addresses of Publish."""

from django.urls import path

from ypsil.web.publish import embed_views, file_views, present_views, reader_views, views

urlpatterns = [
    path("reports/<str:uid>/publish/", views.publish, name="publish"),
    path("reports/<str:uid>/preview/", reader_views.preview, name="preview"),
    path("reports/<str:uid>/present/", present_views.present, name="present"),
    path("reports/<str:uid>/present/notes/", present_views.present_notes, name="present-notes"),
    path("reports/<str:uid>/as-others/", reader_views.as_others, name="as-others"),
    path("reports/<str:uid>/files/", file_views.ask_file, name="ask-file"),
    path("reports/<str:uid>/files/<str:ending>/", file_views.report_file, name="report-file"),
    path("files/<str:uid>/", file_views.ordered, name="ordered"),
    path("files/<str:uid>/state/", file_views.ordered_state, name="ordered-state"),
    path("files/<str:uid>/content/", file_views.ordered_file, name="ordered-file"),
    path("r/<str:token>/", reader_views.published, name="published"),
    path("r/<str:token>/preview.jpg", embed_views.published_preview, name="published-preview"),
    path("r/<str:token>/embed/", embed_views.embedded, name="embedded"),
    path("r/<str:token>/embed/<str:part>/", embed_views.embedded, name="embedded"),
    path("r/<str:token>/embed/<str:part>/place.css", embed_views.embedded_css, name="embedded-css"),
    path("oembed/", embed_views.oembed, name="oembed"),
    path("r/<str:token>/live/", reader_views.live_page, name="live-page"),
    path("r/<str:token>/come/<str:key>/", reader_views.come, name="come"),
    path("r/<str:token>/ask/", reader_views.ask_for_link, name="ask-for-link"),
    path("r/<str:token>/password/", reader_views.give_password, name="give-password"),
    path("r/<str:token>/kept/<int:number>/", reader_views.kept_state, name="kept-state"),
    path("r/<str:token>/layout/<str:digest>.css", reader_views.published_layout, name="published-layout"),
    path("r/<str:token>/pictures/<str:digest>/", reader_views.published_picture, name="published-picture"),
]
