"""All pages of ten jobs say the same: every amount that is marked is the one that was reckoned."""

from __future__ import annotations

from coating.piece.kinds import KINDS as CORES
from coating.stack.starts import STARTS
from coating.techniques import TECHNIQUES
from coating.techniques.base import LINE
from studio.colours.models import Colour
from studio.designs.kinds import KINDS
from studio.pieces.models import Job
from studio.pieces.stacks import LayerPlan, PiecePlan, keep_piece
from tests.studio.agreeing import Agreeing
from tests.studio.every_form import untouched
from tests.studio.kitchens import cake_drip, half_dip
from tests.studio.test_build import stack

MADE_ON = {
    "lace": "cake_tier",
    "drips": "cake_tier",
    "mould": "mould",
    "bottle": "mould",
    "swirl": "ball",
    "dip": "round_biscuit",
    "face": "round_biscuit",
    "house": "panel",
    "marbling": "slab",
}


class OneReckoning(Agreeing):
    def test_starts(self) -> None:
        """Nine whole pieces that one can begin with, each a job of its own."""
        for name in list(STARTS)[:9]:
            job = Job.objects.create(kitchen=self.kitchen, name=name)
            self.client.post(f"/pieces/jobs/{job.pk}/build/", {"do": f"whole:{name}"})
            self.assertTrue(job.pieces.exists(), name)
            self.designs(job)
            self.agrees(job)

    def test_every_kind_of_design(self) -> None:
        blue = Colour.objects.get(kitchen=self.kitchen, name="Dusk blue")
        for kind in KINDS.values():
            core = CORES[MADE_ON.get(kind.name, "shape")]
            job, (name, *_), data = Job.objects.create(kitchen=self.kitchen, name=kind.title), kind.techniques, {"v": 2}
            data |= {"length_mm": 300.0} if TECHNIQUES[name].measured == LINE else {}
            size = tuple(float(mm) for mm in core.sizes[0][1])
            layers = (LayerPlan(name, "coating", blue, None, data),)
            layer = keep_piece(job, PiecePlan(kind.title, 6, core, size, layers, 0)).layers.get()
            begun = f"/studio/new/{kind.name}/"
            form = untouched(self.client.get(f"{begun}?layer={layer.pk}").context["form"])
            self.assertEqual(self.client.post(begun, {**form, "do": "keep"}).status_code, 302, kind.name)
            with self.subTest(kind.name):
                self.designs_agree(job)
                self.agrees(job)

    def test_two_pieces_that_share_a_bowl(self) -> None:
        piece = half_dip(self.kitchen)
        cake_drip(self.kitchen, job=piece.job)
        self.agrees(piece.job)

    def test_a_stack_of_all_sorts(self) -> None:
        job = Job.objects.create(kitchen=self.kitchen, name="All sorts")
        blue = str(Colour.objects.get(kitchen=self.kitchen, name="Dusk blue").pk)
        names = [n for n in ("dip", "drizzle", "dots", "lettering", "topping") if n in TECHNIQUES]
        data = stack(*names, name="All sorts", **{"1-colour": blue})
        self.client.post(f"/pieces/jobs/{job.pk}/build/", {**data, "do": "anyway"})
        self.agrees(job)
