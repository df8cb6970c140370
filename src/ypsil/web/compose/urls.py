"""Addresses of Compose."""

from django.urls import path

from ypsil.web.compose import (
    choose_views,
    company_views,
    desk_views,
    margin_views,
    table_views,
    theme_views,
    typed_views,
    views,
)

urlpatterns = [
    path("", desk_views.desk, name="desk"),
    path("icons/", choose_views.icons, name="icons"),
    path("reports/new/", desk_views.new_report, name="new-report"),
    path("tables/<str:table>/show/", table_views.show, name="show-table"),
    path("reports/<str:uid>/", views.report, name="report"),
    path("reports/<str:uid>/at-desk/", desk_views.from_desk, name="from-desk"),
    path("reports/<str:uid>/delete/", desk_views.delete_report, name="delete-report"),
    path("reports/<str:uid>/tables/", table_views.report_tables, name="report-tables"),
    path("reports/<str:uid>/layout/<str:digest>.css", views.layout, name="layout"),
    path("reports/<str:uid>/edits/", views.edit, name="edit"),
    path("reports/<str:uid>/live/", company_views.live, name="live"),
    path("reports/<str:uid>/here/", company_views.here, name="here"),
    path("reports/<str:uid>/state/", company_views.state, name="state"),
    path("reports/<str:uid>/token/", views.token, name="token"),
    path("reports/<str:uid>/undo/", views.undo, name="undo"),
    path("reports/<str:uid>/history/", views.history, name="history"),
    path("reports/<str:uid>/redo/", views.redo, name="redo"),
    path("reports/<str:uid>/margin/", margin_views.report_margin, name="report-margin"),
    path("reports/<str:uid>/arrangements/", choose_views.arrangements, name="arrangements"),
    path("reports/<str:uid>/several/", margin_views.several_margin, name="several-margin"),
    path("reports/<str:uid>/bands/<str:band_id>/", margin_views.band_margin, name="band-margin"),
    path("reports/<str:uid>/bands/<str:band_id>/tidy/", margin_views.tidied, name="tidied"),
    path("reports/<str:uid>/tiles/<str:tile_id>/", margin_views.tile_margin, name="tile-margin"),
    path("reports/<str:uid>/tiles/<str:tile_id>/numbers.csv", margin_views.tile_numbers, name="tile-numbers"),
    path("reports/<str:uid>/bands/<str:band_id>/numbers/", typed_views.start, name="typed-start"),
    path("reports/<str:uid>/tiles/<str:tile_id>/drawn/", typed_views.draw, name="typed-draw"),
    path("reports/<str:uid>/tiles/<str:tile_id>/turned/", typed_views.turn, name="typed-turn"),
    path("reports/<str:uid>/tiles/<str:tile_id>/kept/", typed_views.keep, name="typed-keep"),
    path("reports/<str:uid>/tiles/<str:tile_id>/words/", margin_views.tile_term, name="tile-term"),
    path("reports/<str:uid>/tiles/<str:tile_id>/themes/", theme_views.put, name="tile-themes"),
    path("reports/<str:uid>/choose/<str:band_id>/", choose_views.choose, name="choose"),
]
