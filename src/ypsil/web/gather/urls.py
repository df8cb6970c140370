"""Addresses of Gather."""

from django.urls import path

from ypsil.web.gather import views

urlpatterns = [
    path("tables/new/", views.new_table, name="new-table"),
    path("tables/<str:uid>/", views.table, name="table"),
    path("tables/<str:uid>/newer/", views.newer_file, name="newer-file"),
    path("tables/<str:uid>/versions/<int:number>/file/", views.original_file, name="original-file"),
    path("arrivals/<str:uid>/", views.arrival, name="arrival"),
    path("arrivals/<str:uid>/state/", views.arrival_state, name="arrival-state"),
    path("arrivals/<str:uid>/cancel/", views.cancel_arrival, name="cancel-arrival"),
]
