from django.urls import path

from studio.rescue import after, faults, views

app_name = "rescue"
urlpatterns = [
    path("", views.see, name="see"),
    path("why/", faults.faults, name="faults"),
    path("why/sheet/", faults.sheet, name="sheet"),
    path("why/cause/<slug:name>/", faults.cause, name="cause"),
    path("why/<slug:symptom>/", faults.fault, name="fault"),
    path("done/<int:pk>/", after.after, name="after"),
    path("<slug:symptom>/", views.answer, name="answer"),
    path("<slug:symptom>/do/", views.do, name="do"),
]
