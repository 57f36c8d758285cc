"""What common pages ask of the rooms."""

from __future__ import annotations

from typing import Any

from studio.common.slot import Slot

field_names: Slot[[Any], dict[str, str]] = Slot("what a maker calls the fields of a kitchen's forms, by their names")
