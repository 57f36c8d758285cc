from django.apps import AppConfig


class NotebookConfig(AppConfig):
    """The app of how it went."""

    name = "studio.notebook"

    def ready(self) -> None:
        from django.db.models.signals import post_delete

        from studio.notebook.archive.tasks import archive_gone
        from studio.notebook.models import Carrying, KeptPhoto
        from studio.notebook.packs import packs_of_job
        from studio.notebook.photos import photo_gone
        from studio.pieces import asks

        post_delete.connect(photo_gone, sender=KeptPhoto, dispatch_uid="photo_gone")
        post_delete.connect(archive_gone, sender=Carrying, dispatch_uid="archive_gone")
        asks.packs_in.fill(packs_of_job)
