from django.urls import path

from studio.day import views

app_name = "day"
urlpatterns = [
    path("", views.next_day, name="next"),
    path("<int:pk>/", views.day_page, name="day"),
    path("<int:pk>/live/", views.DayLive.as_view(), name="live"),
]
