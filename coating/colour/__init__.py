"""What colour is it? Spectra in 31 bands, two-constant mixing, CIE colour, differences, recipes.

A base scatters and a dye does not, so one constant is not enough: averaging sRGB or Lab of two
ingredients is far off, and only absorption K and scattering S add up in proportion to mass.
"""

from coating.colour.cie import WHITE_A, WHITE_D65, lab_from_reflectance, lab_from_srgb, srgb_from_lab
from coating.colour.ciede2000 import colour_difference, difference_word
from coating.colour.mixing import Ingredient, Mixture, Part, mix

__all__ = [
    "WHITE_A",
    "WHITE_D65",
    "Ingredient",
    "Mixture",
    "Part",
    "colour_difference",
    "difference_word",
    "lab_from_reflectance",
    "lab_from_srgb",
    "mix",
    "srgb_from_lab",
]
