"""Three earlier evenings at the observatory, in the three seasons before: what a notebook has to tell. Invented."""

from __future__ import annotations

import io
import uuid
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from pathlib import Path

from django.utils import timezone
from PIL import Image

from coating.colour.mixing import mix
from coating.plan.colouring import seen_as
from studio.accounts.models import Kitchen
from studio.bowls.actions import Line, append, begin_bowl, finish, strike_out
from studio.bowls.adapters import Desk, pins_of
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.colours.pictures import Picture
from studio.common import clock
from studio.common.forms import asked_and_reckoned
from studio.common.templatetags.kitchen import UNIT_WORDS
from studio.cupboard.models import Ingredient
from studio.day.actions import move
from studio.day.adapters import Planned, day_of
from studio.day.forms import DayForm
from studio.day.models import DayEvent, DayPlan
from studio.day.reckoning import at_once
from studio.notebook.models import Note, Outcome
from studio.notebook.photos import SMALL, keep_pictures
from studio.pieces.adapters import colour_needs
from studio.pieces.models import Job, Piece
from studio.pieces.stacks import PiecePlan, dipped, dripped, keep_piece
from studio.rescue.models import Rescue

# Evenings on which the sun turns: month, day, and what such an evening is called.
TURNS = ((3, 20, "Spring equinox evening"), (6, 21, "Midsummer evening"),
         (9, 22, "Equinox evening"), (12, 21, "Midwinter evening"))  # fmt: skip
LEAST_AGO = timedelta(days=12)
BEGINS = time(13, 30)
PHOTOS = Path(__file__).parent / "photos"


@dataclass(frozen=True)
class Deed:
    """Something done to a bowl, so many minutes after it was begun."""

    after_min: float
    lines: tuple[Line, ...]
    struck: bool = False


def put_in(code: str, amount: float) -> Line:
    """So many drops, pinches or g of something, by its code."""
    return "added", {"code": code, "amount": amount}


def warmed(to_c: float) -> Line:
    """Read on a thermometer."""
    return "warmed", {"to_c": to_c, "typed": "read", "read": True}


def looks(word: str) -> Line:
    """How it looked beside its swatch."""
    return "read", {"how": "eyes", "word": word, "much": False}


STIRRED: Line = ("stirred", {})


@dataclass(frozen=True)
class BowlTold:
    """A bowl: its colour, what was done with it, what was used, what of the rest was left, and what went wrong."""

    colour: str
    begun_min: float
    deeds: tuple[Deed, ...]
    used_g: float
    left_g: float = 0.0
    lost_g: float = 0.0
    wrong: tuple[float, str, str, str, str] | None = None  # minutes, sign, cause, move, helped


@dataclass(frozen=True)
class EveningTold:
    """An evening: its pieces, its bowls, how each piece came out, its notes and its pictures with words."""

    pieces: tuple[tuple[str, int, int, float, str], ...]
    bowls: tuple[BowlTold, ...]
    came: Mapping[str, tuple[int, str, str, str]]
    notes: tuple[str, ...]
    photos: tuple[tuple[str, str], ...]
    later_min: float


