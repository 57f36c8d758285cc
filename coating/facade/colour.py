"""colour.difference, colour.film, colour.lab, colour.mix."""

from __future__ import annotations

from typing import Any

from coating.colour import colour_difference, difference_word, lab_from_reflectance, mix, srgb_from_lab
from coating.colour.cie import WHITE_A, WHITE_D65
from coating.colour.kubelka_munk1931 import film_reflectance
from coating.facade.fields import LAB, Choice, ListOf, Number, Record, Vector
from coating.facade.learned import FACTORS
from coating.facade.parts import PART, part_from
from coating.facade.registry import Entry

ILLUMINANT = Choice(("D65", "A"), default="D65")


def _shown(lab: Any, illuminant: str) -> dict[str, Any]:
    """Lab under a light, and the sRGB that shows it as if under D65."""
    srgb, in_gamut = srgb_from_lab(lab)
    return {
        "lab": [float(v) for v in lab],
        "srgb": [float(v) for v in srgb],
        "in_gamut": bool(in_gamut),
        "illuminant": illuminant,
        "white": [float(v) for v in (WHITE_A if illuminant == "A" else WHITE_D65)],
    }


def _difference(given: dict[str, Any]) -> dict[str, Any]:
    de00 = float(colour_difference(given["lab1"], given["lab2"]))
    return {"de00": de00, "word": difference_word(de00)}


def _film(given: dict[str, Any]) -> dict[str, Any]:
    return {
        "reflectance": float(
            film_reflectance(given["k_per_mm"], given["s_per_mm"], given["thickness_mm"], given["ground"])
        )
    }


def _lab(given: dict[str, Any]) -> dict[str, Any]:
    light = given["illuminant"]
    return _shown(lab_from_reflectance(given["reflectance"], illuminant=light), light)


def _mix(given: dict[str, Any]) -> dict[str, Any]:
    mixture = mix(part_from(p, f"parts[{i}]", given["factors"]) for i, p in enumerate(given["parts"]))
    light = given["illuminant"]
    return {**_shown(mixture.lab(illuminant=light), light), "load": mixture.load, "mass_g": mixture.mass_g}


ENTRIES = (
    Entry(
        "colour.difference",
        "CIEDE2000 between two Lab colours",
        Record({"lab1": Vector(LAB), "lab2": Vector(LAB)}),
        _difference,
    ),
    Entry(
        "colour.film",
        "reflectance of a film over a ground (Kubelka-Munk)",
        Record(
            {
                "k_per_mm": Number("optical_per_mm"),
                "s_per_mm": Number("optical_per_mm"),
                "thickness_mm": Number("thickness_mm"),
                "ground": Number("reflectance"),
            }
        ),
        _film,
    ),
    Entry(
        "colour.lab",
        "Lab and sRGB of a spectrum, 400 to 700 nm at 10 nm",
        Record({"reflectance": Vector(("reflectance",) * 31), "illuminant": ILLUMINANT}),
        _lab,
    ),
    Entry(
        "colour.mix",
        "colour of a bowl from its parts, and how much colour it carries",
        Record({"parts": ListOf(PART), "illuminant": ILLUMINANT, "factors": FACTORS}),
        _mix,
    ),
)
