"""What is done to a bowl on the day, in words that end the sentence begun by its name and how much of it there is."""

from __future__ import annotations

from coating.heat.melting import warmth_of
from coating.job.making import chocolate_of
from studio.common.templatetags.kitchen import until
from studio.pieces.adapters import ColourNeed


def then_says(need: ColourNeed, *, again: bool) -> str:
    """After it is melted, or warmed again: stirred; in temper never warmer than it is worked."""
    bowl = need.reckoned
    if not bowl.tempered:
        return ", and stir"
    warm = f"until {until(warmth_of(need.white, chocolate_of(bowl)).work_at_c)}"
    if again:
        return f" {warm} and no further, or it is out of temper; stir"
    tint = "Stir the colour in until no streak is left, then seed" if bowl.recipe else "Seed"
    return f". {tint} it bit by bit {warm}, and see that a smear of it sets"
