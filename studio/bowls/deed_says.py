"""What is to be done with a bowl now: the headline, and what goes in, one to a line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from coating.colour.mixing import Part
from studio.common.measures import current
from studio.common.templatetags.kitchen import also, amount_text, colour_word, mass, measured, until
from studio.common.words import listed, number_word, stress


@dataclass(frozen=True)
class PutIn:
    """One thing that goes in: how much of what, and the same amount measured the other way."""

    key: str
    amount: str
    name: str
    other: str
    is_base: bool

    @classmethod
    def of(cls, part: Part, bag_g: float | None) -> PutIn:
        """As this kitchen measures it."""
        kind, name = part.ingredient.kind, colour_word(part.ingredient.title)
        if not part.ingredient.is_base and kind != "fat":
            return cls(part.ingredient.name, amount_text(part), name, "", False)
        return cls(part.ingredient.name, measured(part, bag_g), name, also(part, bag_g), part.ingredient.is_base)

    @property
    def says(self) -> str:
        """Inside a sentence.

        >>> PutIn("pink", "6 drops", "pink", "", False).says
        '*6 drops* pink'
        >>> PutIn("bright", "250 g", "bright white coating", "about 95 wafers", True).says
        '*250 g* bright white coating (about 95 wafers)'
        """
        of = " of" if self.is_base and not current().has_scale else ""
        return f"{stress(self.amount)}{of} {self.name}{f' ({self.other})' if self.other else ''}"


def warmth_says(to_c: float, now_c: float, seed_g: float | None) -> str:
    """How it is brought to a temperature."""
    if to_c > now_c:
        return f"Warm it until {stress(until(to_c))}"
    if seed_g:
        seed = f"Stir in up to {stress(mass(seed_g))} of unmelted pieces, a few at a time"
        return f"{seed}, until {stress(until(to_c))}"
    return f"Let it cool until {stress(until(to_c))}"


def deed_says(
    things: Sequence[PutIn],
    *,
    empty: bool = False,
    until_says: str = "",
    warmth: str = "",
    reads: str = "",
    ready: bool = False,
    number: float | None = None,
) -> str:
    """The first half of the headline. The main thing is said with its amount; of several that are stirred in only how
    many they are, since the list beneath says how much of each.

    >>> pink, fat = PutIn("pink", "6 drops", "pink", "", False), PutIn("fat", "4 g", "palm flakes", "1 tsp", False)
    >>> white = PutIn("bright", "250 g", "bright white coating", "", True)
    >>> deed_says([pink]), deed_says([pink, fat])
    ('Stir in *6 drops* pink', 'Stir in *two things*')
    >>> deed_says([white, pink, fat], empty=True, until_says="it reads 42 °C")
    'Melt *250 g* bright white coating until it reads 42 °C and stir in *two things*'
    >>> deed_says([fat], warmth="Warm it until *it reads 38 °C*")
    'Warm it until *it reads 38 °C*, then stir in *4 g* palm flakes (1 tsp)'
    >>> deed_says([], ready=True), deed_says([]), deed_says([], reads="it reads 35 °C", number=58.0)
    ('Nothing to add', 'As it is now', 'As you say, it reads 35 °C, and its label says 58')
    """
    bases = [thing.says for thing in things if thing.is_base]
    stirred = [thing.says for thing in things if not thing.is_base]
    what = stirred[0] if len(stirred) == 1 else stress(f"{number_word(len(stirred))} things")
    if bases:
        deed = f"Melt{'' if empty else ' in'} {listed(bases)}{f' until {until_says}' if until_says else ''}"
        deed += f" and stir in {what}" if stirred else ""
    elif warmth:
        deed = f"{warmth}, then stir in {what}" if stirred else warmth
    elif stirred:
        deed = f"Stir in {what}"
    else:
        deed = "As you say" if reads else "Nothing to add" if ready else "As it is now"
    deed += f", {reads}" if reads else ""
    return deed + (f", and its label says {number:.0f}" if number else "")
