"""What does a test at home say? Spread, bag, dipped card, drip and spoon, and two of them together.

Each is a formula of flow read backwards, with the range that hands leave in it; all on a warm, melted coating.
"""

from coating.flow.home_tests.back_drip import number_from_drip
from coating.flow.home_tests.bag_drain import calibrated_hole_mm, drain_time_s, number_from_drain
from coating.flow.home_tests.dipped_card import card_mass_g, number_from_card
from coating.flow.home_tests.roussel_coussot2005 import Spread, spread
from coating.flow.home_tests.spoon import number_from_word
from coating.flow.home_tests.together import MeasuredFlow, measured

__all__ = [
    "MeasuredFlow",
    "Spread",
    "calibrated_hole_mm",
    "card_mass_g",
    "drain_time_s",
    "measured",
    "number_from_card",
    "number_from_drain",
    "number_from_drip",
    "number_from_word",
    "spread",
]
