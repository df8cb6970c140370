"""Addresses of Gather."""

from django.urls import path

from ypsil.web.gather import picture_views, recipe_views, theme_views, version_views, views

urlpatterns = [
    path("tables/new/", views.new_table, name="new-table"),
    path("tables/<str:uid>/", views.table, name="table"),
    path("tables/<str:uid>/newer/", views.newer_file, name="newer-file"),
    path("tables/<str:uid>/name/", views.rename_table, name="rename-table"),
    path("tables/<str:uid>/delete/", views.delete_table, name="delete-table"),
    path("tables/<str:uid>/credits/", views.keep_credits, name="credits"),
    path("tables/<str:uid>/rows/", recipe_views.rows, name="table-rows"),
    path("tables/<str:uid>/column/", recipe_views.column, name="table-column"),
    path("tables/<str:uid>/recipe/", recipe_views.change_recipe, name="recipe"),
    path("tables/<str:uid>/step/", recipe_views.form, name="step-form"),
    path("tables/<str:uid>/themes/", theme_views.table_themes, name="themes"),
    path("tables/<str:uid>/themes/part/", theme_views.part, name="theme-part"),
    path("tables/<str:uid>/completions/", recipe_views.completions, name="completions"),
    path("tables/<str:uid>/comparison/", version_views.comparison, name="comparison"),
    path("tables/<str:uid>/held/", version_views.held, name="held"),
    path("tables/<str:uid>/prepared.<str:ending>", version_views.prepared_file, name="prepared-file"),
    path("tables/<str:uid>/versions/<int:number>/file/", version_views.original_file, name="original-file"),
    path("tables/<str:uid>/versions/<int:number>/delete/", version_views.delete_version, name="delete-version"),
    path("tables/<str:uid>/versions/<int:number>/current/", version_views.make_current, name="make-current"),
    path("tables/<str:uid>/versions/<int:number>/sheet/", version_views.other_sheet, name="other-sheet"),
    path("pictures/", picture_views.bring, name="bring-picture"),
    path("pictures/<str:digest>/", picture_views.picture, name="picture"),
    path("arrivals/<str:uid>/", views.arrival, name="arrival"),
    path("arrivals/<str:uid>/state/", views.arrival_state, name="arrival-state"),
    path("arrivals/<str:uid>/file/", version_views.made_file, name="made-file"),
    path("arrivals/<str:uid>/cancel/", views.cancel_arrival, name="cancel-arrival"),
]
