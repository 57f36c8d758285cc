"""Every bound once. Forms, dataclasses, database constraints, sliders and the facade read them here."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from coating.errors import NotANumber, OutOfBounds

_MEASURED = {"mm": "mm", "g": "g", "ml": "ml", "°C": "c"}


@dataclass(frozen=True)
class Bound:
    """A closed interval with a unit and the maker's word for what it bounds."""

    low: float
    high: float
    unit: str
    what: str

    def refusal(self, name: str) -> OutOfBounds:
        """Of a value outside; what a kitchen measures reads as it is measured there."""
        ends: dict[str, float] = {}
        says = f"{self.low:g} and {self.high:g} {self.unit}".rstrip()
        if suffix := _MEASURED.get(self.unit):
            says = f"{{least_{suffix}}} and {{most_{suffix}}}"
            ends = {f"least_{suffix}": self.low, f"most_{suffix}": self.high}
        says = f"{self.what} must be between {says}."
        return OutOfBounds(says, field=name, low=self.low, high=self.high, unit=self.unit, **ends)

    def check(self, value: Any, name: str) -> float:
        """Return `value` as a float.

        Raises
        ------
        NotANumber : no number, NaN or infinite.
        OutOfBounds : outside [low, high].
        """
        if isinstance(value, bool) or not isinstance(value, int | float):
            raise NotANumber(f"{self.what} must be a number.", field=name)
        try:
            number = float(value)
        except OverflowError:
            number = math.inf
        if not math.isfinite(number):
            raise NotANumber(f"{self.what} must be an ordinary number.", field=name)
        if not self.low <= number <= self.high:
            raise self.refusal(name)
        return number


