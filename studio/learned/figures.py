"""What was learned as a picture: what was assumed on the left, what is on the right."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from coating.heat.times import set_time, usable_time
from studio.accounts.models import Kitchen
from studio.common.templatetags.kitchen import about_minutes
from studio.learned.fitted import Taught

WIDE, HIGH = 460.0, 96.0
LEFT, RIGHT = 0.25 * WIDE, 0.75 * WIDE
COAT_MM, BOWL_G, HOUR_MIN = 2.0, 250.0, 60.0  # a coat, a bowl and some work to show it by
SPREADS = 0.2  # a spoonful spreads with so much of a power of the yield stress (Roussel & Coussot 2005)


@dataclass(frozen=True)
class Beside:
    """Two shapes as paths, and what stands under each."""

    was: str
    now: str
    was_says: str
    now_says: str


def picture_of(one: Taught, kitchen: Kitchen) -> Beside | None:
    """The picture of a thing; None of a colour, whose swatches show it."""
    factor = one.product.factor
    match one.kind:
        case "drop":
            return Beside(_drop(LEFT, 1.0), _drop(RIGHT, factor ** (1 / 3)), "a drop as assumed", "a drop of yours")
        case "flow":
            spread = factor**-SPREADS
            return Beside(_puddle(LEFT, 1.0), _puddle(RIGHT, spread), "a spoonful by the label", "a spoonful of yours")
        case "hole":
            return Beside(_line(LEFT, 1.0), _line(RIGHT, factor), "a line as planned", "a line of yours")
        case "coat":
            return Beside(_cut(LEFT, 1.0), _cut(RIGHT, factor), "a coat as assumed", "a coat of yours")
        case "set":
            place = kitchen.places[0]
            minutes = set_time("coat", COAT_MM, place, white="coating", room_c=kitchen.room_c).touch_min
            return _bars(minutes, minutes * factor)
        case "loss":
            minutes = usable_time(BOWL_G, white="coating", room_c=kitchen.room_c) / 60
            return _bars(minutes, minutes / factor)
        case "pace":
            return _bars(HOUR_MIN, HOUR_MIN * factor)
    return None


@dataclass(frozen=True)
class ChartBar:
    """One of several things over time: where it stands, how high it and what it is of are, and what it says."""

    x: float
    high: float
    of_high: float
    says: str


CHART_HIGH, CHART_MOST = 96.0, 34  # of a chart; as wide as one bar is at most


def bars(values: Sequence[tuple[float, float, str]]) -> list[ChartBar]:
    """Things over time as bars, each a value, what it is of, and what it says."""
    most = max((max(value, of) for value, of, _ in values), default=0.0) or 1.0
    step = min(WIDE / max(1, len(values)), CHART_MOST + 10.0)
    return [
        ChartBar(i * step, CHART_HIGH * value / most, CHART_HIGH * of / most, says)
        for i, (value, of, says) in enumerate(values)
    ]


def _drop(x: float, scale: float) -> str:
    """Hanging, with its tip above."""
    r = 24 * scale
    y = HIGH - 6 - r
    side, low = 0.87 * r, y - r / 2
    return f"M{x:.1f} {y - 2 * r:.1f}L{x + side:.1f} {low:.1f}A{r:.1f} {r:.1f} 0 1 1 {x - side:.1f} {low:.1f}Z"


def _puddle(x: float, scale: float) -> str:
    """From above and a little from the side."""
    a, b, y = 80 * scale, 30 * scale, HIGH / 2
    return f"M{x - a:.1f} {y}A{a:.1f} {b:.1f} 0 1 1 {x + a:.1f} {y}A{a:.1f} {b:.1f} 0 1 1 {x - a:.1f} {y}Z"


def _line(x: float, scale: float) -> str:
    """Piped across, enlarged."""
    half, y = 14 * scale / 2, HIGH / 2
    end = f"a{half:.1f} {half:.1f} 0 0 1 0"
    return f"M{x - 90:.1f} {y - half:.1f}h180{end} {2 * half:.1f}h-180{end} {-2 * half:.1f}Z"


def _cut(x: float, scale: float) -> str:
    """A ring round what it is on: the hole in it is that."""
    core, y = 30.0, HIGH / 2
    r = core + 10 * scale
    return _round(x, y, r) + _round(x, y, core)


def _round(x: float, y: float, r: float) -> str:
    return f"M{x - r:.1f} {y}a{r:.1f} {r:.1f} 0 1 0 {2 * r:.1f} 0a{r:.1f} {r:.1f} 0 1 0 {-2 * r:.1f} 0Z"


def _bars(was_min: float, now_min: float) -> Beside:
    """Minutes as lengths, one over the other."""
    longest = max(was_min, now_min)
    was, now = (
        f"M0 {y}h{WIDE * minutes / longest:.1f}v24h{-WIDE * minutes / longest:.1f}Z"
        for minutes, y in ((was_min, 14), (now_min, 54))
    )
    return Beside(was, now, f"{about_minutes(was_min)} as assumed", f"{about_minutes(now_min)} in your kitchen")
