"""Ingredients of a kitchen and their parameters, each of which knows where it came from."""

from __future__ import annotations

from collections import defaultdict
from typing import Self

from django.db import models

from coating.limits import BOUNDS
from coating.plan.flavours import TASTES
from studio.common.models import KitchenOwned, KitchenQuerySet, Versioned, within

KINDS = [
    ("base", "Base"),
    ("liquid", "Oil colour"),
    ("powder", "Powder colour"),
    ("gel", "Water-based colour"),
    ("butter", "Coloured cocoa butter"),
    ("white", "White"),
    ("fat", "Thinner"),
    ("water", "Water"),
]
EXTRA_KINDS = [
    ("topping", "Topping"),
    ("filling", "Filling"),
    ("icing", "Icing"),
    ("modelling", "Modelling chocolate"),
    ("insert", "Put inside"),
    ("dust", "Dust or pearl"),
    ("leaf", "Leaf"),
    ("stick", "Stick or pick"),
    ("mould", "Mould"),
    ("sheet", "Transfer sheet"),
]
NUMBERS_OF_AN_EXTRA = {
    "each_g": "mass_g",
    "keeps_days": "keeps_days",
    "pack": "pack",
    "price": "price",
    "uses": "uses",
    "cavities": "cavities",
}
EATEN = ("topping", "filling", "icing", "modelling", "insert", "dust", "leaf")  # kinds that somebody eats
FAMILIES = [("", "does not matter"), ("cocoa", "cocoa butter"), ("palm", "palm-type fat")]
SORTS = [("white", "white"), ("milk", "milk"), ("dark", "dark"), ("coloured", "coloured")]


class IngredientQuerySet(KitchenQuerySet):
    """Ingredients of a kitchen."""

    def with_parameters(self) -> Self:
        """With every parameter and reading, old ones too, oldest first: three queries whatever the cupboard holds."""
        ordered = Parameter.objects.order_by("pk")
        readings = Optics.objects.order_by("pk")
        both = models.Prefetch("parameters", queryset=ordered), models.Prefetch("readings", queryset=readings)
        return self.prefetch_related(*both).order_by("pk")


class Ingredient(KitchenOwned, Versioned):
    """Something in the cupboard, copied into this kitchen, or the maker's `own`.

    `sort` is what a bag of base says of itself. `stocked`: recipes may use it; `ticked`: the maker said that it is
    there. `put_away`: taken out of the cupboard, kept for the bowls that it is in. `made_on`, `keep_until`: of what is
    left of a finished bowl.
    `optics` is versioned JSON: {"v": 1, "k": {constant, tails, bands, power}, "s": {...}} in 1/mm.
    """

    code = models.CharField(max_length=40, db_collation="utf8mb4_bin")
    name = models.CharField(max_length=80)
    kind = models.CharField(max_length=10, choices=KINDS)
    family = models.CharField(max_length=10, choices=FAMILIES, blank=True)
    optics = models.JSONField(default=dict)
    allergens = models.JSONField(default=list, blank=True)
    allergens_said = models.BooleanField(default=False)
    sort = models.CharField(max_length=10, choices=SORTS, default="white")
    invented = models.BooleanField(default=True)
    own = models.BooleanField(default=False)
    stocked = models.BooleanField(default=True)
    ticked = models.BooleanField(default=False)
    put_away = models.BooleanField(default=False)
    made_on = models.DateField(null=True, blank=True)
    keep_until = models.DateField(null=True, blank=True)

    objects = IngredientQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["kitchen", "code"], name="one_code_a_kitchen")]

    def __str__(self) -> str:
        return self.name

    @property
    def as_bought(self) -> str:
        """How its bag is named where it is used without a recipe."""
        return self.name if self.made_on else f"{self.name}, as bought"

    def current(self) -> dict[str, Parameter]:
        """The newest parameter of each name (from the prefetched ones)."""
        return {p.name: p for p in self.parameters.all()}

    def measured(self, name: str) -> Parameter | None:
        """The newest value of a parameter where its maker measured it."""
        parameter = self.current().get(name)
        return parameter if parameter is not None and parameter.provenance == "measured" else None

    def read_last(self) -> Optics | None:
        """The newest reading of its colour (from the prefetched ones); None while it is assumed."""
        return next(reversed(self.readings.all()), None)

    def history(self) -> dict[str, list[Parameter]]:
        """Every value a parameter has had, oldest first."""
        rows: dict[str, list[Parameter]] = defaultdict(list)
        for parameter in self.parameters.all():
            rows[parameter.name].append(parameter)
        return dict(rows)


