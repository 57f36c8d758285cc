"""Moulds, dips, painted details and houses: amounts, rounds, refusals, and what a layer takes of them."""

from __future__ import annotations

import math

from coating.flow.material import ORDINARY
from coating.piece.kinds import KINDS as CORES
from coating.shape.moulds.fills import shell
from coating.shape.moulds.presets import PRESETS
from coating.steps import SET, steps_from
from studio.cupboard.models import Extra
from studio.designs.kinds import KINDS
from studio.designs.models import Design
from studio.pieces.adapters import colour_needs
from studio.pieces.models import Job, Piece
from studio.pieces.stacks import LayerPlan, PiecePlan, keep_piece
from tests.studio.designing import Designing
from tests.studio.kitchens import drawn_g, half_dip, live, maker

RHO = ORDINARY.density_kg_m3 / 1000
MADE = ("dip", "mould", "paint", "house")


class Made(Designing):
    def piece(self, core: str, size: tuple[float, ...], count: int, *layers: LayerPlan) -> Piece:
        job = Job.objects.create(kitchen=self.kitchen, name="Comet night")
        return keep_piece(job, PiecePlan("Truffles", count, CORES[core], size, layers, 0))

    def test_a_filled_mould_by_hand(self) -> None:
        """Cubes of 28 mm, wall and lid 2 mm: (28^3 - 24 24 26) of shell, 24 24 23 of filling; 48 in two rounds."""
        answer = self.parts("mould", preset="cube", wall_mm="2 mm", count="48", cavities="12", moulds="2", way="filled")
        self.assertIn(f"<em>{(28**3 - 24 * 24 * 26) / 1000 * RHO:.1f} g</em> stay", answer["answer"])
        self.assertIn("The moulds are used <em>twice</em>", answer["answer"])
        lid = 24 * 24 * 3 / 1000 * RHO
        self.assertIn(f"lid of {lid:.1f} g", answer["answer"])
        self.assertIn("cut-filling", answer["picture"])
        self.assertIn("All of it twice", answer["time"])
        self.assertIn("It stands", answer["time"])

    def test_every_way_to_fill_and_every_mould(self) -> None:
        for way in ("solid", "hollow", "filled", "layers", "insert", "colours"):
            answer = self.parts("mould", way=way, preset="half_ball", sticks="on" if way == "solid" else "")
            self.assertIn("with the waits", answer["answer"], way)
        self.assertIn("cut-stick", self.parts("mould", way="solid", sticks="on")["picture"])
        for name in PRESETS:
            self.parts("mould", preset=name, way="solid")
        water = self.parts("mould", way="solid", preset="praline", water_g="240 g", cavities="24")
        self.assertIn(f"<em>{10 * RHO:.0f} g</em> each", water["answer"])
        frail = self.parts("mould", preset="bar", wall_mm="0.8 mm", way="hollow")
        self.assertIn("breaks between two fingers", frail["numbers"])
        thick = self.parts("mould", preset="big_dome", wall_mm="7 mm", way="hollow", smash="on")
        self.assertIn("hammer does not break it", thick["numbers"])

    def test_a_cup_that_is_filled_so_far_can_be_made_in_any_way(self) -> None:
        layer = self.piece("cup", (50.0, 38.0, 25.0), 6, LayerPlan("solid", parameters={"v": 2, "volume_ml": 8.0}))
        form = self.begin("mould", f"?layer={layer.layers.get().pk}")
        for way in ("solid", "hollow", "filled", "layers", "insert", "colours"):
            answer = live(self.client, "/studio/live/mould/", {**form, "way": way})
            self.assertEqual(answer.status_code, 200, (way, answer.content[:200]))

    def test_a_shell_takes_its_grams_from_its_mould(self) -> None:
        piece = self.piece("mould", (29.0, 24.0, 15.0), 24, LayerPlan("shell", "coating", None, None, {"v": 2}))
        layer = piece.layers.get()
        self.assertIn("/studio/new/mould/", self.client.get(f"/studio/layer/{layer.pk}/").url)
        form = self.begin("mould", f"?layer={layer.pk}")
        self.assertEqual((form["count"], form["way"]), ("24", "hollow"))
        self.client.post("/studio/new/mould/", {**form, "do": "keep"})
        layer.refresh_from_db()
        made = shell(PRESETS["praline"].cavity, wall_mm=1.7)
        self.assertAlmostEqual(drawn_g(layer), made.shell_g + made.rim_g, delta=0.05)
        need = colour_needs(Job.objects.whole(self.kitchen, piece.job_id), self.kitchen)[0]
        self.assertAlmostEqual(need.goes_on_g, 24 * drawn_g(layer), delta=0.1)
        self.assertContains(self.client.get(f"/pieces/jobs/{piece.job_id}/"), "As designed: Mould of truffles")

    def test_a_two_sided_dip_on_sticks(self) -> None:
        biscuit = {**self.begin("dip"), "core": "round_biscuit", "share": "0.5"}
        one, both = (
            live(self.client, "/studio/live/dip/", {**biscuit, "way": way}).json() for way in ("straight", "two_sided")
        )
        self.assertAlmostEqual(both["result"]["goes_on_g"], 2 * one["result"]["goes_on_g"])
        two = both["parts"]
        self.assertIn("Now the other side", two["time"])
        stick = self.parts("dip", core="ball", share="1.0", sticks="seated", count="40", holes="15")
        self.assertIn("Dip the end of each stick", stick["time"])
        self.assertIn("about 10 min later", stick["time"])
        self.assertIn("filled 3 times", stick["time"])
        pick = self.parts("dip", core="ball", share="1.0", sticks="pick")
        self.assertIn("Count 24 picks out, and 24 in again", pick["numbers"])
        self.assertIn("Pull the picks out", pick["time"])
        for core in ("finger_biscuit", "berry", "fruit", "pretzel_twist", "pretzel_rod", "marshmallow", "glass_rim"):
            self.assertIn("go on each", self.parts("dip", core=core, share="0.1")["answer"], core)

    def test_a_dip_of_a_piece(self) -> None:
        piece = half_dip(self.kitchen)
        layer = piece.layers.get()
        self.assertContains(self.client.get(f"/pieces/jobs/{piece.job_id}/"), "Plan it: grams, rounds and steps")
        form = self.begin("dip", f"?layer={layer.pk}")
        self.assertEqual((form["share"], form["count"]), ("0.5", "26"))
        self.client.post("/studio/new/dip/", {**form, "do": "keep"})
        kept, need = Design.objects.get(), colour_needs(Job.objects.whole(self.kitchen, piece.job_id), self.kitchen)[0]
        self.assertAlmostEqual(need.goes_on_g, kept.drawn["goes_on_g"], delta=0.05)

    def test_painted_layers_as_they_are_seen(self) -> None:
        base = self.begin("paint")
        answer = live(self.client, "/studio/live/paint/", {**base, "paint1": "", "coats0": "1"}).json()["parts"]
        many = live(self.client, "/studio/live/paint/", {**base, "paint1": "", "coats0": "9"}).json()["parts"]
        self.assertNotEqual(answer["picture"], many["picture"])
        self.assertIn("<em>9</em> coats", many["answer"])
        front, behind = (
            live(self.client, "/studio/live/paint/", {**base, "way": way}).json()["parts"]
            for way in ("front", "behind")
        )
        self.assertNotEqual(front["picture"], behind["picture"])
        self.assertIn("what was painted first is seen in front", behind["time"])
        shaded = live(self.client, "/studio/live/paint/", {**base, "parts": "5"}).json()["parts"]
        self.assertEqual(shaded["picture"].count("<title>Part "), 5)
        hasty = live(self.client, "/studio/live/paint/", {**base, "coats0": "3", "dries_min": "0"}).json()["parts"]
        self.assertIn("3 coats with hardly any drying", hasty["numbers"])
        spray = live(self.client, "/studio/live/paint/", {**base, "tool0": "spray"}).json()["parts"]
        self.assertIn("Never breathe spray", spray["numbers"])

    def test_dust_that_is_no_food_stops(self) -> None:
        craft = Extra.objects.create(kitchen=self.kitchen, name="Craft sparkle", kind="dust", edible="non_toxic")
        unread = Extra.objects.create(kitchen=self.kitchen, name="Moon dust", kind="dust", edible="unsaid")
        base = {**self.begin("paint"), "do": "keep"}
        sent = self.client.post("/studio/new/paint/", {**base, "dust": str(craft.pk)})
        self.assertEqual(sent.status_code, 422)
        self.assertContains(sent, "that is not edible", status_code=422)
        self.assertFalse(Design.objects.exists())
        answer = live(self.client, "/studio/live/paint/", {**base, "dust": str(unread.pk)}).json()["parts"]
        self.assertIn("Look at the pack of Moon dust", answer["numbers"])
        _, other, _ = maker("stranger@example.org")
        theirs = Extra.objects.create(kitchen=other, name="Theirs", kind="dust")
        self.assertEqual(live(self.client, "/studio/live/paint/", {**base, "dust": str(theirs.pk)}).status_code, 422)

    def test_what_a_design_puts_on_is_in_the_piece(self) -> None:
        flakes = Extra.objects.create(
            kitchen=self.kitchen, name="Nut flakes", kind="leaf", allergens=["nuts"], edible="unsaid"
        )
        dip = LayerPlan("dip", "coating", None, None, {"v": 2, "share": 1.0})
        paint = LayerPlan("paint", "coating", None, None, {"v": 2})
        piece = self.piece("round_biscuit", (60.0, 8.0), 8, dip, paint)
        layer = piece.layers.get(technique="paint")
        address = f"/pieces/jobs/{piece.job_id}/inside/"
        self.assertNotContains(self.client.get(address), "nuts")
        form = self.begin("paint", f"?layer={layer.pk}")
        known = next(
            pk for pk, _ in self.client.get("/studio/new/paint/").context["form"].fields["paint0"].choices if pk
        )
        sent = self.client.post("/studio/new/paint/", {**form, "paint0": known, "dust": str(flakes.pk), "do": "keep"})
        self.assertEqual(sent.status_code, 302)
        data = self.client.get(address)
        self.assertContains(data, "nuts")
        self.assertContains(data, "Look at the pack of Nut flakes")
        job = self.client.get(f"/pieces/jobs/{piece.job_id}/job.json").json()
        self.assertNotIn("also", job["pieces"][0]["layers"][1]["parameters"])
        bought = self.client.get(f"/pieces/jobs/{piece.job_id}/shopping.txt").content.decode()
        self.assertIn("[ ] Nut flakes: a little", bought)

    def test_a_house_from_dimensions(self) -> None:
        answer = self.parts("house", inside="Sweets, a light", sweet_mm="12 mm", sweets="red, white")
        total = 136 * 106 + 2 * (110 * 70 + 90 * 70 + 45 * 45 + 136 * 53 * math.sqrt(2))
        self.assertIn("<em>7</em> panels", answer["answer"])
        self.assertIn(f"<em>{math.ceil(total * 5 * RHO / 1000)} g</em>", answer["answer"].replace("about ", ""))
        self.assertIn("<em>11</em> sweets go along the ridge", answer["answer"])
        self.assertIn("6 red, 5 white", answer["time"])
        self.assertLess(answer["time"].index("Now put in: sweets"), answer["time"].index("First roof half"))
        box = self.parts("house", what="box", made_of="baked")
        self.assertNotIn("Spread", box["time"])
        kept = self.client.post("/studio/new/house/", {**self.begin("house"), "do": "keep"})
        self.assertEqual(kept.status_code, 302)
        titles = [sheet.title for sheet in Design.objects.get().sheets]
        self.assertEqual(titles, ["Base", "Side wall, 2 of it", "Gable, 2 of it", "Roof half, 2 of it"])

    def test_what_cannot_be_is_refused_at_its_field(self) -> None:
        cases = (
            ("mould", {"filling_ml": "9", "preset": "praline"}, "filling_ml", "above the rim"),
            ("mould", {"way": "insert", "insert_mm": "40 mm"}, "insert_mm", "does not go in"),
            ("mould", {"way": "insert", "insert_high_mm": "30 mm"}, "insert_high_mm", "stick out"),
            ("mould", {"wall_mm": "8 mm", "preset": "small_parts"}, "wall_mm", "leaves no hollow"),
            ("mould", {"moulds": "0"}, "moulds", "between"),
            ("mould", {"preset": "egg cup"}, "preset", ""),
            ("dip", {"share": "2"}, "share", ""),
            ("dip", {"core": "glass_rim"}, "share", "a band"),
            ("dip", {"holes": "0"}, "holes", "between"),
            ("dip", {"coats": "9"}, "coats", "between"),
            ("paint", {f"paint{i}": "" for i in range(4)}, "paint0", "first colour"),
            ("paint", {"coats0": "99"}, "coats0", "between"),
            ("house", {"thick_mm": "9 mm", "wide_mm": "31 mm"}, "thick_mm", "no room inside"),
            ("house", {"sweet_mm": "60 mm", "long_mm": "30 mm", "overhang_mm": "0 mm"}, "sweet_mm", "Not even one"),
            ("house", {"inside": "a, b, c, d, e, f, g"}, "inside", "6 things"),
        )
        for kind, change, field, words in cases:
            sent = self.client.post(
                f"/studio/new/{kind}/", {**self.begin(kind), **change, "do": "keep", "name": "Mine"}
            )
            self.assertEqual(sent.status_code, 422, (kind, change))
            self.assertIn(words, str(sent.context["form"].errors.get(field)), (kind, change))
            self.assertEqual(sent.context["form"]["name"].value(), "Mine")
        self.assertFalse(Design.objects.exists())

    def test_each_is_kept_with_its_steps(self) -> None:
        for name in MADE:
            self.client.post(f"/studio/new/{name}/", {**self.begin(name), "do": "keep"})
            design = Design.objects.get(kind=name)
            steps = steps_from(design.drawn["steps"])
            self.assertTrue(any(s.state == SET and s.waits for s in steps) or name == "paint", name)
            self.assertGreater(design.drawn["goes_on_g"], 1, name)
            self.assertEqual(self.client.get(f"/studio/{design.pk}/template.pdf")["Content-Type"], "application/pdf")
        self.assertTrue(set(MADE) <= set(KINDS))
