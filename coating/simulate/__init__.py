"""What happened to this bowl? A bowl is its events, folded in order."""

from coating.simulate.bowl import BowlContext, BowlState, Event
from coating.simulate.fold import carry_on, fold

__all__ = ["BowlContext", "BowlState", "Event", "carry_on", "fold"]
