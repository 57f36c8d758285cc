"""What a kitchen did becomes records: bowls, benches, timers and what was weighed. Nothing is typed for it."""

from studio.learned.records.gathered import noted_in
from studio.learned.records.noted import Noted

__all__ = ["Noted", "noted_in"]
