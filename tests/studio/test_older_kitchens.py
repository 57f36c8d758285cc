"""Kitchens of the version before come along: bowls that were begun, designs, what was typed."""

from __future__ import annotations

from importlib import import_module

from django.apps import apps
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TestCase, TransactionTestCase

from studio.designs.models import Design
from studio.pieces.adapters import colour_needs
from studio.pieces.models import Job, Layer
from tests.studio.kitchens import half_dip, maker

DRAWN = import_module("studio.designs.migrations.0003_what_is_drawn")
BEFORE = [("pieces", "0006_twists_are_so_wide"), ("designs", "0002_as_bought"), ("bowls", "0004_as_bought")]


class Grams(TestCase):
    """Grams that a design wrote become what it drew; what was typed stays."""

    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.layer = half_dip(self.kitchen).layers.get()

    def designed(self, kind: str, query: dict[str, object], grams: float, **drawn: object) -> Layer:
        Layer.objects.filter(pk=self.layer.pk).update(parameters={"v": 2, "share": 0.5, "goes_on_g": grams})
        data = {"v": 1, "steps": [], "seconds": 90.0, **drawn}
        Design.objects.all().delete()
        Design.objects.create(
            kitchen=self.kitchen, name="x", kind=kind, layer=self.layer, asked={"v": 1, **query}, drawn=data
        )
        DRAWN.grams_to_volumes(apps, None)
        return Layer.objects.get(pk=self.layer.pk)

    def test_what_a_design_wrote_is_reckoned_anew(self) -> None:
        """126 g on 20 of them: 6.3 g each, 5 ml."""
        layer = self.designed("marbling", {}, 6.3, goes_on_g=126.0, pieces=20)
        self.assertNotIn("goes_on_g", layer.parameters)
        self.assertAlmostEqual(layer.parameters["drawn"]["ml"], 6.3 / DRAWN.G_PER_ML, places=3)
        layer = self.designed(
            "dip", {"share": "0.667", "way": "two_sided", "coats": 1, "holes": 9}, 6.3, goes_on_g=126.0, pieces=20
        )
        self.assertEqual((layer.parameters["share"], layer.parameters["coats"]), (0.667, 2))
        self.assertEqual(layer.parameters["drawn"], {"seconds": 90.0, "holes": 9, "deep": True})

    def test_a_bottle_was_told_as_if_all_of_it_were_on_one(self) -> None:
        layer = self.designed("bottle", {"cavities": 20}, 200.0, goes_on_g=200.0, pieces=1)
        self.assertAlmostEqual(layer.parameters["drawn"]["ml"], 10.0 / DRAWN.G_PER_ML, places=3)

    def test_what_was_typed_stays(self) -> None:
        layer = self.designed("marbling", {}, 4.0, goes_on_g=126.0, pieces=20)
        self.assertEqual(layer.parameters["goes_on_g"], 4.0)
        (need,) = colour_needs(Job.objects.whole(self.kitchen, layer.piece.job_id), self.kitchen)
        self.assertEqual(self.client.get(f"/pieces/jobs/{layer.piece.job_id}/").status_code, 200)
        self.assertAlmostEqual(need.goes_on_g, 26 * 4.0)


class Before(TransactionTestCase):
    """Rows of the version before, brought along by the migrations themselves."""

    def tearDown(self) -> None:
        MigrationExecutor(connection).migrate(MigrationExecutor(connection).loader.graph.leaf_nodes())

    def test_bowls_that_were_begun_or_kept_apart_stay_what_they_were(self) -> None:
        _, kitchen, client = maker()
        job = Job.objects.create(kitchen=kitchen, name="Old")
        pk = half_dip(kitchen).pk
        executor = MigrationExecutor(connection)
        executor.migrate(BEFORE)
        old = executor.loader.project_state(BEFORE).apps
        layers, pieces = old.get_model("pieces", "Layer"), old.get_model("pieces", "Piece")
        pieces.objects.filter(pk=pk).update(job=job.pk)
        dip = layers.objects.get(piece=pk)
        data = {"kitchen_id": kitchen.pk, "piece_id": pk, "white": "coating", "colour_id": dip.colour_id}
        line = {"v": 2, "length_mm": 200.0}
        begun = layers.objects.create(order=2, technique="drizzle", parameters=line, **data)
        joined = layers.objects.create(order=3, technique="dots", joined="drizzle", parameters={"v": 2}, **data)
        apart = layers.objects.create(order=4, technique="lettering", apart=3, parameters=line, **data)
        bowl = old.get_model("bowls", "Bowl").objects.create(
            kitchen_id=kitchen.pk,
            name="Dusk blue drizzle",
            white="coating",
            colour_id=dip.colour_id,
            job_id=job.pk,
            technique="drizzle",
            started_at=kitchen.created_at,
        )
        for layer in (begun, joined):
            old.get_model("bowls", "BowlUse").objects.create(kitchen_id=kitchen.pk, bowl=bowl, layer=layer, grams=9.0)
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())
        needs = {
            frozenset(la.pk for la in n.layers): n for n in colour_needs(Job.objects.whole(kitchen, job.pk), kitchen)
        }
        self.assertEqual(set(needs), {frozenset({dip.pk}), frozenset({begun.pk, joined.pk}), frozenset({apart.pk})})
        self.assertEqual([n.bowl.pk if n.bowl else None for n in needs.values()].count(bowl.pk), 1)
        self.assertEqual(needs[frozenset({begun.pk, joined.pk})].bowl.pk, bowl.pk)
        for page in (f"/pieces/jobs/{job.pk}/", f"/bowls/{bowl.pk}/", f"/day/{job.pk}/"):
            self.assertEqual(client.get(page).status_code, 200, page)
