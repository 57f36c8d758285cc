from django.urls import path

from studio.bowls import colour, drip, home_tests, melt, portions, temper, timers, uses, views, waits

app_name = "bowls"
urlpatterns = [
    path("", views.bowls, name="list"),
    path("begin/<int:job_pk>/", views.begin, name="begin"),
    path("<int:pk>/", views.bowl_page, name="bowl"),
    path("<int:pk>/live/", views.BowlLive.as_view(), name="live"),
    path("<int:pk>/did/", views.did_this, name="did"),
    path("<int:pk>/melt/", melt.melt, name="melt"),
    path("<int:pk>/put-in/", melt.put_in, name="put-in"),
    path("<int:pk>/tests/", home_tests.tests, name="tests"),
    path("<int:pk>/tests/live/", home_tests.TestLive.as_view(), name="tests-live"),
    path("<int:pk>/temper/", temper.temper, name="temper"),
    path("<int:pk>/uses/", uses.uses_page, name="uses"),
    path("<int:pk>/drip/", drip.drip, name="drip"),
    path("<int:pk>/drip/live/", drip.DripLive.as_view(), name="drip-live"),
    path("<int:pk>/timer/", timers.start, name="timer"),
    path("timers/<int:pk>/stop/", timers.stop, name="timer-stop"),
    path("<int:pk>/spoon/", views.spoon, name="spoon"),
    path("<int:pk>/strike/<int:seq>/", views.strike, name="strike"),
    path("<int:pk>/uses/live/", uses.UsesLive.as_view(), name="uses-live"),
    path("<int:pk>/waits/", waits.waits_page, name="waits"),
    path("<int:pk>/waits/live/", waits.WaitsLive.as_view(), name="waits-live"),
    path("<int:pk>/hole/", home_tests.hole, name="hole"),
    path("<int:pk>/colour/", colour.colour, name="colour"),
    path("<int:pk>/keep/", colour.keep, name="keep"),
    path("<int:pk>/portion/", portions.take_out, name="portion"),
    path("<int:pk>/done/", views.all_dipped, name="done"),
]
