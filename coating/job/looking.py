"""What to look for at a step: its own words, or those of its kind."""

from __future__ import annotations

from coating.steps import HALF_SET, SET, Step

SMOOTH = "smooth, no piece to be seen, no streak"
# Of what is done to a bowl; common practice, no source.
OF_BOWLS = {
    "melt": SMOOTH,
    "rewarm": SMOOTH,
    "tint": "one colour all through, and a dab on paper that is the colour you want",
    "temper": "a smear on paper that is dull and firm within five minutes",
    "test": "it covers, and it stops where you want it",
    "thin": "no lump of fat left, it falls from the spoon without a break",
    "bag": "a line that runs when you press and stops when you do",
}
OFF = "it comes away whole, and it is glossy where it lay"
BENDS = "it gives without a crack, and nothing sticks to your finger"
STANDS = "it stands by itself when you let go"


def looks_of(step: Step, *, first: bool, from_bowl: bool, technique: str) -> str:
    """What to look for at a step of a layer.

    Parameters
    ----------
    step : with its own `looks`, where it has them. first : whether it is the first one of its layer. from_bowl :
    whether it is done from a warm bowl. technique : what is looked for while that layer is made.

    Returns
    -------
    str
        Words that go on after "Look for", without a full stop.
    """
    if step.looks:
        return step.looks
    if step.kind == "stick":
        return STANDS
    if step.kind == "release":
        return OFF
    if first or from_bowl or step.state not in (SET, HALF_SET):
        return technique
    return OFF if step.state == SET else BENDS
