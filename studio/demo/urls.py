from django.urls import path

from studio.demo import views, walk

app_name = "demo"
urlpatterns = [
    path("open/", views.open_demo, name="open"),
    path("reset/", views.reset_demo, name="reset"),
    path("walk/", views.walk_demo, name="walk"),
    path("walk/on/", walk.walk_on, name="walk-on"),
]
