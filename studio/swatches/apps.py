from django.apps import AppConfig


class SwatchesConfig(AppConfig):
    """The pages about colours: the book, recipes, photos, sets; the rows are those of `studio.colours`."""

    name = "studio.swatches"
