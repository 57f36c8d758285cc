"""The window of every technique: yield stress and viscosity as they stand at working temperature.

A window has an ideal and a workable range. The ideal is derived from lengths, widths and coats that practice wants;
inside the workable makers use a coating as it stands, and nothing is added (both common practice, no source). In temper
the coarse techniques stand thicker still, which is how the grades sold for dipping by hand are used. k = 6; yield
stress and viscosity are tested, not the number alone.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from coating.errors import UnknownName
from coating.flow.casson1959 import Flow
from coating.flow.trade_number import flow_from_number

K_OF_COATING = 4.0  # 1/s, the least ratio of yield stress to viscosity of a coating: both ends allow for it
IN_TEMPER = 1.6  # the thick end of a coarse technique in temper, against the coating's; common practice, no source
INSIDE = 0.95  # thinned so far below the thick end of what is workable, no further: least fat goes in


@dataclass(frozen=True)
class Window:
    """Ideal ranges (low, high) of yield stress in Pa, viscosity in Pa s and trade number, and why; `workable` the range
    of the trade number in which it is used as it stands; `coarse`: in temper it may stand thicker."""

    technique: str
    title: str
    yield_stress_pa: tuple[float, float]
    viscosity_pa_s: tuple[float, float]
    number: tuple[float, float]
    workable: tuple[float, float]
    reason: str
    coarse: bool = False

    def workable_for(self, white: str = "coating") -> tuple[float, float]:
        """The trade numbers in which a white ("coating", "tempered", "untempered") is used as it stands."""
        low, high = self.workable
        return (low, high * IN_TEMPER) if self.coarse and white == "tempered" else (low, high)

    def verdict(self, flow: Flow, white: str = "coating") -> str:
        """ "right", "thick", "thin", or "uneven" when one value is too high and the other too low."""
        thin, thick = self.thin_end(white), self.thick_end(white)
        high = flow.yield_stress_pa > thick.yield_stress_pa or flow.viscosity_pa_s > thick.viscosity_pa_s
        low = flow.yield_stress_pa < thin.yield_stress_pa or flow.viscosity_pa_s < thin.viscosity_pa_s
        if high and low:
            return "uneven"
        return "thick" if high else "thin" if low else "right"

    def thin_end(self, white: str = "coating") -> Flow:
        """The thinnest that is workable."""
        return _ends(self, white)[0]

    def thick_end(self, white: str = "coating") -> Flow:
        """The thickest that is workable."""
        return _ends(self, white)[1]

    def aim_for(self, white: str = "coating") -> Flow:
        """The thickest flow worth thinning to, a little inside the thick end, so that least fat goes in."""
        thick = self.thick_end(white)
        return Flow(INSIDE * thick.yield_stress_pa, INSIDE * thick.viscosity_pa_s)

    @property
    def aim(self) -> Flow:
        """As it flows where nothing is known of the coating: a fifth of what is ideal inside its thick end."""
        (y0, y1), (v0, v1), most = self.yield_stress_pa, self.viscosity_pa_s, self.aim_for()
        return Flow(min(most.yield_stress_pa, y1 - 0.2 * (y1 - y0)), min(most.viscosity_pa_s, v1 - 0.2 * (v1 - v0)))


@lru_cache(maxsize=256)
def _ends(window: Window, white: str) -> tuple[Flow, Flow]:
    """What is workable, from the thinnest to the thickest; where an end is that of the ideal, that."""
    low, high = window.workable_for(white)
    ideal = [Flow(y, v) for y, v in zip(window.yield_stress_pa, window.viscosity_pa_s, strict=True)]
    soft, stiff = flow_from_number(low, k_per_s=K_OF_COATING), flow_from_number(high, k_per_s=K_OF_COATING)
    thin = Flow(soft.yield_stress_pa, flow_from_number(low).viscosity_pa_s)
    thick = Flow(flow_from_number(high).yield_stress_pa, stiff.viscosity_pa_s)
    return ideal[0] if low == window.number[0] else thin, ideal[1] if high == window.number[1] else thick


WINDOWS: tuple[Window, ...] = (
    Window("cake_drip", "Cake drip", (4, 10), (0.7, 1.6), (13, 30), (13, 30), "the run stops at the length wanted"),
    Window(
        "lace", "Lace line, 2 mm", (11, 23), (1.9, 3.8), (35, 70), (35, 50), "the line stays under 1.5 times its width"
    ),
    Window(
        "lettering",
        "Lettering, 1 to 1.5 mm",
        (8, 21),
        (1.3, 3.5),
        (25, 65),
        (25, 50),
        "the line stays under 1.3 times its width",
    ),
    Window("drizzle", "Thread drizzle", (4, 15), (0.65, 2.4), (12, 45), (12, 62), "the thread outlives its fall", True),
    Window("dip", "Dip biscuits, tapped", (10, 16), (1.6, 2.7), (30, 50), (24, 62), "a coat of 1.1 to 1.6 mm", True),
    Window(
        "dip_fruit", "Dip fruit, swirled", (6.5, 10), (1.1, 1.6), (20, 30), (18, 62), "a coat of 1.2 to 1.6 mm", True
    ),
    Window("balls", "Balls on a fork", (12, 19), (2, 3.2), (37, 60), (30, 62), "a coat of 1.2 to 1.8 mm", True),
    Window("shell", "Hollow shell, tapped", (13, 21), (2.1, 3.5), (40, 65), (36, 70), "a wall of 1.4 to 1.9 mm"),
    Window("solid_mould", "Fine solid mould", (4, 10), (0.65, 1.8), (12, 33), (12, 33), "slots fill and bubbles rise"),
    Window("coarse_mould", "Coarse solid mould", (8, 19), (1.3, 3.2), (25, 60), (20, 62), "tapping fills it", True),
    Window("outline", "Outline", (15, 32), (2.6, 5.4), (48, 100), (44, 105), "it stands as a dam"),
    Window("flood", "Flood", (4, 8), (0.65, 1.35), (12, 25), (12, 25), "relief of .3 mm at most"),
    Window(
        "small_face", "Small faces, shaken level", (8, 19), (1.3, 3.2), (25, 60), (20, 62), "shaking levels it", True
    ),
    Window(
        "marbling", "Marbling", (5, 12), (0.8, 2), (15, 37), (15, 48), "both colours flow alike, within 1.3 times", True
    ),
    Window(
        "sheet",
        "Sheet on film, 1.5 to 3 mm",
        (6.5, 14),
        (1.1, 2.4),
        (20, 45),
        (18, 62),
        "no ridges; the edge stands",
        True,
    ),
    Window(
        "slab", "Slab, spread", (8, 32), (1.3, 5.4), (25, 100), (20, 110), "a knife spreads it, a tapped tray levels it"
    ),
    Window("petals", "Knife petals", (13, 31), (2.2, 5.1), (40, 95), (36, 100), "the blade holds 1 to 2.5 mm"),
    Window("glue", "Glue", (37, 120), (6, 40), (115, 372), (36, 372), "it stays on an upright wall, or is propped"),
)

_BY_NAME = {w.technique: w for w in WINDOWS}


def window(technique: str) -> Window:
    """The window of a technique.

    Parameters
    ----------
    technique : str
        Its key, or the beginning of its title ("dip", "thread drizzle").

    Returns
    -------
    Window

    Raises
    ------
    UnknownName
        None is called so, or several are.
    """
    title = " ".join(technique.lower().replace("_", " ").split())
    if title.replace(" ", "_") in _BY_NAME:
        return _BY_NAME[title.replace(" ", "_")]
    matches = [w for w in WINDOWS if title and w.title.lower().startswith(title)]
    if len(matches) != 1:
        raise UnknownName(
            f"There is no technique called {technique[:60]!r}.", field="technique", choices=list(_BY_NAME)
        )
    return matches[0]
