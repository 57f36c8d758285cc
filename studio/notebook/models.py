"""What a maker says of an evening afterwards: how it came out, a line of words, photos, packs. Rows are only added."""

from __future__ import annotations

import uuid
from datetime import timedelta
from pathlib import Path
from typing import Any, Self

from django.conf import settings
from django.db import models
from django.db.models.functions import Coalesce
from django.utils.formats import date_format

from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.common import clock
from studio.common.models import KitchenOwned, KitchenQuerySet, within
from studio.cupboard.models import Ingredient
from studio.designs.models import Design
from studio.pieces.models import MOST_OF_A_PIECE, Job, Piece

MOST_WORDS = 1000


class Outcome(KitchenOwned):
    """How a piece of a job came out, as its maker said at one moment: the newest of a piece counts. Without a piece the
    job was closed, and nothing more was said of it.

    `good`: how many of them; `coat`, `bowl`, `liked`: one tap each, "" where it was left out.
    """

    COAT = [("thin", "too thin"), ("right", "right"), ("thick", "too thick")]
    BOWL = [("short", "too little"), ("enough", "enough"), ("left", "some left over")]
    LIKED = [("yes", "liked it"), ("so_so", "so-so"), ("no", "no")]
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="outcomes")
    piece = models.ForeignKey(Piece, on_delete=models.CASCADE, null=True, blank=True, related_name="outcomes")
    key = models.UUIDField(unique=True)
    good = models.PositiveIntegerField(null=True, blank=True)
    coat = models.CharField(max_length=5, choices=COAT, blank=True)
    bowl = models.CharField(max_length=6, choices=BOWL, blank=True)
    liked = models.CharField(max_length=5, choices=LIKED, blank=True)
    at = models.DateTimeField()

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["at", "pk"]
        constraints = [within("good", 0, MOST_OF_A_PIECE, name="outcome_good_within")]

    def __str__(self) -> str:
        return f"{self.piece or self.job}: {self.liked or self.coat or self.good}"

    @property
    def said(self) -> tuple[int | None, str, str, str]:
        """All that was said, to compare."""
        return self.good, self.coat, self.bowl, self.liked


class MadeAgain(KitchenOwned):
    """A job that was begun as another one was."""

    job = models.OneToOneField(Job, on_delete=models.CASCADE, related_name="made_again")
    of = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="again")

    objects = KitchenQuerySet.as_manager()

    def __str__(self) -> str:
        return f"{self.job} after {self.of}"


class NoteQuerySet(KitchenQuerySet):
    """Lines of words in a kitchen."""

    def standing(self) -> Self:
        """Those that were neither put otherwise nor taken away, as they came."""
        return self.filter(gone=False, put_otherwise=None).order_by("at", "pk")


class Note(KitchenOwned):
    """A line of words about one thing, with the job it was part of. Putting it otherwise adds a row that names the one
    before; `gone`: it was taken away.

    `step` is the step of a day that was at hand.
    """

    ABOUT = ("piece", "bowl", "design", "colour", "ingredient", "job")
    text = models.CharField(max_length=MOST_WORDS)
    key = models.UUIDField(unique=True)
    at = models.DateTimeField()
    before = models.OneToOneField("self", on_delete=models.CASCADE, null=True, blank=True, related_name="put_otherwise")
    gone = models.BooleanField(default=False)
    job = models.ForeignKey(Job, on_delete=models.CASCADE, null=True, blank=True, related_name="notes")
    piece = models.ForeignKey(Piece, on_delete=models.SET_NULL, null=True, blank=True, related_name="notes")
    bowl = models.ForeignKey(Bowl, on_delete=models.CASCADE, null=True, blank=True, related_name="notes")
    design = models.ForeignKey(Design, on_delete=models.SET_NULL, null=True, blank=True, related_name="notes")
    colour = models.ForeignKey(Colour, on_delete=models.CASCADE, null=True, blank=True, related_name="notes")
    ingredient = models.ForeignKey(Ingredient, on_delete=models.CASCADE, null=True, blank=True, related_name="notes")
    step = models.CharField(max_length=80, blank=True)
    says = models.CharField(max_length=200, blank=True)  # the step in words, as the bench had it

    objects = NoteQuerySet.as_manager()

    class Meta:
        ordering = ["at", "pk"]

    def __str__(self) -> str:
        return self.text[:60]

    @property
    def about(self) -> Any:
        """The thing it is about; None where that is no more."""
        return next((getattr(self, name) for name in self.ABOUT if getattr(self, f"{name}_id")), None)


class PhotoQuerySet(KitchenQuerySet):
    """Photos that are kept."""

    def newest_first(self) -> Self:
        """As they are looked at."""
        return self.order_by("-taken_at", "-pk")


class KeptPhoto(KitchenOwned):
    """A photo of a job, of a piece or a bowl in it, or of a pack. Its files lie in the media folder of its kitchen,
    upright, in two sizes, with nothing in them but their pixels.

    `drawn`: it is no photo, our own renderers drew it.
    """

    uid = models.UUIDField(unique=True, default=uuid.uuid4)
    job = models.ForeignKey(Job, on_delete=models.CASCADE, null=True, blank=True, related_name="photos")
    piece = models.ForeignKey(Piece, on_delete=models.SET_NULL, null=True, blank=True, related_name="photos")
    bowl = models.ForeignKey(Bowl, on_delete=models.CASCADE, null=True, blank=True, related_name="photos")
    ingredient = models.ForeignKey(Ingredient, on_delete=models.CASCADE, null=True, blank=True, related_name="photos")
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    words = models.CharField(max_length=200, blank=True)
    remarks = models.CharField(max_length=300, blank=True)
    drawn = models.BooleanField(default=False)
    taken_at = models.DateTimeField()

    SIZES = ("large", "small")
    MOST_A_KITCHEN = 5000
    objects = PhotoQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["kitchen", "taken_at"])]

    def __str__(self) -> str:
        return self.words or f"{self.width} x {self.height}"

    def path(self, size: str) -> Path:
        """Where one of its files lies."""
        return folder_of(self.kitchen_id) / f"{self.uid}-{size}.jpg"


