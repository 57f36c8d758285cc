"""Rules on food colours by region, as a reminder: the label and the local rules come first.

White: titanium dioxide (E 171) is no longer a permitted food colour in the EU, Commission Regulation (EU) 2022/63; in
the US at most 1 % by weight of the food, 21 CFR 73.575(c). Six azo and like colours (E 102, 104, 110, 122, 124, 129)
need a warning on the label in the EU, Regulation (EC) 1333/2008 annex V. A white colour here is taken to be all
pigment, which errs on the safe side.
"""

from __future__ import annotations

from coating.colour.mixing import BUTTER, GEL, LIQUID, POWDER, WHITE, Ingredient
from coating.errors import UnknownName

REGIONS = {"eu": "the European Union", "us": "the United States", "elsewhere": "somewhere else"}
WHITE_LIMIT_US = 0.01
_WARNED_HUES = ("yellow", "orange", "red")


def may_propose(ingredient: Ingredient, region: str) -> bool:
    """Whether a recipe may use it unasked: in the EU no white pigment; the maker can still add it.

    Parameters
    ----------
    ingredient : Ingredient
    region : str
        "eu" or "us".

    Returns
    -------
    bool
    """
    return not (ingredient.kind == WHITE and region == "eu")


def rule_for(ingredient: Ingredient, region: str, *, share: float | None = None) -> str:
    """What to mind about an ingredient in a region.

    Parameters
    ----------
    ingredient : Ingredient
    region : str
        One of REGIONS.
    share : float, optional
        Its mass over that of the whole bowl, 0 to 1; None when there is no bowl.

    Returns
    -------
    str
        "" where there is nothing to mind.

    Raises
    ------
    UnknownName
        Another region.
    """
    if region not in REGIONS:
        raise UnknownName("We know rules for the EU and the US only.", field="region", choices=list(REGIONS))
    if ingredient.kind == WHITE:
        return _white(region, share)
    if ingredient.kind in (LIQUID, POWDER, GEL, BUTTER) and region == "eu" and ingredient.name.startswith(_WARNED_HUES):
        return (
            "Some yellow, orange and red food colours (E 102, 104, 110, 122, 124, 129) must carry a warning about "
            "children's activity and attention in the EU. Read the label, and pass the warning on when you sell."
        )
    return ""


def _white(region: str, share: float | None) -> str:
    if region == "eu":
        return (
            "White colour is often titanium dioxide (E 171), which is not allowed in food in the EU since 2022. "
            "Use it only if its label names another white."
        )
    if region == "us":
        over = share is not None and share > WHITE_LIMIT_US
        now = f" In this bowl it may be as much as {share * 100:.1f} %: too much." if over and share else ""
        return f"White colour is often titanium dioxide: at most 1 % of the food by weight in the US.{now}"
    return (
        "White colour is often titanium dioxide: not allowed in food in the EU, at most 1 % by weight in the US. "
        "Read the label and your local rules."
    )
