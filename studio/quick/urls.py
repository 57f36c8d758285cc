from django.urls import path

from studio.quick import views

app_name = "quick"
urlpatterns = [
    path("", views.card, name="card"),
    path("quick/live/", views.CardLive.as_view(), name="live"),
    path("quick/keep/", views.keep, name="keep"),
]