def folder_of(kitchen_pk: int) -> Path:
    """Where the photos of a kitchen lie."""
    return Path(settings.MEDIA_ROOT) / str(kitchen_pk)


class OpenedPack(KitchenOwned):
    """What was read off a pack that was opened: its lot and until when it is best. What goes into a bowl from then on
    is of it, until the next one."""

    ingredient = models.ForeignKey(Ingredient, on_delete=models.CASCADE, related_name="opened")
    lot = models.CharField(max_length=40, blank=True)
    best_before: models.DateField[Any, Any] = models.DateField(null=True, blank=True)
    photo = models.ForeignKey(KeptPhoto, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    at = models.DateTimeField()

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["at", "pk"]

    def __str__(self) -> str:
        """What is known of it.

        >>> from datetime import date
        >>> str(OpenedPack(lot="L204", best_before=date(2027, 3, 31))), str(OpenedPack())
        ('lot L204, best before 31 March 2027', 'on its photo')
        """
        parts = [f"lot {self.lot}"] if self.lot else []
        parts += [f"best before {date_format(self.best_before, 'j F Y')}"] if self.best_before else []
        return ", ".join(parts) or "on its photo"


class BowlSummaryQuerySet(KitchenQuerySet):
    """What became of bowls."""

    def when(self) -> Self:
        """With the moment each was finished, or begun."""
        return self.annotate(made_at=Coalesce("bowl__finished_at", "bowl__started_at"))


class BowlSummary(KitchenOwned):
    """What a bowl came to, worked out from its events and kept until it has more of them: a cache, nothing else.

    `seq` is the last event it knows. `parts` is versioned JSON: {"v": 1, "look": {"word", "much"}, "rest", "of":
    [{"id", "mass_g"}]}: the last look at its colour, None where nobody looked, the code of what was left of it, and all
    that went in.
    """

    bowl = models.OneToOneField(Bowl, on_delete=models.CASCADE, related_name="summary")
    seq = models.PositiveIntegerField()
    lightness = models.FloatField(null=True)
    a = models.FloatField(null=True)
    b = models.FloatField(null=True)
    melted_g = models.FloatField()
    on_pieces_g = models.FloatField()
    given_g = models.FloatField()
    lost_g = models.FloatField()
    left_g = models.FloatField()
    parts = models.JSONField(default=dict)

    objects = BowlSummaryQuerySet.as_manager()

    def __str__(self) -> str:
        return f"{self.melted_g:.0f} g"

    @property
    def lab(self) -> tuple[float, float, float] | None:
        """CIELAB of what was in it; None of nothing."""
        if self.lightness is None or self.a is None or self.b is None:
            return None
        return self.lightness, self.a, self.b


class KitchenMark(models.Model):
    """What a kitchen is known by in archives, wherever they are opened."""

    kitchen = models.OneToOneField("accounts.Kitchen", on_delete=models.CASCADE, primary_key=True, related_name="+")
    uid = models.UUIDField(unique=True, default=uuid.uuid4)

    def __str__(self) -> str:
        return self.uid.hex

    @classmethod
    def of(cls, kitchen: Any) -> uuid.UUID:
        """The mark of a kitchen, made the first time."""
        mark, _ = cls.objects.get_or_create(kitchen=kitchen)
        return mark.uid


class CameFrom(KitchenOwned):
    """A row that came in an archive: where it was first, its number there, and its number here."""

    table = models.CharField(max_length=20)
    origin = models.UUIDField()
    number = models.BigIntegerField()
    here = models.BigIntegerField()

    objects = KitchenQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["kitchen", "table", "origin", "number"], name="a_row_comes_once")
        ]
        indexes = [models.Index(fields=["kitchen", "table", "here"])]

    def __str__(self) -> str:
        return f"{self.table} {self.number}"


class Carrying(KitchenOwned):
    """An archive that is written, or brought in. `done` of `total` are steps of whatever takes the time; `says` is what
    came of it."""

    OUT, IN = "out", "in"
    ASKED, AT_IT, DONE, FAILED = "asked", "at it", "done", "failed"
    KEPT, MOST = timedelta(days=7), 3
    way = models.CharField(max_length=3, choices=[(OUT, "written"), (IN, "brought in")])
    state = models.CharField(max_length=6, choices=[(s, s) for s in (ASKED, AT_IT, DONE, FAILED)], default=ASKED)
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    size = models.BigIntegerField(default=0)
    says = models.CharField(max_length=400, blank=True)
    task = models.UUIDField(null=True, blank=True)
    at = models.DateTimeField()

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["-at", "-pk"]

    def __str__(self) -> str:
        return f"{self.way} {self.state}"

    @classmethod
    def forget_old(cls) -> int:
        """Delete what is older than a week, with its files. Returns how many."""
        return cls.objects.filter(at__lt=clock.now() - cls.KEPT).delete()[0]

    @property
    def under_way(self) -> bool:
        """Whether it is not over."""
        return self.state in (self.ASKED, self.AT_IT)

    @property
    def percent(self) -> int:
        """How far it is."""
        return 100 if self.state == self.DONE else min(99, 100 * self.done // self.total) if self.total else 0

    @property
    def path(self) -> Path:
        """Where its file lies."""
        return Path(settings.RUNTIME) / "archives" / str(self.kitchen_id) / f"{self.pk}.zip"
