"""The tables of an archive: which rows, in which order, and which of their columns."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from types import MappingProxyType
from typing import Any

from django.db import models

from studio.bowls.models import Bowl, BowlEvent, BowlUse, Timer
from studio.colours.models import Colour, Photo
from studio.cupboard.models import Extra, Ingredient, Optics, Parameter
from studio.day.models import DayEvent, DayPlan
from studio.designs.models import Design, Shape
from studio.learned.models import Said
from studio.notebook.models import KeptPhoto, MadeAgain, Note, OpenedPack, Outcome
from studio.pieces.models import Family, Job, Layer, Piece, Template
from studio.rescue.models import Rescue

KIND, VERSION = "olive-ribbon-kitchen", 1
# What no other kitchen has any use for: keys that tell sends apart, and who plans.
NOT_CARRIED = ("id", "kitchen", "key", "task", "stop", "recorded_at")
PROFILE = (
    "name", "zone", "room_c", "has_thermometer", "has_scale", "power_w", "has_fridge", "has_freezer", "mass_unit",
    "temperature_unit", "length_unit", "thinner_school", "melting_school", "setting_school", "region", "profile_said",
    "drain_hole_mm", "paces",
)  # fmt: skip


@dataclass(frozen=True)
class Carried:
    """A table: its name, its rows, how many there may be, and which columns are put in once all rows are there.

    `few`: rows so large that only few of them go into one file.
    """

    name: str
    model: type[models.Model]
    most: int
    later: tuple[str, ...] = ()
    few: bool = False

    @cached_property
    def fields(self) -> list[models.Field[Any, Any]]:
        """The columns that are carried."""
        return [f for f in self.model._meta.concrete_fields if f.name not in NOT_CARRIED]

    @cached_property
    def refs(self) -> Mapping[str, str]:
        """The columns that name a row of another table, and which."""
        names = {table.model: table.name for table in TABLES}
        refs = {f.name: names[f.related_model] for f in self.fields if f.related_model in names}  # type: ignore[index]
        return MappingProxyType(refs)

    @property
    def rows_a_file(self) -> int:
        """How many rows go into one file."""
        return 10 if self.few else 500


TABLES = (
    Carried("colours", Colour, 5_000),
    Carried("ingredients", Ingredient, 5_000),
    Carried("parameters", Parameter, 60_000),
    Carried("readings", Optics, 10_000),
    Carried("extras", Extra, 5_000),
    Carried("jobs", Job, 5_000, later=("boxes",)),
    Carried("families", Family, 10_000),
    Carried("pieces", Piece, 20_000),
    Carried("layers", Layer, 80_000),
    Carried("templates", Template, 2_000),
    Carried("shapes", Shape, 200, few=True),
    Carried("designs", Design, 5_000, few=True),
    Carried("bowls", Bowl, 20_000),
    Carried("uses", BowlUse, 80_000),
    Carried("events", BowlEvent, 400_000, later=("struck_by",)),
    Carried("timers", Timer, 60_000),
    Carried("days", DayPlan, 5_000, few=True),
    Carried("taps", DayEvent, 400_000),
    Carried("words", Said, 20_000),
    Carried("rescues", Rescue, 20_000),
    Carried("again", MadeAgain, 5_000),
    Carried("outcomes", Outcome, 60_000),
    Carried("photos", KeptPhoto, 20_000),
    Carried("notes", Note, 60_000, later=("before",)),
    Carried("packs", OpenedPack, 20_000),
    Carried("shades", Photo, 2_000, few=True),
)
BY_NAME: Mapping[str, Carried] = MappingProxyType({table.name: table for table in TABLES})
MOST_ROWS = 800_000  # of all tables together
