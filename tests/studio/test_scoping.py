"""Every address as nobody and as another maker; what anybody may see is listed here by name."""

from __future__ import annotations

import uuid
from collections.abc import Iterator

from django.test import Client, TestCase
from django.urls import URLPattern, URLResolver, get_resolver, reverse
from django.utils import timezone

from studio.bowls.actions import append
from studio.bowls.models import Timer
from studio.colours.models import Colour, Photo
from studio.cupboard.models import Extra, Ingredient
from studio.designs.models import Design, Shape
from studio.notebook.models import Carrying, KeptPhoto, MadeAgain
from studio.notebook.notes import keep_note
from studio.pieces.models import Template
from studio.rescue.models import Rescue
from tests.studio.kitchens import bowl_for, half_dip, maker
from tests.studio.test_pieces import DATA

OPEN = {
    "quick:card",
    "quick:live",
    "quick:keep",
    "accounts:sign-up",
    "accounts:login",
    "accounts:logout",
    "accounts:forgotten",
    "accounts:sent",
    "accounts:new-password",
    "demo:open",
    "demo:walk",
    "about",
    "healthz",
    "empty",
    "manifest",
    "day:worker",
    "rescue:faults",
    "rescue:sheet",
    "rescue:fault",
    "rescue:cause",
}
# Addresses that name no row show a maker's own rows only.
OWN = {
    "pieces:jobs",
    "pieces:job-new",
    "pieces:first",
    "pieces:first-of",
    "pieces:bring",
    "cupboard:extras",
    "cupboard:extra-new",
    "bowls:list",
    "cupboard:shelf",
    "cupboard:add",
    "cupboard:add-what",
    "cupboard:have",
    "accounts:kitchen",
    "accounts:live",
    "accounts:hands",
    "accounts:five-taps",
    "demo:reset",
    "send-again",
    "colours:book",
    "colours:sheet",
    "colours:bring-in",
    "colours:out",
    "colours:new",
    "colours:photo-send",
    "colours:try",
    "colours:live",
    "colours:keep",
    "colours:ladder",
    "colours:coats",
    "colours:coats-live",
    "colours:gel",
    "colours:gel-live",
    "designs:studio",
    "designs:new",
    "designs:live",
    "designs:check",
    "designs:bag",
    "designs:bag-live",
    "designs:bring",
    "designs:practice",
    "designs:marble",
    "designs:tile",
    "day:next",
    "learned:all",
    "rescue:see",
    "rescue:answer",
    "rescue:do",
    "notebook:all",
    "notebook:find",
    "notebook:compare",
    "notebook:back",
    "notebook:season",
    "notebook:note",
    "notebook:archives",
    "notebook:archives-progress",
    "notebook:archive-write",
    "notebook:archive-bring",
}


JOB_PAGES = (
    "bowls-chosen",
    "count",
    "scale",
    "together",
    "inside",
    "picks",
    "labels",
    "boxes",
    "box",
    "choices",
    "job-file",
)


def names(patterns: list[URLPattern | URLResolver], space: str = "") -> Iterator[tuple[str, list[str]]]:
    for pattern in patterns:
        if isinstance(pattern, URLResolver):
            yield from names(pattern.url_patterns, f"{pattern.app_name}:" if pattern.app_name else space)
        elif pattern.name:
            yield f"{space}{pattern.name}", list(pattern.pattern.converters)


