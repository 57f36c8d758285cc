"""What was wrong with a bowl, as its own page tells it."""

from __future__ import annotations

from django.urls import reverse

from studio.bowls.models import Bowl
from studio.bowls.troubles import ToldTrouble
from studio.common.words import lower
from studio.rescue.models import Rescue
from studio.rescue.spoken.causes import CAUSES
from studio.rescue.spoken.moves import MOVES
from studio.rescue.spoken.signs import SIGNS

HELPED = {Rescue.YES: "It helped.", Rescue.PARTLY: "It helped a little.", Rescue.NO: "It did not help.", "": ""}


def told_of(bowl: Bowl) -> list[ToldTrouble]:
    """The newest first; what was taken back is left out."""
    return [
        ToldTrouble(row.happened_at, trouble_says(row), "" if row.helped else reverse("rescue:after", args=[row.pk]))
        for row in bowl.rescues.filter(undone=False).order_by("-happened_at", "-pk")
    ]


def trouble_says(row: Rescue) -> str:
    """What was seen, what was done, and whether that helped.

    >>> trouble_says(Rescue(symptom="clumpy", cause="cold", move="thin", helped="yes"))
    'Lumps in it (only cooled): thin it a little. It helped.'
    """
    sign, cause = SIGNS[row.symptom].label, CAUSES[row.cause].name
    return f"{sign} ({cause}): {lower(MOVES[row.move].name)}. {HELPED[row.helped]}".strip()
