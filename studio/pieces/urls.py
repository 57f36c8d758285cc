from django.urls import path

from studio.pieces import build, shopping, views

app_name = "pieces"
urlpatterns = [
    path("", views.jobs, name="jobs"),
    path("jobs/new/", views.job_new, name="job-new"),
    path("jobs/<int:pk>/", views.job_page, name="job"),
    path("jobs/<int:pk>/edit/", views.job_edit, name="job-edit"),
    path("jobs/<int:pk>/pieces/new/", views.piece_new, name="piece-new"),
    path("<int:pk>/edit/", views.piece_edit, name="piece-edit"),
    path("<int:pk>/remove/", views.piece_remove, name="piece-remove"),
    path("jobs/<int:pk>/build/", build.build_new, name="build-new"),
    path("jobs/<int:pk>/shopping/", shopping.shopping_page, name="shopping"),
    path("jobs/<int:pk>/shopping.<str:suffix>", shopping.shopping_file, name="shopping-file"),
    path("<int:pk>/build/", build.build_edit, name="build"),
    path("build/live/", build.BuildLive.as_view(), name="build-live"),
    path("live/", views.PieceLive.as_view(), name="live"),
]
