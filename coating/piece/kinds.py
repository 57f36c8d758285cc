"""Kinds of cores: what is sold or made to put layers on, in the sizes there are.

Sizes to choose from are what shops sell: common practice, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import MISSING, dataclass, fields
from types import MappingProxyType

from coating.errors import UnknownName, WrongShape
from coating.piece.cores import Block, Core, Disc, Hollow, Rod, Round, Sheet, Tier, Twist


@dataclass(frozen=True)
class CoreKind:
    """A kind of core: what it is called, its shape, sizes to choose from (title, dimensions in mm), what it contains.

    `allergens` : what it usually contains; None for what is bought and could be anything, until its pack was read.
    `bought` : comes ready. `breaks` : share that breaks in handling. `dipped` : share of it that is usually dipped;
    `flow` : the window that its dip wants.
    `can_be_part` : it can be put on another. `many` : what several are called, where that is not its title and an s.
    """

    name: str
    title: str
    shape: type[Core]
    sizes: tuple[tuple[str, tuple[float, ...]], ...]
    allergens: tuple[str, ...] | None = ()
    bought: bool = True
    breaks: float = 0.04
    dipped: float = 0.5
    flow: str = "dip"
    many: str = ""
    can_be_part: bool = True

    @property
    def plural(self) -> str:
        """What several of them are called.

        >>> KINDS["round_biscuit"].plural, KINDS["berry"].plural
        ('Round biscuits', 'Berries')
        """
        return self.many or f"{self.title}s"

    @property
    def usual(self) -> tuple[float, ...]:
        """The size to begin with, mm: the usual one, or the first."""
        return dict(self.sizes).get("usual", self.sizes[0][1])

    @property
    def figure(self) -> str:
        """The word for its outline: disc, block, round, rod, twist, tier, hollow or sheet."""
        return self.shape.__name__.lower()

    def core(self, *size_mm: float) -> Core:
        """One of a size. Raises OutOfBounds; WrongShape for the wrong number of dimensions."""
        sides = fields(self.shape)
        if not sum(side.default is MISSING for side in sides) <= len(size_mm) <= len(sides):
            refusal = f"{self.title} has {len(self.usual)} sizes in mm, such as {list(self.usual)}, not {len(size_mm)}."
            raise WrongShape(refusal, field="size_mm")
        return self.shape(*size_mm)


_WHEAT = ("wheat",)
_KINDS = (
    CoreKind(
        "round_biscuit",
        "Round biscuit",
        Disc,
        (("small", (45, 6)), ("usual", (60, 8)), ("large", (80, 10)), ("very large", (120, 10))),
        _WHEAT,
    ),
    CoreKind(
        "sandwich_biscuit",
        "Sandwich biscuit",
        Disc,
        (("small", (40, 13)), ("usual", (46, 16)), ("thick", (46, 22))),
        (*_WHEAT, "milk", "soya"),
    ),
    CoreKind("finger_biscuit", "Finger biscuit", Block, (("thin", (80, 18, 9)), ("usual", (95, 25, 12))), _WHEAT),
    CoreKind(
        "pretzel_twist",
        "Pretzel twist",
        Twist,
        (("small", (38, 5)), ("usual", (45, 6)), ("large", (60, 7))),
        _WHEAT,
        breaks=0.08,
        dipped=1.0,
    ),
    CoreKind(
        "pretzel_rod", "Pretzel rod", Rod, (("thin", (120, 6)), ("usual", (190, 12))), _WHEAT, breaks=0.05, dipped=0.9
    ),
    CoreKind(
        "ball",
        "Cake ball or truffle",
        Round,
        (("small", (25, 25)), ("usual", (32, 32)), ("large", (40, 40))),
        ("wheat", "milk", "egg"),
        bought=False,
        breaks=0.06,
        dipped=1.0,
        flow="balls",
        many="Cake balls or truffles",
    ),
    CoreKind(
        "berry",
        "Berry",
        Round,
        (("small", (25, 30)), ("usual", (32, 42)), ("large", (40, 55))),
        dipped=0.9,
        flow="dip_fruit",
        many="Berries",
    ),
    CoreKind(
        "fruit",
        "Fruit slice or segment",
        Round,
        (("segment", (25, 60)), ("apple", (70, 75))),
        flow="dip_fruit",
        many="Fruit slices or segments",
    ),
    CoreKind("marshmallow", "Marshmallow", Round, (("usual", (28, 32)), ("large", (40, 45))), dipped=0.333),
    CoreKind(
        "sweet", "Bought sweet", Round, (("small", (15, 15)), ("usual", (25, 25))), None, dipped=1.0, flow="balls"
    ),
    CoreKind(
        "cup",
        "Cup to fill",
        Hollow,
        (("mini", (30, 22, 18)), ("usual", (50, 38, 25)), ("dessert", (65, 50, 60))),
        many="Cups to fill",
    ),
    CoreKind(
        "glass_rim",
        "Rim of a glass",
        Tier,
        (("usual", (70, 110)), ("wide", (95, 90))),
        many="Rims of glasses",
        can_be_part=False,
    ),
    CoreKind(
        "mould",
        "Mould",
        Hollow,
        (
            ("praline", (29, 24, 15)),
            ("bar", (60, 56, 10)),
            ("half ball", (60, 20, 30)),
            ("big shell", (110, 60, 55)),
            ("small part", (16, 13, 5)),
        ),
        bought=False,
        many="Moulded shapes",
    ),
    CoreKind(
        "cake_tier",
        "Tier of a cake",
        Tier,
        (("small", (150, 100)), ("usual", (200, 110)), ("large", (260, 110))),
        ("wheat", "milk", "egg"),
        bought=False,
        breaks=0.0,
        many="Tiers of a cake",
    ),
    CoreKind("dessert", "Dessert", Tier, (("mousse", (60, 50)), ("tart", (90, 25))), ("milk", "egg"), bought=False),
    CoreKind(
        "slab",
        "Slab or bark",
        Sheet,
        (("small", (200, 150)), ("usual", (250, 200)), ("tray", (330, 230))),
        bought=False,
        breaks=0.0,
        many="Slabs or bark",
        can_be_part=False,
    ),
    CoreKind(
        "shape",
        "Piped or spread shape",
        Sheet,
        (
            ("tiny", (14, 14)),
            ("small", (30, 30)),
            ("usual", (50, 50)),
            ("plaque", (70, 44)),
            ("low panel", (50, 20)),
            ("standing panel", (25, 55)),
            ("large", (90, 90)),
        ),
        bought=False,
        breaks=0.15,
    ),
    CoreKind(
        "panel",
        "Flat panel",
        Block,
        (("wall", (120, 90, 6)), ("roof", (140, 80, 6)), ("gable", (90, 120, 6))),
        _WHEAT,
        bought=False,
        breaks=0.06,
    ),
)
KINDS: Mapping[str, CoreKind] = MappingProxyType({k.name: k for k in _KINDS})


def kind_of_core(name: str) -> CoreKind:
    """The kind of that name. Raises UnknownName."""
    if name not in KINDS:
        raise UnknownName(f"There is no core called {name[:60]!r}.", field="core", choices=list(KINDS))
    return KINDS[name]
