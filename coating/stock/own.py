"""A bag, a bottle or a jar of a maker's own, from what can be known of it: what it is, and its shade."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType

from coating.colour.fitting import fit_colourant
from coating.colour.mixing import BUTTER, GEL, LIQUID, POWDER, SORTS, Ingredient, Part
from coating.colour.upsampling import absorption_from_lab
from coating.errors import EmptyBowl, NoSuchColour, UnknownName
from coating.stock.ingredients import demo_ingredient

FAMILIES = {"palm": "coating", "cocoa": "chocolate"}
# The one of ours that an own bag is like until more is said of it.
_LIKE = {
    ("palm", "white"): "bright",
    ("palm", "milk"): "milk",
    ("palm", "dark"): "dark",
    ("palm", "coloured"): "red_coating",
    ("cocoa", "white"): "ivory",
    ("cocoa", "milk"): "milk",
    ("cocoa", "dark"): "dark",
    ("cocoa", "coloured"): "ivory",
}


@dataclass(frozen=True)
class Tint:
    """How the shade of a colour is told: so much of it, g, as `says` names it, in 100 g of bright white coating."""

    says: str
    grams: float
    like: str


TINTED_G, ANOTHER = 100.0, 5.0  # g of white; dE00 from which it is another colour
TINTS: Mapping[str, Tint] = MappingProxyType(
    {
        LIQUID: Tint("6 drops", 0.24, "blue"),
        POWDER: Tint("4 pinches", 0.2, "blue_powder"),
        GEL: Tint("6 dabs", 0.12, "blue_gel"),
        BUTTER: Tint("2 teaspoons", 9.0, "blue_butter"),
    }
)


def own_base(name: str, title: str, family: str, sort: str, lab: Sequence[float] | None = None) -> Ingredient:
    """A base as it was bought, everything but its shade assumed from the one of ours that is most like it.

    Parameters
    ----------
    name, title : key, and what the maker calls it. family : "palm" for coating, "cocoa" for chocolate.
    sort : "white", "milk", "dark" or "coloured". lab : its shade as melted, CIELAB under D65; None for the usual one.

    Raises
    ------
    UnknownName : another family or sort. EmptyBowl : a coloured one without a shade. NoSuchColour : nothing looks so.
    """
    if (family, sort) not in _LIKE:
        field, known = ("sort", list(SORTS)) if family in FAMILIES else ("family", list(FAMILIES))
        raise UnknownName("Choose coating or chocolate, and white, milk, dark or coloured.", field=field, choices=known)
    if sort == "coloured" and lab is None:
        raise EmptyBowl("Say which colour it is.", field="lab")
    like = demo_ingredient(_LIKE[family, sort])
    flow = demo_ingredient(_LIKE[family, "white"]) if family == "palm" else like
    absorption = like.absorption if lab is None else absorption_from_lab(lab, like.scattering)
    return replace(
        like,
        name=name,
        title=title,
        family=family,
        sort=sort,
        absorption=absorption,
        number=flow.number,
        k_per_s=flow.k_per_s,
        fat_fraction=flow.fat_fraction,
    )


def own_colour(
    name: str, title: str, kind: str, *, like: Ingredient | None = None, tint: Sequence[float] | None = None
) -> Ingredient:
    """A colour in a bottle or a jar: like one of ours, or from the shade that a little of it gives.

    Parameters
    ----------
    name, title : key, and what the maker calls it. kind : a key of `TINTS`. like : the one of ours it looks like.
    tint : CIELAB under D65 of the amount of `TINTS` in 100 g of bright white coating.

    Raises
    ------
    UnknownName : another kind. EmptyBowl : neither was said. NoSuchColour : no colour gives that tint.
    """
    if kind not in TINTS:
        raise UnknownName("Choose an oil colour, a powder, a gel or a cocoa butter.", field="kind", choices=list(TINTS))
    of_its_kind = demo_ingredient(TINTS[kind].like)
    if tint is not None:
        white = (Part(demo_ingredient("bright"), TINTED_G),)
        fit = fit_colourant(white, TINTS[kind].grams, tint, scattering=of_its_kind.scattering)
        if fit.de00 > ANOTHER:
            raise NoSuchColour(
                "No colour stirred into white gives that shade. Choose a lighter or duller one.", field="tint"
            )
        return replace(of_its_kind, name=name, title=title, absorption=fit.absorption)
    if like is None:
        raise EmptyBowl("Say which colour it is.", field="lab")
    strength = 1.0 if like.kind == kind else _STRONGER[kind] / _STRONGER[like.kind]
    absorption = replace(
        like.absorption,
        constant=like.absorption.constant * strength,
        bands=tuple((height * strength, nm, sigma) for height, nm, sigma in like.absorption.bands),
    )
    return replace(of_its_kind, name=name, title=title, absorption=absorption)


# How strong a kind is beside an oil colour, on the whole. Common practice, no source.
_STRONGER = {LIQUID: 1.0, POWDER: 3.0, GEL: 0.8, BUTTER: 0.1}
