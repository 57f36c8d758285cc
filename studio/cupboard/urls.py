from django.urls import path

from studio.cupboard import add, extras, measure, views

app_name = "cupboard"
urlpatterns = [
    path("", views.shelf, name="shelf"),
    path("add/", add.add, name="add"),
    path("add/<slug:what>/", add.add_what, name="add-what"),
    path("have/<slug:code>/", add.have, name="have"),
    path("extras/", extras.extras, name="extras"),
    path("extras/new/", extras.extra_new, name="extra-new"),
    path("extras/<int:pk>/", extras.extra, name="extra"),
    path("extras/<int:pk>/remove/", extras.extra_remove, name="extra-remove"),
    path("<int:pk>/", views.edit, name="edit"),
    path("<int:pk>/tick/", views.tick, name="tick"),
    path("<int:pk>/take-out/", views.take_out, name="take-out"),
    path("<int:pk>/measure/", measure.measure, name="measure"),
]
