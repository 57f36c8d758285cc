"""All pages of a job say the same: every amount that is marked is the one that was reckoned."""

from __future__ import annotations

import re
from collections.abc import Iterator

from django.test import TestCase

from coating.job import Reckoning
from coating.plan.proposal import LEAST_THINNER_G
from studio.day.adapters import Asked, day_of
from studio.day.reckoning import at_once
from studio.designs.models import Design
from studio.pieces.models import Job
from studio.pieces.reckoned import reckoned
from tests.coating.plan.day_checks import broken
from tests.studio.every_form import untouched
from tests.studio.kitchens import maker
from tests.studio.true_day import untrue

MARK = re.compile(r'data-of="([a-z-]+) ([^"]*)" data-value="([^"]*)"')
PAGES = ("", "choices/", "shopping/", "inside/", "boxes/")


class Agreeing(TestCase):
    """Abstract: a kitchen, and whether its jobs say the same everywhere."""

    def setUp(self) -> None:
        _, self.kitchen, self.client = maker()

    def known(self, reckoning: Reckoning) -> dict[tuple[str, str], float]:
        """All that may be said of a job."""
        known = {("melt", b.key): b.melt_g for b in reckoning.bowls} | {
            ("made", b.key): b.made_g for b in reckoning.bowls
        }
        known |= {("from", b.key): b.lines[0].on_one_g for b in reckoning.bowls}
        for bowl in reckoning.bowls:
            known |= {("portion", p.layers[0]): p.mass_g for p in bowl.portions}
        for line in reckoning.lines:
            name = ("one", line.layer)
            known[name] = known.get(name, 0.0) + line.on_one_g
        return known | {("stock", p.ingredient.name): p.mass_g for p in reckoning.stock}

    def said(self, address: str) -> Iterator[tuple[str, str, float]]:
        page = self.client.get(address)
        self.assertEqual(page.status_code, 200, address)
        for what, of, value in MARK.findall(page.content.decode()):
            yield what, of, float(value)

    def agrees(self, job: Job) -> None:
        """Every mark on every page of a job, from before its bowls are begun until after."""
        reckoning = reckoned(Job.objects.whole(self.kitchen, job.pk), self.kitchen)
        known, at = self.known(reckoning), f"/pieces/jobs/{job.pk}/"
        seen: set[tuple[str, str]] = set()
        for address in [f"{at}{page}" for page in PAGES] + [f"/day/{job.pk}/"]:
            for what, of, value in self.said(address):
                self.assertAlmostEqual(value, known[what, of], delta=0.01, msg=f"{address}: {what} {of}")
                seen.add((what, of))
        self.is_a_true_day(job)
        for piece in job.pieces.all():
            for what, of, value in self.said(f"/pieces/{piece.pk}/build/"):
                layer = list(piece.layers.order_by("order"))[int(of)]
                self.assertEqual(what, "one-built")
                self.assertAlmostEqual(value, known["one", str(layer.pk)], delta=0.01, msg=f"{piece}: {layer}")
        wanted = {(what, b.key) for b in reckoning.bowls for what in ("melt", "made")}
        self.assertLessEqual(wanted | {n for n in known if n[0] == "stock"}, seen, f"{job}: not said")
        for bowl in reckoning.bowls:
            begun = self.client.post(f"/bowls/begin/{job.pk}/", {"need": bowl.key})
            for what, of, value in self.said(begun["Location"]):
                self.assertAlmostEqual(value, known[what, of], delta=0.01, msg=f"bowl {bowl.key}: {what} {of}")
            shown = self.client.get(begun["Location"]).context
            additions = shown["additions"]
            put_in = {part.ingredient.name: part.mass_g for part, *_ in additions}
            if bowl.thinner and any(p.whole for p in bowl.portions):  # half of the fat first, then a look
                fat_g = put_in.pop(bowl.thinner.name, None)
                if fat_g is None:  # the colour's own oil has thinned it, or it is too little to weigh
                    dose = shown["proposal"].thinning
                    self.assertTrue(shown["stands"].is_right or dose.thinner_g < LEAST_THINNER_G, bowl.key)
                else:
                    self.assertLessEqual(fat_g, bowl.thinner_g)
            self.assertEqual(
                {p.ingredient.name: round(p.mass_g, 3) for p in bowl.parts},
                {name: round(g, 3) for name, g in put_in.items()},
                bowl.key,
            )

    def designs(self, job: Job) -> None:
        """Every layer that can be designed is kept as its page begins, and both say the same then."""
        layers = [la for piece in job.pieces.all() for la in piece.layers.all()]
        for layer in layers:
            begun = self.client.get(f"/studio/layer/{layer.pk}/")
            if begun.status_code != 302 or "/new/" not in begun["Location"]:
                continue
            page = self.client.get(begun["Location"])
            if page.context.get("refusal"):
                continue
            sent = {**untouched(page.context["form"]), "do": "keep"}
            kept = self.client.post(begun["Location"].partition("?")[0], sent)
            self.assertEqual(kept.status_code, 302, (begun["Location"], kept.content[:300]))
        self.designs_agree(job)

    def designs_agree(self, job: Job) -> None:
        """What a design says goes on and is to be melted is what its job says."""
        whole = Job.objects.whole(self.kitchen, job.pk)
        reckoning = reckoned(whole, self.kitchen)
        known = self.known(reckoning)
        for design in Design.objects.filter(layer__piece__job=job):
            made_g = sum(line.made_g for line in reckoning.lines if line.layer == str(design.layer_id))
            for what, of, value in self.said(f"/studio/{design.pk}/"):
                expected = made_g if what == "designed" else known[what, of]
                self.assertAlmostEqual(value, expected, delta=0.02 + 1e-3 * expected, msg=f"{design.kind}: {what} {of}")

    def is_a_true_day(self, job: Job) -> None:
        whole = Job.objects.whole(self.kitchen, job.pk)
        day_planned = day_of(whole, self.kitchen, Asked(fridge=4, freezer=2))
        if day_planned is not None:
            plan = at_once(day_planned)
            self.assertEqual(broken(day_planned.day, plan.starts_s, plan.melts, plan.by), [], job)
            self.assertEqual(untrue(whole, day_planned, plan), [], job)
