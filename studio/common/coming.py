"""What can be seen coming is said where it can still be helped, in the words of Rescue; and where its pages are."""

from __future__ import annotations

from collections.abc import Iterable

from studio.common.slot import Slot

seen_coming: Slot[[str], str] = Slot("what is said beforehand of a cause of trouble, by its name")
fault_pages: Slot[[Iterable[str]], list[tuple[str, str]]] = Slot(
    "the pages of some signs of trouble: titles, addresses"
)
