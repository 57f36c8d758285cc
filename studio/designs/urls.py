from django.urls import path

from studio.designs import bag, bring, marble, papers, views

app_name = "designs"
urlpatterns = [
    path("", views.studio, name="studio"),
    path("new/<str:kind>/", views.design_new, name="new"),
    path("layer/<int:pk>/", views.for_layer, name="for-layer"),
    path("<int:pk>/", views.design_page, name="design"),
    path("<int:pk>/remove/", views.design_remove, name="remove"),
    path("<int:pk>/template.pdf", papers.template_pdf, name="template"),
    path("<int:pk>/template.svg", papers.template_svg, name="svg"),
    path("practice.pdf", papers.practice_pdf, name="practice"),
    path("live/<str:kind>/", views.DesignLive.as_view(), name="live"),
    path("check/<str:kind>/", views.DesignCheck.as_view(), name="check"),
    path("tiles/<str:name>.svg", papers.tile_svg, name="tile"),
    path("marble.png", marble.marble_png, name="marble"),
    path("bag/", bag.bag_page, name="bag"),
    path("bag/live/", bag.BagLive.as_view(), name="bag-live"),
    path("shapes/bring/", bring.bring, name="bring"),
    path("shapes/<int:pk>/", bring.shape_page, name="shape"),
    path("shapes/<int:pk>/live/", bring.ShapeLive.as_view(), name="shape-live"),
    path("shapes/<int:pk>/forget/", bring.shape_forget, name="shape-forget"),
]
