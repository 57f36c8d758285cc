"""The quick card's taps, and how many."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django import forms

from coating.colour.mixing import Ingredient
from coating.piece.kinds import KINDS, CoreKind
from coating.stack.layers import Layer
from studio.colours.actions import STARTER_COLOURS
from studio.common.forms import CountField

Lab = tuple[float, float, float]
PLAIN = "plain"
THINNERS = {"coating": "palm_flakes", "untempered": "cocoa_butter", "tempered": "cocoa_butter"}
SIZES = [("small", "small"), ("ordinary", "ordinary"), ("large", "large")]
DEPTHS = [("third", "a third"), ("half", "half"), ("all", "all over")]
SHARES = {"spread": 1.0, "cake_drip": 1.0, "solid": 1.0, "rim": 0.1}  # of what is not dipped to a depth
DEPTH_SHARES = {"third": 0.333, "half": 0.5, "all": 1.0}
WHITES = [("coating", "coating"), ("untempered", "white chocolate")]
COLOURS = {name.lower().replace(" ", "-"): (name, lab) for name, lab in STARTER_COLOURS.items()}


@dataclass(frozen=True)
class CardWork:
    """What is done: the verb, what the bowl has to be right for, and how, in two sentences of a maker."""

    verb: str
    right_for: str
    how: str


WORK: Mapping[str, CardWork] = {
    "dip": CardWork("dip", "for a tapped dip", "Straight in, out, tap, scrape the foot on the rim."),
    "spread": CardWork(
        "spread",
        "to spread",
        "Onto film on a tray; tap the tray until it lies level. What goes on top goes on while it is wet.",
    ),
    "cake_drip": CardWork(
        "drip", "for drips", "Try one drip at the back of the cold cake first, then go round the rim, and fill the top."
    ),
    "rim": CardWork("dip", "for rims", "Turn the rim in it, let it drip off, stand it upright; sprinkles at once."),
    "solid": CardWork("fill", "to fill moulds", "To the brim, tap, top up, tap again, scrape the mould clean."),
}


@dataclass(frozen=True)
class CardSubject:
    """What is made: one and many of it, the kind of its core, the name of its piece, and what is done."""

    one: str
    many: str
    kind_name: str
    piece: str
    technique: str = "dip"

    @property
    def kind(self) -> CoreKind:
        """The kind of thing that is dipped or spread."""
        return KINDS[self.kind_name]

    @property
    def work(self) -> CardWork:
        """What is done with it."""
        return WORK[self.technique]

    def size_mm(self, size: str) -> tuple[float, ...]:
        """Of small, ordinary or large, mm."""
        sizes = [mm for _, mm in self.kind.sizes]
        return {"small": sizes[0], "large": sizes[-1]}.get(size, self.kind.usual)

    def layer(self, depth: str) -> Layer:
        """The coat on it."""
        return Layer(self.technique, share=SHARES.get(self.technique, DEPTH_SHARES[depth]))


WHATS: Mapping[str, CardSubject] = {
    "biscuit": CardSubject("biscuit", "biscuits", "round_biscuit", "Dipped biscuits"),
    "ball": CardSubject("ball", "balls", "ball", "Dipped balls"),
    "berry": CardSubject("berry", "berries", "berry", "Dipped berries"),
    "pretzel": CardSubject("pretzel", "pretzels", "pretzel_twist", "Dipped pretzels"),
    "rod": CardSubject("pretzel rod", "pretzel rods", "pretzel_rod", "Dipped rods"),
    "sandwich": CardSubject("sandwich biscuit", "sandwich biscuits", "sandwich_biscuit", "Dipped sandwich biscuits"),
    "finger": CardSubject("finger biscuit", "finger biscuits", "finger_biscuit", "Dipped fingers"),
    "marshmallow": CardSubject("marshmallow", "marshmallows", "marshmallow", "Dipped marshmallows"),
    "fruit": CardSubject("fruit slice", "fruit slices", "fruit", "Dipped fruit slices"),
    "mould": CardSubject("moulded bar", "moulded bars", "mould", "Moulded bars", "solid"),
    "cake": CardSubject("cake", "cakes", "cake_tier", "Cake with drips", "cake_drip"),
    "glass": CardSubject("glass rim", "glass rims", "glass_rim", "Rims of glasses", "rim"),
    "bark": CardSubject("slab of bark", "slabs of bark", "slab", "Bark", "spread"),
}


class QuickForm(forms.Form):
    """`bags` : what can be taken as it was bought, by code; they are offered beside plain and the colours."""

    what = forms.ChoiceField(
        label="What you are making",
        choices=[(k, w.many if k != "bark" else "bark") for k, w in WHATS.items()],
        initial="biscuit",
        widget=forms.RadioSelect,
    )
    count = CountField(
        "count", label="How many", initial=12, high=500, widget=forms.TextInput(attrs={"aria-label": "How many"})
    )
    size = forms.ChoiceField(label="Size", choices=SIZES, initial="ordinary", widget=forms.RadioSelect)
    depth = forms.ChoiceField(label="Depth of the dip", choices=DEPTHS, initial="half", widget=forms.RadioSelect)
    colour = forms.ChoiceField(label="Colour", initial="dusk-blue", widget=forms.RadioSelect)
    white = forms.ChoiceField(label="Kind of chocolate", choices=WHITES, initial="coating", widget=forms.RadioSelect)

    def __init__(self, *args: Any, bags: Mapping[str, tuple[Ingredient, Lab]], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.bags = bags
        field: Any = self.fields["colour"]
        field.choices = [
            (PLAIN, "Plain"),
            *((k, v[0]) for k, v in COLOURS.items()),
            *((code, bag.title) for code, (bag, _) in bags.items()),
        ]

    def swatches(self) -> list[tuple[Any, Lab | None]]:
        """Every colour that is made, as its radio and its Lab; plain first."""
        labs = {PLAIN: None, **{k: lab for k, (_, lab) in COLOURS.items()}}
        return [(radio, labs[radio.data["value"]]) for radio in self["colour"] if radio.data["value"] in labs]

    def bought(self) -> list[tuple[Any, Lab]]:
        """Every bag, as its radio and its Lab."""
        return [
            (radio, self.bags[radio.data["value"]][1]) for radio in self["colour"] if radio.data["value"] in self.bags
        ]

    @classmethod
    def plain(cls) -> dict[str, str]:
        """The card as it is before any tap."""
        return {name: str(field.initial) for name, field in cls.base_fields.items()}
