"""A bowl to be led through, for the tests of melting, tests at home, waits and uses."""

from __future__ import annotations

from django.test import TestCase

from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl
from tests.studio.kitchens import add, bowl_for, half_dip, maker, step


class LedTests(TestCase):
    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()
        self.kitchen.has_thermometer = True
        self.kitchen.save()
        self.bowl = bowl_for(half_dip(self.kitchen))
        self.address = f"/bowls/{self.bowl.pk}/"

    def desk(self) -> Desk:
        return Desk.of(Bowl.objects.with_colour().get(pk=self.bowl.pk), self.kitchen)

    def said(self, **fields: object) -> object:
        return self.client.post(f"{self.address}melt/", step(self.bowl, **fields))

    def put_in(self) -> None:
        sent = step(self.bowl, **add(self.kitchen, bright=290, blue=20), temperature_c="42")
        self.assertRedirects(self.client.post(f"{self.address}put-in/", sent), f"{self.address}melt/")
