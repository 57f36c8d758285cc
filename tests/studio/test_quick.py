from django.test import Client, TestCase

from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.pieces.models import Job
from tests.studio.kitchens import PASSWORD, live, maker

TAPS = {"what": "biscuit", "count": "24", "size": "large", "depth": "half", "colour": "apricot", "white": "untempered"}


class QuickCard(TestCase):
    def test_six_steps_with_grams_spoons_and_bags(self) -> None:
        page = self.client.get("/", TAPS)
        for word in ("Melt", "Tint", "Thin", "Dip", "Wait", "Finish", "ivory white chocolate", "bag", "drops"):
            self.assertContains(page, word)
        self.assertIn("Content-Security-Policy", page.headers)
        self.assertNotIn("unsafe", page.headers["Content-Security-Policy"])

    def test_more_biscuits_take_more(self) -> None:
        melts = [live(self.client, "/quick/live/", {**TAPS, "count": n}).json()["result"]["melt_g"] for n in (6, 36)]
        self.assertGreater(melts[1], melts[0])

    def test_bad_taps_are_answered_at_the_field(self) -> None:
        for name, bad in (
            ("count", "0"),
            ("count", "-3"),
            ("count", "1e9"),
            ("count", "nan"),
            ("count", ""),
            ("count", "9" * 3000),
            ("colour", "mud"),
            ("white", "<b>"),
            ("depth", "9"),
            ("what", "shoe"),
        ):
            page = self.client.get("/", {**TAPS, name: bad})
            self.assertEqual(page.status_code, 422, bad)
            self.assertIn(name, page.context["form"].errors)
            answer = live(self.client, "/quick/live/", {**TAPS, name: bad}, 7)
            self.assertEqual((answer.status_code, answer.json()["request"]), (422, 7))
            self.assertIn(name, answer.json()["errors"])

    def test_unreadable_live_questions(self) -> None:
        for body in ("", "[]", '{"request": "x", "fields": {}}', '{"request": 1, "fields": 3}', "{" * 50, "[" * 9000):
            response = self.client.post("/quick/live/", body, content_type="application/json")
            self.assertEqual(response.status_code, 400, body[:20])
        huge = self.client.post("/quick/live/", "x" * 20000, content_type="application/json")
        self.assertEqual(huge.status_code, 413)
        self.assertEqual(self.client.get("/quick/live/").status_code, 405)

    def test_keeping_it_signs_up_and_makes_the_bowl(self) -> None:
        response = self.client.post("/quick/keep/", TAPS)
        self.assertRedirects(response, "/sign-up/")
        self.assertEqual(Kitchen.objects.count(), 0)
        self.assertContains(self.client.get("/sign-up/"), "24 biscuits in apricot")
        page = self.client.post("/sign-up/", {"email": "a@example.org", "password": PASSWORD}, follow=True)
        self.assertContains(page, "How do you measure?")
        page = self.client.post("/kitchen/five-taps/", {"onward": page.context["onward"], "later": "1"}, follow=True)
        bowl = Bowl.objects.get()
        self.assertEqual((bowl.name, bowl.white, bowl.kitchen.owner.email), ("Apricot", "untempered", "a@example.org"))
        self.assertContains(page, "24 dipped biscuits")

    def test_a_forged_cookie_is_nothing(self) -> None:
        client = Client()
        client.cookies["quick_card"] = "biscuit|36|large|half|apricot|coating:forged:signature"
        self.assertNotContains(client.get("/sign-up/"), "36 biscuits")

    def test_with_a_kitchen_it_goes_straight_in(self) -> None:
        _, kitchen, client = maker()
        response = client.post("/quick/keep/", TAPS)
        self.assertRedirects(response, f"/bowls/{Bowl.objects.get(kitchen=kitchen).pk}/")

    def test_as_bought_plain_and_bark(self) -> None:
        """A bag as it was bought is kept as that: no recipe, its own temperatures, in the cupboard as still to buy."""
        _, kitchen, client = maker()
        taps = {**TAPS, "what": "pretzel", "colour": "red_coating"}
        page = client.get("/", taps)
        self.assertContains(page, "no colour goes in")
        self.assertNotContains(page, "drops")
        bowl = Bowl.objects.get(pk=client.post("/quick/keep/", taps).url.split("/")[2])
        self.assertEqual(
            (bowl.base.code, bowl.colour, bowl.white, bowl.base.ticked), ("red_coating", None, "coating", False)
        )
        self.assertEqual(bowl.job.pieces.get().core, "pretzel_twist")
        said = live(client, "/quick/live/", {**taps, "colour": "dark", "white": "coating"}).json()
        self.assertIn("Temper", said["parts"]["steps"])
        bark = {**TAPS, "what": "bark", "count": "1", "colour": "plain"}
        page = client.get("/", bark)
        self.assertContains(page, "Spread one slab of bark")
        client.post("/quick/keep/", bark)
        self.assertEqual(Job.objects.filter(kitchen=kitchen).last().pieces.get().layers.get().technique, "spread")

    def test_what_the_card_says_its_bowl_melts(self) -> None:
        _, _, client = maker()
        for what in ("ball", "berry", "biscuit"):
            taps = {**TAPS, "what": what, "count": "12", "white": "coating"}
            said = live(client, "/quick/live/", taps).json()["result"]
            job = client.get(client.post("/quick/keep/", taps).url).context["bowl"].job
            need = client.get(f"/pieces/jobs/{job.pk}/").context["needs"][0]
            self.assertAlmostEqual(need.goes_on_g, said["goes_on_g"], msg=what)
