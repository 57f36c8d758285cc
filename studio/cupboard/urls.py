from django.urls import path

from studio.cupboard import measure, views

app_name = "cupboard"
urlpatterns = [
    path("", views.shelf, name="shelf"),
    path("<int:pk>/", views.edit, name="edit"),
    path("<int:pk>/measure/", measure.measure, name="measure"),
]