class Parameter(KitchenOwned):
    """One value of one parameter. Rows are only added; the newest counts, events pin the one they used."""

    PROVENANCE = [
        ("default", "assumed"),
        ("label", "from the label"),
        ("measured", "measured by you"),
        ("learned", "learned from your bowls"),
    ]
    ingredient = models.ForeignKey(Ingredient, on_delete=models.CASCADE, related_name="parameters")
    name = models.CharField(max_length=20)
    value = models.FloatField()
    low = models.FloatField()
    high = models.FloatField()
    provenance = models.CharField(max_length=10, choices=PROVENANCE, default="default")
    since = models.DateTimeField(auto_now_add=True)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["ingredient", "name"])]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(low__lte=models.F("value"), high__gte=models.F("value")),
                name="parameter_in_its_range",
            )
        ]

    def __str__(self) -> str:
        return f"{self.name} {self.value:g}"


class Optics(KitchenOwned):
    """What an ingredient absorbs and scatters, worked out from one reading. Rows are only added; events pin theirs.

    `curves` is versioned JSON as `Ingredient.optics`; `told` what it came from: {"v": 1, "how": "base" or "tint",
    "lab", "de00", and for a tint "into", "base_g", "grams", "family"}.
    """

    ingredient = models.ForeignKey(Ingredient, on_delete=models.CASCADE, related_name="readings")
    curves = models.JSONField()
    told = models.JSONField(default=dict)
    since = models.DateTimeField(auto_now_add=True)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        verbose_name_plural = "optics"

    def __str__(self) -> str:
        return f"{self.told.get('how', '')} {self.since:%Y-%m-%d}"


class Extra(KitchenOwned, Versioned):
    """What goes on or in a piece and is no coating, or helps to make it: toppings, fillings, dusts, picks, moulds.

    `allergens` is None until somebody has looked at its pack.
    `parts` is the recipe of a filling, icing or modelling chocolate: [{"name", "g"}]. `pack` is what a pack holds, in
    g, or in pieces for what is counted; `uses` and `cavities` are for what is used again.
    """

    EDIBLE = [("yes", "sold as food"), ("non_toxic", "only says non-toxic"), ("unsaid", "I have not looked")]
    kind = models.CharField(max_length=10, choices=EXTRA_KINDS)
    name = models.CharField(max_length=80)
    each_g = models.FloatField(null=True, blank=True)
    allergens = models.JSONField(null=True, blank=True, default=None)
    edible = models.CharField(max_length=10, choices=EDIBLE, default="yes")
    keeps_days = models.PositiveSmallIntegerField(null=True, blank=True)
    cold = models.BooleanField(default=False)
    small = models.BooleanField(default=False)
    comes_out = models.BooleanField(default=False)
    parts = models.JSONField(default=list, blank=True)
    taste = models.CharField(max_length=10, blank=True, choices=list(TASTES.items()))
    pack = models.FloatField(null=True, blank=True)
    price = models.FloatField(null=True, blank=True)
    uses = models.PositiveIntegerField(null=True, blank=True)
    cavities = models.PositiveSmallIntegerField(null=True, blank=True)

    objects = KitchenQuerySet.as_manager()

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["kitchen", "kind", "name"], name="one_extra_a_name"),
            *(
                within(field, BOUNDS[bound].low, BOUNDS[bound].high, name=f"extra_{field}_within")
                for field, bound in NUMBERS_OF_AN_EXTRA.items()
            ),
        ]

    def __str__(self) -> str:
        return self.name
