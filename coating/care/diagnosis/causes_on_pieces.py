"""What goes wrong on a piece, from a bag, on film, in a mould and at the end. Common practice, no source."""

from __future__ import annotations

from coating.care.diagnosis.cause import Cause

ON_PIECES: tuple[Cause, ...] = (
    Cause(
        "warm_room",
        4,
        {"soft": 0.5, "stuck": 0.25, "grey": 0.15, "runs_together": 0.1},
        {"finger": (0.05, 0.35, 0.6)},
        likely_at=0,
        width=0.6,
    ),
    Cause(
        "chilled_hard",
        3,
        {"grey": 0.4, "cracks": 0.45, "breaks_out": 0.15},
        {"finger": (0.92, 0.05, 0.03)},
        likely_at=0.5,
        width=0.12,
    ),
    Cause(
        "damp",
        4,
        {"wet": 0.7, "grey": 0.2, "paint_streaky": 0.1},
        {"wipe": (0.85, 0.15), "water_seen": (0.75, 0.25)},
        likely_at=0,
        width=1.5,
    ),
    Cause("stick_not_set", 4, {"slides": 1}, {"stick_turns": (0.88, 0.12)}, likely_at=0, width=2),
    Cause(
        "cold_core",
        4,
        {"cracks": 0.7, "coat_thick": 0.2, "wet": 0.1},
        {"finger": (0.88, 0.08, 0.04), "water_seen": (0.3, 0.7)},
        likely_at=0,
        width=2,
    ),
    Cause(
        "moist_core",
        3,
        {"slides": 0.45, "coat_thin": 0.2, "wet": 0.25, "bubbles": 0.1},
        {"water_seen": (0.7, 0.3), "stick_turns": (0.2, 0.8)},
        likely_at=0.5,
        width=0.12,
    ),
    Cause("not_shaken", 3, {"coat_thick": 1}, likely_at=0.5, width=0.12),
    Cause("not_scraped", 3, {"foot": 1}, likely_at=0.5, width=0.12),
    Cause("not_tapped", 4, {"bubbles": 0.55, "corners": 0.45}, likely_at=0.5, width=0.12),
    Cause("thin_wall", 3, {"breaks_out": 0.7, "cracks": 0.3}, {"finger": (0.85, 0.12, 0.03)}, likely_at=0, width=0.2),
    Cause(
        "mould_dirty",
        2,
        {"stuck": 0.6, "bubbles": 0.1, "no_print": 0.15, "breaks_out": 0.15},
        {"finger": (0.85, 0.12, 0.03), "back": (0.25, 0.75)},
    ),
    Cause(
        "early_out",
        6,
        {"stuck": 0.45, "breaks_out": 0.25, "no_print": 0.2, "soft": 0.1},
        {"finger": (0.12, 0.33, 0.55), "back": (0.1, 0.9)},
        likely_at=0.2,
        width=0.08,
    ),
    Cause("lifted_late", 3, {"lace_breaks": 1}, {"finger": (0.9, 0.08, 0.02)}, likely_at=1, width=0.1),
    Cause("lifted_early", 2, {"lace_tears": 1}, {"finger": (0.05, 0.5, 0.45)}, likely_at=0, width=0.1),
    Cause(
        "hole_small",
        2,
        {"line_breaks": 0.7, "line_stops": 0.3},
        {"spoonful_warmed": (0.15, 0.82, 0.03), "tip": (0.05, 0.1, 0.85)},
        likely_at=0.5,
        width=0.12,
    ),
    Cause("hole_big", 2, {"line_spreads": 1}, likely_at=0.5, width=0.12),
    Cause(
        "cold_bag",
        4,
        {"line_stops": 0.6, "line_breaks": 0.4},
        {"lip": (0.08, 0.32, 0.6), "spoonful_warmed": (0.6, 0.38, 0.02), "tip": (0.1, 0.82, 0.08)},
        likely_at=4,
        width=1.2,
    ),
    Cause("drip_big", 3, {"drip_far": 1}, likely_at=0.2, width=0.08),
    Cause("drip_small", 2, {"drip_short": 1}, likely_at=0.2, width=0.08),
    Cause("wall_warm", 2, {"drip_far": 1}, {"wall_touch": (0.04, 0.26, 0.7)}, likely_at=0.5, width=0.12),
    Cause(
        "wall_cold", 2, {"drip_short": 0.8, "cracks": 0.2}, {"wall_touch": (0.88, 0.1, 0.02)}, likely_at=0.5, width=0.12
    ),
    Cause("print_away", 2, {"no_print": 1}, {"back": (0.92, 0.08)}, likely_at=0.5, width=0.12),
    Cause("overworked", 2, {"muddy": 1}),
    Cause("bottle_order", 1, {"first_plain": 1}),
    Cause("toppings_late", 2, {"toppings_fall": 1}, likely_at=1, width=0.1),
    Cause("toppings_early", 2, {"toppings_sink": 1}, likely_at=0, width=0.1),
    Cause("thick_paint", 2, {"paint_streaky": 1}, likely_at=0.5, width=0.12),
    Cause("bead_set", 2, {"joint_slips": 0.9, "lace_breaks": 0.1}, likely_at=1, width=0.1),
)
