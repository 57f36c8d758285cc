"""A kitchen with a long history: the number of queries does not grow, and long lists come a page at a time."""

from __future__ import annotations

from datetime import timedelta

from django.db import connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext

from studio.bowls.context import SHOWN
from studio.common import clock
from studio.common.pages import PAGE
from studio.pieces.models import Job
from tests.studio.kitchens import maker
from tools.crowd import many_bowls, many_pieces

MOST_QUERIES = 24


class LongHistory(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def queries(self, address: str) -> int:
        self.client.get(address)
        with CaptureQueriesContext(connection) as seen:
            self.assertEqual(self.client.get(address).status_code, 200, address)
        return len(seen)

    def test_queries_do_not_grow(self) -> None:
        first = many_bowls(self.kitchen, bowls=2 * SHOWN + 4, events=100)[0]
        rooms = ("/", "/bowls/", "/pieces/", "/cupboard/", "/kitchen/")
        addresses = (*rooms, f"/bowls/{first.pk}/", f"/pieces/jobs/{first.job_id}/")
        few = {a: self.queries(a) for a in addresses}
        many_bowls(self.kitchen, bowls=60, events=300)
        self.assertEqual({a: self.queries(a) for a in addresses}, few)
        self.assertLess(max(few.values()), MOST_QUERIES, few)

    def test_a_job_of_many_pieces_takes_no_more_queries(self) -> None:
        rooms = ("", "inside/", "boxes/", "choices/", "shopping/", "build/", "job.json")
        few, many = many_pieces(self.kitchen, 16), many_pieces(self.kitchen, 48)
        for room in rooms:
            query = [self.queries(f"/pieces/jobs/{job.pk}/{room}") for job in (few, many)]
            self.assertEqual(query[0], query[1], room)
            self.assertLess(query[1], MOST_QUERIES, room)

    def test_the_band_shows_some_and_leads_to_the_rest(self) -> None:
        made = many_bowls(self.kitchen, bowls=60, events=60)
        page = self.client.get(f"/bowls/{made[0].pk}/")
        band = page.context["band"]
        self.assertEqual(len(band), SHOWN)
        self.assertEqual([i.bowl.pk for i in band if i.current], [made[0].pk], "the one at hand is always there")
        self.assertContains(page, "All 30 bowls")

    def test_lists_come_a_page_at_a_time(self) -> None:
        made = many_bowls(self.kitchen, bowls=60, events=60)
        seen: list[int] = []
        for number in (1, 2):
            shelf = self.client.get(f"/bowls/?in-use={number}").context["shelf"]
            self.assertLessEqual(len(shelf), PAGE)
            seen += [item.bowl.pk for item in shelf]
        self.assertEqual(sorted(seen), sorted(b.pk for b in made if b.finished_at is None))
        for nonsense in ("0", "-3", "9999", "lots", "1e9", ""):
            self.assertEqual(self.client.get(f"/bowls/?done={nonsense}&in-use={nonsense}").status_code, 200)

    def test_the_next_job_comes_first_and_the_last_one_over_before_older_ones(self) -> None:
        today = clock.now().date()
        for name, days in (("over", -2), ("next", 1), ("later", 9), ("long over", -30)):
            Job.objects.create(kitchen=self.kitchen, name=name, due_on=today + timedelta(days=days))
        Job.objects.create(kitchen=self.kitchen, name="some day")
        page = self.client.get("/pieces/").context
        names = [tray.job.name for tray in page["trays"]] + [job.name for job, _ in page["rest"]]
        self.assertEqual(names, ["next", "later", "some day", "over", "long over"])
