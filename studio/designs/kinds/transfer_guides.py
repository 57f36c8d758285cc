"""Cutting guides at true size: how pieces lie on their sheets, sheets that are cut alike drawn once."""

from __future__ import annotations

from typing import Any

from coating.figures.sheet import PaperSheet, sheet_of
from coating.shape.curves import ellipse
from coating.shape.strokes import Drawing
from coating.shape.transfer import CutPlan, DiscPlan

Ring = tuple[tuple[float, float], ...]


def rings_of(plan: CutPlan | DiscPlan, sheet: int) -> tuple[Ring, ...]:
    """The edges of all pieces of a sheet, mm from its left upper corner."""
    if isinstance(plan, DiscPlan):
        edge = ellipse((0.0, 0.0), plan.diameter_mm, plan.diameter_mm, points=48)
        return tuple(
            tuple((round(float(a + x), 2), round(float(b + y), 2)) for a, b in edge)
            for k, x, y in plan.placed
            if k == sheet
        )
    return tuple(
        (
            (p.x_mm, p.y_mm),
            (p.x_mm + p.width_mm, p.y_mm),
            (p.x_mm + p.width_mm, p.y_mm + p.height_mm),
            (p.x_mm, p.y_mm + p.height_mm),
        )
        for p in plan.placed
        if p.sheet == sheet
    )


def alike(plan: CutPlan | DiscPlan) -> list[tuple[list[int], tuple[Ring, ...]]]:
    """Sheets that are cut alike: their numbers from one, and the pieces on each."""
    groups: dict[tuple[Ring, ...], list[int]] = {}
    for k in range(plan.sheets):
        groups.setdefault(rings_of(plan, k), []).append(k + 1)
    return [(numbers, rings) for rings, numbers in groups.items()]


def guides_of(plan: CutPlan | DiscPlan, *, arrow: bool) -> list[PaperSheet]:
    """A guide for all that are alike, with an arrow along the pattern."""
    from shapely import Polygon

    wide, high = plan.sheet_mm
    around: list[Any] = [[(0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high), (0.0, 0.0)]]
    if arrow:
        around.append([(4.0, -5.0), (34.0, -5.0), (30.0, -7.0), (34.0, -5.0), (30.0, -3.0)])
    sheets = []
    for numbers, rings in alike(plan):
        which = f"{numbers[0]} to {numbers[-1]}" if len(numbers) > 1 else str(numbers[0])
        says = [f"{len(rings)} piece{'s' if len(rings) > 1 else ''}"]
        says += ["the pattern runs along the arrow"] if arrow else []
        sheets.append(
            sheet_of(
                Drawing(()),
                f"Cutting guide, sheet {which} of {plan.sheets}",
                line_mm=1.0,
                says=says,
                areas=[Polygon(ring) for ring in rings],
                guides=around,
            )
        )
    return sheets
