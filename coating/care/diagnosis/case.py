"""What is asked of the diagnosis: a bowl with its events, a piece, what is seen, and what was looked at."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from coating.care.diagnosis.log import Log
from coating.colour.mixing import Ingredient
from coating.colour.ways import ANY_WAY, ColourWay
from coating.flow.windows import Window
from coating.heat.schools import ORDINARY_W
from coating.heat.setting import Pliable, Setting
from coating.heat.times import bend_window, set_time, shape_called
from coating.simulate.bowl import BowlContext, Event

Lab = tuple[float, float, float]


@dataclass(frozen=True)
class Piece:
    """What is known of a piece, line, bead or coat; None: nobody knows.

    Attributes
    ----------
    thickness_mm : float or None
    place : str or None
        "room", "fridge" or "freezer".
    since_min : float or None
        From making it to the moment of the fault, minutes.
    core_c : float or None
        How warm the core was, degC.
    core : str or None
        "dry", "moist" or "greasy".
    stick_min : float or None
        How long the joint of its stick had set, minutes.
    squeeze_ml, wanted_mm : float or None
        Of a drip: what was squeezed, ml, and how long it shall be, mm.
    wall : str or None
        "chilled", "room" or "frozen".
    printed_side : str or None
        Towards the "chocolate", or "away".
    coats : int or None
        Of paint.
    hole_mm, line_mm : float or None
        Of a bag and its line.
    bag_min : float or None
        How long the bag had lain, minutes.
    done : tuple of str or None
        What of "shaken", "scraped" and "tapped" was done.
    sets, pliable : Setting, Pliable or None
        When it sets and while it bends, where another page has said so; else they are worked out here.
    """

    thickness_mm: float | None = None
    place: str | None = None
    since_min: float | None = None
    core_c: float | None = None
    core: str | None = None
    stick_min: float | None = None
    squeeze_ml: float | None = None
    wanted_mm: float | None = None
    wall: str | None = None
    printed_side: str | None = None
    coats: int | None = None
    hole_mm: float | None = None
    line_mm: float | None = None
    bag_min: float | None = None
    done: tuple[str, ...] | None = None
    sets: Setting | None = None
    pliable: Pliable | None = None


@dataclass(frozen=True)
class Case:
    """Something is wrong.

    Attributes
    ----------
    symptom : str
        One of `coating.care.diagnosis.symptoms.SYMPTOMS`.
    context : BowlContext
    events : sequence of Event
    at_s : float
        Now, s since the bowl was begun.
    window : Window or None
        What it is for.
    shape : str
        How what is made of it sets, a key of `coating.heat.times.SHAPES`; "" where that is not known.
    answers : mapping of str to str
        What was looked at and seen, by look; "cannot_tell" too.
    piece : Piece
    target_lab : tuple of float or None
    bases, colourants : tuple of Ingredient
        What the colour may be brought back with; no bases: the one that most of the bowl is.
    thinner : Ingredient or None
    humidity : float
        Of the room, 0 to 1.
    tempered_at_s : float or None
        When it was in temper, s.
    wet : bool or None
        Whether it was melted over steam, wet fruit went through it, or its bowl was just washed; None: nobody knows.
    power_w : float
        Of the oven, W.
    colours : ColourWay
        How its colour is found.
    """

    symptom: str
    context: BowlContext
    events: Sequence[Event]
    at_s: float
    window: Window | None = None
    shape: str = ""
    answers: Mapping[str, str] = field(default_factory=dict)
    piece: Piece = Piece()
    target_lab: Lab | None = None
    bases: tuple[Ingredient, ...] = ()
    colourants: tuple[Ingredient, ...] = ()
    thinner: Ingredient | None = None
    humidity: float = 0.6
    tempered_at_s: float | None = None
    wet: bool | None = False
    power_w: float = ORDINARY_W
    colours: ColourWay = ANY_WAY

    @cached_property
    def log(self) -> Log:
        """Its events, folded one by one."""
        return Log.of(self.events, self.context, at_s=self.at_s)

    @property
    def white(self) -> str | None:
        """coating, tempered or untempered; None where nobody said, and nothing is in the bowl."""
        return self.context.white or (None if self.log.now.empty else self.log.now.white)

    @property
    def is_burnt(self) -> bool:
        """Whether it smells burnt."""
        return self.symptom == "burnt_smell" or self.answers.get("smell") == "burnt"

    def sets(self) -> Setting | None:
        """When the piece is dry to the touch and can be handled, minutes; None where that is not known.
        Raises OutOfBounds where it is too warm there for it to set."""
        piece = self.piece
        if piece.sets is not None:
            return piece.sets
        if not self.shape or piece.thickness_mm is None or piece.place is None:
            return None
        room_c, white = self.context.room_c, self.white or "coating"
        return set_time(self.shape, piece.thickness_mm, piece.place, white=white, room_c=room_c)

    def bends(self) -> Pliable | None:
        """Between which minutes it bends; None where that is not known. Raises OutOfBounds."""
        piece = self.piece
        if piece.pliable is not None:
            return piece.pliable
        if not self.shape or not shape_called(self.shape).bends or piece.thickness_mm is None or piece.place is None:
            return None
        room_c, white = self.context.room_c, self.white or "coating"
        return bend_window(self.shape, piece.thickness_mm, piece.place, white=white, room_c=room_c)
