from django.urls import path

from studio.bowls import melt, views

app_name = "bowls"
urlpatterns = [
    path("", views.bowls, name="list"),
    path("begin/<int:job_pk>/", views.begin, name="begin"),
    path("<int:pk>/", views.bowl_page, name="bowl"),
    path("<int:pk>/live/", views.BowlLive.as_view(), name="live"),
    path("<int:pk>/did/", views.did_this, name="did"),
    path("<int:pk>/melt/", melt.melt, name="melt"),
    path("<int:pk>/put-in/", melt.put_in, name="put-in"),
    path("<int:pk>/spoon/", views.spoon, name="spoon"),
    path("<int:pk>/strike/<int:seq>/", views.strike, name="strike"),
    path("<int:pk>/done/", views.all_dipped, name="done"),
]