LOST_TO_WATER = EveningTold(
    (("Shooting stars", 24, 3, 55.0, "Lilac hour"), ("Night-sky plaques", 10, 1, 70.0, "Dusk blue")),
    (
        BowlTold(
            "Lilac hour",
            0,
            (
                Deed(5, (put_in("bright", 190), warmed(43.0))),
                Deed(8, (put_in("purple", 7), put_in("brown", 2), STIRRED)),
            ),
            30.0,
            lost_g=160.0,
            wrong=(14, "clumpy", "water", "swap", "yes"),
        ),
        BowlTold(
            "Lilac hour",
            22,
            (
                Deed(5, (put_in("bright", 190), warmed(42.0))),
                Deed(9, (put_in("purple", 7), put_in("brown", 2), STIRRED)),
                Deed(11, (looks("right"),)),
            ),
            148.0,
            left_g=42.0,
        ),
        BowlTold(
            "Dusk blue",
            30,
            (
                Deed(5, (put_in("bright", 160), warmed(42.0))),
                Deed(8, (put_in("blue", 11), put_in("red", 5), STIRRED)),
                Deed(10, (looks("right"),)),
            ),
            104.0,
            left_g=56.0,
        ),
    ),
    {"Shooting stars": (21, "thick", "enough", "so_so"), "Night-sky plaques": (10, "right", "left", "yes")},
    ("A wet whisk. Dry everything twice before the first bag is opened.",),
    (("stars.jpg", "Shooting stars, half dipped"), ("plaques.jpg", "Night-sky plaques")),
    9,
)
WELL_DONE = EveningTold(
    (("Sun biscuits", 30, 2, 60.0, "Apricot"), ("Meringue clouds", 12, 1, 45.0, "Dusk blue")),
    (
        BowlTold(
            "Apricot",
            0,
            (
                Deed(5, (put_in("bright", 218), put_in("yellow_coating", 52), warmed(42.0))),
                Deed(8, (put_in("orange", 12), put_in("brown", 4), STIRRED)),
                Deed(10, (looks("right"),)),
            ),
            236.0,
            left_g=35.0,
        ),
        BowlTold(
            "Dusk blue",
            12,
            (
                Deed(5, (put_in("bright", 90), warmed(41.0))),
                Deed(8, (put_in("blue", 7), put_in("red", 3), STIRRED)),
                Deed(10, (looks("dark"),)),
            ),
            61.0,
            left_g=29.0,
        ),
    ),
    {"Sun biscuits": (30, "right", "enough", "yes"), "Meringue clouds": (12, "right", "left", "yes")},
    ("The window side of the table is warmer: put the bowls on the other.",),
    (("suns.jpg", "Sun biscuits"), ("clouds.jpg", "Meringue clouds")),
    2,
)
A_LITTLE_DARK = EveningTold(
    (("Moon discs", 40, 2, 55.0, "Dusk blue"), ("Observatory cake", 1, 0, 200.0, "Midnight")),
    (
        BowlTold(
            "Dusk blue",
            0,
            (
                Deed(5, (put_in("bright", 280), warmed(43.0))),
                Deed(8, (put_in("blue", 21), put_in("red", 9), STIRRED)),
                Deed(9, (put_in("green", 6), STIRRED), struck=True),
                Deed(12, (looks("dark"),)),
                Deed(16, (warmed(49.0),)),
                Deed(19, (("cooled", {"to_c": 40.0, "typed": "read", "read": True}), STIRRED)),
            ),
            272.0,
            left_g=9.0,
            wrong=(17, "thick", "overheated", "cool", "yes"),
        ),
        BowlTold(
            "Midnight",
            14,
            (
                Deed(5, (put_in("bright", 50), warmed(42.0))),
                Deed(8, (put_in("purple", 9), put_in("black", 9), put_in("blue", 2), STIRRED)),
                Deed(10, (looks("right"),)),
            ),
            47.0,
            left_g=3.0,
        ),
    ),
    {"Moon discs": (38, "right", "enough", "yes"), "Observatory cake": (1, "right", "enough", "yes")},
    ("Drips ran a little further than wanted: chill the cake ten minutes longer.",),
    (
        ("discs.jpg", "Moon discs, half dipped"),
        ("cake.jpg", "The cake with its drip"),
        ("blues.jpg", "Made and wanted"),
    ),
    3,
)
EVENINGS = (LOST_TO_WATER, WELL_DONE, A_LITTLE_DARK)


def turns_before(today: date) -> list[tuple[date, str]]:
    """The last three evenings on which the sun turned, the oldest first."""
    all_of_them = [(date(y, m, d), name) for y in (today.year - 1, today.year) for m, d, name in TURNS]
    return [(on, name) for on, name in all_of_them if on <= today - LEAST_AGO][-len(EVENINGS) :]


def tell_evenings(kitchen: Kitchen) -> list[Job]:
    """The three evenings, as if they had been made in this kitchen."""
    turns = turns_before(timezone.localdate(clock.now()))
    return [_Teller(kitchen, on, name, evening).tell() for (on, name), evening in zip(turns, EVENINGS, strict=True)]


