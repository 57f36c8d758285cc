"""The window of every technique: yield stress and viscosity as they stand at working temperature.

Derived from lengths, widths and coats that practice wants (common practice, no source); k = 6. Yield stress and
viscosity are tested, not the number alone.
"""

from __future__ import annotations

from dataclasses import dataclass

from coating.errors import UnknownName
from coating.flow.casson1959 import Flow


@dataclass(frozen=True)
class Window:
    """Ranges (low, high) of yield stress in Pa, viscosity in Pa s and trade number, and why."""

    technique: str
    title: str
    yield_stress_pa: tuple[float, float]
    viscosity_pa_s: tuple[float, float]
    number: tuple[float, float]
    reason: str

    def verdict(self, flow: Flow) -> str:
        """ "right", "thick", "thin", or "uneven" when one value is too high and the other too low."""
        high = flow.yield_stress_pa > self.yield_stress_pa[1] or flow.viscosity_pa_s > self.viscosity_pa_s[1]
        low = flow.yield_stress_pa < self.yield_stress_pa[0] or flow.viscosity_pa_s < self.viscosity_pa_s[0]
        if high and low:
            return "uneven"
        return "thick" if high else "thin" if low else "right"

    @property
    def thin_end(self) -> Flow:
        return Flow(self.yield_stress_pa[0], self.viscosity_pa_s[0])

    @property
    def thick_end(self) -> Flow:
        return Flow(self.yield_stress_pa[1], self.viscosity_pa_s[1])

    @property
    def aim(self) -> Flow:
        """The thickest flow worth aiming for: a fifth of the window inside its thick end, so that least fat goes in."""
        (y0, y1), (v0, v1) = self.yield_stress_pa, self.viscosity_pa_s
        return Flow(y1 - 0.2 * (y1 - y0), v1 - 0.2 * (v1 - v0))


WINDOWS: tuple[Window, ...] = (
    Window("cake_drip", "Cake drip", (4, 10), (0.7, 1.6), (13, 30), "the run stops at the length wanted"),
    Window("lace", "Lace line, 2 mm", (11, 23), (1.9, 3.8), (35, 70), "the line stays under 1.5 times its width"),
    Window("lettering", "Lettering, 1 to 1.5 mm", (8, 21), (1.3, 3.5), (25, 65),
           "the line stays under 1.3 times its width"),
    Window("drizzle", "Thread drizzle", (4, 15), (0.65, 2.4), (12, 45), "the thread outlives its fall"),
    Window("dip", "Dip biscuits, tapped", (10, 16), (1.6, 2.7), (30, 50), "a coat of 1.1 to 1.6 mm"),
    Window("dip_fruit", "Dip fruit, swirled", (6.5, 10), (1.1, 1.6), (20, 30), "a coat of 1.2 to 1.6 mm"),
    Window("balls", "Balls on a fork", (12, 19), (2, 3.2), (37, 60), "a coat of 1.2 to 1.8 mm"),
    Window("shell", "Hollow shell, tapped", (13, 21), (2.1, 3.5), (40, 65), "a wall of 1.4 to 1.9 mm"),
    Window("solid_mould", "Fine solid mould", (4, 10), (0.65, 1.8), (12, 33), "slots fill and bubbles rise"),
    Window("outline", "Outline", (15, 32), (2.6, 5.4), (48, 100), "it stands as a dam"),
    Window("flood", "Flood", (4, 8), (0.65, 1.35), (12, 25), "relief of .3 mm at most"),
    Window("marbling", "Marbling", (5, 12), (0.8, 2), (15, 37), "both colours flow alike, within 1.3 times"),
    Window("sheet", "Sheet on film, 1.5 to 3 mm", (6.5, 14), (1.1, 2.4), (20, 45), "no ridges; the edge stands"),
    Window("slab", "Slab, spread", (8, 32), (1.3, 5.4), (25, 100), "a knife spreads it, a tapped tray levels it"),
    Window("petals", "Knife petals", (13, 31), (2.2, 5.1), (40, 95), "the blade holds 1 to 2.5 mm"),
    Window("glue", "Glue", (37, 120), (6, 40), (115, 372), "it stays on an upright wall"),
)  # fmt: skip

_BY_NAME = {w.technique: w for w in WINDOWS}


def window(technique: str) -> Window:
    """The window of a technique, by its key or the beginning of its title ("dip", "thread drizzle").

    Raises UnknownName.
    """
    asked = " ".join(technique.lower().replace("_", " ").split())
    if asked.replace(" ", "_") in _BY_NAME:
        return _BY_NAME[asked.replace(" ", "_")]
    found = [w for w in WINDOWS if asked and w.title.lower().startswith(asked)]
    if len(found) != 1:
        raise UnknownName(
            f"There is no technique called {technique[:60]!r}.", field="technique", choices=list(_BY_NAME)
        )
    return found[0]
