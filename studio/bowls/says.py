"""What a bowl page says of how the bowl stands, as sentences."""

from __future__ import annotations

from collections.abc import Iterable

from coating.plan.standing import Standing
from studio.pieces.says import listed, lower
from studio.pieces.spoken import Spoken

NAMED = 3  # pieces that a title names


def title_says(name: str, pieces: Iterable[tuple[int, str]]) -> str:
    """A bowl, and how many of which pieces it is for, each once.

    >>> title_says("Dusk blue", [(24, "Comets"), (1, "Upper tier"), (1, "Upper tier")])
    'Dusk blue, for 24 comets and the upper tier'
    >>> title_says("Plain", [(1, "Bark"), (2, "Cups"), (3, "Moons"), (4, "Stars")])
    'Plain, for the bark, 2 cups and 2 pieces more'
    >>> title_says("Plain", [])
    'Plain'
    """
    told = list(dict.fromkeys(f"{count if count > 1 else 'the'} {lower(piece)}" for count, piece in pieces))
    if len(told) > NAMED:
        told = [*told[: NAMED - 1], f"{len(told) - NAMED + 1} pieces more"]
    return f"{name}, for {listed(told)}" if told else name


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
            return f"too thick for {kind.this}: too much heat thickened it for good, and a little {fat} loosens it."
        case _, "cold":
            return f"too cool {kind.cool} yet: warm it."
        case "uneven", _:
            return f"not right for {kind.this}: it holds and runs at once. Take another {bag}, or test it."
    if soft:
        return f"thick for {kind.this}, and so much more {fat} would keep it soft in this room: take a thinner {bag}."
    if dose:
        return f"still thick for {kind.this}: a little more {fat} helps."
    return f"a little thick for {kind.this}: {kind.thick}. Take a thinner {bag} if you mind."
