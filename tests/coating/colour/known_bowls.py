"""Random recipes whose colours are to be found again, and bowls that went too far. All invented."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np

from coating.colour.mixing import GEL, Ingredient, Part, mix
from coating.stock.ingredients import DEMO_INGREDIENTS, demo_ingredient

BASES = tuple(demo_ingredient(n) for n in ("ivory", "bright", "yellow_coating", "green_coating", "dark", "milk"))
COLOURS = tuple(i for i in DEMO_INGREDIENTS.values() if i.is_colourant and i.kind != GEL)
BASE_G = 250.0


def reachable_targets(count: int, seed: int) -> list[tuple[float, float, float]]:
    """Colours of random recipes in whole units: one or two bases, one to four colours, within the load."""
    rng = np.random.default_rng(seed)
    rows: list[tuple[float, float, float]] = []
    while len(rows) < count:
        bases = rng.choice(len(BASES), rng.integers(1, 3), replace=False)
        first_g = BASE_G if len(bases) == 1 else float(rng.integers(25, 226))
        parts = [Part(BASES[bases[0]], first_g)]
        parts += [Part(BASES[j], BASE_G - first_g) for j in bases[1:]]
        colours = rng.choice(len(COLOURS), rng.integers(1, 5), replace=False)
        shares = rng.dirichlet(np.ones(len(colours))) * rng.uniform(0.02, 1)
        for j, share in zip(colours, shares, strict=True):
            units = max(1, int(share * COLOURS[j].cap_share * BASE_G / COLOURS[j].unit_g))
            parts.append(Part(COLOURS[j], units * COLOURS[j].unit_g))
        mixture = mix(parts)
        if mixture.load is not None and mixture.load <= 1:
            rows.append(mixture.lab())
    return rows


def overdosed_bowls() -> list[tuple[tuple[Part, ...], tuple[float, float, float]]]:
    """Bowls and the colours they were meant to be."""
    stored = json.loads((Path(__file__).parent / "overdosed_bowls.json").read_text())["bowls"]
    return [(tuple(_part(p) for p in b["bowl"]), tuple(b["target_lab"])) for b in stored]


def _part(stored: dict[str, Any]) -> Part:
    ingredient: Ingredient = demo_ingredient(stored["ingredient"])
    return Part(ingredient, stored["mass_g"] if "mass_g" in stored else stored["drops"] * ingredient.unit_g)
