"""An archive becomes rows of a kitchen: all of it, or nothing."""

from __future__ import annotations

import base64
import uuid
from collections.abc import Callable, Iterable, Iterator
from datetime import date, datetime
from typing import Any

from django.db import IntegrityError, models, transaction

from coating.apart import Limits, apart
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.common.types import Json
from studio.cupboard.models import Extra, Ingredient, Optics, Parameter
from studio.day.models import ASKED, SOLVING, STOPPED
from studio.designs.models import Design, Shape
from studio.notebook.archive.inside import CODE, turned
from studio.notebook.archive.pictures import checked_pictures
from studio.notebook.archive.read import Archive, refuse
from studio.notebook.archive.same import Alike
from studio.notebook.archive.tables import PROFILE, TABLES, Carried
from studio.notebook.archive.works import check_that_it_works
from studio.notebook.models import CameFrom, KeptPhoto, KitchenMark, Note
from studio.notebook.photos import LARGE, SMALL, keep_files, remove_files
from studio.pieces.models import Job, Template

AT_ONCE, PHOTOS_AT_ONCE = 500, 12
LIMITS = Limits(processor_s=60, wall_s=120.0, memory_mb=1024)
TOO_HARD = "Reading the photos of that archive takes far too long. Nothing of it was brought in."
Tell = Callable[[int], None]


def bring_archive(kitchen: Kitchen, archive: Archive, tell: Tell = lambda done: None) -> int:
    """Put all rows into a kitchen that are not in it yet. Returns how many those were. Raises CoatingError, and then
    nothing was put in."""
    bringing = _Bringing(kitchen, archive, tell)
    try:
        with transaction.atomic():
            return bringing.all()
    except BaseException as problem:
        bringing.take_back()
        if isinstance(problem, IntegrityError):
            raise refuse("its rows contradict each other") from problem
        raise


def is_empty(kitchen: Kitchen) -> bool:
    """Whether nothing was made or said in a kitchen yet, so that an archive can take the place of what it began
    with."""
    own = (Job, Bowl, Design, Shape, Template, Note, Optics)
    if any(model._default_manager.filter(kitchen=kitchen).exists() for model in own):
        return False
    said = Parameter.objects.for_kitchen(kitchen).exclude(provenance="default")
    things = Ingredient.objects.for_kitchen(kitchen).filter(own=True)
    shades = Colour.objects.for_kitchen(kitchen).exclude(came_from="first")
    return not (said.exists() or things.exists() or shades.exists())


