"""Sentences of the quick card."""

from __future__ import annotations

from coating.colour.ciede2000 import difference_word
from coating.job.quick_card import QuickCard
from studio.common.templatetags.kitchen import also, measured, which_is
from studio.common.templatetags.words import parts_listed
from studio.common.words import close_says, listed, lower, number_word, stress
from studio.quick.forms import CardSubject

LISTED = 2  # colours from which they are a list beneath the sentence
MANY_DROPS = 60  # from which it is worth a word how many they are


def card_says(card: QuickCard, what: CardSubject, count: int, colour: str) -> str:
    """All of it in a sentence: what to melt, what to stir in, what to dip; `colour` "" where none is made."""
    bases = [p for p in card.recipe.parts if p.ingredient.is_base]
    melted = listed([f"{stress(measured(p))} of {lower(p.ingredient.title)}" for p in bases])
    is_ = f"{which_is(card.bowl.melt_g, card.bowl.white)} in all" if len(bases) > 1 else also(bases[0])
    stirred = f" and stir in {_stirred(card)}" if colour else ""
    made = f"one {what.one}" if count == 1 else f"{count} {what.many}"
    spare = f" and {card.line.spares} extra" if card.line.spares else ""
    sentence = f"Melt {melted} ({is_}){stirred}. {what.work.verb.capitalize()} {made}{spare}"
    if not colour:
        return f"{sentence}."
    short = ", the closest these colours come" if difference_word(card.recipe.de00) == "another colour" else ""
    return f"{sentence}: {colour.lower()}, {close_says(card.recipe.de00)}{short}."


def _stirred(card: QuickCard) -> str:
    """One colour with how much of it; of several how many they are: the list says the rest."""
    colours = [p for p in card.recipe.parts if p.ingredient.is_colourant]
    if len(colours) < LISTED:
        return parts_listed(card.recipe.parts) or "nothing more"
    return stress(f"{number_word(len(colours))} colours")


def bag_says(card: QuickCard) -> str:
    """A coating that is bought in its colour, where that is better; nothing where it is not."""
    if not card.bag:
        return ""
    title, recipe = lower(card.bag[0].title), card.bag[1]
    drops = f"That is {card.drops:.0f} drops: it is better to" if card.drops >= MANY_DROPS else "It is better to"
    why = f"it takes {card.bag_drops:.0f} drops" if card.bag_is_quicker else "with as many drops it comes much closer"
    return f"{drops} {stress(f'buy {title}')}: {why} ({close_says(recipe.de00)})."
