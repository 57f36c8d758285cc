from django.urls import path

from studio.notebook import again, back, close, compare, find, mixing, notes, packs, photos, views
from studio.notebook.archive import views as archive

app_name = "notebook"
urlpatterns = [
    path("", views.notebook, name="all"),
    path("archive/", archive.archives, name="archives"),
    path("archive/progress/", archive.archives_progress, name="archives-progress"),
    path("archive/write/", archive.archive_write, name="archive-write"),
    path("archive/bring/", archive.archive_bring, name="archive-bring"),
    path("archive/<int:pk>.zip", archive.archive_file, name="archive-file"),
    path("find/", find.find, name="find"),
    path("compare/", compare.compare, name="compare"),
    path("back/", back.back, name="back"),
    path("back/<int:year>/<slug:season>/", back.season_page, name="season"),
    path("bowl/<int:pk>/again/", mixing.mix_again, name="mix-again"),
    path("note/", notes.note_add, name="note"),
    path("note/<int:pk>/", notes.note_change, name="note-change"),
    path("pack/<int:pk>/", packs.pack_add, name="pack"),
    path("photo/<uuid:uid>/", photos.photo_page, name="photo"),
    path("photo/<uuid:uid>/large.jpg", photos.photo_file, {"size": "large"}, name="large"),
    path("photo/<uuid:uid>/small.jpg", photos.photo_file, {"size": "small"}, name="small"),
    path("<int:pk>/", views.evening, name="evening"),
    path("<int:pk>/close/", close.close, name="close"),
    path("<int:pk>/again/", again.again, name="again"),
    path("<int:pk>/differs/", again.differs, name="differs"),
    path("<int:pk>/photos/", photos.photos_add, name="photos"),
]
