"""The colours of a kitchen's swatch book, and the photos they are read from."""

from __future__ import annotations

from datetime import timedelta

from django.db import models

from coating.limits import BOUNDS
from studio.common import clock
from studio.common.models import KitchenOwned, KitchenQuerySet, Versioned, within

LIGHT, CHROMA = BOUNDS["lab_lightness"], BOUNDS["lab_chroma"]


class Colour(KitchenOwned, Versioned):
    """A colour by its name in this kitchen's swatch book: CIELAB under D65, where it came from, how it was made last.

    `made` is versioned JSON, empty until then: {"v": 1, "on": ISO date, "white", "lab": [3], "de00", "base_g",
    "parts": [{"code", "name", "mass_g", "units", "counted"}]}.
    """

    CAME_FROM = [
        ("first", "there from the first"),
        ("shade", "chosen by its shade"),
        ("chart", "from the chart"),
        ("photo", "from a photo"),
        ("bowl", "from a bowl"),
        ("reading", "from a reading"),
        ("brought", "brought in"),
    ]
    name = models.CharField(max_length=60)
    lightness = models.FloatField()
    a = models.FloatField()
    b = models.FloatField()
    came_from = models.CharField(max_length=8, choices=CAME_FROM, default="shade")
    note = models.CharField(max_length=200, blank=True)
    made = models.JSONField(default=dict, blank=True)
    since = models.DateTimeField(auto_now_add=True, null=True)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["kitchen", "name"], name="one_colour_name_a_kitchen"),
            within("lightness", LIGHT.low, LIGHT.high, name="colour_lightness_within"),
            within("a", CHROMA.low, CHROMA.high, name="colour_a_within"),
            within("b", CHROMA.low, CHROMA.high, name="colour_b_within"),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def lab(self) -> tuple[float, float, float]:
        """CIE L*a*b* under D65."""
        return self.lightness, self.a, self.b


class Photo(KitchenOwned):
    """A picture, made small, turned upright, without anything but its pixels: gone after an hour unless the maker keeps
    it with the colour."""

    KEPT = timedelta(hours=1)
    MOST_A_KITCHEN = 12  # that nobody keeps

    colour = models.OneToOneField(Colour, on_delete=models.CASCADE, null=True, blank=True, related_name="photo")
    pixels = models.BinaryField()  # JPEG
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    remarks = models.CharField(max_length=300, blank=True)
    taken_at = models.DateTimeField(auto_now_add=True, db_index=True)

    objects = KitchenQuerySet.as_manager()

    def __str__(self) -> str:
        return f"{self.width} x {self.height}"

    @classmethod
    def forget_old(cls) -> int:
        """Delete what nobody keeps after an hour. Returns how many."""
        return cls.objects.filter(colour=None, taken_at__lt=clock.now() - cls.KEPT).delete()[0]
