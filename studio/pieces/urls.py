from django.urls import path

from studio.pieces import boxes, build, choices, files, first, inside, job, jobs, shopping, views

app_name = "pieces"
urlpatterns = [
    path("", jobs.jobs, name="jobs"),
    path("first/", first.first_page, name="first"),
    path("first/<slug:name>/", first.first_of, name="first-of"),
    path("jobs/new/", views.job_new, name="job-new"),
    path("jobs/<int:pk>/", job.job_page, name="job"),
    path("jobs/<int:pk>/edit/", views.job_edit, name="job-edit"),
    path("jobs/<int:pk>/bowls/", job.bowls_chosen, name="bowls-chosen"),
    path("jobs/<int:pk>/count/", job.counted, name="count"),
    path("jobs/<int:pk>/scale/", job.scaled, name="scale"),
    path("jobs/<int:pk>/together/", job.together, name="together"),
    path("jobs/<int:pk>/inside/", inside.inside_page, name="inside"),
    path("jobs/<int:pk>/picks/", inside.picks_back, name="picks"),
    path("jobs/<int:pk>/labels.txt", inside.labels_text, name="labels"),
    path("jobs/<int:pk>/boxes/", boxes.boxes_page, name="boxes"),
    path("jobs/<int:pk>/box/", boxes.box_chosen, name="box"),
    path("jobs/<int:pk>/mix/", boxes.box_mixed, name="mix"),
    path("jobs/<int:pk>/choices/", choices.choices_page, name="choices"),
    path("jobs/<int:pk>/job.json", files.job_file, name="job-file"),
    path("kept/<int:pk>/forget/", views.template_forget, name="template-forget"),
    path("bring/", files.bring, name="bring"),
    path("<int:pk>/alone/", job.alone, name="alone"),
    path("<int:pk>/remove/", views.piece_remove, name="piece-remove"),
    path("jobs/<int:pk>/build/", build.build_new, name="build-new"),
    path("jobs/<int:pk>/shopping/", shopping.shopping_page, name="shopping"),
    path("jobs/<int:pk>/shopping.<str:suffix>", shopping.shopping_file, name="shopping-file"),
    path("<int:pk>/build/", build.build_edit, name="build"),
    path("jobs/<int:pk>/build/live/", build.BuildLive.as_view(), name="build-live"),
]
