"""What would scorch, crack, spoil or never set is met in words, and what was typed stays."""

from django.test import TestCase

from studio.accounts.models import Kitchen
from studio.cupboard.actions import fill_cupboard
from studio.cupboard.models import Ingredient
from tests.studio.kitchens import add, bowl_for, half_dip, live, maker, step


class Dangers(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.set(has_thermometer=True)
        self.bowl = bowl_for(half_dip(self.kitchen))
        self.address = f"/bowls/{self.bowl.pk}/"

    def set(self, **profile: object) -> None:
        Kitchen.objects.filter(pk=self.kitchen.pk).update(**profile)
        self.kitchen.refresh_from_db()

    def did(self, **fields: object) -> object:
        return self.client.post(f"{self.address}did/", step(self.bowl, **fields))

    def test_a_microwave_of_nothing_or_of_5000_w(self) -> None:
        kept = {"version": self.kitchen.version, "name": "Ours", "room_c": "21"}
        for watts in ("0", "5000", "-800", "nan", "lots"):
            page = self.client.post("/kitchen/", {**kept, "power_w": watts})
            self.assertContains(page, "power of the microwave must be", status_code=422, msg_prefix=watts)
            self.assertContains(page, f'value="{watts}"', status_code=422)

    def test_5_g_in_a_microwave(self) -> None:
        self.client.post(f"{self.address}put-in/", step(self.bowl, **add(self.kitchen, bright=5)))
        self.assertContains(self.client.get(f"{self.address}melt/"), "too little")

    def test_200_degrees(self) -> None:
        page = self.did(**add(self.kitchen, bright=200), temperature_c="200 °C")
        self.assertContains(page, "The temperature must be between", status_code=422)
        self.assertContains(page, 'value="200 °C"', status_code=422)
        self.did(**add(self.kitchen, bright=200), temperature_c="70")
        self.assertContains(self.client.get(self.address), "Off the heat")
        self.assertContains(self.client.get(f"{self.address}melt/"), "Off the heat")

    def test_water(self) -> None:
        fill_cupboard(self.kitchen, ["water"])
        water = Ingredient.objects.get(kitchen=self.kitchen, code="water")
        for grams in ("-3", "3"):
            query = live(self.client, f"{self.address}live/", {**step(self.bowl), f"add-{water.pk}": grams})
            self.assertNotIn("seized", query.json()["parts"]["answer"], "a step never adds water")
        self.assertEqual(self.did(**add(self.kitchen, bright="-5")).status_code, 422)

    def test_glass_from_the_freezer(self) -> None:
        self.client.post(f"{self.address}put-in/", step(self.bowl, **add(self.kitchen, bright=290)))
        self.assertContains(self.client.get(f"{self.address}melt/"), "straight from the freezer")

    def test_a_room_of_30_degrees(self) -> None:
        self.set(room_c=30.0)
        self.did(**add(self.kitchen, bright=290), temperature_c="40")
        cold = self.client.get(self.address).content.decode()
        self.assertIn("it does not set", cold)
        self.assertIn("only below 26 °C: set it in the cold", cold)
        self.set(has_fridge=False, has_freezer=False)
        self.assertContains(self.client.get(self.address), "wait for the evening")
        hot = bowl_for(half_dip(self.kitchen, white="tempered"))
        self.client.post(f"/bowls/{hot.pk}/did/", step(hot, **add(self.kitchen, ivory=200), temperature_c="45"))
        page = self.client.get(f"/bowls/{hot.pk}/")
        self.assertContains(page, "soft in the hand")
        self.assertContains(page, "a warm room brings its fat to the face")
        self.assertEqual(self.client.get(f"/bowls/{hot.pk}/temper/").status_code, 200)
        self.assertContains(self.client.get("/?size=small"), "Melt")
