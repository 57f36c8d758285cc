"""What do a kitchen's own records say? Factors on its colours, coatings, hands and bowls, refitted from all of them."""

from coating.learning.fit import Fitted, Learned, Odd, Together, fit
from coating.learning.names import HALF_LIFE_DAYS, NOISE, PRIORS, WRONG_SHARE
from coating.learning.observations import Observation

__all__ = [
    "HALF_LIFE_DAYS",
    "NOISE",
    "PRIORS",
    "WRONG_SHARE",
    "Fitted",
    "Learned",
    "Observation",
    "Odd",
    "Together",
    "fit",
]
