from datetime import timedelta
from pathlib import Path
from tempfile import TemporaryDirectory

from django.core import mail
from django.core.cache import cache
from django.core.management import call_command
from django.test import Client, TestCase, override_settings
from django.utils import timezone

from studio.accounts.models import Kitchen, User
from studio.accounts.views import LETTERS_AN_HOUR, RESETS_AN_HOUR
from studio.cupboard.models import Ingredient, Parameter
from studio.demo.load_demo import clear_old_demos
from tests.studio.kitchens import PASSWORD, maker


class SigningUp(TestCase):
    def setUp(self) -> None:
        cache.clear()

    def test_a_kitchen_with_a_starter_cupboard(self) -> None:
        sent = {"email": " New@Example.org ", "password": PASSWORD, "kitchen_name": ""}
        response = self.client.post("/sign-up/", sent, follow=True)
        self.assertEqual(response.status_code, 200)
        kitchen = Kitchen.objects.get(owner__email="new@example.org")
        self.assertGreater(Ingredient.objects.for_kitchen(kitchen).count(), 12)
        self.assertEqual(set(Parameter.objects.for_kitchen(kitchen).values_list("provenance", flat=True)), {"default"})

    def test_bad_input_stays_and_is_answered_at_its_field(self) -> None:
        maker()
        for email, password, field in (
            ("", PASSWORD, "email"),
            ("nonsense", PASSWORD, "email"),
            ("MAKER@example.org", f"x{PASSWORD}", "email"),
            ("x@example.org", "short", "password"),
            ("x@example.org", "password1234567890"[:8], "password"),
        ):
            response = self.client.post("/sign-up/", {"email": email, "password": password, "kitchen_name": "Hill"})
            self.assertEqual(response.status_code, 422)
            self.assertIn(field, response.context["form"].errors)
            self.assertContains(response, 'value="Hill"', status_code=422)
        self.assertEqual(User.objects.count(), 1)

    def test_log_in_is_throttled_by_address_and_machine(self) -> None:
        maker()
        wrong = {"username": "maker@example.org", "password": "not this one"}
        codes = [Client().post("/log-in/", wrong).status_code for _ in range(9)]
        self.assertEqual((codes[0], codes[-1]), (200, 429))
        self.assertEqual(Client().post("/log-in/", {**wrong, "username": "other@example.org"}).status_code, 200)

    def test_one_name_from_many_places_and_many_names_from_one(self) -> None:
        """What all workers count together, behind a proxy too; what a header says without one is not believed."""
        maker()
        wrong = {"username": "maker@example.org", "password": "not this one"}
        with override_settings(PROXIES=1):
            codes = [self.wrong(wrong, f"203.0.113.{i}") for i in range(61)]
        self.assertEqual((codes[0], codes[-1]), (200, 429))
        codes = [self.wrong({**wrong, "username": f"m{i}@example.org"}, f"203.0.113.{i}") for i in range(121)]
        self.assertEqual((codes[0], codes[-1]), (200, 429))

    def wrong(self, fields: dict[str, str], address: str) -> int:
        return Client(headers={"X-Forwarded-For": f"9.9.9.9, {address}"}).post("/log-in/", fields).status_code

    def test_letters_and_links(self) -> None:
        """A letter is read by the account that serves alone, and its link begins with the origin that is configured."""
        maker()
        with (
            TemporaryDirectory() as folder,
            override_settings(
                EMAIL_BACKEND="studio.common.letters.Letters",
                EMAIL_FILE_PATH=folder,
                ORIGIN="https://kitchen.example",
                ALLOWED_HOSTS=["evil.example"],
            ),
        ):
            Client(headers={"Host": "evil.example"}).post("/password/forgotten/", {"email": "maker@example.org"})
            (letter,) = Path(folder).iterdir()
            modes = [oct(p.stat().st_mode & 0o777) for p in (Path(folder), letter)]
            text = letter.read_text()
        self.assertEqual(modes, ["0o700", "0o600"])
        self.assertIn("https://kitchen.example/password/new/", text)
        self.assertNotIn("evil", text)

    def test_forgotten_password_says_the_same_to_strangers(self) -> None:
        maker()
        answers = [
            self.client.post("/password/forgotten/", {"email": e}, follow=True).content.decode().split("<main")[1]
            for e in ("maker@example.org", "stranger@example.org")
        ]
        self.assertEqual(answers[0], answers[1])
        self.assertEqual(len(mail.outbox), 1)
        link = next(w for w in mail.outbox[0].body.split() if w.startswith("http")).split("127.0.0.1:8000")[1]
        form = self.client.get(link, follow=True)
        self.assertContains(form, "Choose a new password")

    def test_letters_are_not_sent_without_end(self) -> None:
        maker()
        query = {"email": "Maker@example.org"}
        answers = [self.client.post("/password/forgotten/", query) for _ in range(LETTERS_AN_HOUR + 3)]
        self.assertEqual({(a.status_code, a.url) for a in answers}, {(302, "/password/sent/")})
        self.assertEqual(len(mail.outbox), LETTERS_AN_HOUR)
        others = [self.client.post("/password/forgotten/", {"email": f"{i}@x.example"}) for i in range(RESETS_AN_HOUR)]
        self.assertEqual((others[0].status_code, others[-1].status_code), (302, 429))

    def test_reset_link_command(self) -> None:
        from io import StringIO

        maker()
        out = StringIO()
        call_command("reset_link", "Maker@example.org", stdout=out)
        self.assertContains(self.client.get(out.getvalue().strip(), follow=True), "Choose a new password")


class Demo(TestCase):
    def test_a_private_kitchen_full_of_comet_night(self) -> None:
        response = self.client.post("/demo/open/", follow=True)
        self.assertContains(response, "demo kitchen")
        for role in ("answer", "swatches", "ribbon", "band", "did-this"):
            self.assertContains(response, f'data-role="{role}"')
        self.assertContains(self.client.get("/pieces/"), "Comet night")
        other = Client()
        other.post("/demo/open/")
        self.assertEqual(Kitchen.objects.filter(is_demo=True).count(), 2)

    def test_reset_replaces_it_and_only_a_demo(self) -> None:
        self.client.post("/demo/open/")
        before = Kitchen.objects.get().pk
        self.client.post("/demo/reset/")
        self.assertNotEqual(Kitchen.objects.get().pk, before)
        _, _, client = maker()
        self.assertEqual(client.post("/demo/reset/").status_code, 404)

    def test_gone_after_a_week_and_nobody_elses(self) -> None:
        maker()
        self.client.post("/demo/open/")
        Kitchen.objects.filter(is_demo=True).update(goes_at=timezone.now() - timedelta(seconds=1))
        self.assertEqual(clear_old_demos(), 1)
        self.assertEqual([k.is_demo for k in Kitchen.objects.all()], [False])

    @override_settings(DEMO_OFFERED=False)
    def test_can_be_switched_off(self) -> None:
        self.assertEqual(self.client.post("/demo/open/").status_code, 404)
        self.assertNotContains(self.client.get("/"), "demo kitchen")
