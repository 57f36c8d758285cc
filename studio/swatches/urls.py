from django.urls import path

from studio.swatches import book, new, paint, photo, recipe, sets

app_name = "colours"
urlpatterns = [
    path("", book.book, name="book"),
    path("sheet/", book.sheet, name="sheet"),
    path("bring-in/", book.bring_in, name="bring-in"),
    path("swatches.<str:suffix>", book.out, name="out"),
    path("new/", new.new, name="new"),
    path("photo/", photo.send, name="photo-send"),
    path("photo/<int:pk>/", photo.photo_page, name="photo"),
    path("photo/<int:pk>/live/", photo.PhotoLive.as_view(), name="photo-live"),
    path("photo/<int:pk>/picture/", photo.picture, name="picture"),
    path("photo/<int:pk>/forget/", photo.forget, name="photo-forget"),
    path("try/", recipe.try_out, name="try"),
    path("live/", recipe.RecipeLive.as_view(), name="live"),
    path("keep/", recipe.keep, name="keep"),
    path("<int:pk>/", recipe.recipe, name="recipe"),
    path("ladder/", sets.ladder, name="ladder"),
    path("coats/", paint.coats, name="coats"),
    path("coats/live/", paint.CoatsLive.as_view(), name="coats-live"),
    path("water/", paint.gel, name="gel"),
    path("water/live/", paint.GelLive.as_view(), name="gel-live"),
    path("<int:pk>/shades/", sets.shades, name="shades"),
    path("<int:pk>/shades/live/", sets.ShadesLive.as_view(), name="shades-live"),
    path("<int:pk>/remove/", book.remove, name="remove"),
]