class _Bringing:
    """One archive while it is brought in."""

    def __init__(self, kitchen: Kitchen, archive: Archive, tell: Tell) -> None:
        self.kitchen, self.archive, self.tell = kitchen, archive, tell
        self.origin = uuid.UUID(archive.about["origin"])
        self.maps: dict[str, dict[int, int]] = {table.name: {} for table in TABLES}
        self.codes: dict[str, str] = {}
        self.fresh: dict[str, list[int]] = {table.name: [] for table in TABLES}
        self.later: list[tuple[Carried, int, Json]] = []
        self.photos: list[KeptPhoto] = []
        self.done = 0

    def all(self) -> int:
        """Every table in its order; then what could only be said once all rows were there."""
        self.mark = KitchenMark.of(self.kitchen)
        if is_empty(self.kitchen):
            self._make_room()
        self.alike = Alike(self.kitchen, self.archive)
        for table in TABLES:
            for rows in _by(self.archive.rows_of(table), table.rows_a_file):
                self._rows(table, rows)
                self.done += len(rows)
                self.tell(self.done)
        self._say_later()
        brought = sum(map(len, self.fresh.values()))
        if brought:
            Kitchen.objects.filter(pk=self.kitchen.pk).update(cupboard_version=models.F("cupboard_version") + 1)
            self.kitchen.refresh_from_db()
            check_that_it_works(self.kitchen, self.fresh)
        return brought

    def take_back(self) -> None:
        """What the database does not take back by itself."""
        for photo in self.photos:
            remove_files(photo)
        # What was read meanwhile is kept under a version that never was.
        Kitchen.objects.filter(pk=self.kitchen.pk).update(cupboard_version=models.F("cupboard_version") + 2)

    def _make_room(self) -> None:
        """What a new kitchen begins with goes, and its settings become those of the archive."""
        for model in (Extra, Colour, Ingredient):
            model._default_manager.filter(kitchen=self.kitchen).delete()
        profile = self.archive.about["kitchen"]
        Kitchen.objects.filter(pk=self.kitchen.pk).update(**{name: profile[name] for name in PROFILE})

    def turn(self, table: str, number: Any, *, soft: bool = False) -> Any:
        """What a number of the archive is here."""
        if table == CODE:
            return self.codes.get(number, number)
        here = self.maps[table].get(number) if isinstance(number, int) else None
        if here is None and not soft:
            raise refuse(f"something in it points to one of the {table} that is not there")
        return here

    # -- rows ------------------------------------------------------------------------------------------------------
    def _rows(self, table: Carried, rows: list[Json]) -> None:
        """Some rows: those that are here already are known by their numbers, the others are made."""
        came = {row["id"]: self._known_as(row) for row in rows}
        here = self._here(table, came)
        new = [row for row in rows if row["id"] not in here]
        for row in rows:
            if row["id"] in here:
                self.maps[table.name][row["id"]] = here[row["id"]]
                if table.name == "ingredients":
                    self.codes[row["code"]] = Ingredient.objects.values_list("code", flat=True).get(pk=here[row["id"]])
        if table.name == "photos":
            new = [row for row in new if self.archive.photo(uuid.UUID(row["uid"]).hex) is not None]
        made = [(row, self._made(table, row)) for row in new]
        objects = [obj for _, obj in made if obj.pk is None]
        if table.name == "photos":
            self._photo_files(made)
        self._save(table, objects)
        for row, obj in made:
            self.maps[table.name][row["id"]] = obj.pk
        CameFrom.objects.bulk_create(
            CameFrom(kitchen=self.kitchen, table=table.name, origin=o, number=n, here=obj.pk)
            for (row, obj) in made
            for o, n in [came[row["id"]]]
        )
        self.fresh[table.name] += [obj.pk for obj in objects]
        fresh = {obj.pk for obj in objects}
        self.later += [(table, obj.pk, row) for row, obj in made if table.later and obj.pk in fresh]

    def _known_as(self, row: Json) -> tuple[uuid.UUID, int]:
        came = row.get("came")
        return (uuid.UUID(came[0]), came[1]) if came else (self.origin, row["id"])

    def _here(self, table: Carried, came: dict[int, tuple[uuid.UUID, int]]) -> dict[int, int]:
        """Of some rows those that are in this kitchen, by their numbers in the archive."""
        wanted = {known: number for number, known in came.items()}
        rows = CameFrom.objects.for_kitchen(self.kitchen).filter(table=table.name, number__in=[n for _, n in wanted])
        here = {number: n for (o, n), number in wanted.items() if o == self.mark}
        here |= {wanted[o, n]: h for o, n, h in rows.values_list("origin", "number", "here") if (o, n) in wanted}
        mine = table.model._default_manager.filter(kitchen=self.kitchen, pk__in=here.values())
        there = set(mine.values_list("pk", flat=True))
        gone = [n for n, pk in here.items() if pk not in there]
        if gone:
            known = [came[n] for n in gone]
            CameFrom.objects.for_kitchen(self.kitchen).filter(
                table=table.name, number__in=[n for _, n in known], here__in=[here[n] for n in gone]
            ).delete()
        return {n: pk for n, pk in here.items() if pk in there}

    def _made(self, table: Carried, row: Json) -> Any:
        """A row of this kitchen that is not kept yet; or the one that is the same and was here before."""
        if table.name == "ingredients":
            same = self.alike.ingredient(row)
            self.codes[row["code"]] = same.code if same else self.alike.free_code(row["code"])
            if same is not None:
                return same
        soft = {**row, **{n: None for n, of in table.refs.items() if of == "photos" and row[n] is not None
                          and row[n] not in self.maps["photos"]}}  # fmt: skip
        values = self._turned(table, {**soft, **{n: _empty(row[n]) for n in table.later}})
        same = self.alike.of(table.name, row, values)
        if same is not None:
            return same
        return table.model(kitchen=self.kitchen, **self._values(table, row, values))

    def _turned(self, table: Carried, row: Json) -> Json:
        """A row with the numbers of this kitchen."""
        try:
            return turned(table.name, row, self.turn)
        except (KeyError, TypeError, AttributeError, ValueError) as wrong:
            raise refuse(f"one of the {table.name} cannot be read") from wrong

    def _values(self, table: Carried, row: Json, values: Json) -> Json:
        """The columns of a row, in the types of the database."""
        columns: Json = {}
        for field in table.fields:
            columns[field.attname] = _value(field, values[field.name])
        if any(f.name == "key" for f in table.model._meta.concrete_fields):
            columns["key"] = self._new(table, row)
        if table.name == "photos":
            columns["uid"] = self._new(table, row)
        if table.name == "days" and columns["state"] in (ASKED, SOLVING):
            columns["state"] = STOPPED
        if table.name == "ingredients" and self.codes[row["code"]] != row["code"]:
            columns |= {"put_away": True, "ticked": False}
        return columns

    def _new(self, table: Carried, row: Json) -> uuid.UUID:
        """A key of its own, the same each time."""
        origin, number = self._known_as(row)
        return uuid.uuid5(self.mark, f"{table.name} {origin.hex} {number} {uuid.uuid4().hex}")

    def _save(self, table: Carried, objects: list[Any]) -> None:
        """Keep rows; a moment that the database sets by itself stays what it was."""
        dated = [f for f in table.fields if getattr(f, "auto_now_add", False)]
        if not dated:
            table.model._default_manager.bulk_create(objects, batch_size=AT_ONCE)
            return
        for obj in objects:
            obj.save_base(raw=True, force_insert=True)

    def _photo_files(self, made: Iterable[tuple[Json, Any]]) -> None:
        """The files of photos, each looked at in a process of its own."""
        for some in _by(iter(made), PHOTOS_AT_ONCE):
            raws = [self.archive.photo(uuid.UUID(row["uid"]).hex) for row, _ in some]
            pictures = apart(checked_pictures, raws, (LARGE, SMALL), limits=LIMITS, too_much=TOO_HARD, field="file")
            for (_, photo), (large, small) in zip(some, pictures, strict=True):
                photo.width, photo.height = large.width, large.height
                self.photos.append(photo)
                keep_files(photo, large, small)
            self.done += len(some)
            self.tell(self.done)

    def _say_later(self) -> None:
        """What names rows that come after it."""
        for table, pk, row in self.later:
            values = self._turned(table, row)
            changed = {n: values[n] for n in table.later if row[n]}
            if changed:
                of = {f"{n}_id" if n in table.refs else n: v for n, v in changed.items()}
                table.model._default_manager.filter(pk=pk).update(**of)


def _empty(value: Any) -> Any:
    """Nothing, of the same kind."""
    return {} if isinstance(value, dict) else None


def _value(field: models.Field[Any, Any], value: Any) -> Any:
    if value is None:
        return None
    try:
        match field.get_internal_type():
            case "DateTimeField":
                return datetime.fromisoformat(value)
            case "DateField":
                return date.fromisoformat(value)
            case "BinaryField":
                return base64.b64decode(value, validate=True)
    except ValueError as wrong:
        raise refuse(f"a {field.name.replace('_', ' ')} in it is none") from wrong
    return value


def _by(rows: Iterator[Any], many: int) -> Iterator[list[Any]]:
    held: list[Any] = []
    for row in rows:
        held.append(row)
        if len(held) >= many:
            yield held
            held = []
    if held:
        yield held
