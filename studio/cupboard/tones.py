"""What a coating can be of: a colour of the swatch book, a bag as it was bought, or plain."""

from __future__ import annotations

from dataclasses import dataclass

from coating.heat.melting import white_as_bought
from studio.accounts.models import Kitchen
from studio.colours.models import Colour
from studio.cupboard.models import Ingredient
from studio.cupboard.pictures import lab_of
from studio.cupboard.stock import Stock

WHITES = [
    ("coating", "Coating"),
    ("untempered", "White chocolate, untempered"),
    ("tempered", "White chocolate, tempered"),
]


@dataclass(frozen=True)
class Tone:
    """What a coating is of: a colour that is made, a bag as it was bought, or neither: plain."""

    colour: Colour | None = None
    base: Ingredient | None = None

    @property
    def key(self) -> str:
        """Its number as forms and designs keep it: "12", "bag7", "" for plain."""
        return f"{BAG}{self.base.pk}" if self.base else str(self.colour.pk) if self.colour else ""

    @property
    def name(self) -> str:
        """What makers call it."""
        return self.base.name if self.base else self.colour.name if self.colour else "Plain"

    @property
    def lab(self) -> tuple[float, float, float] | None:
        """As it looks; None for plain."""
        return lab_of(self.base) if self.base else self.colour.lab if self.colour else None

    def white(self, name: str) -> str:
        """The white it is: of a bag by its fat, of chocolate tempered unless it is to stay untempered."""
        if self.base is None:
            return name
        return white_as_bought(self.base.family, name)


PLAIN, BAG = Tone(), "bag"


def tones_in(kitchen: Kitchen) -> dict[str, Tone]:
    """What a coating can be of in a kitchen, by its key: plain, the colours of its book, the bags that are there."""
    bags = [row for row in Stock.of(kitchen).rows if row.kind == "base" and not row.put_away]
    tones = [PLAIN, *(Tone(c) for c in Colour.objects.for_kitchen(kitchen)), *(Tone(base=row) for row in bags)]
    return {tone.key: tone for tone in tones}
