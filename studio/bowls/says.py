"""What a bowl page says of how the bowl stands, as sentences."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from coating.colour.ciede2000 import CLOSE, VISIBLE
from coating.colour.reach import TooLittle
from coating.flow.thinning import Thinning
from coating.plan.standing import Standing
from studio.common.templatetags.kitchen import colour_word, falls, in_inches, mass, money, percent, unit_word
from studio.common.words import close_says, listed, lower, many, stress
from studio.pieces.spoken import Spoken

NAMED = 3  # pieces that a title names
FULL = 0.85  # share of the colour a coating carries from which it is called full


def title_says(name: str, pieces: Iterable[tuple[int, str]]) -> str:
    """A bowl, and how many of which pieces it is for, each once.

    >>> title_says("Dusk blue", [(24, "Comets"), (1, "Upper tier"), (1, "Upper tier")])
    'Dusk blue, for 24 comets and the upper tier'
    >>> title_says("Plain", [(1, "Bark"), (2, "Cups"), (3, "Moons"), (4, "Stars")])
    'Plain, for the bark, 2 cups and 2 pieces more'
    >>> title_says("Plain", [])
    'Plain'
    """
    names = list(dict.fromkeys(f"{count if count > 1 else 'the'} {lower(piece)}" for count, piece in pieces))
    if len(names) > NAMED:
        names = [*names[: NAMED - 1], f"{len(names) - NAMED + 1} pieces more"]
    return f"{name}, for {listed(names)}" if names else name


def comes_says(de00: float, name: str, *, adding: bool) -> str:
    """How close its colour is, or comes with what is added; the sentence goes on with how it flows.

    >>> comes_says(0.6, "Dusk blue", adding=True), comes_says(1.8, "Dusk blue", adding=False)
    ('comes to *a match* for dusk blue and ', 'is *a close match* for dusk blue and ')
    >>> comes_says(4.0, "Dusk blue", adding=True), comes_says(9.0, "Dusk blue", adding=True)
    ('still differs *visibly* from dusk blue and ', 'stays *another colour* than dusk blue and ')
    """
    if de00 <= CLOSE:
        return f"{'comes to' if adding else 'is'} {stress(close_says(de00))} for {lower(name)} and "
    if de00 <= VISIBLE:
        return f"still differs {stress('visibly')} from {lower(name)} and "
    return f"stays {stress(close_says(de00))} than {lower(name)} and "


def bowls_says(in_use: int, waiting: int, first: str) -> str:
    """The headline of all bowls; `first` is the colour that waits first.

    >>> bowls_says(2, 1, "Plum"), bowls_says(1, 3, "Plum")
    ('2 bowls in use; 1 colour still needs one.', '1 bowl in use; 3 colours still need one.')
    >>> bowls_says(1, 0, ""), bowls_says(0, 2, "Plum")
    ('1 bowl in use; every colour has its bowl.', 'No bowl in use. Start with plum.')
    >>> bowls_says(0, 0, "")
    'No bowl in use yet. A bowl says how many drops, how it flows, how long it stays warm.'
    """
    if in_use and waiting:
        return f"{many(in_use, 'bowl')} in use; {many(waiting, 'colour')} still need{'s' if waiting == 1 else ''} one."
    if in_use:
        return f"{many(in_use, 'bowl')} in use; every colour has its bowl."
    if waiting:
        return f"No bowl in use. Start with {lower(first)}."
    return "No bowl in use yet. A bowl says how many drops, how it flows, how long it stays warm."


def uses_says(word: str, right: Sequence[str], *, supposed: bool) -> str:
    """What the bowl is right for, as it is or as it would be.

    >>> uses_says("folds", ["Dip", "Lace"], supposed=False)
    'It *falls in folds*, right for *dip* and *lace*.'
    >>> uses_says("runs", [], supposed=True)
    'Then it *runs off the spoon*, right for nothing. Below is what gets it there.'
    """
    sentence = f"{'Then it' if supposed else 'It'} {stress(falls(word))}"
    if right:
        names = list(dict.fromkeys(lower(in_inches(title)).partition(",")[0] for title in right))
        named = [stress(name) for name in names[:NAMED]]
        more = [f"{len(names) - NAMED} more"] if len(names) > NAMED else []
        return f"{sentence}, right for {listed([*named, *more])}."
    return f"{sentence}, right for nothing{'' if supposed else ' as it stands'}. Below is what gets it there."


def fat_says(dose: Thinning, price: float | None, *, cheapest: bool) -> str:
    """The same thinning with another fat."""
    sentence = f"{stress(dose.thinner[:1].upper() + dose.thinner[1:])}, {mass(dose.thinner_g)}, half of it first: "
    if dose.verdict == "refused":
        return f"{sentence}not this, {dose.reason}."
    sentence += f"{dose.reason} ({percent(dose.solid_fat_fraction)} of the fat is firm in this room)"
    if not price:
        return f"{sentence}."
    return f"{sentence}; costs {money(price)}{', ' + stress('the cheapest') if cheapest else ''}."


def closest_says(load: float, little: str) -> str:
    """A colour that cannot be had from these bottles; `little` says so of a bowl that is too small.

    >>> closest_says(0.9, "")[:85]
    'This is the closest these colours come: the coating carries no more colour without lo'
    """
    if little:
        return little
    full = ": the coating carries no more colour without losing its flow" if load > FULL else ""
    return f"This is the closest these colours come{full}. For a deep shade buy a coloured coating and darken that."


def whole_says(little: TooLittle, melt_g: float) -> str:
    """One drop is too much for so small a bowl."""
    part = little.whole
    return (
        f"A whole {unit_word(part)} of {colour_word(part.ingredient.title)} is too much for {mass(melt_g)}: melt "
        f"{stress(mass(little.least_base_g))}, or use a toothpick of it."
    )


def stands_says(
    stands: Standing, kind: Spoken, *, white: str, thinner: str = "", soft: bool = False, dose: bool = False
) -> str:
    """The end of a sentence: whether it is right for what it is for; if not why, and what helps.

    `thinner` : the fat there is. `dose` : some of that is still wanted. `soft` : so much of it would stay soft.

    >>> from studio.pieces.spoken import SPOKEN
    >>> stands_says(Standing("right"), SPOKEN["dip"], white="coating")
    'right for this dip.'
    """
    bag = "coating" if white == "coating" else "chocolate"
    fat = thinner[:1].lower() + thinner[1:] or "fat"
    match stands.verdict, stands.why:
        case "right", _:
            return f"right for {kind.this}."
        case "set", _:
            return f"too cold to use: it has set, so melt it before {kind.this}."
        case "melting", _:
            return "not melted yet: there are lumps in it."
        case "thin", "hot":
            return "thin while it is this warm: let it cool."
        case "thin", _:
            return f"thin for {kind.this}: {kind.thin}. Let it cool a little, or take a thicker {bag}."
        case _, "wet":
            return f"too thick for {kind.this}: water got in, and fat brings back only part of the flow."
        case _, "overheated":
            return f"too thick for {kind.this}: too much heat thickened it for good, and a little fat loosens it."
        case _, "cold":
            return f"too cool {kind.cool} yet: warm it."
        case "uneven", _:
            return f"not right for {kind.this}: it holds and runs at once. Take another {bag}, or test it."
    if soft:
        return f"thick for {kind.this}, and so much more {fat} would keep it soft in this room: take a thinner {bag}."
    if dose:
        return f"still thick for {kind.this}: a little more {fat} helps."
    return f"a little thick for {kind.this}: {kind.thick}. Take a thinner {bag} if you mind."
