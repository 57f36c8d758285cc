"""Jobs, the pieces in them, and the layers on a piece."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Self

from django.apps import apps
from django.db import models
from django.utils import timezone
from django.utils.functional import cached_property

from studio.colours.models import Colour
from studio.common import clock
from studio.common.models import KitchenOwned, KitchenQuerySet, Versioned, within
from studio.cupboard.models import Extra, Ingredient
from studio.cupboard.tones import WHITES, Tone

LEAST_SHARE = 1e-6
MOST_OF_A_PIECE = 100_000  # with all that is counted from a family


class JobQuerySet(KitchenQuerySet):
    """Jobs of a kitchen."""

    def with_colours(self) -> Self:
        """With pieces, layers and their colours, but not the bowls."""
        return self.prefetch_related("pieces__layers__colour")

    def whole(self, kitchen: Any, pk: Any) -> Job:
        """One job with pieces, layers, their colours, extras and bowls; 404 for another's."""
        job: Job = self.get_for(kitchen, pk=pk)
        complete([job], kitchen)
        return job

    def wholes(self, kitchen: Any, most: int) -> list[Job]:
        """The first of these jobs, each as `whole` has it."""
        jobs: list[Any] = list(self.for_kitchen(kitchen)[:most])
        complete(jobs, kitchen)
        return jobs

    def ahead(self) -> Self:
        """Those that are not over."""
        return self.exclude(due_on__lt=timezone.localdate(clock.now()))

    def without_a_bowl(self) -> Self:
        """Those with a layer that no bowl was begun for, or perhaps not all that it takes."""
        mine = Layer.objects.filter(piece__job=models.OuterRef("pk"))
        return self.filter(
            models.Exists(mine.filter(uses=None)) | models.Exists(mine.filter(parameters__has_key="others"))
        )

    def next_first(self) -> Self:
        """What comes next first, then what has no date, then what is over, the last one first."""
        today = timezone.localdate(clock.now())
        when = models.Case(
            models.When(due_on__gte=today, then=0),
            models.When(due_on=None, then=1),
            default=2,
            output_field=models.SmallIntegerField(),
        )
        ahead = models.Case(models.When(due_on__gte=today, then=models.F("due_on")))
        return self.order_by(when, ahead, "-due_on", "-pk")


def complete(jobs: list[Job], kitchen: Any) -> None:
    """Put pieces, their stacks and what these point to in place, each kind fetched once: for 200 pieces that takes a
    third of the time of prefetching it."""
    if not jobs:
        return
    models.prefetch_related_objects(jobs, "families", "pieces")
    stacks: dict[int, list[Layer]] = {}
    for layer in Layer.objects.filter(piece__job__in=jobs):
        stacks.setdefault(layer.piece_id, []).append(layer)
    uses: dict[int, list[Any]] = {}
    poured = apps.get_model("bowls", "BowlUse")._default_manager.select_related("bowl").order_by("pk")
    for use in poured.filter(layer__piece__job__in=jobs):
        uses.setdefault(use.layer_id, []).append(use)
    colours = {c.pk: c for c in Colour.objects.for_kitchen(kitchen)}
    bags = _bags_of(stacks, kitchen)
    extras = {e.pk: e for e in Extra.objects.for_kitchen(kitchen)}
    designs = apps.get_model("designs", "Design")._default_manager.filter(layer__piece__job__in=jobs)
    drawn = {d.layer_id: d for d in designs.only("name", "stale", "layer_id", "one")}
    for job in jobs:
        families = {f.pk: f for f in job.families.all()}
        pieces = {p.pk: p for p in job.pieces.all()}
        for piece in job.pieces.all():
            piece.family = families.get(piece.family_id or 0)
            piece.stack = stacks.get(piece.pk, [])
            for layer in piece.stack:
                layer.piece = piece
                layer.colour, layer.extra = colours.get(layer.colour_id or 0), extras.get(layer.extra_id or 0)
                layer.base = bags.get(layer.base_id or 0)
                layer.part = pieces.get(layer.part_id or 0)
                layer.also = [extras[pk] for pk in layer.parameters.get("also", []) if pk in extras]
                layer.poured, layer.design = uses.get(layer.pk, []), drawn.get(layer.pk)
                layer.others = _others(layer.parameters, colours, bags)


