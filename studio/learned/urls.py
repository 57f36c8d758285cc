from django.urls import path

from studio.learned import views

app_name = "learned"
urlpatterns = [
    path("", views.learned, name="all"),
    path("record/<slug:key>/", views.on_record, name="on-record"),
    path("anew/<int:pk>/", views.anew, name="anew"),
    path("anew/bowl/<int:pk>/", views.anew_bowl, name="anew-bowl"),
    path("<str:name>/", views.say, name="say"),
]