class Scoping(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.owner = maker()
        _, self.other_kitchen, self.stranger = maker("stranger@example.org")
        self.piece = half_dip(self.kitchen)
        self.bowl = bowl_for(self.piece)
        self.timer = Timer.objects.create(
            kitchen=self.kitchen, bowl=self.bowl, says="a wait", seconds=60, rings_at=timezone.now()
        )
        self.row = Ingredient.objects.filter(kitchen=self.kitchen).first()
        self.read = append(self.bowl, [("read", {"lab": [70, 0, 0]})], expected_seq=0, key=uuid.uuid4())[0]
        self.template = Template.objects.create(kitchen=self.kitchen, name="Kept")
        self.extra = Extra.objects.filter(kitchen=self.kitchen).first()
        self.photo = Photo.objects.create(kitchen=self.kitchen, pixels=b"", width=1, height=1)
        self.design = Design.objects.create(kitchen=self.kitchen, name="Collar", kind="lace", drawn={"sheets": []})
        self.rescue = Rescue.objects.create(
            kitchen=self.kitchen, bowl=self.bowl, key=uuid.uuid4(), symptom="thick", cause="cold", move="warm",
            happened_at=timezone.now(),
        )  # fmt: skip
        self.kept = KeptPhoto.objects.create(
            kitchen=self.kitchen, job=self.piece.job, width=1, height=1, taken_at=timezone.now()
        )
        self.note = keep_note(self.kitchen, "A line", "job", self.piece.job_id)
        MadeAgain.objects.create(kitchen=self.kitchen, job=self.piece.job, of=self.piece.job)
        self.carrying = Carrying.objects.create(
            kitchen=self.kitchen, way=Carrying.OUT, state=Carrying.DONE, at=timezone.now()
        )
        self.shape = Shape.objects.create(kitchen=self.kitchen, name="Moon", areas={"v": 1, "parts": [], "lines": []})
        self.ids = {
            "pieces:job": self.piece.job_id,
            "pieces:job-edit": self.piece.job_id,
            "pieces:build-new": self.piece.job_id,
            "pieces:build": self.piece.pk,
            "pieces:shopping": self.piece.job_id,
            "pieces:shopping-file": self.piece.job_id,
            **{f"pieces:{name}": self.piece.job_id for name in JOB_PAGES},
            "pieces:alone": self.piece.pk,
            "pieces:template-forget": self.template.pk,
            **{f"cupboard:{name}": self.extra.pk for name in ("extra", "extra-remove")},
            "pieces:piece-remove": self.piece.pk,
            "bowls:timer-stop": self.timer.pk,
            "rescue:after": self.rescue.pk,
            "learned:anew": self.piece.job_id,
            **{f"notebook:{name}": self.piece.job_id for name in ("evening", "close", "again", "differs", "photos")},
            "notebook:note-change": self.note.pk,
            "notebook:pack": self.row.pk,
            "notebook:mix-again": self.bowl.pk,
            "notebook:archive-file": self.carrying.pk,
            "cupboard:edit": self.row.pk,
            "cupboard:measure": self.row.pk,
            "cupboard:take-out": self.row.pk,
            "cupboard:tick": self.row.pk,
            **{f"colours:{name}": self.bowl.colour_id for name in ("recipe", "remove", "shades", "shades-live")},
            "designs:for-layer": self.piece.layers.get().pk,
            **{f"designs:{name}": self.design.pk for name in ("design", "remove", "template", "svg")},
            **{f"designs:{name}": self.shape.pk for name in ("shape", "shape-live", "shape-forget")},
            **{f"colours:{name}": self.photo.pk for name in ("photo", "photo-live", "picture", "photo-forget")},
        }

    def addresses(self) -> Iterator[tuple[str, str]]:
        for name, arguments in names(get_resolver().url_patterns):
            if name in OPEN:
                continue
            values = {
                "pk": self.ids.get(name, self.bowl.pk),
                "job_pk": self.piece.job_id,
                "seq": 1,
                "suffix": "csv",
                "kind": "lace",
                "symptom": "thick",
                "name": "bow",
                "what": "palm-dark",
                "code": "milk",
                "key": str(self.read.pk),
                "uid": self.kept.uid,
                "year": 2026,
                "season": "spring",
            }
            yield name, reverse(name, kwargs={a: values[a] for a in arguments})

    def test_nobody_sees_nothing(self) -> None:
        seen = 0
        for name, address in self.addresses():
            for response in (Client().get(address), Client().post(address, {})):
                self.assertIn(response.status_code, (302, 401, 405), name)
                if response.status_code == 302:
                    self.assertIn("/log-in/", response.url, name)
            seen += 1
        self.assertGreater(seen, 15)

    def test_another_maker_gets_nothing_there(self) -> None:
        before = self.snapshot()
        for name, address in self.addresses():
            if name in OWN:
                continue
            for method in (self.stranger.get, self.stranger.post):
                response = (
                    method(address, {}, content_type="application/json")
                    if name.endswith("live")
                    else method(address, {})
                )
                self.assertIn(response.status_code, (404, 405, 400), name)
        self.assertEqual(self.snapshot(), before)

    def snapshot(self) -> tuple[object, ...]:
        self.bowl.refresh_from_db()
        self.timer.refresh_from_db()
        return (
            self.timer.stopped_at,
            Photo.objects.count(),
            Colour.objects.count(),
            Design.objects.count() + Shape.objects.count(),
            self.bowl.last_seq,
            self.bowl.finished_at,
            self.kitchen.pk,
            type(self.piece).objects.count(),
        )

    def test_other_makers_rows_are_not_listed_or_accepted(self) -> None:
        for address in ("/pieces/", "/bowls/", "/cupboard/"):
            self.assertNotContains(self.stranger.get(address), "Comet")
        foreign_colour = self.piece.layers.get().colour_id
        job = half_dip(self.other_kitchen).job
        data = {**DATA, "0-colour": foreign_colour}
        response = self.stranger.post(reverse("pieces:build-new", args=[job.pk]), data)
        self.assertEqual(response.status_code, 422)
        self.assertIn("0-colour", response.context["form"].errors)

    def test_odd_ids(self) -> None:
        self.assertEqual(self.owner.get(f"/bowls/{10**30}/").status_code, 404)
        self.assertEqual(self.owner.get("/bowls/0/").status_code, 404)
