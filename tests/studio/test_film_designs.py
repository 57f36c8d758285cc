"""Transfer sheets, film work and marbled dips: amounts, windows, refusals, and what a layer takes of them."""

from __future__ import annotations

import math
import re
from typing import Any

from coating.flow.material import ORDINARY
from coating.heat.times import bend_window
from coating.piece.kinds import KINDS as CORES
from coating.shape.bottle import BottleLayer, dispensed
from coating.shape.transfer import oval_round_mm
from coating.steps import SET, WET, steps_from
from studio.cupboard.models import Extra
from studio.designs.kinds import KINDS, KINDS_OF
from studio.designs.models import Design
from studio.pieces.costs import Also, also_wanted
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.reckoned import reckoned
from studio.pieces.stacks import LayerPlan, PiecePlan, keep_piece
from tests.studio.designing import Designing
from tests.studio.every_form import untouched
from tests.studio.kitchens import drawn_g, live

RHO = ORDINARY.g_per_mm3
FILM = ("sleeve", "curls", "bow", "petals", "leaves", "cast")


def piece_with(
    kitchen: Any, technique: str, core: str, size: tuple[float, ...], count: int, extra: Any = None
) -> Piece:
    job = Job.objects.create(kitchen=kitchen, name="Comet night")
    layer = LayerPlan(technique, "coating", None, extra, {"v": 2, "thickness_mm": 2.0})
    return keep_piece(job, PiecePlan("Mousse", count, CORES[core], size, (layer,), 0))


