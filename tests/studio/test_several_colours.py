"""A layer whose design puts on several colours: each is melted, bought, begun and planned by itself."""

from __future__ import annotations

from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from coating.piece.kinds import KINDS as CORES
from coating.plan.day import DayStep
from coating.techniques import TECHNIQUES
from coating.techniques.base import LINE
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.day.adapters import Asked, Planned, day_of
from studio.day.ready import lay_ready
from studio.day.reckoning import at_once
from studio.designs.kinds import KINDS
from studio.designs.models import Design
from studio.pieces.adapters import ColourNeed, colour_needs
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.stacks import LayerPlan, PiecePlan, keep_piece
from tests.coating.plan.day_checks import broken
from tests.studio.designing import Designing
from tests.studio.kitchens import cake_drip, maker
from tests.studio.true_day import untrue

SLAB_G = 300 * 200 * 6 * 1.259e-3  # by hand: mm by mm by mm of 1.259 g/ml


class SeveralColours(Designing):
    def setUp(self) -> None:
        super().setUp()
        self.blue, self.gold = list(Colour.objects.for_kitchen(self.kitchen)[:2])

    def slab(self, technique: str, **parameters: Any) -> Layer:
        """One layer on a slab, in the first colour."""
        job = Job.objects.create(kitchen=self.kitchen, name="Shards")
        piece = Piece.objects.create(
            kitchen=self.kitchen, job=job, name="Slab", core="slab", count=1, size={"v": 2, "mm": [300.0, 200.0]}
        )
        return Layer.objects.create(
            kitchen=self.kitchen, piece=piece, technique=technique, colour=self.blue, parameters={"v": 2, **parameters}
        )

    def designed(self, layer: Layer, kind: str, **change: str) -> Design:
        data = self.begin(kind, f"?layer={layer.pk}")
        answer = self.client.post(f"/studio/new/{kind}/", {**data, **change, "do": "keep"})
        self.assertEqual(answer.status_code, 302, answer.content[:500])
        return Design.objects.get(layer=layer)

    def job(self, layer: Layer) -> Job:
        return Job.objects.whole(self.kitchen, layer.piece.job_id)

    def needs(self, layer: Layer) -> dict[str, ColourNeed]:
        return {
            need.colour.name if need.colour else "plain": need for need in colour_needs(self.job(layer), self.kitchen)
        }

    def planned(self, layer: Layer) -> tuple[Planned, dict[str, DayStep]]:
        """The day, checked, and its steps by their words."""
        day_planned = day_of(self.job(layer), self.kitchen, Asked(fridge=2))
        assert day_planned is not None
        plan = at_once(day_planned)
        self.assertEqual(broken(day_planned.day, plan.starts_s, plan.melts, plan.by), [])
        self.assertEqual(untrue(self.job(layer), day_planned, plan), [])
        return day_planned, {day_planned.says[s.name]: s for s in day_planned.day.steps}

    def said(self, day_planned: Planned, steps: dict[str, DayStep], words: str) -> str:
        """The colour of the bowl that the only step of such words is done from."""
        (step,) = [s for says, s in steps.items() if words in says]
        need = day_planned.bowls.get(step.bowl or "")
        return "no bowl" if need is None else need.colour.name if need.colour else "plain"

    def test_a_marbled_slab_wants_its_ground_too(self) -> None:
        layer = self.slab("marbling")
        self.designed(layer, "marbling", ground=str(self.gold.pk), share="0.4")
        needs = self.needs(layer)
        self.assertEqual(set(needs), {self.blue.name, self.gold.name})
        self.assertAlmostEqual(needs[self.blue.name].goes_on_g, 0.4 * SLAB_G, delta=0.5)
        self.assertAlmostEqual(needs[self.gold.name].goes_on_g, 0.6 * SLAB_G, delta=0.5)
        page = self.client.get(f"/pieces/jobs/{layer.piece.job_id}/")
        self.assertContains(page, self.gold.name)
        self.assertContains(page, f"Marbling in {self.blue.name} and {self.gold.name}".lower().capitalize())
        day_planned, steps = self.planned(layer)
        self.assertEqual(self.said(day_planned, steps, "Pour the ground"), self.gold.name)
        self.assertEqual(self.said(day_planned, steps, "blobs of about"), self.blue.name)
        self.assertEqual({s.bowl for says, s in steps.items() if "skewer" in says}, {None})
        shopping = self.client.get(f"/pieces/jobs/{layer.piece.job_id}/shopping/")
        bought = sum(line.item.wanted_g for line in shopping.context["lines"])
        self.assertGreater(bought, SLAB_G)

    def test_a_ground_that_is_a_layer_of_its_own_is_poured_once(self) -> None:
        layer = self.slab("marbling")
        Layer.objects.create(
            kitchen=self.kitchen,
            piece=layer.piece,
            order=0,
            technique="pour",
            colour=self.gold,
            parameters={"v": 2, "thickness_mm": 3.6},
        )
        self.designed(layer, "marbling", share="0.4")
        needs = self.needs(layer)
        self.assertAlmostEqual(needs[self.gold.name].goes_on_g, 0.6 * SLAB_G, delta=3)
        self.assertAlmostEqual(needs[self.blue.name].goes_on_g, 0.4 * SLAB_G, delta=0.5)
        _, steps = self.planned(layer)
        self.assertFalse(any("Pour the ground" in says for says in steps))
        page = self.client.get(f"/studio/{layer.design.pk}/")
        self.assertAlmostEqual(page.context["ground_g"], needs[self.gold.name].goes_on_g)
        self.assertAlmostEqual(page.context["second_g"], needs[self.blue.name].goes_on_g, delta=0.1)
        self.assertNotContains(page, "Deep")

    def test_each_colour_has_a_bowl_of_its_own(self) -> None:
        layer = self.slab("marbling")
        self.designed(layer, "marbling", ground="", share="0.4")
        for name in ("plain", self.blue.name):
            need = self.needs(layer)[name]
            self.assertIsNone(need.bowl)
            answer = self.client.post(f"/bowls/begin/{layer.piece.job_id}/", {"need": need.key})
            self.assertEqual(answer.status_code, 302)
            self.assertIn(need.key, [n.key for n in colour_needs(self.job(layer), self.kitchen) if n.bowl])
        plain, blue = Bowl.objects.get(colour=None), Bowl.objects.get(colour=self.blue)
        self.assertEqual(
            {n: need.bowl for n, need in self.needs(layer).items()}, {"plain": plain, self.blue.name: blue}
        )
        self.assertAlmostEqual(plain.uses.get().grams / blue.uses.get().grams, 1.5, delta=0.01)
        page = self.client.get(f"/bowls/{plain.pk}/").context["reckoned"]
        self.assertAlmostEqual(page.made_g, 0.6 * SLAB_G, delta=0.5)

    def test_a_ground_is_neither_joined_nor_split(self) -> None:
        layer = self.slab("marbling")
        self.designed(layer, "marbling", ground=str(self.gold.pk))
        needs = self.needs(layer)
        for do in (
            f"split {needs[self.gold.name].key}",
            f"join {needs[self.blue.name].key} {needs[self.gold.name].key}",
        ):
            self.assertEqual(self.client.post(f"/pieces/jobs/{layer.piece.job_id}/bowls/", {"do": do}).status_code, 404)

    def test_drips_in_turn_a_filling_a_bottle_and_a_marbled_dip(self) -> None:
        drip = cake_drip(self.kitchen).layers.get()
        Layer.objects.filter(pk=drip.pk).update(colour=self.blue)
        made = self.designed(drip, "drips", arranged="turns", second=str(self.gold.pk))
        needs = self.needs(drip)
        grams = [needs[c.name].goes_on_g for c in (self.blue, self.gold)]
        self.assertAlmostEqual(sum(grams), made.drawn["goes_on_g"], delta=0.1)
        self.assertEqual(self.said(*self.planned(drip), "between them"), self.gold.name)

        shape = self.slab("flood")
        self.designed(shape, "run_out", second=str(self.gold.pk), shape="star", count="1")
        self.assertEqual(self.said(*self.planned(shape), "up to the outlines"), self.gold.name)
        self.designed(shape, "run_out", second=str(self.gold.pk), shape="star", count="1", flood="wet")
        self.assertEqual(self.said(*self.planned(shape), "for the filling"), self.gold.name)

        bottle = self.slab("solid")
        colours = {f"colour{i}": str((self.blue, self.gold)[i % 2].pk) for i in range(4)}
        self.designed(bottle, "bottle", **colours, cavities="1")
        needs = self.needs(bottle)
        self.assertAlmostEqual(needs[self.blue.name].goes_on_g, 1.5 * needs[self.gold.name].goes_on_g)
        self.assertEqual(self.said(*self.planned(bottle), "Pour 20 ml"), self.gold.name)

        dip = self.slab("marbling")
        made = self.designed(dip, "swirl", ground="", count="1", piece_mm="32 mm")
        deep_g = made.drawn["others"][0]["depth_g"]
        self.assertGreater(self.needs(dip)["plain"].melt_g, deep_g)
        self.assertEqual(self.said(*self.planned(dip), "each beside the last"), "plain")

    def test_it_travels_with_its_job_and_a_colour_that_is_gone_is_left_to_the_first(self) -> None:
        layer = self.slab("marbling")
        self.designed(layer, "marbling", ground=str(self.gold.pk), share="0.4")
        data = self.client.get(f"/pieces/jobs/{layer.piece.job_id}/job.json").content
        _, other, theirs = maker("other@example.org")
        Colour.objects.filter(kitchen=other).exclude(name=self.blue.name).delete()
        theirs.post("/pieces/bring/", {"file": SimpleUploadedFile("job.json", data)})
        brought = colour_needs(Job.objects.whole(other, Job.objects.get(kitchen=other).pk), other)
        grams = {n.colour.name: n.goes_on_g for n in brought if n.colour}
        self.assertAlmostEqual(grams[self.gold.name], 0.6 * SLAB_G, delta=0.5)
        Colour.objects.filter(pk=self.gold.pk).delete()
        (need,) = colour_needs(self.job(layer), self.kitchen)
        self.assertAlmostEqual(need.goes_on_g, SLAB_G, delta=0.5)

    def test_every_kind_of_design_makes_a_day_that_keeps_every_rule(self) -> None:
        cores = {
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
        for kind in KINDS.values():
            core = CORES[cores.get(kind.name, "shape")]
            job = Job.objects.create(kitchen=self.kitchen, name=kind.title)
            (technique, *_), data = kind.techniques, {"v": 2}
            data |= {"length_mm": 300.0} if TECHNIQUES[technique].measured == LINE else {}
            size = tuple(float(mm) for mm in core.sizes[0][1])
            piece = keep_piece(
                job, PiecePlan(kind.title, 6, core, size, (LayerPlan(technique, "coating", self.blue, None, data),), 0)
            )
            layer = piece.layers.get()
            self.designed(layer, kind.name)
            day_planned, steps = self.planned(layer)
            self.assertTrue(steps, kind.name)
            self.assertLessEqual({s.bowl for s in steps.values() if s.bowl}, set(day_planned.bowls), kind.name)
            self.assertTrue(any(s.bowl for s in steps.values()), kind.name)
            ready = [ready.title for ready in lay_ready(self.job(layer), self.kitchen, day_planned)]
            self.assertEqual("Bags" in ready, TECHNIQUES[technique].bag, kind.name)
