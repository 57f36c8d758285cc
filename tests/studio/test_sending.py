"""Forms act once, and are not lost when the log-in has run out."""

import uuid
from threading import Barrier, Thread

from django.contrib.sessions.models import Session
from django.db import connection
from django.test import Client, TestCase, TransactionTestCase
from django.urls import reverse

from studio.accounts.models import Kitchen, User
from studio.bowls.models import Bowl, BowlEvent
from studio.common.models import Sent
from studio.pieces.models import Job, Piece
from tests.studio.kitchens import PASSWORD, add, bowl_for, half_dip, maker, step
from tests.studio.test_pieces import DATA
from tests.studio.test_quick import TAPS


class SentOnce(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def test_every_form_that_makes_something_acts_once(self) -> None:
        job = half_dip(self.kitchen).job
        colour = job.pieces.get().layers.get().colour_id
        for address, data, model in (
            (reverse("pieces:job-new"), {"name": "Rings"}, Job),
            (reverse("pieces:build-new", args=[job.pk]), DATA, Piece),
            (reverse("quick:keep"), TAPS, Bowl),
            (reverse("bowls:begin", args=[job.pk]), {"need": f"{colour}:coating"}, Bowl),
        ):
            before, sent = model.objects.count(), {**data, "key": str(uuid.uuid4())}
            answers = [self.client.post(address, sent) for _ in range(3)]
            self.assertEqual({(a.status_code, a.url) for a in answers}, {(302, answers[0].url)}, address)
            self.assertEqual(model.objects.count(), before + 1, address)

    def test_gone_back_to_and_changed_is_another(self) -> None:
        key = str(uuid.uuid4())
        for name in ("Rings", "Moons"):
            self.client.post(reverse("pieces:job-new"), {"name": name, "key": key})
        self.assertEqual(set(Job.objects.values_list("name", flat=True)), {"Rings", "Moons"})

    def test_what_was_refused_can_be_sent_again(self) -> None:
        key = str(uuid.uuid4())
        sent = {"name": "x" * 90, "key": key}
        self.assertEqual([self.client.post(reverse("pieces:job-new"), sent).status_code for _ in "ab"], [422, 422])
        self.assertEqual(Sent.objects.count(), 0)

    def test_saving_twice_is_no_conflict(self) -> None:
        piece = half_dip(self.kitchen)
        sent = {**DATA, "version": "1", "key": str(uuid.uuid4())}
        codes = [self.client.post(reverse("pieces:build", args=[piece.pk]), sent).status_code for _ in "ab"]
        self.assertEqual(codes, [302, 302])
        removed = {"key": str(uuid.uuid4())}
        codes = [self.client.post(reverse("pieces:piece-remove", args=[piece.pk]), removed).status_code for _ in "ab"]
        self.assertEqual(codes, [302, 302])

    def test_signing_up_twice_is_one_kitchen(self) -> None:
        sent = {"email": "twice@example.org", "password": PASSWORD}
        self.assertEqual([Client().post("/sign-up/", sent).status_code for _ in "ab"], [302, 302])
        self.assertEqual(Client().post("/sign-up/", {**sent, "password": "another password"}).status_code, 422)
        self.assertEqual(User.objects.filter(email="twice@example.org").count(), 1)


class AtTheSameTime(TransactionTestCase):
    def test_four_at_once_are_one(self) -> None:
        _, kitchen, client = maker()
        job, key = half_dip(kitchen).job, str(uuid.uuid4())
        colour = job.pieces.get().layers.get().colour_id
        line, codes = Barrier(4), []

        def send() -> None:
            mine = Client()
            mine.cookies = client.cookies
            line.wait()
            codes.append(mine.post(reverse("pieces:job-new"), {"name": "Rings", "key": key}).status_code)
            codes.append(mine.post(f"/bowls/begin/{job.pk}/", {"need": f"{colour}:coating"}).status_code)
            connection.close()

        threads = [Thread(target=send) for _ in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(codes, [302] * 8)
        self.assertEqual((Job.objects.filter(name="Rings").count(), Bowl.objects.count()), (1, 1))


class LoggedOutMeanwhile(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.bowl = bowl_for(half_dip(self.kitchen))

    def log_in(self, onward: str) -> object:
        who = {"username": "maker@example.org", "password": PASSWORD, "next": onward}
        return self.client.post("/log-in/", who, follow=True)

    def test_what_was_typed_waits_and_is_sent_once(self) -> None:
        sent = step(self.bowl, **add(self.kitchen, bright=217, blue=5), touch="warm")
        Session.objects.all().delete()
        away = self.client.post(f"/bowls/{self.bowl.pk}/did/", sent)
        self.assertRedirects(away, "/log-in/?next=/send-again/")
        page = self.log_in("/send-again/")
        self.assertContains(page, "Bright white coating")
        self.assertContains(page, "217")
        self.assertNotContains(page, "seq</dt>")
        again = dict(page.context["fields"])
        for _ in range(2):
            self.client.post(page.context["to"], again)
        self.assertEqual(BowlEvent.objects.filter(bowl=self.bowl, kind="added").count(), 2)

    def test_pages_come_back_and_it_can_be_left(self) -> None:
        Session.objects.all().delete()
        self.assertEqual(self.client.get("/pieces/").url, "/log-in/?next=/pieces/")
        self.client.post(reverse("pieces:job-new"), {"name": "Rings"})
        self.assertContains(self.log_in("/send-again/"), "Rings")
        self.assertRedirects(self.client.post("/send-again/"), "/bowls/")
        self.assertRedirects(self.client.get("/send-again/"), "/bowls/")
        self.assertEqual(Job.objects.filter(name="Rings").count(), 0)

    def test_passwords_are_never_kept(self) -> None:
        Kitchen.objects.get(pk=self.kitchen.pk)
        self.client.logout()
        self.client.post(reverse("pieces:job-new"), {"name": "Rings", "password": "secret words"})
        self.assertNotIn("secret", str(self.client.session["put_by"]))

    def test_a_form_from_before_logging_in_anew(self) -> None:
        strict = Client(enforce_csrf_checks=True)
        typed = {"name": "Rings", "password": "secret words"}
        ours = strict.post(reverse("pieces:job-new"), typed, headers={"origin": "http://testserver"})
        self.assertContains(ours, "Send it now", status_code=403)
        self.assertContains(ours, "Rings", status_code=403)
        self.assertNotContains(ours, "secret", status_code=403)
        for origin in ({}, {"origin": "http://elsewhere.example"}, {"origin": "null"}):
            theirs = strict.post(reverse("pieces:job-new"), typed, headers=origin)
            self.assertNotContains(theirs, "Send it now", status_code=403)
        live = strict.post(f"/bowls/{self.bowl.pk}/live/", "{}", content_type="application/json")
        self.assertEqual(live.status_code, 403)
        self.assertIn("stays", live.json()["message"])