class Film(Designing):
    def kept(self, kind: str, **change: str) -> Design:
        self.client.post(f"/studio/new/{kind}/", {**self.begin(kind), **change, "do": "keep"})
        return Design.objects.latest("pk")

    def test_squares_round_desserts(self) -> None:
        """70 mm across: floor(219.9/42) = 5 bent; 30 for 6; 18 printed where every other is: 1, 3, 5 of each."""
        answer = self.parts("transfer", thickness_mm="2 mm")
        self.assertIn(
            "<em>5</em> go round each dessert bent to it, 4 mm apart: 30 for 6, 18 of them printed", answer["answer"]
        )
        self.assertIn(f"{30 * 40 * 40 * 2 * RHO:.0f}", answer["answer"])
        window = bend_window("film", 2.0, "room", room_c=self.kitchen.room_c, white="coating")
        self.assertIn(f"cut about {window.from_min:.0f} min", answer["answer"])
        self.assertEqual(answer["picture"].count("plan-piece"), 18)
        self.assertIn("print, rough side", answer["picture"])
        flat = self.parts("transfer", around="flat")["answer"]
        self.assertIn(f"<em>{math.floor(math.pi / math.atan(42 / 70))}</em> go round each dessert flat", flat)
        prices = self.parts("transfer", single="2.5", pack="15", pack_of="10")["answer"]
        self.assertIn("costs 0.42 by the sheet, 0.25 from 1 pack", re.sub(r"[^\w .,()]", "", prices))

    def test_every_cut_and_both_ways_round(self) -> None:
        sizes = {"square": 40 * 40, "strip": 40 * 60, "disc": math.pi / 4 * 1600, "loop": 40 * 80}
        for cut, area in sizes.items():
            answer = self.parts("transfer", cut=cut, around="count", count="8", height_mm="60 mm", thickness_mm="2 mm")
            self.assertIn(f"{8 * area * 2 * RHO:.0f}", answer["answer"], cut)
        sleeve = self.parts("transfer", cut="sleeve", thickness_mm="2 mm", printed="1")["answer"]
        self.assertIn(f"<em>6</em> of {math.pi * 72 + 10:.0f} mm by 40 mm", sleeve)
        framed = self.parts("transfer", cut="frame", count="48", cavities="24", width_mm="200 mm", height_mm="120 mm")
        self.assertIn("<em>2</em> films of 200 mm by 120 mm for 48 cavities", framed["answer"])
        free = self.parts(
            "transfer",
            around="count",
            count="10",
            width_mm="40 mm",
            height_mm="200 mm",
            cut="strip",
            printed="1",
            kerf_mm="1 mm",
            direction="free",
            sheet_w_mm="400 mm",
            sheet_h_mm="250 mm",
        )
        kept = self.parts(
            "transfer",
            around="count",
            count="10",
            width_mm="40 mm",
            height_mm="200 mm",
            cut="strip",
            printed="1",
            kerf_mm="1 mm",
            sheet_w_mm="400 mm",
            sheet_h_mm="250 mm",
        )
        self.assertIn("from <em>1</em> sheet", free["answer"])
        self.assertIn("from <em>2</em> sheets", kept["answer"])

    def test_desserts_that_are_not_round(self) -> None:
        """Along sides of 100 and 62 mm: 3 + 2 + 3 + 2 of 30 mm, 2 mm apart; round an oval by the way round it."""
        sides = {"diameter_mm": "100 mm", "other_mm": "62 mm", "width_mm": "30 mm"}
        self.assertIn("<em>10</em> go round", self.parts("transfer", dessert="box", **sides)["answer"])
        oval = self.parts("transfer", dessert="oval", **sides)["answer"]
        self.assertIn(f"<em>{math.floor(oval_round_mm(100, 62) / 32)}</em> go round", oval)
        sleeve = {**self.begin("transfer"), "dessert": "box", "cut": "sleeve", "do": "keep"}
        self.assertIn("dessert", self.client.post("/studio/new/transfer/", sleeve).context["form"].errors)

    def also(self, piece: Piece) -> list[Also]:
        job = Job.objects.whole(self.kitchen, piece.job_id)
        return also_wanted(job, reckoned(job, self.kitchen))

    def test_a_layer_takes_its_grams_and_its_film_from_the_plan(self) -> None:
        sheet = Extra.objects.create(kitchen=self.kitchen, name="Orbit print", kind="sheet", pack=10, price=20.0)
        piece = piece_with(self.kitchen, "transfer", "dessert", (60.0, 50.0), 12, sheet)
        layer = piece.layers.get()
        data = untouched(self.client.get(self.client.get(f"/studio/layer/{layer.pk}/").url).context["form"])
        self.assertEqual((data["diameter_mm"], data["height_mm"], data["count"]), ("60 mm", "50 mm", "12"))
        before = self.also(piece)[0].amount
        sent = self.client.post("/studio/new/transfer/", {**data, "printed": "1", "do": "keep"})
        self.assertEqual(sent.status_code, 302)
        design, layer = Design.objects.get(), Layer.objects.get()
        self.assertAlmostEqual(drawn_g(layer) * 12, design.drawn["goes_on_g"], delta=0.02)
        after = self.also(piece)[0].amount
        self.assertAlmostEqual(after, design.drawn["films"])
        self.assertNotAlmostEqual(before, after)
        self.assertEqual(self.client.get(f"/pieces/jobs/{piece.job_id}/").status_code, 200)

    def test_steps_are_kept_as_data_with_their_windows(self) -> None:
        for name in ("marbling", "swirl", "bottle", "transfer", *FILM):
            steps = steps_from(self.kept(name).drawn["steps"])
            self.assertGreater(len(steps), 1, name)
            self.assertAlmostEqual(
                sum(s.hands_s for s in steps), Design.objects.latest("pk").drawn["seconds"], msg=name
            )
            self.assertTrue(any(s.state for s in steps), name)
            if name in ("sleeve", "curls", "bow", "leaves"):
                bent = next(s for s in steps if s.closes)
                self.assertTrue(0 < bent.from_min < (bent.until_min or 0), name)
            if name not in ("swirl", "marbling"):
                self.assertTrue(any(s.state == SET and s.waits for s in steps), name)
        self.assertTrue(any(s.state == WET and s.closes for s in steps_from(self.kept("marbling").drawn["steps"])))

    def test_film_work_for_a_layer_and_what_else_it_could_be(self) -> None:
        piece = piece_with(self.kitchen, "film", "dessert", (60.0, 50.0), 4)
        layer = piece.layers.get()
        page = self.client.get(self.client.get(f"/studio/layer/{layer.pk}/").url)
        self.assertContains(page, "open, round a dessert")
        for kind in KINDS_OF["film"]:
            query = f"?layer={layer.pk}"
            form = untouched(self.client.get(f"/studio/new/{kind.name}/{query}").context["form"])
            self.client.post(f"/studio/new/{kind.name}/", {**form, "do": "keep"})
            layer.refresh_from_db()
            kept = Design.objects.get(layer=layer)
            self.assertEqual(kept.kind, kind.name)
            per = kept.drawn["goes_on_g"] / kept.drawn["pieces"]
            self.assertAlmostEqual(drawn_g(layer), per, places=2, msg=kind.name)
        marbled = piece_with(self.kitchen, "marbling", "ball", (32.0, 32.0), 24).layers.get()
        self.assertIn("/studio/new/swirl/", self.client.get(f"/studio/layer/{marbled.pk}/").url)
        self.assertIn("marbling", self.client.get(self.client.get(f"/studio/layer/{marbled.pk}/").url).content.decode())

    def test_what_cannot_be_is_refused_at_its_field(self) -> None:
        small = {"sheet_w_mm": "45 mm", "sheet_h_mm": "45 mm", "width_mm": "60 mm"}
        cases = (
            ("sleeve", {"strip_mm": "150 mm"}, "strip_mm", "does not go round"),
            ("sleeve", {"height_mm": "6 mm", "thickness_mm": "2 mm"}, "height_mm", "no room above its base"),
            ("curls", {"glass_mm": "12 mm", "thickness_mm": "3 mm"}, "thickness_mm", "tears"),
            ("bow", {"around": "20"}, "around", "between 5 and 14"),
            ("bow", {"count": "0"}, "count", "between"),
            ("petals", {"sizes": "4"}, "sizes", "between 1 and 3"),
            ("leaves", {"long_mm": "290 mm", "film_w_mm": "200 mm"}, "long_mm", "larger than the sheet"),
            ("cast", {"texture": "velvet"}, "texture", ""),
            ("cast", {"width_mm": "x"}, "width_mm", ""),
            ("transfer", small, "width_mm", "larger than the sheet"),
            ("transfer", {**small, "cut": "disc"}, "width_mm", "larger than the sheet"),
            ("transfer", {"width_mm": "300 mm", "cut": "strip"}, "width_mm", "does not go round"),
            ("transfer", {"count": "200"}, "count", "takes at most 400"),
            ("transfer", {"cavities": "0"}, "cavities", "between"),
            ("bottle", {"cavities": "0"}, "cavities", "between"),
            ("bottle", {"each_ml": "0"}, "each_ml", "between"),
            ("swirl", {"bowl_mm": "60 mm", "piece_mm": "60 mm"}, "bowl_mm", "more than the whole surface"),
        )
        for kind, change, field, words in cases:
            sent = self.client.post(
                f"/studio/new/{kind}/", {**self.begin(kind), **change, "do": "keep", "name": "Mine"}
            )
            self.assertEqual(sent.status_code, 422, (kind, change))
            form = sent.context["form"]
            data = str(form.errors.get(field))
            self.assertIn(words, data, (kind, change))
            self.assertEqual(form["name"].value(), "Mine")
        self.assertFalse(Design.objects.exists())

    def test_a_refusal_reads_in_inches_where_the_kitchen_does(self) -> None:
        type(self.kitchen).objects.filter(pk=self.kitchen.pk).update(length_unit="in", mass_unit="oz")
        for kind, change, field, words in (
            ("sleeve", {"strip_mm": "6 in"}, "strip_mm", r"A strip of 6 in does not go round [\d /]+ in"),
            ("curls", {"glass_mm": "1/2 in", "thickness_mm": "1/8 in"}, "thickness_mm", r"at most 0\.\d\d in thick"),
            ("transfer", {"width_mm": "40 in", "cut": "strip"}, "width_mm", r"between [\d /.]+ in and [\d /]+ in"),
        ):
            sent = self.client.post(f"/studio/new/{kind}/", {**self.begin(kind), **change, "do": "keep"})
            data = str(sent.context["form"].errors.get(field))
            self.assertRegex(data, words, (kind, change))
            self.assertNotIn(" mm", data, (kind, change))

    def test_a_hot_kitchen_is_told_to_use_the_fridge(self) -> None:
        type(self.kitchen).objects.filter(pk=self.kitchen.pk).update(room_c=30.0)
        page = self.client.get("/studio/new/sleeve/")
        self.assertContains(page, "Use the fridge")
        cold = live(self.client, "/studio/live/sleeve/", {**untouched(page.context["form"]), "where": "fridge"})
        self.assertIn("in the fridge", cold.json()["parts"]["answer"])

    def test_a_marbled_dip_and_its_bowl_from_above(self) -> None:
        answer = self.parts("swirl")
        self.assertRegex(answer["answer"], r"One swirl does <em>\d+</em> pieces? before it muddies")
        address = re.search(r'image href="([^"]+)"', answer["picture"])
        assert address
        pictures = {self.client.get(address[1].replace("&amp;", "&") + f"&after={n}").content for n in ("0", "5")}
        self.assertEqual(len(pictures), 2)
        self.assertTrue(all(picture[:4] == b"\x89PNG" for picture in pictures))

    def test_a_bottle_by_the_spoon_and_moulds_in_turn(self) -> None:
        base = {**self.begin("bottle"), **{f"ml{i}": "" for i in range(8)}, "each_ml": "10"}
        spoons = {**base, "unit": "15.0", "ml0": "4", "ml1": "4", "cavities": "12"}
        answer = live(self.client, "/studio/live/bottle/", spoons).json()["parts"]
        shares = dispensed([BottleLayer("a", 60), BottleLayer("b", 60)], 12)
        plain = sum(max(cavity.values()) > 0.97 for cavity in shares)
        self.assertIn(f"<em>{plain}</em> nearly plain pieces", answer["answer"])
        self.assertIn("120 ml", answer["numbers"])
        turns = live(self.client, "/studio/live/bottle/", {**spoons, "a_mould": "4"}).json()["parts"]
        self.assertIn("Squeeze 4 in small circles", turns["time"])
        self.assertIn("2 times over: 8 in all", turns["time"])
        self.assertIn("warm water", turns["time"])

    def test_every_kind_says_itself_in_inches_and_has_a_picture(self) -> None:
        type(self.kitchen).objects.filter(pk=self.kitchen.pk).update(length_unit="in")
        for kind in KINDS.values():
            page = self.client.get(f"/studio/new/{kind.name}/").content.decode()
            answer = re.search(r'data-role="answer".*?</div>', page, re.S)
            assert answer
            self.assertNotRegex(re.sub("<[^>]+>", " ", answer[0]), r"\d mm\b", kind.name)
            steps = re.search(r'<ol class="steps-list timed">.*?</ol>', page, re.S)
            self.assertNotRegex(steps[0] if steps else "", r"\d mm\b", kind.name)
        self.assertEqual(self.client.get("/studio/").content.decode().count('class="kind-view'), len(KINDS))
