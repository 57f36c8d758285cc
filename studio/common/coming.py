"""What can be seen coming is said where it can still be helped, in the words of Rescue."""

from __future__ import annotations

from studio.common.slot import Slot

seen_coming: Slot[[str], str] = Slot("what is said beforehand of a cause of trouble, by its name")