BOUNDS: dict[str, Bound] = {
    "lab_lightness": Bound(0, 100, "", "The lightness"),
    "lab_chroma": Bound(-200, 200, "", "The colour coordinate"),
    "reflectance": Bound(0, 1, "", "The reflectance"),
    "optical_per_mm": Bound(0, 1e5, "1/mm", "Absorption or scattering"),
    "thickness_mm": Bound(0, 100, "mm", "The thickness"),
    "mass_g": Bound(0, 20000, "g", "The amount"),
    "total_g": Bound(0, 1e9, "g", "The amount"),
    "drops": Bound(0, 5000, "drops", "The number of drops"),
    "number": Bound(1, 400, "", "The flow number"),
    "k_per_s": Bound(0.5, 40, "1/s", "The ratio of yield stress to viscosity"),
    "test_value": Bound(-1e6, 1e6, "", "The result of the test"),
    "fat_fraction": Bound(0.2, 0.6, "", "The fat share"),
    "temperature_c": Bound(-30, 120, "°C", "The temperature"),
    "room_c": Bound(5, 38, "°C", "The room temperature"),
    "water_g_per_100g": Bound(0, 60, "g", "The water"),
    "added_fat_g_per_100g": Bound(0, 100, "g", "The added fat"),
    "yield_stress_pa": Bound(0, 2000, "Pa", "The yield stress"),
    "viscosity_pa_s": Bound(1e-4, 1000, "Pa s", "The viscosity"),
    "radius_m": Bound(1e-5, 0.1, "m", "The radius"),
    "length_m": Bound(1e-4, 10, "m", "The length"),
    "pressure_pa": Bound(0, 1e7, "Pa", "The pressure"),
    "duration_s": Bound(0, 86400, "s", "The time"),
    "at_s": Bound(0, 31536000, "s", "The moment"),
    "power_w": Bound(1, 3000, "W", "The power"),
    "oven_w": Bound(300, 2000, "W", "The power of the microwave"),
    "power_fraction": Bound(0.05, 1, "", "The power setting"),
    "count": Bound(1, 2000, "", "The number of pieces"),
    "size_percent": Bound(40, 250, "", "The size in percent"),
    "hands_s": Bound(0.5, 600, "s", "The time for one piece"),
    "count_or_none": Bound(0, 2000, "", "The number of pieces"),
    "factor": Bound(0.05, 20, "", "The factor"),
    "spares": Bound(0, 500, "", "The number of extra pieces"),
    "diameter_mm": Bound(10, 300, "mm", "The diameter"),
    "piece_thickness_mm": Bound(1, 80, "mm", "The thickness"),
    "depth_share": Bound(0.1, 1, "", "The depth of the dip"),
    "strength": Bound(0.1, 10, "", "The strength"),
    "drop_g": Bound(0.005, 0.5, "g", "The weight of a drop"),
    "drip_ml": Bound(0.05, 5, "ml", "The amount squeezed for a drip"),
    "drip_width_mm": Bound(3, 40, "mm", "The width of a drip"),
    "drip_c": Bound(24, 60, "°C", "The temperature"),
    "drip_mm": Bound(1, 250, "mm", "The length of the drip"),
    "tier_mm": Bound(50, 600, "mm", "The tier diameter"),
    "tier_height_mm": Bound(20, 400, "mm", "The height of the tier"),
    "variation": Bound(0, 1, "", "The unevenness"),
    "smooth_px": Bound(0, 8, "", "The softening"),
    "layer_ml": Bound(0.1, 5000, "ml", "The amount of the layer"),
    "marbled_share": Bound(0.02, 0.8, "", "The share"),
    "blobs": Bound(1, 60, "", "The number of blobs"),
    "passes": Bound(0, 24, "", "The number of passes"),
    "two_colours": Bound(0, 1, "", "The colour"),
    "kerf_mm": Bound(0, 50, "mm", "The gap"),
    "piece_side_mm": Bound(1, 1000, "mm", "The length of a side"),
    "tier_or_cup_mm": Bound(10, 600, "mm", "The dessert diameter"),
    "place_mm": Bound(-2000, 2000, "mm", "The position"),
    "blob_mm": Bound(0.1, 1000, "mm", "The blob diameter"),
    "reach_mm": Bound(0.1, 500, "mm", "The reach of the skewer"),
    "wave_mm": Bound(1, 2000, "mm", "The length of a wave"),
    "dip_coats": Bound(1, 4, "", "The number of coats"),
    "paint_coats_most": Bound(0, 20, "", "The number of coats"),
    "paint_parts": Bound(1, 9, "", "The number of parts"),
    "paint_dry_min": Bound(0, 240, "min", "The wait"),
    "helpers": Bound(1, 6, "", "The number of helpers"),
    "places": Bound(0, 1000, "", "The number of places"),
    "wait_s": Bound(0, 864000, "s", "The wait"),
    "deadline_min": Bound(0, 14400, "min", "The time available"),
    "solve_s": Bound(0.1, 3600, "s", "The time to plan"),
    "panel_mm": Bound(10, 600, "mm", "The length of a side"),
    "pitch_deg": Bound(10, 75, "degrees", "The pitch of the roof"),
    "film_mm": Bound(0.3, 10, "mm", "The thickness"),
    "bend_mm": Bound(1, 1000, "mm", "The width of the bend"),
    "sleeve_mm": Bound(5, 300, "mm", "The height"),
    "bow_loops": Bound(5, 14, "", "The number of loops"),
    "bow_rings": Bound(1, 3, "", "The number of rings"),
    "petal_mm": Bound(5, 120, "mm", "The width"),
    "petal_sizes": Bound(1, 3, "", "The number of sizes"),
    "petal_overlap": Bound(0, 0.6, "", "The overlap"),
    "stamens": Bound(0, 200, "", "The number of stamens"),
    "paint_coats": Bound(1, 4, "", "The number of coats"),
    "slab_mm": Bound(5, 1000, "mm", "The side of the slab"),
    "resolution": Bound(16, 2048, "dots", "The resolution"),
    "finer": Bound(1, 4, "", "The refinement"),
    "turn_deg": Bound(-360, 360, "degrees", "The turn"),
    "strip_mm": Bound(0.1, 20000, "mm", "The width of the drawing"),
    "page_mm": Bound(1, 3000, "mm", "The width of the page"),
    "lace_height_mm": Bound(8, 200, "mm", "The height of the lace"),
    "pitch_mm": Bound(5, 200, "mm", "The pitch"),
    "overlap_mm": Bound(0, 100, "mm", "The overlap"),
    "wall_mm": Bound(0, 20, "mm", "The thickness of the strip"),
    "fullness": Bound(1, 3, "", "The fullness"),
    "share": Bound(0.05, 1, "", "The share of the way round"),
    "seed": Bound(0, 2**31 - 1, "", "The seed"),
    "cap_mm": Bound(3, 200, "mm", "The height of a capital"),
    "hand_speed_mm_s": Bound(1, 300, "mm/s", "The speed of the hand"),
    "spacing_mm": Bound(5, 200, "mm", "The spacing between drips"),
    "spread_ml": Bound(1, 100, "ml", "The amount poured"),
    "spread_mm": Bound(10, 500, "mm", "The width of the spread"),
    "spread_wait_s": Bound(10, 900, "s", "The wait"),
    "density_kg_m3": Bound(900, 1600, "kg/m3", "The density"),
    "bead_mm": Bound(0.2, 30, "mm", "The line width"),
    "standing_pa": Bound(0.01, 2000, "Pa", "The yield stress"),
    "hole_mm": Bound(0.5, 30, "mm", "The hole diameter"),
    "card_mm": Bound(10, 500, "mm", "The width of the card"),
    "humidity": Bound(0.01, 1, "", "The relative humidity"),
    "loss_fraction": Bound(0, 0.9, "", "The share lost to the air"),
    "since_min": Bound(0, 20160, "min", "The time"),
    "sides": Bound(0.5, 3, "", "The number of sides that give off heat"),
    "bag_g": Bound(2, 10000, "g", "The size of the bag"),
    "piece_g": Bound(0.1, 100, "g", "The weight of one piece"),
    "core_mm": Bound(1, 1000, "mm", "The size"),
    "line_mm": Bound(0, 1e6, "mm", "The length of the lines"),
    "area_mm2": Bound(0, 1e8, "mm2", "The area"),
    "volume_ml": Bound(0, 1e5, "ml", "The volume"),
    "colourants": Bound(0, 6, "", "The number of colours"),
    "shades": Bound(3, 9, "", "The number of shades"),
    "coat_mm": Bound(0.01, 5, "mm", "The thickness of a coat"),
    "shred_mm": Bound(0, 200, "mm", "The depth of the shred"),
    "keeps_days": Bound(0, 3650, "days", "The shelf life"),
    "pack": Bound(0.1, 100000, "", "The size of the pack"),
    "day": Bound(-1e6, 1e6, "days", "The day"),
    "half_life_days": Bound(1, 36500, "days", "The half-life"),
    "learned": Bound(0.2, 5, "", "A factor"),
    "learned_end": Bound(0.001, 1000, "", "The end of a range"),
    "wrong_share": Bound(0.001, 0.4, "", "The share of wrong answers"),
    "ln_sd": Bound(0.001, 10, "", "How far off it may be"),
    "uses": Bound(1, 100000, "", "The number of uses"),
    "cavities": Bound(1, 500, "", "The number of cavities"),
    "price": Bound(0.01, 100000, "", "The price"),
}


def check(name: str, value: Any, field: str | None = None) -> float:
    """Check `value` against the bound called `name`; see `Bound.check`."""
    return BOUNDS[name].check(value, field or name)
