"""shape.drips, shape.lace, shape.lettering, shape.svg."""

from __future__ import annotations

from typing import Any

from coating.facade.fields import Choice, Number, Record, Text
from coating.facade.learned import FACTORS
from coating.facade.registry import Entry
from coating.job.ranges import line_range, pace_range
from coating.learning.factors import Factors


def _drips(given: dict[str, Any]) -> dict[str, Any]:
    from coating.shape.grown_drips import grown_drips
    from coating.shape.pieces import CakeTier

    drips = grown_drips(
        CakeTier(given["diameter_mm"], given["height_mm"]),
        spacing_mm=given["spacing_mm"],
        length_mm=given["length_mm"],
        width_mm=given["width_mm"],
        variation=given["variation"],
        seed=int(given["seed"]),
    )
    return {
        "gaps_mm": list(drips.gaps_mm),
        "lengths_mm": list(drips.lengths_mm),
        "widths_mm": list(drips.widths_mm),
        "mass_g": drips.mass_g,
        "top_g": drips.top_g,
    }


def _by_hand(mass_g: float, duration_s: float, factors: Factors) -> dict[str, float]:
    """A line's grams and seconds by this kitchen's hole and hands, with their 90 % ranges."""
    mass_g, duration_s = mass_g * factors.hole**2, duration_s * factors.pace
    (low_g, high_g), (low_s, high_s) = line_range(mass_g, factors), pace_range(duration_s, factors)
    masses = {"mass_g": mass_g, "low_mass_g": low_g, "high_mass_g": high_g}
    return masses | {"duration_s": duration_s, "low_duration_s": low_s, "high_duration_s": high_s}


def _lettering(given: dict[str, Any]) -> dict[str, Any]:
    from coating.shape.legible import legible
    from coating.shape.lettering import LIFT_S, letters

    text, face, cap_mm, line_mm = (given[name] for name in ("text", "face", "cap_mm", "line_mm"))
    factors = given["factors"]
    lettering = letters(text, face=face, cap_mm=cap_mm)
    open_ = legible(text, face=face, cap_mm=cap_mm, line_mm=line_mm)
    drawing = lettering.drawing
    return {
        "length_mm": drawing.length_mm,
        "strokes": drawing.strokes,
        "lifts": drawing.lifts,
        **_by_hand(drawing.mass_g(line_mm), drawing.duration_s(given["hand_speed_mm_s"], LIFT_S), factors),
        "width_mm": lettering.advance_mm,
        "undrawable": list(lettering.undrawable),
        "blocks": bool(open_.blocked),
        "blocked_letters": list(open_.blocked),
        "smallest_cap_mm": open_.smallest_cap_mm,
    }


def _lace(given: dict[str, Any]) -> dict[str, Any]:
    from coating.shape.lace import lace

    strip = lace(
        given["pattern"],
        diameter_mm=given["diameter_mm"],
        wall_mm=given["wall_mm"],
        height_mm=given["height_mm"],
        line_mm=given["line_mm"],
        pitch_mm=given["pitch_mm"],
        overlap_mm=given["overlap_mm"],
        window_s=given["window_s"],
        speed_mm_s=given["hand_speed_mm_s"],
    )
    holds = strip.held
    return {
        "repeats": strip.repeats,
        "pitch_mm": strip.cell.pitch,
        "strip_mm": strip.strip_mm,
        "strokes": strip.strokes,
        "length_mm": strip.length_mm,
        **_by_hand(strip.mass_g(), strip.duration_s, given["factors"]),
        "panels": len(strip.panels),
        "pieces": holds.pieces,
        "bridge_mm": holds.bridge_mm,
        "openings": holds.openings,
        "fits": strip.fits,
        "panel_s": list(strip.seconds),
        "panel_repeats": list(strip.panels),
        "thinnest_at_mm": list(holds.at) if holds.at else None,
    }


def _svg(given: dict[str, Any]) -> dict[str, Any]:
    from coating.shape.svg_import import read_svg_apart

    areas = read_svg_apart(given["svg"], width_mm=given["width_mm"])
    return {
        "area_mm2": areas.area_mm2,
        "outline_mm": areas.outline_mm,
        "box_mm": list(areas.box_mm),
        "left_out": list(areas.left_out),
        "parts": len(areas.parts),
        "lines": len(areas.lines),
    }


LACES = ("swags", "stars", "loops", "trellis", "fans", "vine", "picots", "net", "ripples", "arcade", "meander")
ENTRIES = (
    Entry(
        "shape.lace",
        "lace round a tier: repeats, panels, grams, seconds, whether it holds together",
        Record(
            {
                "pattern": Choice(LACES),
                "diameter_mm": Number("tier_mm"),
                "wall_mm": Number("wall_mm", 0.3),
                "height_mm": Number("lace_height_mm"),
                "line_mm": Number("bead_mm"),
                "pitch_mm": Number("pitch_mm"),
                "overlap_mm": Number("overlap_mm", 12.0),
                "window_s": Number("duration_s", 90.0),
                "hand_speed_mm_s": Number("hand_speed_mm_s", 20.0),
                "factors": FACTORS,
            }
        ),
        _lace,
    ),
    Entry(
        "shape.drips",
        "drips round a tier, uneven by nature: gaps, lengths, grams",
        Record(
            {
                "diameter_mm": Number("tier_mm"),
                "height_mm": Number("tier_height_mm"),
                "spacing_mm": Number("spacing_mm"),
                "variation": Number("variation"),
                "length_mm": Number("drip_mm"),
                "width_mm": Number("drip_width_mm"),
                "seed": Number("seed", 1, whole=True),
            }
        ),
        _drips,
    ),
    Entry(
        "shape.lettering",
        "a text piped in one line: length, strokes, grams, seconds, blocked letters",
        Record(
            {
                "text": Text(most=200),
                "face": Choice(("futural", "cursive", "gothiceng", "timesi"), default="futural"),
                "cap_mm": Number("cap_mm"),
                "line_mm": Number("bead_mm"),
                "hand_speed_mm_s": Number("hand_speed_mm_s", 15.0),
                "factors": FACTORS,
            }
        ),
        _lettering,
    ),
    Entry(
        "shape.svg",
        "closed areas of a drawing: mm2, outline, size, what was left out",
        Record(
            {
                "svg": Text(most=2_000_000),
                "width_mm": Number("page_mm", None),
            }
        ),
        _svg,
    ),
)
