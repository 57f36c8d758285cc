from django.urls import path

from studio.day import bench, took, views

app_name = "day"
urlpatterns = [
    path("", views.next_day, name="next"),
    path("bench-worker.js", bench.worker, name="worker"),
    path("<int:pk>/", views.day_page, name="day"),
    path("<int:pk>/plan/", views.plan_day, name="plan"),
    path("<int:pk>/stop/", views.plan_stop, name="stop"),
    path("<int:pk>/move/", views.move, name="move"),
    path("<int:pk>/progress/", views.progress, name="progress"),
    path("<int:pk>/day.<str:suffix>", views.day_file, name="file"),
    path("<int:pk>/bench/", bench.bench, name="bench"),
    path("<int:pk>/happened/", bench.happened, name="happened"),
    path("<int:pk>/took/", took.took, name="took"),
    path("<int:pk>/live/", views.DayLive.as_view(), name="live"),
]
