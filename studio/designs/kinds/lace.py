"""Lace: a collar, half a collar, a panel or a standing arc, in panels that can be lifted while they bend."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django import forms

from coating.errors import OutOfBounds
from coating.figures.sheet import PaperSheet, sheet_of
from coating.heat.setting import Pliable
from coating.heat.times import bend_window, set_time
from coating.piece.cores import Sheet as SheetCore
from coating.shape.lace import PATTERNS, Lace, lace
from coating.shape.lace.collar import FORMS
from coating.shape.strokes import BEAD_HEIGHT
from coating.steps import HALF_SET, SET, Step
from studio.common.coming import seen_coming
from studio.common.forms import CountField, LengthField
from studio.common.types import Context, Typed
from studio.designs.kinds.base import DesignForm, DesignKind, Worked
from studio.designs.one import of_sheet
from studio.designs.place import Place
from studio.designs.tiles import Tile, lace_tiles

WRAP_S, PEEL_S = 60.0, 20.0  # to lift a panel and lay it round; to peel its film off
FORM_WORDS = [
    ("collar", "All the way round"),
    ("half", "Half way round"),
    ("panel", "One panel"),
    ("arc", "An arc that stands"),
]
FORM_SAYS = {"collar": "the collar", "half": "the half collar", "panel": "it", "arc": "the arc"}
WIDE, LEFT, ROW = 470.0, 66.0, 30.0  # of the picture of times
TURN_MIN = 0.25  # from panel to panel
FULL = [("1", "airy"), ("2", "even"), ("3", "rich")]
RAIL_WORDS = [
    ("", "as the pattern has them"),
    ("none", "none"),
    ("top", "above"),
    ("bottom", "below"),
    ("both", "above and below"),
]


class LaceForm(DesignForm):
    """What is asked about lace."""

    pattern = forms.ChoiceField(
        label="Pattern", choices=[(p.name, p.title) for p in PATTERNS.values()], initial="stars"
    )
    shape = forms.ChoiceField(label="Where it goes", choices=FORM_WORDS, initial="collar", widget=forms.RadioSelect)
    diameter_mm = LengthField("tier_mm", label="Tier diameter", initial=180.0)
    height_mm = LengthField("lace_height_mm", label="Lace height", initial=45.0)
    fullness = forms.ChoiceField(label="Density", choices=FULL, initial="2", widget=forms.RadioSelect)
    where = forms.ChoiceField(
        label="Where it sets",
        choices=[("room", "in the room"), ("fridge", "in the fridge")],
        initial="room",
        widget=forms.RadioSelect,
    )
    pitch_mm = LengthField("pitch_mm", label="Length of one repeat", required=False)
    rails = forms.ChoiceField(label="Edge lines", choices=RAIL_WORDS, required=False)
    overlap_mm = LengthField("overlap_mm", label="Overlap of the ends", initial=12.0)
    wall_mm = LengthField("wall_mm", label="Thickness of the film or paper", initial=0.3)
    panel_mm = LengthField("page_mm", label="Longest panel", initial=260.0, low=20)
    seed = CountField("seed", label="Variation", initial=1, low=1, high=9999)
    main = ("shape", "diameter_mm", "height_mm", "line_mm", "fullness")
    more = ("pitch_mm", "rails", "where", "panel_mm", "overlap_mm", "wall_mm", "seed", "hole_mm", "speed_mm_s")
    pills = ("shape", "fullness", "where")


@dataclass(frozen=True)
class PanelTime:
    """A panel in time, drawn `WIDE` across: where its piping begins and how long it is, and the same of its lifting."""

    title: str
    y: float
    pipe_x: float
    pipe_wide: float
    lift_x: float
    lift_wide: float
    says: str


@dataclass(frozen=True)
class Times:
    """Bars of all panels, ticks with their minutes, and how high the picture is."""

    bars: list[PanelTime]
    ticks: list[tuple[float, str]]
    high: float


class LaceKind(DesignKind):
    """Lace in the studio."""

    name, title, says, techniques, form, checks = (
        "lace",
        "Lace",
        "A collar or panel that is lifted while it bends",
        ("lace",),
        LaceForm,
        True,
    )
    pick = "pattern"

    def tiles(self) -> Sequence[Tile]:
        return lace_tiles()

    def fits(self, place: Place) -> dict[str, float]:
        """Round a tier, over most of its side; of anything else a panel as long and high as it is."""
        if place.layer is None:
            return {}
        mm = place.layer.piece.size["mm"]
        if place.layer.piece.core == "cake_tier":
            return {"diameter_mm": mm[0], "height_mm": round(min(45.0, mm[1] * 0.6), 1)}
        high = mm[1] if len(mm) > 1 and isinstance(place.core, SheetCore) else 45.0
        return {"diameter_mm": max(50.0, min(600.0, mm[0])), "height_mm": max(10.0, min(120.0, high))}

    def first(self, place: Place) -> Typed:
        shown = super().first(place)
        layer = place.layer
        if layer is None:
            return shown
        return shown | ({} if layer.piece.core == "cake_tier" else {"shape": "panel"})

    def _bends(self, values: Typed, place: Place, line_mm: float) -> Pliable | None:
        """When a line can be lifted and bent; None where it never sets."""
        warm_c = place.desk.now.temperature_c if place.desk else None
        high_mm, room_c = line_mm * BEAD_HEIGHT, place.kitchen.room_c
        try:
            return bend_window("line", high_mm, values["where"], room_c=room_c, white=place.white, pour_c=warm_c)
        except OutOfBounds:
            return None

    def _lace(self, values: Typed, place: Place) -> tuple[Lace, Pliable | None, float]:
        line_mm = self.line_of(values, place, "lace")
        bends = self._bends(values, place, line_mm)
        window_s = max(5.0, (bends.until_min - bends.from_min) * 60 - WRAP_S) if bends else 600.0
        strip = lace(
            values["pattern"],
            diameter_mm=values["diameter_mm"],
            height_mm=values["height_mm"],
            line_mm=line_mm,
            pitch_mm=values.get("pitch_mm"),
            wall_mm=values["wall_mm"],
            overlap_mm=values["overlap_mm"],
            window_s=window_s,
            speed_mm_s=values["speed_mm_s"],
            fullness=int(values["fullness"]),
            rails=values.get("rails") or "",
            share=FORMS[values["shape"]],
            seed=int(values["seed"]),
            panel_mm=values["panel_mm"],
        )
        return strip, bends, window_s

    def work(self, values: Typed, place: Place) -> Worked:
        strip, bends, window_s = self._lace(values, place)
        line_mm = strip.cell.line
        sheets = self._sheets(strip, bends)
        goes_on_g = strip.mass_g()
        bag = self.bag_of(place, "lace", line_mm, goes_on_g, values["speed_mm_s"])
        worked = Worked(
            place,
            self.window_of("lace"),
            sheets,
            line_mm,
            goes_on_g,
            strip.duration_s,
            strip.length_mm,
            strip.strokes,
            bag,
            steps=self._lifted(strip, bends, values["where"], place),
            one=_panel(values, strip, line_mm),
        )
        if bends is None:
            worked.warnings.append("It is too warm here for it to set: let it set in the fridge.")
        elif not strip.fits:
            worked.warnings.append("One repeat alone takes longer than it bends: a plainer or a lower pattern.")
            worked.warnings.append(seen_coming("lifted_late"))
        if strip.pattern.name == "meander" and strip.rails == "none":
            worked.warnings.append(
                "Without rails a meander is one floppy thread: pipe it where it stays, or add rails."
            )
        drawings = list({id(d): d for d in strip.drawings}.values())
        at, placed = 0.0, []
        for n, drawing in zip(strip.panels, strip.drawings, strict=True):
            placed.append((at, drawings.index(drawing)))
            at += n * strip.cell.pitch
        worked.context = {
            "lace": strip,
            "bends": bends,
            "times": self._times(strip, bends),
            "form_says": FORM_SAYS[values["shape"]],
            "longest_s": max(strip.seconds),
            "placed": placed,
            "bits": [sheet_of(d, "", line_mm=line_mm) for d in drawings],
            "cuts": [x for x, _ in placed[1:]],
            "strip_mm": strip.strip_mm,
            "height_mm": values["height_mm"],
            "around_mm": strip.around_mm,
            "window_s": window_s,
        }
        return worked

    @staticmethod
    def _lifted(strip: Lace, bends: Pliable | None, where: str, place: Place) -> list[Step]:
        """Panel after panel: piped, laid round while it bends; the film comes off when all are set."""
        if bends is None:
            return []
        steps: list[Step] = []
        for i, seconds in enumerate(strip.seconds, 1):
            panel = f"panel {i} of {len(strip.seconds)}" if len(strip.seconds) > 1 else "the lace"
            steps.append(Step(f"Pipe {panel} along its template.", seconds, warm=True))
            steps.append(
                Step(f"Lay {panel} round while it bends.", WRAP_S, HALF_SET, bends.from_min, bends.until_min, where)
            )
        high_mm, room_c = strip.cell.line * BEAD_HEIGHT, place.kitchen.room_c
        hard = set_time("line", high_mm, where, room_c=room_c, white=place.white).release_min
        peel_s = PEEL_S * len(strip.seconds)
        return [
            *steps,
            Step("Peel off the film.", peel_s, SET, max(0.0, hard - bends.from_min), None, where, kind="release"),
        ]

    def _sheets(self, strip: Lace, bends: Pliable | None) -> list[PaperSheet]:
        """A sheet a panel; like panels share one, and it says how often."""
        grouped: dict[int, list[int]] = {}
        for i, drawing in enumerate(strip.drawings):
            grouped.setdefault(id(drawing), []).append(i)
        sheets = []
        for places in grouped.values():
            first = places[0]
            title = "Panel " + ", ".join(str(i + 1) for i in places) if len(strip.panels) > 1 else "Lace"
            words = [f"{strip.seconds[first]:.0f} s to pipe"]
            if bends:
                words.append(f"lift it {bends.from_min:.0f} to {bends.until_min:.0f} min after")
            wide = strip.panels[first] * strip.cell.pitch
            guides = [[(0.0, 0.0), (0.0, strip.cell.height)], [(wide, 0.0), (wide, strip.cell.height)]]
            sheets.append(
                sheet_of(
                    strip.drawings[first],
                    title,
                    line_mm=strip.cell.line,
                    guides=guides,
                    says=words,
                    width_mm=wide,
                    height_mm=strip.cell.height,
                )
            )
        return sheets

    @staticmethod
    def _times(strip: Lace, bends: Pliable | None) -> Times | None:
        """One panel after the other, each lifted as soon as its last line can be; None where nothing sets."""
        if bends is None:
            return None
        spans, at = [], 0.0
        for seconds in strip.seconds:
            end = at + seconds / 60
            lift = end + bends.from_min
            spans.append((at, end, lift, max(lift, at + bends.until_min)))
            at = end + TURN_MIN
        most = max(by for *_, by in spans)
        scale = (WIDE - LEFT) / most
        bars = [
            PanelTime(
                f"Panel {i + 1}" if len(spans) > 1 else "Lace",
                ROW * i,
                LEFT + scale * begin,
                scale * (end - begin),
                LEFT + scale * lift,
                scale * (by - lift),
                f"lift from {lift:.0f}, by {by:.0f} min",
            )
            for i, (begin, end, lift, by) in enumerate(spans)
        ]
        step = next(s for s in (1, 2, 5, 10, 20, 60, 600) if most / s <= 6)
        ticks = [(LEFT + scale * m, f"{m}") for m in range(0, int(most) + 1, step)]
        return Times(bars, ticks, ROW * len(bars) + 26)

    def check(self, values: Typed, place: Place) -> Context:
        strip = self._lace(values, place)[0]
        held = strip.held
        return {
            "held": held,
            "lace": strip,
            "line_mm": strip.cell.line,
            "height_mm": values["height_mm"],
            "strip_mm": strip.strip_mm,
            "thin": held.at is not None and math.isfinite(held.bridge_mm),
            "bend": 100 * strip.cell.line / values["diameter_mm"],
        }


def _panel(values: Typed, strip: Lace, line_mm: float) -> Mapping[str, Any]:
    """How a panel looks that stays flat; what is wrapped is not seen as a whole."""
    return of_sheet(sheet_of(strip.drawings[0], "", line_mm=line_mm)) if values["shape"] == "panel" else {}
