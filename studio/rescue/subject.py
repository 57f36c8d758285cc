"""What is at hand when something is wrong: a bowl, a step of a day, a layer, or nothing that was named."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from urllib.parse import urlencode

from django.http import Http404
from django.urls import reverse

from coating.care.diagnosis.symptoms import BOWL_SYMPTOMS
from coating.errors import CoatingError
from coating.techniques import TECHNIQUES
from studio.accounts.models import Kitchen
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl, Timer
from studio.common.forms import asked_and_reckoned
from studio.common.requests import KitchenRequest
from studio.common.templatetags.kitchen import mass
from studio.common.words import lower
from studio.day.adapters import Planned, day_of
from studio.day.forms import DayForm
from studio.day.models import DayPlan, asked_of, part_of
from studio.designs.models import Design
from studio.pieces.adapters import colour_needs
from studio.pieces.models import Job, Layer, Piece

NAMES = ("bowl", "job", "step", "piece", "layer", "design", "timer")


@dataclass
class Subject:
    """What something is wrong with. `query` : how its pages name it again."""

    kitchen: Kitchen
    desk: Desk | None = None
    job: Job | None = None
    step: str = ""
    layer: Layer | None = None
    piece: Piece | None = None
    timer: Timer | None = None
    query: dict[str, str] = field(default_factory=dict)

    @property
    def bowl(self) -> Bowl | None:
        """The bowl, if there is one."""
        return self.desk.bowl if self.desk else None

    @property
    def bowl_key(self) -> str:
        """How its job calls what the bowl is one of; "" for a bowl of no job."""
        return self.desk.reckoned.key if self.desk and self.desk.reckoned else ""

    @cached_property
    def plan(self) -> DayPlan | None:
        """The planned day of its job; None where none was found yet."""
        row = DayPlan.objects.for_kitchen(self.kitchen).filter(job=self.job).first() if self.job else None
        return row if row is not None and row.found else None

    @cached_property
    def reckoned_day(self) -> tuple[DayForm, Planned] | None:
        """What was asked of that day, and its steps in words; None where it cannot be reckoned any more."""
        if self.job is None or self.plan is None:
            return None
        _, form = asked_and_reckoned(DayForm, asked_of(self.plan))
        try:
            planned = day_of(self.job, self.kitchen, form.asked(self.kitchen))
        except CoatingError:
            return None
        return (form, planned) if planned is not None else None

    @cached_property
    def techniques(self) -> list[str]:
        """What is being made: of the step, the layer or the piece, else of all that the bowl or the job is for."""
        if self.layer is not None:
            return [self.layer.technique]
        pieces = [self.piece] if self.piece else self.job.pieces.all() if self.job and not self.desk else []
        layers = self.desk.layers if self.desk else [layer for piece in pieces for layer in piece.stack]
        return list(dict.fromkeys(layer.technique for layer in layers))

    @property
    def likely(self) -> list[str]:
        """The symptoms that can be for what is at hand, those of what is made first; all where nothing was named."""
        own = [s for name in self.techniques if name in TECHNIQUES for s in TECHNIQUES[name].faults]
        bowl = list(BOWL_SYMPTOMS) if self.desk or not own else []
        return list(dict.fromkeys((*own, *bowl) if self.step or self.layer else (*bowl, *own)))

    def fits(self, symptom: str) -> bool:
        """Whether that can be for what is at hand."""
        return not (self.desk or self.techniques) or symptom in self.likely

    @property
    def called(self) -> str:
        """What it is, for the head of the page; "" for nothing that was named."""
        if self.layer is not None and (self.step or self.desk is None):
            return f"{TECHNIQUES[self.layer.technique].title}, {lower(self.layer.piece.name)}"
        if self.desk is not None:
            now = self.desk.now
            return self.desk.bowl.name if now.empty else f"{self.desk.bowl.name}, {mass(now.mass_g)}"
        if self.piece is not None:
            return self.piece.name
        return self.job.name if self.job else ""

    @property
    def back(self) -> str:
        """Where its maker came from."""
        if self.job is not None and self.step:
            return reverse("day:bench", args=[self.job.pk])
        if self.desk is not None:
            return reverse("bowls:bowl", args=[self.desk.bowl.pk])
        if self.piece is not None:
            return reverse("pieces:build", args=[self.piece.pk])
        if self.job is not None:
            return reverse("pieces:job", args=[self.job.pk])
        return reverse("bowls:list")

    def to(self, name: str, *args: str, **more: str) -> str:
        """A page of Rescue about the same thing."""
        query = urlencode({**self.query, **more})
        return reverse(f"rescue:{name}", args=args) + (f"?{query}" if query else "")


def subject_of(request: KitchenRequest, asked_of: Mapping[str, str]) -> Subject:
    """What a page is about, by what its address names. Raises Http404 for what is not this maker's."""
    kitchen = request.kitchen
    query = {name: asked_of[name][:80] for name in NAMES if asked_of.get(name)}
    numbers = {name: _number(text) for name, text in query.items() if name != "step"}
    subject = Subject(kitchen, step=query.get("step", ""), query=query)
    if "timer" in numbers:
        subject.timer = Timer.objects.select_related("bowl").get_for(kitchen, pk=numbers["timer"])
        numbers.setdefault("bowl", subject.timer.bowl_id)
    if "design" in numbers:
        design = Design.objects.get_for(kitchen, pk=numbers["design"])
        if design.layer_id:
            numbers.setdefault("layer", design.layer_id)
    if "job" in numbers:
        subject.job = Job.objects.whole(kitchen, numbers["job"])
        _of_a_step(subject)
    if "piece" in numbers:
        named = Piece.objects.get_for(kitchen, pk=numbers["piece"])
        subject.job = Job.objects.whole(kitchen, named.job_id)
        subject.piece = next(piece for piece in subject.job.pieces.all() if piece.pk == named.pk)
    if "layer" in numbers and subject.layer is None:
        subject.layer = Layer.objects.select_related("piece__job").get_for(kitchen, pk=numbers["layer"])
    bowl_pk = numbers.get("bowl") or _bowl_of(subject)
    if bowl_pk:
        bowl = Bowl.objects.with_colour().with_layers().get_for(kitchen, pk=bowl_pk)
        subject.desk = Desk.of(bowl, kitchen)
        request.stock = subject.desk.stock
        subject.job = subject.job or bowl.job
    return subject


def _number(text: str) -> int:
    if not text.isdecimal() or len(text) > 12:
        raise Http404("no such thing")
    return int(text)


def _of_a_step(subject: Subject) -> None:
    """The layer that a step of the day is of, if it is of one."""
    assert subject.job is not None
    if not subject.step or subject.plan is None:
        subject.step = ""
        return
    layers = {str(layer.pk): layer for piece in subject.job.pieces.all() for layer in piece.stack}
    subject.layer = layers.get(part_of(subject.step))


def _bowl_of(subject: Subject) -> int | None:
    """The bowl in use that a step or a layer is from; one that the job has alone."""
    if subject.layer is not None:
        use = (
            Bowl.objects.for_kitchen(subject.kitchen).in_use().filter(uses__layer=subject.layer).order_by("-pk").first()
        )
        return use.pk if use else None
    if subject.job is None:
        return None
    needs = {need.key: need.bowl for need in colour_needs(subject.job, subject.kitchen)} if subject.step else {}
    named = next((bowl for key, bowl in needs.items() if bowl is not None and subject.step.endswith(f":{key}")), None)
    return named.pk if named is not None and named.finished_at is None else None
