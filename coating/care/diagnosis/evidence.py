"""What the history says of a cause: how far, in the cause's own measure, and the figures it goes by."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Evidence:
    """`says` : in the cause's own measure; None: nobody knows. `figures` : what that goes by, each with its unit in its
    name. `floor` : however clean the log, it is no less likely than that."""

    says: float | None = None
    figures: Mapping[str, float | str] = field(default_factory=dict)
    floor: float = 0.0

    @property
    def lines(self) -> list[str]:
        """The figures as they are, for scripts.

        >>> Evidence(6.2, {"overheated_min": 6.2}).lines
        ['overheated_min 6.2']
        """
        return [f"{name} {value if isinstance(value, str) else f'{value:.4g}'}" for name, value in self.figures.items()]


SILENT = Evidence()
