"""Bowls. A bowl is its events, which are only ever appended."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any, Self

from django.db import models

from coating.simulate.bowl import KINDS as CORE_KINDS
from studio.colours.models import Colour
from studio.common import clock
from studio.common.models import KitchenOwned, KitchenQuerySet, within
from studio.cupboard.models import Ingredient
from studio.cupboard.tones import WHITES, Tone
from studio.pieces.models import Job, Layer


class BowlQuerySet(KitchenQuerySet):
    """Bowls of a kitchen."""

    def in_use(self) -> Self:
        """Those that are not finished."""
        return self.filter(finished_at=None)

    def with_colour(self) -> Self:
        """With the wanted colour and the job, oldest first."""
        return self.select_related("colour", "base", "job").order_by("pk")

    def newest(self, most: int) -> list[Bowl]:
        """The last ones that were begun, oldest first, with their colours."""
        bowls: list[Bowl] = list(self.with_colour().order_by("-pk")[:most])  # type: ignore[arg-type]
        return bowls[::-1]

    @staticmethod
    def events_in_order() -> models.Prefetch[Any]:
        """A prefetch of what was done, as it was done."""
        return models.Prefetch("events", queryset=BowlEvent.objects.order_by("happened_at", "seq"))

    def holding(self, ingredient_id: int) -> Self:
        """Bowls into which an ingredient was put and not struck out."""
        added = {"kind__in": ("added", "received"), "struck_by": None, "payload__ingredient": ingredient_id}
        return self.filter(models.Exists(BowlEvent.objects.filter(bowl=models.OuterRef("pk"), **added)))

    def with_layers(self) -> Self:
        """With the layers it is for and their pieces."""
        uses = BowlUse.objects.select_related("layer__piece").order_by("pk")
        return self.prefetch_related(models.Prefetch("uses", queryset=uses))


class Bowl(KitchenOwned):
    """A bowl of one colour of one white, or of a bag (`base`) as it was bought.

    `colours` is versioned JSON, empty for any way: {"v": 1, "way", "locked", "forbidden", "mixed_fats", "colourants",
    "melt_g"}, with "anew_g", g to melt, in place of one that was lost. `taught` is how many times what is assumed its
    kitchen's colours, bags and bowls were known to be when it was begun, by name ("strength.blue"): the bowl keeps to
    it.
    """

    name = models.CharField(max_length=80)
    white = models.CharField(max_length=12, choices=WHITES)
    colour = models.ForeignKey(Colour, on_delete=models.PROTECT, null=True, blank=True, related_name="bowls")
    base = models.ForeignKey(Ingredient, on_delete=models.RESTRICT, null=True, blank=True, related_name="bowls")
    job = models.ForeignKey(Job, on_delete=models.SET_NULL, null=True, blank=True, related_name="bowls")
    technique = models.CharField(max_length=20, default="dip")
    colours = models.JSONField(default=dict, blank=True)
    taught = models.JSONField(default=dict, blank=True)
    last_seq = models.PositiveIntegerField(default=0)
    started_at = models.DateTimeField()
    finished_at = models.DateTimeField(null=True, blank=True)

    objects = BowlQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["kitchen", "finished_at"])]

    def __str__(self) -> str:
        return self.name

    @property
    def tone(self) -> Tone:
        """What it is of."""
        return Tone(self.colour, self.base)

    def is_of(self, tone: Tone) -> bool:
        """Whether it is of that, by its numbers alone."""
        wanted = tone.colour.pk if tone.colour else None, tone.base.pk if tone.base else None
        return (self.colour_id, self.base_id) == wanted


class BowlUse(KitchenOwned):
    """A layer takes its coating from a bowl: grams that go on."""

    bowl = models.ForeignKey(Bowl, on_delete=models.CASCADE, related_name="uses")
    layer = models.ForeignKey(Layer, on_delete=models.CASCADE, related_name="uses")
    grams = models.FloatField()

    objects = KitchenQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["bowl", "layer"], name="a_layer_once_a_bowl"),
            models.CheckConstraint(condition=models.Q(grams__gte=0), name="a_bowl_gives_no_less_than_nothing"),
        ]

    def __str__(self) -> str:
        return f"{self.grams:.0f} g"


class BowlEvent(KitchenOwned):
    """One thing that was done. `payload` keeps what was typed and pins the parameters it was worked out with."""

    KINDS = [(k, k) for k in (*CORE_KINDS, "remeasured")]
    bowl = models.ForeignKey(Bowl, on_delete=models.CASCADE, related_name="events")
    seq = models.PositiveIntegerField()
    key = models.UUIDField(unique=True)
    kind = models.CharField(max_length=12, choices=KINDS)
    payload = models.JSONField(default=dict)
    happened_at = models.DateTimeField()
    recorded_at = models.DateTimeField(auto_now_add=True)
    struck_by = models.ForeignKey("self", on_delete=models.PROTECT, null=True, blank=True, related_name="strikes")

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["happened_at", "seq"]
        constraints = [models.UniqueConstraint(fields=["bowl", "seq"], name="one_event_a_place")]

    def __str__(self) -> str:
        return f"{self.seq} {self.kind}"


LONGEST_S = 6 * 3600  # of a timer


class TimerQuerySet(KitchenQuerySet):
    """Timers of a kitchen."""

    def running(self) -> Self:
        """Those not stopped, and not rung for longer than anybody waits; the next one first."""
        lately = clock.now() - Timer.RINGS_FOR
        return self.filter(stopped_at=None, rings_at__gt=lately).select_related("bowl").order_by("rings_at", "pk")


class Timer(KitchenOwned):
    """A wait. It runs on this record, so that a reload, a restart or a lost connection does not move it.

    `about` is what is waited for, where that is a coat that sets: what the wait was reckoned from but for what was
    learned. `set_at` is when its maker saw that it was set. `key` is that of the send that started it with other
    things.
    """

    RINGS_FOR = timedelta(hours=1)

    bowl = models.ForeignKey(Bowl, on_delete=models.CASCADE, related_name="timers")
    says = models.CharField(max_length=80)
    seconds = models.FloatField()
    rings_at = models.DateTimeField()
    stopped_at = models.DateTimeField(null=True, blank=True)
    about = models.JSONField(default=dict, blank=True)
    set_at = models.DateTimeField(null=True, blank=True)
    key = models.UUIDField(null=True, blank=True)

    objects = TimerQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["kitchen", "stopped_at", "rings_at"])]
        constraints = [within("seconds", 0, LONGEST_S, name="timer_seconds_within")]

    def __str__(self) -> str:
        return self.says

    @property
    def begun_at(self) -> datetime:
        """When it was started."""
        return self.rings_at - timedelta(seconds=self.seconds)

    @property
    def left_s(self) -> float:
        """Seconds until it rings, below nothing once it has."""
        return (self.rings_at - clock.now()).total_seconds()