def _bags_of(stacks: Mapping[int, list[Layer]], kitchen: Any) -> dict[int, Ingredient]:
    """The bags that layers are of as bought, and the further colours of their designs."""
    wanted = {la.base_id for stack in stacks.values() for la in stack if la.base_id}
    wanted |= {
        o["base"] for stack in stacks.values() for la in stack for o in la.parameters.get("others", []) if o.get("base")
    }
    if not wanted:
        return {}
    rows = Ingredient.objects.for_kitchen(kitchen).filter(pk__in=wanted).with_parameters()
    return {row.pk: row for row in rows}


class Job(KitchenOwned, Versioned):
    """An occasion: what is made, and for when. `made_on` is when fillings and fruit go in; `little_ones`: small
    children eat it. `boxes` is versioned JSON: {"v": 1, "by": {piece: {"box", "layers", "shred_mm", ...}}, "mixed":
    [{"of": {piece: how many in one}, "box", "shred_mm", ...}]}. `taught` is what it goes by since it was begun, empty
    before: {"v": 1, "of": {name: [factor, low, high]}, "left": what was offered and left}.
    """

    name = models.CharField(max_length=80)
    due_on = models.DateField(null=True, blank=True)
    note = models.CharField(max_length=400, blank=True)
    made_on = models.DateField(null=True, blank=True)
    little_ones = models.BooleanField(default=False)
    boxes = models.JSONField(default=dict, blank=True)
    taught = models.JSONField(default=dict, blank=True)
    created_at = models.DateTimeField(auto_now_add=True)

    objects = JobQuerySet.as_manager()

    def __str__(self) -> str:
        return self.name


class Family(KitchenOwned, Versioned):
    """Pieces that are counted together: variants of one thing, or parts of a motif, so many of each in one."""

    KINDS = [("variants", "variants"), ("motif", "a motif")]
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="families")
    name = models.CharField(max_length=80)
    kind = models.CharField(max_length=10, choices=KINDS)
    count = models.PositiveIntegerField()

    objects = KitchenQuerySet.as_manager()

    class Meta:
        verbose_name_plural = "families"
        ordering = ["pk"]
        constraints = [models.CheckConstraint(condition=models.Q(count__gte=1), name="family_counts_at_least_one")]

    def __str__(self) -> str:
        return self.name


class Piece(KitchenOwned, Versioned):
    """A core and how many. `size` is versioned JSON: {"v": 2, "mm": [...]}, as many as its shape has sides.

    `count` are those that go on nothing else; those that go on other pieces are counted from these, so that it can be
    0. `spares` are those that were said, None: as many as usually break. In a family `share` is how many of it are in
    one motif, or its part of all the variants. `contains` are the allergens on the pack of what is bought; None where
    nobody has looked.
    """

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="pieces")
    name = models.CharField(max_length=80)
    core = models.CharField(max_length=20, default="round_biscuit")
    size = models.JSONField(default=dict)
    count = models.PositiveIntegerField()
    spares = models.PositiveIntegerField(null=True, blank=True, default=None)
    family = models.ForeignKey(Family, on_delete=models.SET_NULL, null=True, blank=True, related_name="pieces")
    share = models.PositiveIntegerField(default=1)
    contains = models.JSONField(null=True, blank=True, default=None)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["pk"]
        constraints = [
            within("count", 0, MOST_OF_A_PIECE, name="piece_count_within"),
            within("spares", 0, MOST_OF_A_PIECE, name="piece_spares_within"),
            within("share", 0, MOST_OF_A_PIECE, name="piece_share_within"),
        ]

    def __str__(self) -> str:
        return self.name

    @cached_property
    def stack(self) -> list[Layer]:
        """Its layers from below; put in place for a whole job."""
        return list(self.layers.all())


@dataclass(frozen=True)
class FurtherColour:
    """A further colour that the design of a layer brings: its share of the grams that go on, and how much its bowl has
    to hold at the last."""

    tone: Tone
    share: float
    depth_g: float = 0.0


@dataclass(frozen=True)
class Pour:
    """A layer as far as it comes from one bowl. `only`: nothing else goes on; `second`: its design brings it."""

    layer: Layer
    tone: Tone
    only: bool = False
    second: bool = False


def _others(
    parameters: Mapping[str, Any], colours: Mapping[int, Colour], bags: Mapping[int, Ingredient]
) -> list[FurtherColour]:
    """What is kept of them with a layer; a colour or a bag that is no more is left to the layer's own."""
    others = []
    for other in parameters.get("others", []):
        colour, base = other["colour"], other.get("base")
        if (colour is None or colour in colours) and (base is None or base in bags):
            tone = Tone(colours.get(colour or 0), bags.get(base or 0))
            others.append(FurtherColour(tone, other["share"], other["depth_g"]))
    return others


