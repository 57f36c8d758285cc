"""Every form of the site with what an untouched page would send, for tests that go over all of them."""

from __future__ import annotations

import logging
from dataclasses import dataclass, field
from html.parser import HTMLParser
from typing import Any

from django.test import Client, TestCase

from studio.cupboard.models import Extra, Ingredient
from studio.designs.kinds import KINDS
from tests.studio.kitchens import add, bowl_for, half_dip, maker, step
from tests.studio.test_pieces import CAKE

TYPED = ("text", "number", "search", "email", "tel", "url", "date", "time")


def untouched(form: Any) -> dict[str, str]:
    """What an untouched page would send."""
    values = {name: form[name].value() for name in form.fields}
    return {name: "" if value is None else str(value) for name, value in values.items()}


@dataclass
class Fields(HTMLParser):
    """What the fields of a page hold: by name, all values that would be sent."""

    held: dict[str, list[str]] = field(default_factory=dict)
    typed: set[str] = field(default_factory=set)
    _select: str = ""
    _options: list[tuple[str, bool]] = field(default_factory=list)
    _area: str | None = None

    def __post_init__(self) -> None:
        super().__init__()

    @classmethod
    def of(cls, page: str) -> Fields:
        read = cls()
        read.feed(page)
        return read

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        data = {name: value or "" for name, value in attrs}
        name = data.get("name", "")
        if tag == "input" and name:
            if data.get("type") in ("checkbox", "radio") and "checked" not in data:
                return
            self.held.setdefault(name, []).append(data.get("value", "on" if data.get("type") == "checkbox" else ""))
            if data.get("type", "text") in TYPED:
                self.typed.add(name)
        elif tag == "select":
            self._select, self._options = name, []
        elif tag == "option":
            self._options.append((data.get("value", ""), "selected" in data))
        elif tag == "textarea":
            self._area = name
            self.typed.add(name)
            self.held.setdefault(name, []).append("")

    def handle_data(self, data: str) -> None:
        if self._area is not None:
            self.held[self._area][-1] += data

    def handle_endtag(self, tag: str) -> None:
        if tag == "textarea":
            self._area = None
        elif tag == "select":
            chosen = [value for value, selected in self._options if selected] or [v for v, _ in self._options[:1]]
            self.held.setdefault(self._select, []).extend(chosen)


