"""Whatever way a job is changed, what was reckoned of it before is not found again."""

from __future__ import annotations

from django.db import connection, transaction
from django.test import TestCase
from django.test.utils import CaptureQueriesContext

from studio.colours.models import Colour
from studio.common.models import Change
from studio.designs.models import Design
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.reckoned import reckoned, reckoned_at
from tests.studio.kitchens import half_dip, maker


class Marks(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, _ = maker()
        self.piece = half_dip(self.kitchen)
        self.job = self.piece.job

    def told(self) -> list[float]:
        """What is kept agrees with what is worked out of the rows now."""
        kept = reckoned_at(self.job.pk, self.kitchen)
        anew = reckoned(Job.objects.whole(self.kitchen, self.job.pk), self.kitchen)
        self.assertEqual([line.made_g for line in kept.lines], [line.made_g for line in anew.lines])
        return [round(line.made_g, 6) for line in kept.lines]

    def test_every_way_of_writing_is_seen(self) -> None:
        layer = self.piece.layers.get()
        changes = (
            lambda: Piece.objects.filter(pk=self.piece.pk).update(count=30),
            lambda: Layer.objects.filter(pk=layer.pk).update(parameters={"v": 2, "share": 0.9}),
            lambda: Layer.objects.bulk_create([self.copied(layer)]),
            lambda: Layer.objects.filter(piece=self.piece, order=2).delete(),
            lambda: connection.cursor().execute("UPDATE pieces_piece SET spares = 7 WHERE id = %s", [self.piece.pk]),
            lambda: Piece.objects.create(
                kitchen=self.kitchen, job=self.job, name="x", count=3, size={"v": 3, "mm": [60.0, 8.0]}
            ),
        )
        marks = {Change.of(self.kitchen.pk)}
        before = self.told()
        for change in changes:
            change()
            marks.add(Change.of(self.kitchen.pk))
            self.told()
        self.assertEqual(len(marks), 1 + len(changes))
        self.assertNotEqual(self.told(), before)
        Piece.objects.all().delete()
        self.assertEqual(self.told(), [])

    def copied(self, layer: Layer) -> Layer:
        return Layer(kitchen=self.kitchen, piece=self.piece, order=2, technique="drizzle", colour=layer.colour,
                     parameters={"v": 2, "length_mm": 300.0, "width_mm": 2.0})  # fmt: skip

    def test_what_was_rolled_back_is_not_found_again(self) -> None:
        before = self.told()
        for count in (60, 90):
            with transaction.atomic():
                Piece.objects.filter(pk=self.piece.pk).update(count=count)
                self.assertNotEqual(self.told(), before)
                transaction.set_rollback(True)
            self.assertEqual(self.told(), before)

    def test_rows_are_read_only_when_something_changed(self) -> None:
        reckoned_at(self.job.pk, self.kitchen)
        with CaptureQueriesContext(
            connection,
        ) as query:
            reckoned_at(self.job.pk, self.kitchen)
        self.assertEqual(len(query), 1)
        _, other, _ = maker("other@example.org")
        half_dip(other)
        with CaptureQueriesContext(connection) as query:
            reckoned_at(self.job.pk, self.kitchen)
        self.assertEqual(len(query), 1, "what another kitchen does is nothing to this one")

    def test_colours_and_designs_count_too(self) -> None:
        mark = Change.of(self.kitchen.pk)
        Colour.objects.filter(kitchen=self.kitchen).update(note="x")
        after = Change.of(self.kitchen.pk)
        self.assertNotEqual(mark, after)
        Design.objects.create(kitchen=self.kitchen, name="x", kind="paint", asked={"v": 1}, drawn={"v": 1})
        self.assertNotEqual(Change.of(self.kitchen.pk), after)
