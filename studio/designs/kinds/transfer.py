"""Transfer sheets: what is cut of them, how many go round, on how many sheets, when to cut and when to peel."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

from django import forms

from coating.errors import OutOfBounds
from coating.figures.solid import View
from coating.figures.transfer import Around, around_view, is_printed, loops_view, tiles_view
from coating.flow.material import ORDINARY
from coating.piece.cores import Tier
from coating.shape.film.bending import bend
from coating.shape.transfer import (
    CutPlan,
    DiscPlan,
    Ring,
    WantedPieces,
    box_ring,
    cut_plan,
    disc_plan,
    oval_ring,
    oval_round_mm,
    ring,
    sleeve_mm,
)
from coating.steps import hands_s
from studio.common.forms import CountField, LengthField, NumberField, VolumeField
from studio.common.templatetags.kitchen import money
from studio.common.types import Typed
from studio.common.words import many
from studio.designs.kinds.base import DesignKind, Worked
from studio.designs.kinds.film.base import COOL, FilmForm, bendable, sets_in
from studio.designs.kinds.transfer_guides import alike, guides_of
from studio.designs.kinds.transfer_steps import CutPieces, steps_of
from studio.designs.place import Place

CUTS = [
    ("square", "squares"),
    ("strip", "strips"),
    ("disc", "discs"),
    ("sleeve", "sleeves"),
    ("loop", "loops over pieces"),
    ("frame", "for a framed mould"),
]
ROUND = [("bent", "round a dessert, bent"), ("flat", "round a dessert, flat"), ("count", "as many as I say")]
SHAPES = [("round", "round"), ("oval", "oval"), ("box", "with corners")]
PRINTED = [("1", "every one"), ("2", "every other"), ("3", "one in three")]
DIRECTION = [("kept", "kept on every piece"), ("free", "does not matter")]
BUSY = 0.6  # more of a surface than that in print is too busy; common practice, no source
OVERLAP_MM, TRIM_MM = 10.0, 10.0
MOST = 400


class TransferForm(FilmForm):
    """What is asked about a transfer sheet."""

    cut = forms.ChoiceField(label="Shape of the pieces", choices=CUTS, initial="square", widget=forms.RadioSelect)
    around = forms.ChoiceField(label="How many", choices=ROUND, initial="bent", widget=forms.RadioSelect)
    diameter_mm = LengthField("tier_or_cup_mm", label="Dessert diameter or length", initial=70.0)
    dessert = forms.ChoiceField(label="Shape of the dessert", choices=SHAPES, initial="round", widget=forms.RadioSelect)
    other_mm = LengthField(
        "tier_or_cup_mm", label="Dessert width", required=False, help_text="Leave blank for a round or square one."
    )
    width_mm = LengthField("piece_side_mm", label="Panel width", initial=40.0, low=5, high=600)
    height_mm = LengthField("piece_side_mm", label="Panel height or length", initial=40.0, low=5, high=600)
    printed = forms.ChoiceField(label="Printed panels", choices=PRINTED, initial="2", widget=forms.RadioSelect)
    sheet_w_mm = LengthField("slab_mm", label="Sheet length", initial=400.0, low=40)
    sheet_h_mm = LengthField("slab_mm", label="Sheet width", initial=250.0, low=40)
    direction = forms.ChoiceField(
        label="Direction of the pattern", choices=DIRECTION, initial="kept", widget=forms.RadioSelect
    )
    kerf_mm = LengthField("kerf_mm", label="Cutting gap", initial=1.0, high=10)
    gap_mm = LengthField("kerf_mm", label="Smallest gap between panels", initial=2.0, high=30)
    cavities = CountField("cavities", label="Cavities in one frame", initial=24, high=200)
    each_ml = VolumeField("layer_ml", label="Cavity volume", initial=6.0, high=100)
    single = NumberField("price", label="Price of one sheet", required=False)
    pack = NumberField("price", label="Price of a pack", required=False)
    pack_of = CountField("pack", label="Sheets in a pack", required=False, low=2, high=1000)
    main = (
        "cut",
        "around",
        "dessert",
        "width_mm",
        "height_mm",
        "diameter_mm",
        "other_mm",
        "count",
        "thickness_mm",
        "printed",
    )
    more = (
        "sheet_w_mm",
        "sheet_h_mm",
        "direction",
        "kerf_mm",
        "gap_mm",
        "cavities",
        "each_ml",
        "single",
        "pack",
        "pack_of",
        "where",
    )
    pills = ("cut", "around", "dessert", "printed", "direction", "where")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["count"].label = "Desserts, or pieces"


class TransferKind(DesignKind):
    """A transfer sheet in the studio."""

    name, title, says, techniques, form = (
        "transfer",
        "Transfer sheet",
        "Printed film: cut plan, panels, sleeves, loops",
        ("transfer",),
        TransferForm,
    )
    group = "On film"
    told_at = MappingProxyType({"pieces": "width_mm", "side_mm": "width_mm"})

    def fits(self, place: Place) -> dict[str, float]:
        """Strips round a tier; what covers the face of anything else."""
        core, layer = place.core, place.layer
        if layer is None or core is None:
            return {}
        if isinstance(core, Tier):
            high = max(10.0, min(300.0, core.length_mm))
            return {"diameter_mm": core.across_mm, "height_mm": high, "width_mm": min(40.0, high)}
        mm = layer.piece.size["mm"]
        high = max(5.0, min(300.0, mm[1] if len(mm) > 1 else mm[0]))
        return {"width_mm": max(5.0, min(300.0, mm[0])), "height_mm": high}

    def first(self, place: Place) -> Typed:
        shown, core, layer = super().first(place), place.core, place.layer
        if layer is None or core is None:
            return shown | {"count": 6}
        shown |= {"count": place.wanted, "thickness_mm": layer.parameters.get("thickness_mm") or 2.0}
        return shown if isinstance(core, Tier) else shown | {"around": "count"}

    @staticmethod
    def _round(values: Typed, wide: float) -> Ring:
        """How many go round one dessert. Raises OutOfBounds."""
        across, gap, flat = values["diameter_mm"], values["gap_mm"], values["around"] == "flat"
        other = values.get("other_mm") or across
        if values["dessert"] == "box":
            return box_ring(across, other, wide, gap_mm=gap)[2]
        if values["dessert"] == "oval" and not flat:
            return oval_ring(across, other, wide, gap_mm=gap)
        # Flat pieces touch an oval as a circle as long round: what is narrow at one end is wide at the other.
        return ring(
            oval_round_mm(across, other) / math.pi if values["dessert"] == "oval" else across,
            wide,
            gap_mm=gap,
            flat=flat,
        )

    @staticmethod
    def _sleeve_mm(values: Typed, thick: float) -> float:
        """How long a strip goes round one dessert. Raises OutOfBounds."""
        across, shape = values["diameter_mm"], values["dessert"]
        other = values.get("other_mm") or across
        if shape == "box":
            raise OutOfBounds("A sleeve cracks at corners: cut strips for its sides.", field="dessert")
        bend(thick, min(across, other) ** 2 / max(across, other) / 2)  # an oval is bent the most at its ends
        return sleeve_mm(oval_round_mm(across, other) / math.pi if shape == "oval" else across, thick, OVERLAP_MM)

    def _cut(self, values: Typed) -> CutPieces:
        """Raises OutOfBounds."""
        kind, many, thick = values["cut"], int(values["count"]), values["thickness_mm"]
        wide, high = values["width_mm"], values["height_mm"]
        if kind in ("square", "disc"):
            high = wide
        on_one, gap = 0, 0.0
        if kind == "sleeve":
            wide = self._sleeve_mm(values, thick)
        elif kind == "loop":
            high += 2 * TRIM_MM
        elif kind == "frame":
            each = values["each_ml"] * ORDINARY.density_kg_m3 / 1000
            return CutPieces(math.ceil(many / int(values["cavities"])), 0, 0.0, wide, high, each)
        elif values["around"] != "count":
            pieces = self._round(values, wide)
            on_one, gap = pieces.count, pieces.gap_mm
        area = math.pi / 4 * wide**2 if kind == "disc" else wide * high
        return CutPieces(many * (on_one or 1), on_one, gap, wide, high, area * thick * ORDINARY.g_per_mm3)

    def work(self, values: Typed, place: Place) -> Worked:
        cut, every = self._cut(values), int(values["printed"])
        if cut.count > MOST:
            raise OutOfBounds(f"That is {cut.count} pieces. One plan takes at most {MOST}.", field="count")
        each_round = cut.on_one or cut.count
        printed = sum(is_printed(i, every) for i in range(each_round)) * (cut.count // each_round)
        sheet_mm = (values["sheet_w_mm"], values["sheet_h_mm"])
        plan = self._plan(values, cut, printed, sheet_mm)
        where, thick = values["where"], float(values["thickness_mm"])
        window, sets = bendable(place, thick, where), sets_in(place, thick, where)
        pieces = int(values["count"])
        mass_g = cut.each_g * (pieces if values["cut"] == "frame" else cut.count)
        steps = steps_of(values, cut, plan.sheets, window, sets)
        kept = values["direction"] == "kept"
        worked = Worked(
            place,
            self.window_of("sheet"),
            guides_of(plan, arrow=kept),
            1.0,
            mass_g,
            hands_s(steps),
            0.0,
            0,
            None,
            pieces=pieces,
            steps=steps,
            films=plan.sheets,
        )
        share = printed / cut.count
        worked.context = {
            "cut": cut,
            "cut_kind": values["cut"],
            "plan": plan,
            "printed": printed,
            "plain": cut.count - printed,
            "pieces": pieces,
            "window": window,
            "sets": sets,
            "cool": COOL[where],
            "rows": [(len(numbers), rings) for numbers, rings in alike(plan)],
            "view": self._view(values, cut, every, place),
            "share": share,
            "prices_say": _prices_say(_prices(values, plan.sheets, pieces)),
            "straight": isinstance(plan, CutPlan) and plan.straight_cuts,
            "flat": values["around"] == "flat",
            "direction": kept,
            "extra_numbers": [
                (str(plan.sheets), "sheets"),
                (f"{plan.waste_fraction * 100:.0f} %", "of them left over"),
                (f"{share * 100:.0f} %", "of the surface printed"),
            ],
        }
        if share > BUSY and cut.on_one > 3:
            worked.warnings.append("Print all round is busy: plain panels in between calm it, and save film.")
        if isinstance(plan, CutPlan) and not plan.straight_cuts:
            worked.warnings.append("No straight cuts free them all: cut this plan with scissors or a stencil.")
        return worked

    @staticmethod
    def _plan(values: Typed, cut: CutPieces, printed: int, sheet_mm: tuple[float, float]) -> CutPlan | DiscPlan:
        if values["cut"] == "disc":
            return disc_plan(sheet_mm, cut.wide_mm, printed, kerf_mm=values["kerf_mm"])
        wanted = WantedPieces(cut.wide_mm, cut.high_mm, printed, values["direction"] == "free")
        return cut_plan(sheet_mm, [wanted], kerf_mm=values["kerf_mm"])

    @staticmethod
    def _view(values: Typed, cut: CutPieces, every: int, place: Place) -> View:
        kind = values["cut"]
        across, other = values["diameter_mm"], values.get("other_mm") or values["diameter_mm"]
        box = values["dessert"] == "box"
        shown = None if values["dessert"] == "round" else other
        if cut.on_one:
            sides = box_ring(across, other, cut.wide_mm, gap_mm=values["gap_mm"])[:2] if box else None
            return around_view(
                Around(
                    across,
                    cut.on_one,
                    cut.wide_mm,
                    cut.high_mm,
                    values["around"] == "flat",
                    every,
                    kind == "disc",
                    shown,
                    sides,
                ),
                place.lab,
            )
        if kind == "sleeve":
            return around_view(Around(across, 1, cut.wide_mm - OVERLAP_MM, cut.high_mm, other_mm=shown), place.lab)
        if kind == "loop":
            return loops_view(cut.count, cut.wide_mm, cut.high_mm, every, place.lab)
        return tiles_view(cut.count, cut.wide_mm, cut.high_mm, every, place.lab, round_=kind == "disc")


@dataclass(frozen=True)
class Prices:
    """What film costs on one piece bought by the sheet, and by the pack, and what the packs cost together."""

    single: float | None
    packed: float | None
    packs: int
    outlay: float | None


def _prices(values: Typed, sheets: int, pieces: int) -> Prices | None:
    single, pack, of = values.get("single"), values.get("pack"), values.get("pack_of")
    if not single and not (pack and of):
        return None
    packs = math.ceil(sheets / of) if pack and of else 0
    return Prices(
        single * sheets / pieces if single else None,
        pack / of * sheets / pieces if pack and of else None,
        packs,
        pack * packs if pack and of else None,
    )


def _prices_say(prices: Prices | None) -> str:
    """What the film for one costs, by the sheet and from packs."""
    if prices is None:
        return ""
    ways = [f"{money(prices.single)} by the sheet"] if prices.single else []
    if prices.packed and prices.outlay:
        ways.append(f"{money(prices.packed)} from {many(prices.packs, 'pack')} ({money(prices.outlay)} together)")
    return f"Film for one costs {', '.join(ways)}."
