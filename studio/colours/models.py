"""Photos that a colour is read from. They are gone after an hour unless the maker keeps them with the colour."""

from __future__ import annotations

from datetime import timedelta

from django.db import models

from studio.common import clock
from studio.common.models import KitchenOwned, KitchenQuerySet
from studio.pieces.models import Colour


class Photo(KitchenOwned):
    """A picture, made small, turned upright, without anything but its pixels."""

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
