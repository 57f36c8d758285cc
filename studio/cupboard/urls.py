from django.urls import path

from studio.cupboard import views

app_name = "cupboard"
urlpatterns = [path("", views.shelf, name="shelf"), path("<int:pk>/", views.edit, name="edit")]
