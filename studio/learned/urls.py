from django.urls import path

from studio.learned import views

app_name = "learned"
urlpatterns = [
    path("", views.learned, name="all"),
    path("record/<int:pk>/", views.leave_out, name="leave-out"),
    path("<slug:code>/", views.say, name="say"),
]
