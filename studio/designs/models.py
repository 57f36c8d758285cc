"""Designs of what comes out of a bag, with their drawn numbers, and shapes that a maker brought."""

from __future__ import annotations

from functools import cached_property

from django.db import models

from coating.figures.sheet import PaperSheet, sheet_from
from studio.colours.models import Colour
from studio.common.models import KitchenOwned, KitchenQuerySet, Versioned
from studio.cupboard.models import Ingredient
from studio.cupboard.tones import PLAIN, WHITES, Tone, tones_in
from studio.pieces.models import Layer
from studio.pieces.pictures import DesignPicture, PictureStroke, as_designed


class Design(KitchenOwned, Versioned):
    """Something designed at its real size. `asked` is versioned JSON: {"v": 1, ...} as its form has it, in mm and s;
    `drawn` the numbers that were drawn: {"v": 1, "sheets": [...], "goes_on_g", "seconds", "length_mm", "line_mm",
    "window", "hole_mm"}. `one` is how one of it looks, as pictures of pieces show it: {"v": 1, "wide_mm", "high_mm",
    "marks", "alone"}, empty where it looks as its layer does. `stale` says
    why it could not be drawn anew when what it is for was changed.
    """

    KINDS = [
        ("lace", "Lace"),
        ("drips", "Drips"),
        ("lettering", "Lettering"),
        ("run_out", "Shape to lift off"),
        ("face", "Lines over pieces"),
        ("marbling", "Marbling"),
        ("swirl", "Marbled dip"),
        ("bottle", "Layered bottle"),
        ("transfer", "Transfer sheet"),
        ("sleeve", "Sleeve or cuff"),
        ("curls", "Curls"),
        ("bow", "Bow"),
        ("mould", "Mould"),
        ("dip", "Dip"),
        ("paint", "Painted details"),
        ("house", "Box or house"),
        ("petals", "Knife petals"),
        ("leaves", "Painted leaves"),
        ("cast", "Textured cast"),
    ]
    name = models.CharField(max_length=80)
    kind = models.CharField(max_length=10, choices=KINDS)
    layer = models.ForeignKey(Layer, on_delete=models.SET_NULL, null=True, blank=True, related_name="designs")
    colour = models.ForeignKey(Colour, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    base = models.ForeignKey(Ingredient, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    white = models.CharField(max_length=12, choices=WHITES, default="coating")
    asked = models.JSONField(default=dict)
    drawn = models.JSONField(default=dict)
    one = models.JSONField(default=dict, blank=True)
    stale = models.CharField(max_length=300, blank=True)
    since = models.DateTimeField(auto_now_add=True)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["-pk"]
        constraints = [models.UniqueConstraint(fields=["layer"], name="one_design_a_layer")]

    def __str__(self) -> str:
        return self.name

    @property
    def tone(self) -> Tone:
        """What it is of, where it is for no layer."""
        return Tone(self.colour, self.base)

    @property
    def tones(self) -> dict[str, Tone]:
        """What else it was asked with, by the names of the fields; plain where that is no more."""
        from studio.designs.kinds import KINDS

        known = tones_in(self.kitchen)
        return {name: known.get(str(self.asked.get(name) or ""), PLAIN) for name in KINDS[self.kind].colours}

    @property
    def strokes(self) -> list[PictureStroke]:
        """How one of it looks."""
        return as_designed(DesignPicture.of(self.one), self.tone.lab) if self.one else []

    @property
    def box(self) -> str:
        """What an SVG shows of that."""
        return DesignPicture.of(self.one).box if self.one else "0 0 100 100"

    @cached_property
    def sheets(self) -> list[PaperSheet]:
        """Its templates."""
        return [sheet_from(sheet) for sheet in self.drawn["sheets"]]


class Shape(KitchenOwned, Versioned):
    """A shape that a maker brought. `areas` is versioned JSON: {"v": 1, "parts": [[ring, ...], ...], "lines": [...]},
    points in mm, flat. A traced picture keeps its grey dots, so that it can be traced again."""

    name = models.CharField(max_length=80)
    areas = models.JSONField(default=dict)
    left_out = models.JSONField(default=list, blank=True)
    picture = models.BinaryField(null=True, blank=True)
    traced = models.JSONField(default=dict, blank=True)
    since = models.DateTimeField(auto_now_add=True)

    MOST_A_KITCHEN = 60
    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return self.name
