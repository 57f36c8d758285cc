"""What was typed stays: after a field that is wrong, after another window, after the log-in ran out."""

from __future__ import annotations

from html import unescape

from django.db import transaction
from django.http import HttpResponse
from django.test import Client

from studio.bowls import settled
from studio.colours.models import Colour, Photo
from studio.cupboard.stock import _stock
from tests.studio.every_form import Fields, Forms
from tests.studio.kitchens import PASSWORD

WRONG = "\u2603 what?"
NOT_OF_A_PAGE = ("/timer/", "/done/", "/strike/")  # what these send is in hidden fields


class Typed(Forms):
    def sent(self, to: str, fields: dict[str, str]) -> HttpResponse:
        """The answer; nothing of it stays."""
        with transaction.atomic():
            page = self.maker.post(to, fields)
            transaction.set_rollback(True)
        _stock.cache_clear()
        settled._kept.clear()
        return page

    def kept(self, page: str, sent: dict[str, str]) -> None:
        """Every field of the page that is typed in holds what was sent for it."""
        read = Fields.of(page)
        missing = {
            name: (value, read.held.get(name))
            for name, value in sent.items()
            if name in read.typed and value.strip() and value.strip() not in map(str.strip, read.held[name])
        }
        self.assertEqual(missing, {}, sent)

    def asked(self) -> list[tuple[str, dict[str, str], set[str]]]:
        """Where a maker's form goes, what it sends with a mark in every empty note, and which fields are typed in."""
        rows = []
        for client, to, base in self.posts:
            if client is self.maker and not to.endswith(NOT_OF_A_PAGE):
                data = {n: str(v) or ("Marked note" if n == "note" else "") for n, v in base.items()}
                page = self.sent(to, {**data, "version": "77", "name": ""})
                rows.append((to, data, Fields.of(page.content.decode()).typed & set(data)))
        return rows

    def test_a_field_that_is_wrong(self) -> None:
        """Every other field of a form is wrong, then the others."""
        tried = 0
        for to, data, typed in self.asked():
            for names in (sorted(typed)[::2], sorted(typed)[1::2]):
                if not names:
                    continue
                sent = {**data, **dict.fromkeys(names, WRONG)}
                page = self.sent(to, sent)
                if page.status_code == 422:
                    tried += len(names)
                    self.kept(page.content.decode(), sent)
                else:
                    self.assertIn(page.status_code, (200, 302, 409), (to, names))
        self.assertGreater(tried, 150)

    def test_a_second_window(self) -> None:
        tried = 0
        for to, data, _ in self.asked():
            stale = {"version": "33", "seq": "0", "plan_version": "9"}
            if not set(stale) & set(data):
                continue
            sent = {**data, **{n: v for n, v in stale.items() if n in data}}
            page = self.sent(to, sent)
            if page.status_code == 409:
                tried += 1
                self.kept(page.content.decode(), sent)
                self.assertContains(page, "another window", status_code=409)
        self.assertGreater(tried, 8)

    def test_the_log_in_ran_out(self) -> None:
        """What was typed is shown again after logging in, whole, and goes where it was going."""
        tried = 0
        for client, to, base in self.posts:
            if client is not self.maker or to.startswith(("/quick/", "/send-again/", "/sign-up/")):
                continue
            late = Client()
            gone = late.post(to, base)
            self.assertEqual(gone.status_code, 302, to)
            self.assertIn("/log-in/", gone["Location"])
            late.post(gone["Location"], {"username": "maker@example.org", "password": PASSWORD})
            page = late.get("/send-again/").content.decode()
            held = Fields.of(page).held
            self.assertIn(f'action="{to.partition("?")[0]}"', unescape(page), to)
            for name, value in base.items():
                self.assertIn(str(value), held.get(name, []), (to, name))
            tried += 1
        self.assertGreater(tried, 40)

    def test_a_colour_keeps_its_note(self) -> None:
        """Under a name that is taken, and when another window was faster."""
        colour = Colour.objects.filter(kitchen=self.kitchen).exclude(name="Plum").first()
        assert colour is not None and not Photo.objects.exists()
        sent = {
            "lab": "68,-8,-17",
            "white": "coating",
            "melt_g": "200 g",
            "colourants": "3",
            "way": "best",
            "mixed_fats": "",
            "note": "a drop less than last time",
            "came_from": "shade",
        }
        page = self.maker.post("/colours/keep/", {**sent, "name": colour.name})
        self.assertContains(page, "already has a colour with that name", status_code=422)
        self.kept(page.content.decode(), {**sent, "name": colour.name})
        other = {**sent, "name": "Moss", "colour": str(colour.pk), "version": "7"}
        page = self.maker.post("/colours/keep/", other)
        self.assertContains(page, "in another window", status_code=409)
        self.kept(page.content.decode(), other)
        again = {**other, "version": str(Fields.of(page.content.decode()).held["version"][0])}
        self.assertEqual(self.maker.post("/colours/keep/", again).status_code, 302)
        self.assertEqual(Colour.objects.get(pk=colour.pk).note, sent["note"])
