from django.urls import path

from studio.demo import views

app_name = "demo"
urlpatterns = [path("open/", views.open_demo, name="open"), path("reset/", views.reset_demo, name="reset")]
