"""What is done when? Steps with their waits on hands, heat, bowls that cool, and places that are few."""

from coating.plan.day.job import HANDS, Day, DayBowl, DayStep, Hold, Lag
from coating.plan.day.plan import Melt, Plan
from coating.plan.day.solve import solve

__all__ = ["HANDS", "Day", "DayBowl", "DayStep", "Hold", "Lag", "Melt", "Plan", "solve"]
