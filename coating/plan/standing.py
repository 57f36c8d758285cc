"""How a bowl stands for what it is for: the one verdict that headline, band, figures and test page tell."""

from __future__ import annotations

from dataclasses import dataclass

from coating.flow.additions.overheating import overheated_factor
from coating.flow.additions.water import TRACE
from coating.flow.windows import Window
from coating.simulate.bowl import BowlState

OVERHEATED = 1.15
TOO_COLD_K, TOO_HOT_K = 3.0, 4.0
SMOOTH = 0.02  # share of lumps that nobody sees


@dataclass(frozen=True)
class Standing:
    """`verdict` : "right", "thick", "thin" or "uneven" for its window; "melting" with lumps in it; "set".

    `why` : "" where it is right, else "lumps", "set", "wet", "overheated", "cold", "hot", or "itself": the coating
    stands so at the warmth it is worked at. `helps` : "", "melt", "warm", "cool", "fat", or "another": a thinner or a
    thicker bag.
    """

    verdict: str
    why: str = ""
    helps: str = ""

    @property
    def is_right(self) -> bool:
        """Whether the bowl is ready for its technique."""
        return self.verdict == "right"


def spoilt(state: BowlState) -> str:
    """What fat does not mend: "wet" or "overheated", else nothing."""
    if state.water_fraction > TRACE:
        return "wet"
    return "overheated" if overheated_factor(state.overheated_minutes) > OVERHEATED else ""


def standing(state: BowlState, window: Window) -> Standing:
    """Of a bowl that is not empty, for a technique's window."""
    if state.has_cooled:
        return Standing("set", "set", "melt")
    if state.solid_fraction > SMOOTH:
        return Standing("melting", "lumps", "melt")
    flow, work_at_c = state.flow(), state.warmth.work_at_c
    verdict = "thick" if flow is None else window.verdict(flow, state.white)
    if verdict == "right":
        return Standing("right")
    if verdict == "thin":
        hot = state.temperature_c > work_at_c + TOO_HOT_K
        return Standing("thin", "hot", "cool") if hot else Standing("thin", "itself", "another")
    harm = spoilt(state)
    if harm:
        return Standing(verdict, harm, "" if harm == "wet" else "fat")
    if state.temperature_c < work_at_c - TOO_COLD_K:
        return Standing(verdict, "cold", "warm")
    return Standing(verdict, "itself", "fat" if verdict == "thick" else "another")
