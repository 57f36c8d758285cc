"""The Day sheet: an order at once that keeps its waits, from layers and from designs, and what is said when it cannot
be."""

from __future__ import annotations

from datetime import timedelta

import pypdfium2
from django.test import TestCase
from django.utils import timezone
from icalendar import Calendar

from coating.piece.kinds import KINDS
from coating.plan.day import HANDS
from studio.day.adapters import Asked, day_of
from studio.day.reckoning import at_once
from studio.designs.models import Design
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.stacks import LayerPlan, PiecePlan, keep_piece
from tests.coating.plan.day_checks import broken
from tests.studio.every_form import untouched
from tests.studio.kitchens import cake_drip, drawn_g, half_dip, live, maker


class Days(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def test_a_job_becomes_an_order_that_keeps_every_rule(self) -> None:
        _, _, client = maker("demo@example.org")
        client.post("/demo/open/")
        job = Job.objects.filter(kitchen__is_demo=True).latest("pk")
        whole = Job.objects.whole(job.kitchen, job.pk)
        planned = day_of(whole, job.kitchen, Asked(1, 4, 2))
        assert planned is not None
        plan = at_once(planned)
        self.assertEqual(broken(planned.day, plan.starts_s, plan.melts, plan.by), [])
        self.assertGreater(len(planned.day.steps), 30)
        self.assertTrue(all(planned.says[s.name] for s in planned.day.steps))
        more = day_of(whole, job.kitchen, Asked(3, 4, 2))
        assert more is not None
        self.assertLess(at_once(more).makespan_s, plan.makespan_s)

    def test_the_page_and_its_live_answer(self) -> None:
        piece = half_dip(self.kitchen)
        page = self.client.get(f"/day/{piece.job_id}/")
        self.assertContains(page, "Start at <em>9:00</em>")
        self.assertContains(page, "Melt <b>")
        tomorrow = timezone.localdate() + timedelta(days=1)  # whatever the clock says now
        base = {**untouched(page.context["form"]), "on": f"{tomorrow:%Y-%m-%d}"}
        self.assertEqual(base["begin"], "09:00:00")
        answer = live(self.client, f"/day/{piece.job_id}/live/", {**base, "begin": "14:30", "ready": "18:00"}).json()
        self.assertIn("Start at <em>14:30</em>", answer["parts"]["answer"])
        self.assertIn("for what goes wrong", answer["parts"]["answer"])
        late = live(self.client, f"/day/{piece.job_id}/live/", {**base, "ready": "9:05"}).json()
        self.assertIn("too late", late["parts"]["answer"])
        past = live(self.client, f"/day/{piece.job_id}/live/", {**base, "ready": "8:00"})
        self.assertEqual(past.status_code, 422)
        self.assertIn("before it begins", str(past.json()))
        for change in ({"hands": "0"}, {"begin": "soon"}, {"fridge": "-1"}):
            self.assertEqual(live(self.client, f"/day/{piece.job_id}/live/", {**base, **change}).status_code, 422)

    def test_a_shell_is_in_its_mould_until_its_lid_is_off(self) -> None:
        """24 filled pralines, one mould of 12: both rounds one after the other, each layer made once."""
        job = Job.objects.create(kitchen=self.kitchen, name="Pralines")
        layers = tuple(
            LayerPlan(name, "coating", None, None, {"v": 2}) for name in ("shell", "filling", "cap", "stick", "dust")
        )
        piece = keep_piece(job, PiecePlan("Pralines", 24, KINDS["mould"], (29.0, 24.0, 15.0), layers, spares=0))
        shell, _, _, stick, dust = piece.layers.all()
        form = untouched(self.client.get(f"/studio/new/mould/?layer={shell.pk}").context["form"])
        self.assertEqual(form["way"], "filled")
        self.client.post("/studio/new/mould/", {**form, "cavities": "12", "moulds": "1", "do": "keep"})
        day_planned = day_of(Job.objects.whole(self.kitchen, job.pk), self.kitchen, Asked(fridge=4))
        assert day_planned is not None
        plan = at_once(day_planned)
        self.assertEqual(broken(day_planned.day, plan.starts_s, plan.melts, plan.by), [])
        self.assertEqual([(h.resource, h.places) for h in day_planned.day.holds], [(f"moulds:{shell.pk}", 1)] * 2)
        words = [day_planned.says[s.name] for s in day_planned.day.steps if s.handled]
        for once in ("Pour", "Turn it over and let", "Filling", "Melt again", "Push a stick", "it pops out"):
            self.assertEqual(sum(once in says for says in words), 2, (once, words))
        self.assertTrue(words[5].startswith("Filling") and f"{stick.pk}r2" in day_planned.day.steps[-4].name)
        waits = {la.min_s for la in day_planned.day.lags if la.after.startswith(f"{dust.pk}")}
        self.assertEqual(waits, {0})  # it was hard when it came out
        first, second = ([plan.starts_s[n] for n in hold.steps] for hold in day_planned.day.holds)
        self.assertTrue(max(first) < min(second) or max(second) < min(first))
        self.client.post("/studio/new/mould/", {**form, "cavities": "", "moulds": "2", "do": "keep"})
        usual = day_of(Job.objects.whole(self.kitchen, job.pk), self.kitchen, Asked(fridge=4))
        assert usual is not None
        self.assertEqual([h.places for h in usual.day.holds], [1])  # 24 in a mould of that picture
        shell_g = drawn_g(Layer.objects.get(pk=shell.pk))  # its lid is weighed as a layer
        alone = {**form, "layer": "", "colour": "", "white": "coating", "preset": "praline"}
        both = live(self.client, "/studio/live/mould/", alone).json()["result"]["goes_on_g"]
        self.assertGreater(both, 24 * shell_g * 1.1)

    def test_a_design_says_its_steps(self) -> None:
        piece = half_dip(self.kitchen)
        layer = piece.layers.get()
        before = day_of(Job.objects.whole(self.kitchen, piece.job_id), self.kitchen, Asked())
        form = untouched(self.client.get(f"/studio/new/dip/?layer={layer.pk}").context["form"])
        self.client.post("/studio/new/dip/", {**form, "way": "two_sided", "do": "keep"})
        after = day_of(Job.objects.whole(self.kitchen, piece.job_id), self.kitchen, Asked())
        assert before is not None and after is not None
        self.assertGreater(len(after.day.steps), len(before.day.steps))
        self.assertIn("Now the other side, to the same line, round 1 of 2: 13 of them.", after.says.values())
        cake_drip(self.kitchen)

    def test_out_on_paper_in_a_calendar_and_as_a_table(self) -> None:
        piece = half_dip(self.kitchen)
        Piece.objects.filter(pk=piece.pk).update(name="=cmd & <b>")
        address = f"/day/{piece.job_id}/day."
        table = self.client.get(f"{address}csv").content.decode().splitlines()
        self.assertEqual(table[0], "day,at,minutes,what,piece,bowl,who")
        self.assertIn("'=cmd & <b>", table[-1])
        calendar = Calendar.from_ical(self.client.get(f"{address}ics").content)
        events = list(calendar.walk("VEVENT"))
        self.assertEqual(len(events), len(table) - 1)
        self.assertEqual(events[0]["dtstart"].dt.strftime("%H:%M"), table[1][11:16])
        self.assertEqual(len({str(e["uid"]) for e in events}), len(events))
        again = Calendar.from_ical(self.client.get(f"{address}ics").content)
        self.assertEqual([str(e["uid"]) for e in again.walk("VEVENT")], [str(e["uid"]) for e in events])
        for paper in ("A4", "Letter"):
            pdf = self.client.get(f"{address}pdf?paper={paper}")
            document = pypdfium2.PdfDocument(pdf.content)
            page = document[0].get_textpage()
            text = page.get_text_range()
            page.close()
            document.close()
            self.assertIn("for 1 person", text)
            self.assertIn("1 bowl: dusk blue", text)
            self.assertIn("=cmd & <b>", text)
        self.assertEqual(self.client.get(f"{address}pdf?paper=A3").status_code, 302)
        self.assertEqual(self.client.get(f"{address}doc").status_code, 404)

    def test_what_to_lay_ready(self) -> None:
        _, _, client = maker("demo@example.org")
        client.post("/demo/open/")
        job = Job.objects.filter(kitchen__is_demo=True).latest("pk")
        result = {ready.title: [w for w, _ in ready.things] for ready in client.get(f"/day/{job.pk}/").context["ready"]}
        self.assertEqual(list(result), ["9 bowls", "Bags", "Templates", "To put on and in"])
        self.assertEqual(len(result["9 bowls"]), 9)
        self.assertTrue(any(w.startswith("2 of plain, cut to ") for w in result["Bags"]), result["Bags"])
        lace = Design.objects.get(kind="lace")
        self.assertIn(lace.name, result["Templates"])
        self.assertContains(client.get(f"/day/{job.pk}/"), f"/studio/{lace.pk}/template")

    def test_nothing_to_do_and_other_makers(self) -> None:
        job = Job.objects.create(kitchen=self.kitchen, name="Empty")
        self.assertContains(self.client.get(f"/day/{job.pk}/"), "Nothing is to be done yet")
        self.assertEqual(self.client.get("/day/").url, f"/day/{job.pk}/")
        today = timezone.localdate()
        Job.objects.filter(pk=job.pk).update(due_on=today - timedelta(days=300))
        soon = Job.objects.create(kitchen=self.kitchen, name="Soon", due_on=today + timedelta(days=1))
        self.assertEqual(self.client.get("/day/").url, f"/day/{soon.pk}/")
        _, _, stranger = maker("stranger@example.org")
        self.assertEqual(stranger.get(f"/day/{job.pk}/").status_code, 404)
        self.assertEqual(stranger.get("/day/").url, "/pieces/")
        self.assertEqual(HANDS, "hands")