class Layer(KitchenOwned):
    """One layer on a piece. `parameters` is versioned JSON: {"v": 2, "share", "thickness_mm", "placed", ...} as
    the technique asks; "others": [{"colour", "base", "share", "depth_g"}] are further colours that its design puts on;
    "drawn": {"ml", "seconds", "window", "moulds", "holes", "deep", "poured_ml", "pieces"} what it drew of one piece.

    `base` is the bag that it is of as bought, in place of a colour. `part` is the piece that is put on, of the same
    job, where the technique is "part". `extra` is what it is of, where it is no coating.
    `apart` is a number above 0 where it has a bowl to itself. `back` is how many picks came out.
    """

    piece = models.ForeignKey(Piece, on_delete=models.CASCADE, related_name="layers")
    order = models.PositiveSmallIntegerField(default=1)
    technique = models.CharField(max_length=20, default="dip")
    white = models.CharField(max_length=12, choices=WHITES, default="coating")
    colour = models.ForeignKey(Colour, on_delete=models.PROTECT, null=True, blank=True, related_name="layers")
    base = models.ForeignKey(Ingredient, on_delete=models.RESTRICT, null=True, blank=True, related_name="layers")
    parameters = models.JSONField(default=dict)
    extra = models.ForeignKey(Extra, on_delete=models.PROTECT, null=True, blank=True, related_name="layers")
    part = models.ForeignKey(Piece, on_delete=models.CASCADE, null=True, blank=True, related_name="put_on")
    apart = models.PositiveSmallIntegerField(default=0)
    back = models.PositiveIntegerField(null=True, blank=True)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["order", "pk"]
        constraints = [
            models.UniqueConstraint(fields=["piece", "order"], name="one_layer_a_place"),
            models.CheckConstraint(
                condition=models.Q(colour=None) | models.Q(base=None), name="layer_of_a_colour_or_a_bag"
            ),
            models.CheckConstraint(
                condition=models.Q(technique="part") | models.Q(part=None), name="only_a_part_names_a_piece"
            ),
            within("back", 0, MOST_OF_A_PIECE, name="layer_back_within"),
        ]

    def __str__(self) -> str:
        return f"{self.technique} of {self.piece}"

    @cached_property
    def design(self) -> Any:
        """What it was designed as in the studio, if it was; put in place for a whole job."""
        return self.designs.first()

    @cached_property
    def also(self) -> list[Extra]:
        """What its design puts on besides; put in place for a whole job."""
        return list(Extra.objects.for_kitchen(self.kitchen_id).filter(pk__in=self.parameters.get("also", [])))

    @cached_property
    def others(self) -> list[FurtherColour]:
        """The further colours its design puts on; put in place for a whole job."""
        wanted = [o["colour"] for o in self.parameters.get("others", []) if o["colour"]]
        colours = Colour.objects.for_kitchen(self.kitchen_id).in_bulk(wanted) if wanted else {}
        return _others(self.parameters, colours, _bags_of({0: [self]}, self.kitchen_id))

    @property
    def tone(self) -> Tone:
        """What it is of."""
        return Tone(self.colour, self.base)

    @property
    def in_colours(self) -> list[Pour]:
        """What it is poured from, once for each colour that goes on."""
        own_share = 1.0 - sum(other.share for other in self.others)
        own = [Pour(self, self.tone, only=not self.others)] if own_share > LEAST_SHARE else []
        return [*own, *(Pour(self, other.tone, second=True) for other in self.others)]

    @property
    def colour_names(self) -> str:
        """Its colours, as a sentence has them."""
        names = [part.tone.name for part in self.in_colours]
        *first, last = [name[:1].lower() + name[1:] for name in names]
        return f"{', '.join(first)} and {last}" if first else last

    @cached_property
    def poured(self) -> list[Any]:
        """Its uses of bowls, with the bowls; put in place for a whole job."""
        return list(self.uses.select_related("bowl").order_by("pk"))


class Template(KitchenOwned):
    """A piece kept to begin with again. `piece` is versioned JSON as `studio.pieces.carry` writes a piece."""

    name = models.CharField(max_length=80)
    piece = models.JSONField(default=dict)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["name", "pk"]

    def __str__(self) -> str:
        return self.name
