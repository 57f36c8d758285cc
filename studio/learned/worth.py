"""What it is worth: how far off first looks were, with and without what was known by then, and what was left over."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from django.utils import timezone
from django.utils.formats import date_format

from coating.colour.ciede2000 import colour_difference
from coating.colour.fitting import with_strength
from coating.colour.mixing import Part, mix
from coating.learning import fit
from coating.learning.names import DROP
from coating.learning.observations import Observation, pseudo_reading
from studio.accounts.models import Kitchen
from studio.bowls.models import BowlEvent
from studio.common.templatetags.kitchen import mass
from studio.common.words import close_says
from studio.learned.records import Noted

SHOWN, LEAST = 12, 3  # first looks, and evenings


@dataclass(frozen=True)
class FirstLook:
    """How far the first look of a bowl was off what was expected, dE00: by the labels, and by what was known then."""

    of: str
    on: date
    by_label: float
    by_records: float

    @property
    def told(self) -> str:
        """Both in words."""
        both = f"{close_says(self.by_records)} by what was known then, {close_says(self.by_label)} by the labels"
        return f"{self.of}, {date_format(self.on, 'j F')}: {both}"


@dataclass(frozen=True)
class LeftOnDay:
    """What was left over on a day, g, of so much that was melted."""

    on: date
    left_g: float
    melted_g: float

    @property
    def told(self) -> str:
        """In words."""
        return f"{date_format(self.on, 'j F')}: {mass(self.left_g)} of {mass(self.melted_g)} left over"


def first_looks(noted: Sequence[Noted]) -> list[FirstLook]:
    """The last bowls whose colour was looked at, each by what was known before it; nothing of too few."""
    live = [n for n in noted if not n.record.struck and n.record.of_colour]
    firsts = list({n.record.bowl: n for n in reversed(live)}.values())[::-1]
    shown = []
    for one in firsts[-SHOWN:] if len(firsts) >= LEAST else []:
        before = [n.record for n in live if n.at < one.at and n.record.bowl != one.record.bowl]
        factors = dict(fit(before).factors) if before else {}
        on = timezone.localtime(one.at).date()
        shown.append(FirstLook(one.of, on, _off(one.record, {}), _off(one.record, factors)))
    return shown


def _off(record: Observation, factors: dict[str, float]) -> float:
    """How far what was seen is from what was to be expected with some factors."""
    parts = []
    for place, part in enumerate(record.parts):
        own = with_strength(
            part.ingredient, {part.ingredient.name: factors.get(f"strength.{record.bottle_of(place)}", 1.0)}
        )
        drop = factors.get(DROP, 1.0) if record.in_drops(part) else 1.0
        parts.append(Part(own, part.mass_g * drop))
    seen = pseudo_reading(record)[0] if record.kind == "look" else record.lab
    assert seen is not None
    return float(colour_difference(mix(parts).lab(), seen))


def evenings(kitchen: Kitchen) -> list[LeftOnDay]:
    """The last days on which it was said how much was left over; nothing of too few."""
    by_day: dict[date, tuple[float, float]] = {}
    done = BowlEvent.objects.for_kitchen(kitchen).filter(kind="used", struck_by=None, payload__has_key="left_g")
    for payload, at in done.order_by("-happened_at").values_list("payload", "happened_at")[:200]:
        on = timezone.localtime(at).date()
        left_g, melted_g = by_day.get(on, (0.0, 0.0))
        by_day[on] = left_g + payload["left_g"], melted_g + payload["mass_g"] + payload["left_g"]
    days = [LeftOnDay(on, left_g, melted_g) for on, (left_g, melted_g) in sorted(by_day.items())]
    return days[-SHOWN:] if len(days) >= LEAST else []
