"""What was wrong with a bowl and what was done about it, as the app above knows it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import TYPE_CHECKING

from studio.common.slot import Slot

if TYPE_CHECKING:
    from studio.bowls.models import Bowl


@dataclass(frozen=True)
class ToldTrouble:
    """When, a sentence, and where to say whether it helped; "" once that was said."""

    at: datetime
    says: str
    url: str


troubles_of: Slot[[Bowl], list[ToldTrouble]] = Slot("what was wrong with a bowl")