class _Teller:
    """Writes one evening."""

    def __init__(self, kitchen: Kitchen, on: date, name: str, evening: EveningTold) -> None:
        self.kitchen, self.evening = kitchen, evening
        self.begins = timezone.make_aware(datetime.combine(on, BEGINS))
        self.stock = {r.code: r for r in Ingredient.objects.for_kitchen(kitchen).with_parameters()}
        self.colours = {c.name: c for c in Colour.objects.for_kitchen(kitchen)}
        self.job = Job.objects.create(
            kitchen=kitchen, name=name, due_on=on, note="Open evening at the observatory on the hill."
        )

    def tell(self) -> Job:
        """Everything of it."""
        pieces = {row[0]: keep_piece(self.job, self._plan(*row)) for row in self.evening.pieces}
        planned = self._day()
        for one in self.evening.bowls:
            self._bowl(one)
        if planned is not None:
            self._tapped(planned)
        self._said(pieces)
        return self.job

    def _plan(self, name: str, count: int, spares: int, across_mm: float, colour: str) -> PiecePlan:
        shade = self.colours[colour]
        if across_mm > 100:
            drips = {"wall": "chilled", "length_mm": 45.0, "width_mm": 10.0, "spacing_mm": 32.0}
            return dripped(name, count, diameter_mm=across_mm, height_mm=110.0, white="coating", colour=shade, **drips)
        return dipped(
            name,
            count,
            diameter_mm=across_mm,
            thickness_mm=7.0,
            share=0.5,
            white="coating",
            colour=shade,
            spares=spares,
        )

    def _day(self) -> tuple[Planned, DayPlan] | None:
        """Its day, planned that morning."""
        values = {"begin": f"{BEGINS:%H:%M}", "hands": "1", "fridge": "4", "freezer": "2"}
        _, form = asked_and_reckoned(DayForm, {**values, "on": f"{self.begins:%Y-%m-%d}"})
        planned = day_of(Job.objects.whole(self.kitchen, self.job.pk), self.kitchen, form.asked(self.kitchen))
        if planned is None:
            return None
        values["on"] = f"{self.begins:%Y-%m-%d}"
        return planned, move(self.job, values, planned, at_once(planned), expected=None)

    def _tapped(self, day: tuple[Planned, DayPlan]) -> None:
        """Every step, a little earlier or later than it was planned."""
        planned, row = day
        plan = planned.day, row.plan
        ends = [(f"melt:{m.bowl}", m.ready_s(plan[0])) for m in plan[1].melts]
        ends += [(s.name, plan[1].starts_s[s.name] + s.duration_s) for s in plan[0].steps if s.handled]
        stretch = 1 + self.evening.later_min * 60 / max(1, plan[1].makespan_s)
        DayEvent.objects.bulk_create(
            DayEvent(
                kitchen=self.kitchen,
                plan=row,
                key=uuid.uuid4(),
                step=step,
                kind="done",
                happened_at=self.begins + timedelta(seconds=stretch * end_s),
            )
            for step, end_s in sorted(ends, key=lambda pair: pair[1])
        )

    def _line(self, line: Line, bowl: Bowl) -> Line:
        kind, said = line
        if kind == "added":
            row, amount = self.stock[said["code"]], said["amount"]
            counted = row.kind in UNIT_WORDS
            typed = f"{amount:g} {'drops' if amount != 1 else 'drop'}" if counted else f"{amount:g} g"
            of = {"units": amount} if counted else {"mass_g": amount}
            return kind, {"ingredient": row.pk, "pins": pins_of(row), "typed": typed, **of}
        if kind == "read":
            parts = Desk.of(Bowl.objects.get(pk=bowl.pk), self.kitchen).now.parts
            seen, beside = seen_as(parts, said["word"], much=said["much"]), mix(parts).lab()
            return kind, {**said, "lab": [round(v, 3) for v in seen], "beside": [round(v, 3) for v in beside]}
        return kind, dict(said)

    def _bowl(self, one: BowlTold) -> None:
        begun, colour = self.begins + timedelta(minutes=one.begun_min), self.colours[one.colour]
        needs = colour_needs(Job.objects.whole(self.kitchen, self.job.pk), self.kitchen)
        need = next(n for n in needs if n.colour == colour)
        bowl = begin_bowl(
            self.kitchen,
            name=need.name,
            white=need.white,
            colour=colour,
            job=self.job,
            technique=need.technique,
            layers=need.grams(),
            at=begun,
        )
        for deed in one.deeds:
            at = begun + timedelta(minutes=deed.after_min)
            lines = [self._line(line, bowl) for line in deed.lines]
            events = append(bowl, lines, expected_seq=bowl.last_seq, key=uuid.uuid4(), at=at)
            if deed.struck:
                strike_out(bowl, events[0].seq, expected_seq=bowl.last_seq, key=uuid.uuid4())
                bowl.refresh_from_db()
        if one.wrong is not None:
            minutes, symptom, cause, move_, helped = one.wrong
            Rescue.objects.create(
                kitchen=self.kitchen,
                bowl=bowl,
                job=self.job,
                key=uuid.uuid4(),
                symptom=symptom,
                cause=cause,
                move=move_,
                helped=helped,
                happened_at=begun + timedelta(minutes=minutes),
            )
        more = {"lost_g": one.lost_g} if one.lost_g else {"left_g": one.left_g}
        over = begun + timedelta(minutes=20 if one.lost_g else 45)
        finish(bowl, used_g=one.used_g, expected_seq=bowl.last_seq, key=uuid.uuid4(), at=over, more=more)

    def _said(self, pieces: Mapping[str, Piece]) -> None:
        """What its maker said of it afterwards, with pictures that our own renderers drew."""
        after = self.begins + timedelta(hours=7)
        said = [Outcome(kitchen=self.kitchen, job=self.job, key=uuid.uuid4(), at=after)]
        for name, (good, coat, bowl, liked) in self.evening.came.items():
            of = {"good": good, "coat": coat, "bowl": bowl, "liked": liked}
            said.append(
                Outcome(kitchen=self.kitchen, job=self.job, piece=pieces[name], key=uuid.uuid4(), at=after, **of)
            )
        Outcome.objects.bulk_create(said)
        for text in self.evening.notes:
            Note.objects.create(kitchen=self.kitchen, job=self.job, text=text, key=uuid.uuid4(), at=after)
        for file, words in self.evening.photos:
            large, small = drawn(PHOTOS / file)
            keep_pictures(self.kitchen, large, small, job=self.job, words=words, drawn=True, taken_at=after)


def drawn(file: Path) -> Sequence[Picture]:
    """A picture of ours in both sizes."""
    raw = file.read_bytes()
    with Image.open(io.BytesIO(raw), formats=["JPEG"]) as image:
        wide, high = image.size
        image.thumbnail((SMALL, SMALL))
        out = io.BytesIO()
        image.save(out, "JPEG", quality=90)
        return Picture(raw, wide, high, ""), Picture(out.getvalue(), *image.size, "")


def photos_wanted() -> Iterable[str]:
    """The files that evenings show."""
    return (file for evening in EVENINGS for file, _ in evening.photos)
