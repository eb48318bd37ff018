"""Addresses."""

from django.urls import include, path

from bathys_web.accounts.views import sign_in_to_demo
from bathys_web.config.errors import not_found, refused, server_error
from bathys_web.plans import views

urlpatterns = [
    path("", views.shelf, name="shelf"),
    path("accounts/demo/", sign_in_to_demo, name="demo_sign_in"),
    path("accounts/", include("allauth.account.urls")),
    path("units/", views.switch_units, name="switch_units"),
    path("plan.schema.json", views.plan_schema, name="plan_schema"),
    path("plans/new/", views.new_plan, name="new_plan"),
    path("plans/import/", views.import_plan, name="import_plan"),
    path("plans/<uuid:key>/", views.plan_page, name="plan"),
    path("plans/<uuid:key>/inspector/", views.inspector, name="inspector"),
    path("plans/<uuid:key>/edit/", views.edit, name="edit"),
    path("plans/<uuid:key>/undo/", views.undo, name="undo"),
    path("plans/<uuid:key>/redo/", views.redo, name="redo"),
    path("plans/<uuid:key>/export/", views.export, name="export"),
    path("plans/<uuid:key>/delete/", views.delete, name="delete"),
]

handler400 = refused
handler403 = refused
handler404 = not_found
handler500 = server_error