class Forms(TestCase):
    """A kitchen with a job, a piece and a bowl, and what their pages send."""

    def setUp(self) -> None:
        logging.disable(logging.WARNING)
        self.addCleanup(logging.disable, logging.NOTSET)
        _, self.kitchen, self.maker = maker()
        self.nobody = Client()
        piece = half_dip(self.kitchen)
        self.bowl = bowl_for(piece)
        self.maker.post(f"/bowls/{self.bowl.pk}/did/", step(self.bowl, **add(self.kitchen, bright=290), touch="warm"))
        self.bowl.refresh_from_db()
        job, ingredient = f"/pieces/jobs/{piece.job_id}", Ingredient.objects.filter(kitchen=self.kitchen).first()
        bowl, plain = f"/bowls/{self.bowl.pk}", {"seq": self.bowl.last_seq, "key": step(self.bowl)["key"]}
        assert ingredient is not None
        forms: list[tuple[Client, str, str]] = [
            (self.nobody, "/sign-up/", "/sign-up/"),
            (self.nobody, "/log-in/", "/log-in/"),
            (self.nobody, "/password/forgotten/", "/password/forgotten/"),
            (self.nobody, "/", "/quick/keep/"),
            (self.maker, "/kitchen/", "/kitchen/"),
            (self.maker, "/pieces/jobs/new/", "/pieces/jobs/new/"),
            (self.maker, f"{job}/edit/", f"{job}/edit/"),
            (self.maker, f"{job}/build/?begin=filled", f"{job}/build/"),
            (self.maker, f"/pieces/{piece.pk}/build/", f"/pieces/{piece.pk}/build/"),
            (self.maker, f"{bowl}/", f"{bowl}/did/"),
            (self.maker, "/", "/quick/keep/"),
            (self.maker, f"/cupboard/{ingredient.pk}/", f"/cupboard/{ingredient.pk}/"),
        ]
        self.posts = [(client, to, untouched(client.get(page).context["form"])) for client, page, to in forms]
        taps = {"measure": "scale", "warmth": "lip", "melt": "hob", "room": "hot", "where": "eu", "onward": "/bowls/"}
        spread = {"by": "spread", "volume_ml": "15", "diameter_mm": "62 mm", "keep": "on"}
        drip = {"by": "drip", "length_mm": "30", "volume_ml": "0.5", "width_mm": "9", "wall": "room"}
        cake = {
            "wall": "room",
            "volume_ml": ".5",
            "width_mm": "9",
            "diameter_mm": "150",
            "height_mm": "90",
            "spacing_mm": "28",
        }
        hole = {"hole-seconds": "90", "hole-number": "40", "hole-from_g": "150", "hole-to_g": "50"}
        self.posts += [
            (self.maker, f"{bowl}/strike/1/", plain),
            (self.maker, f"{bowl}/done/", {**plain, "used_g": "20"}),
            (self.maker, f"/bowls/begin/{piece.job_id}/", {"need": "1:coating"}),
            (self.maker, "/kitchen/five-taps/", taps),
            (self.maker, "/send-again/", {"x": "1"}),
            (self.maker, f"/pieces/{piece.pk}/remove/", {"key": plain["key"]}),
            (self.maker, f"{bowl}/melt/", {**plain, "seen": "read", "temperature_c": "40", "seconds": "20"}),
            (self.maker, f"{bowl}/spoon/", {**plain, "word": "folds"}),
            (self.maker, f"{bowl}/temper/", {**plain, "seed_g": "20 g", "touch": "warm"}),
            (self.maker, f"{bowl}/timer/", {"says": "a wait", "seconds": "60", "back": "/bowls/"}),
            (self.maker, f"{bowl}/tests/", {**plain, **spread}),
            (self.maker, f"{bowl}/tests/", {**plain, **drip}),
            (
                self.maker,
                f"{bowl}/tests/",
                {**plain, "by": "bag", "seconds": "90", "hole_mm": "4", "from_g": "150", "to_g": "50"},
            ),
            (self.maker, f"{bowl}/hole/", hole),
            (self.maker, f"{bowl}/uses/", {"temperature_c": "36"}),
            (self.maker, f"{bowl}/waits/", {"shape": "line", "thickness_mm": "2"}),
            (self.maker, f"{bowl}/tests/", {**plain, "by": "card", "mass_g": "9", "width_mm": "60", "dipped_mm": "80"}),
        ]
        colour, blue = self.bowl.colour_id, Ingredient.objects.get(kitchen=self.kitchen, code="blue").pk
        shade = {
            "lab": "68,-8,-17",
            "white": "coating",
            "melt_g": "200 g",
            "colourants": "3",
            "way": "best",
            "mixed_fats": "",
            f"use-{blue}": "must",
        }
        tint = {"what": "colour", "into": "bright", "base_g": "100 g", "units": "4", "hex": "#9ad4ee", "lab": ""}
        shades = {"white": "coating", "colourant": "blue", "shades": "5", "each_g": "200 g", "deepest": "40"}
        coats = {"paint": f"b{ingredient.pk}", "ground": f"c{colour}", "coat_mm": "0.15", "white_share": "2 g"}
        gel = {"mass_g": "200 g", "dabs": "3", "water": "40"}
        self.posts += [
            (self.maker, "/colours/keep/", {**shade, "name": "Moss", "note": "", "came_from": "photo", "bowl": "1"}),
            (self.maker, "/colours/new/", {"hex": "#8fb0c8", "lightness": "68", "a": "-8", "b": "-17"}),
            (self.maker, f"{bowl}/colour/", {**plain, "what": "read", "word": "green", "much": "on", "hex": "#8fb0c8"}),
            (self.maker, f"{bowl}/colour/", {**plain, "what": "did"}),
            (self.maker, f"{bowl}/keep/", plain),
            (self.maker, f"/cupboard/{blue}/measure/", tint),
            (self.maker, f"/colours/{colour}/remove/", plain),
            (self.maker, f"/cupboard/{blue}/measure/", {"what": "weigh", "twenty_g": "0.9"}),
            (self.maker, "/colours/photo/", {"picture": "x", "bowl": "1"}),
        ]
        built = {
            "name": "Comets",
            "count": "12",
            "spares": "",
            "core": "mould",
            "layers": "2",
            "version": "0",
            "d0": "29 mm",
            "d1": "24 mm",
            "d2": "15 mm",
            "0-technique": "shell",
            "0-white": "coating",
            "0-colour": str(colour),
            "0-share": "1.0",
            "0-thickness_mm": "1.7 mm",
            "1-technique": "lines",
            "1-length_mm": "200 mm",
            "1-width_mm": "2",
            "1-white": "",
            "1-colour": "",
            "do": "save",
        }
        self.posts += [
            (self.maker, f"{job}/build/", built),
            (self.maker, f"{job}/build/", {**built, "do": "move:1:0"}),
            (self.maker, f"/pieces/{piece.pk}/build/", built),
            (self.maker, f"{job}/build/", CAKE),
        ]
        extra = Extra.objects.filter(kitchen=self.kitchen, kind="filling").first()
        assert extra is not None
        filling = {
            "name": "Moon cream",
            "edible": "yes",
            "recipe": "200 g cream",
            "keeps_days": "3",
            "taste": "cream",
            "price": "4",
            "pack": "300",
            "version": "1",
        }
        box = {
            "piece": str(piece.pk),
            "box": "own",
            "layers": "2",
            "shred_mm": "1 cm",
            "length_mm": "20 cm",
            "width_mm": "12 cm",
            "height_mm": "5 cm",
            "holes": "6",
            "hole_mm": "66",
        }
        self.posts += [
            (self.maker, f"{job}/count/", {"piece": str(piece.pk), "family": "", "count": "12", "version": "1"}),
            (
                self.maker,
                f"{job}/mix/",
                {
                    f"of-{piece.pk}": "2",
                    "box": "own",
                    "length_mm": "20 cm",
                    "width_mm": "8 in",
                    "height_mm": "90",
                    "shred_mm": "5",
                },
            ),
            (self.maker, f"{job}/scale/", {"was": "24", "will_be": "40"}),
            (self.maker, f"{job}/box/", box),
            (self.maker, f"{job}/together/", {"name": "x", "kind": "motif", "count": "4", f"take-{piece.pk}": "on"}),
            (self.maker, f"{job}/bowls/", {"do": f"split {colour}:coating"}),
            (self.maker, f"{job}/picks/", {"back-1": "3"}),
            (self.maker, f"/cupboard/extras/{extra.pk}/", filling),
            (self.maker, "/cupboard/extras/new/?kind=mould", filling),
            (self.maker, "/pieces/bring/", {"file": "x"}),
            (self.maker, f"/pieces/{piece.pk}/alone/", {"x": "1"}),
        ]
        fields = {to: base for client, to, base in self.posts if client is self.maker}
        self.lives = [
            (f"{bowl}/live/", fields[f"{bowl}/did/"]),
            ("/kitchen/live/", fields["/kitchen/"]),
            (f"{bowl}/waits/live/", {"shape": "line", "thickness_mm": "2"}),
            (f"{bowl}/uses/live/", {"temperature_c": "36", "touch": "warm", "with_rest": "on"}),
            (f"{bowl}/tests/live/", drip),
            (f"{bowl}/tests/live/", spread),
            (f"{bowl}/drip/live/", cake),
            (f"{job}/build/live/", CAKE),
            ("/quick/live/", fields["/quick/keep/"]),
        ]
        self.lives += [
            ("/colours/live/", shade),
            (f"/colours/{colour}/shades/live/", shades),
            ("/colours/coats/live/", coats),
            ("/colours/water/live/", gel),
            (f"{job}/build/live/", built),
        ]
        design = {n: untouched(self.maker.get(f"/studio/new/{n}/").context["form"]) for n in KINDS}
        picks = {
            n: {**base, KINDS[n].pick or "x": KINDS[n].tiles()[0].name if KINDS[n].pick else ""}
            for n, base in design.items()
        }
        self.posts += [(self.maker, f"/studio/new/{n}/", {**base, "do": "keep"}) for n, base in picks.items()]
        self.posts += [(self.maker, "/studio/shapes/bring/", {"name": "x", "file": "x"})]
        bag = {"use": "lace", "line_mm": "1.5", "hole_mm": "", "mass_g": "60 g", "speed_mm_s": "20", "bowl": ""}
        self.lives += [(f"/studio/live/{n}/", base) for n, base in picks.items()]
        self.lives += [("/studio/check/lace/", picks["lace"]), ("/studio/bag/live/", bag)]
        self.addresses = [
            ("/studio/bag/", bag),
            ("/studio/new/lace/", {"layer": "1", "pattern": "net", "shape": "x", "colour": "1", "check": "y"}),
            (f"{job}/build/", {"begin": "filled", "core": "mould", "template": "1"}),
            (f"{job}/boxes/", {"change": str(piece.pk), "pieces": "1"}),
            (f"{job}/", {"choose": "1:coating", "together": "y"}),
            ("/colours/try/", {**shade, "from": "chart"}),
            (f"/colours/{colour}/", shade),
            ("/colours/ladder/", {f"g-{colour}": "60 g", "g-1": "50", "white": "coating", "left_g": "10"}),
            (f"/colours/{colour}/shades/", shades),
            ("/colours/coats/", coats),
            ("/colours/water/", gel),
            ("/colours/new/", {"way": "chart", "light": "74", "white": "tempered"}),
            (f"{bowl}/colour/", {"read": "68,-8,-17"}),
            ("/", fields["/quick/keep/"]),
            ("/kitchen/five-taps/", taps),
            ("/bowls/", {"in-use": "", "done": ""}),
        ]
