"""What a technique is: everything the house knows of a kind of layer, said in its one file."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from coating.steps import Step

if TYPE_CHECKING:
    from coating.figures.outlines import Outline
    from coating.flow.casson1959 import Flow
    from coating.heat.setting import Setting
    from coating.piece.cores import Core
    from coating.stack.layers import Layer

# Shelves that techniques stand on.
COATS, INTO, BAGGED, FILMED, FINISH = "Coats", "Inside", "Piped", "Film", "Finish"
# Kinds of work, as helpers are asked for it.
SCATTER, DIP, PIPE, PAINT, MOULD, BUILD = "scatter", "dip", "pipe", "paint", "mould", "build"
# Where a layer goes.
OUTSIDE, TOP, INSIDE, RIM = "outside", "top", "inside", "rim"

Drawn = list[tuple[str, str, float]]  # SVG path data, how it is drawn, the width of its line


@dataclass(frozen=True)
class LayerField:
    """One thing a layer is asked: the name of its parameter, a label that stands alone, its bound in `coating.limits`,
    how it is typed ("length", "mass", "volume", "count", "pills", "text"), what it begins with, a sentence of help, and
    the choices of pills."""

    name: str
    label: str
    bound: str = ""
    typed: str = "length"
    first: float | str | None = None
    help: str = ""
    choices: tuple[tuple[str, str], ...] = ()
    high: float | None = None


@dataclass(frozen=True)
class Todo:
    """So many pieces of a layer to do at once, as its steps are asked for: what they are called ("24 biscuits"), how
    thick it comes out, mm, and how long it takes to set where it is put."""

    layer: Layer
    core: Core
    count: int
    many: str
    thick_mm: float
    place: str
    sets: Setting | None

    @property
    def touch_min(self) -> float:
        """Minutes until it is dry to the touch; a quarter of an hour where that is not known."""
        return self.sets.touch_min if self.sets else 15.0

    @property
    def release_min(self) -> float:
        """Minutes until it can be released."""
        return self.sets.release_min if self.sets else 30.0


Steps = Callable[[Todo], Sequence[Step]]
Wrong = tuple[str, bool]


@dataclass(frozen=True, eq=False)
class Technique:
    """A kind of layer.

    Attributes
    ----------
    name, title : key, and what it is called. shelf : where it stands. does : what hands do, with {them} for the pieces.
    measure : g on one piece, of a core, a layer and a flow. thick : how thick it comes out, mm, of the same. fields :
    what it is asked besides its colour. on : where it goes. window : the flow it wants, a key of
    `coating.flow.windows`; "" for what needs none. window_for : where that hangs on the kind of core and its size. bag
    : from a bag, which keeps some. lies_on : how what is under it must be: "any", "wet", "half_set" or "set". fragile :
    share to make more of, because it breaks. thickness_mm, width_mm, each_g : where nothing is said. rank : its place
    in a stack. hands_s : for one piece. work : of which kind. looks : what to look at. did_one : what a
    maker says who has done one of several. faults : symptoms it can show.
    sets_as : a shape of `coating.heat.times`. word : what a bowl for it is called. extra : the kind of thing it is of,
    where it is no coating. dry_when : how it may be placed so that it takes none. covers : it hides what is under it;
    dips : the piece goes into the bowl; over : it lies on the last coat; finish : nothing but a finish comes after it;
    on_bare : it needs no coat under it; in_mould : it is done before a shell leaves its mould. dries_min : minutes
    until it is dry and until it is hard, of what dries. pace_mm_s : of a hand that draws its lines. widths : how long
    its lines usually are together, in widths of what they lie on; common practice, no source. round_mm, stands_mm : how
    much larger all round, and higher, a piece is for it in a box. draw : on a core with what lies below; tint : sRGB,
    where it is no coating. objects : what would go wrong with it in a stack, and whether another order mends it. steps
    : what is done, where it is more than one thing. only_on : the shape of core it needs.
    """

    name: str
    title: str
    shelf: str
    does: str
    measure: Callable[[Core, Layer, Flow], float]
    thick: Callable[[Core, Layer, Flow], float]
    draw: Callable[[Outline, Layer, tuple[Layer, ...]], Drawn]
    measured: str = ""
    fields: tuple[LayerField, ...] = ()
    on: str = OUTSIDE
    window: str = ""
    window_for: Callable[[str, Core], str] | None = None
    bag: bool = False
    lies_on: str = "set"
    fragile: float = 0.0
    thickness_mm: float = 2.0
    width_mm: float = 2.0
    each_g: float = 0.5
    rank: int = 50
    hands_s: float = 15.0
    work: str = BUILD
    looks: str = "nothing sticks to a finger, pairs are alike"
    did_one: str = "One is done"
    faults: tuple[str, ...] = ()
    sets_as: str = "coat"
    word: str = ""
    extra: str = ""
    coating: bool = True
    dry_when: tuple[str, ...] = ()
    covers: bool = False
    dips: bool = False
    over: bool = False
    finish: bool = False
    on_bare: bool = False
    in_mould: bool = False
    dries_min: tuple[float, float] | None = None
    pace_mm_s: float = 20.0
    widths: float = 4.0
    round_mm: float = 0.0
    stands_mm: float = 0.0
    tint: str = ""
    objects: Callable[[Core, Sequence[Layer], int], Wrong | None] | None = None
    steps: Steps | None = None
    only_on: str = ""

    def field(self, name: str) -> LayerField | None:
        """The field of that name, if it is asked."""
        return next((f for f in self.fields if f.name == name), None)

    def wants(self, kind: str, core: Core) -> str:
        """The window its bowl has to be in for a kind of core, by its name; "" when it needs no bowl."""
        return self.window_for(kind, core) if self.window_for else self.window

    def hands(self, layer: Layer, count: int) -> float:
        """Seconds of hands for so many pieces, without a design."""
        many = max(1, layer.count) if self.measured == COUNTED else 1
        each = self.hands_s * many * max(1, layer.coats)
        if self.measured == COUNTED:
            each = min(MOST_EACH_S, each)
        if layer.length_mm and self.measured == LINE:
            each = max(self.hands_s, layer.length_mm / self.pace_mm_s + LIFTS_S)
        return each * count

    def todo(self, todo: Todo) -> list[Step]:
        """What is done for so many pieces: its own steps, or the one."""
        if self.steps is not None:
            return list(self.steps(todo))
        return [Step(self.does.format(them=todo.many) + ".", self.hands(todo.layer, todo.count))]


# How the grams of a technique are found.
FILM, SPREAD, LINE, VOLUME, COUNTED, NONE, DRIP = "film", "spread", "line", "volume", "counted", "none", "drip"
MOST_EACH_S = 12.0  # for what is counted, on one piece; an assumption
LIFTS_S = 2.0  # a hand with a bag, on one piece; an assumption

# Fields that many techniques share.
SHARES = (
    ("0.333", "a third"),
    ("0.5", "half"),
    ("0.667", "two thirds"),
    ("0.9", "nearly all of it"),
    ("1.0", "all of it"),
)
PLACES = (("wet", "while wet"), ("half_set", "half-set"), ("set", "once set"))
SHARE = LayerField("share", "Share that is covered", typed="pills", first="1.0", choices=SHARES)
DIPPED = LayerField("share", "Share that is dipped", typed="pills", first="0.5", choices=SHARES)
COUNT = LayerField("count", "Number on each piece", "count", "count", 1)
EACH_G = LayerField("each_g", "Weight of one", "mass_g", "mass", None, "Leave blank to use the weight in the cupboard.")
VOLUME_ML = LayerField("volume_ml", "Volume in each", "volume_ml", "volume", None, "Leave blank to fill it.")
PLACED = LayerField("placed", "When it is put on", typed="pills", first="half_set", choices=PLACES)
COATS_OF = LayerField("coats", "Number of coats", "count", "count", 2, high=20)
NOTE = LayerField("note", "What it is", typed="text")
LENGTH = LayerField("length_mm", "Length of all lines together", "line_mm", first=200.0)


def thickness(first: float) -> LayerField:
    """How thick it is spread, with what it begins with, mm."""
    return LayerField("thickness_mm", "Thickness", "thickness_mm", first=first)


def width(first: float) -> LayerField:
    """How wide a line is once it has settled, mm."""
    return LayerField("width_mm", "Line width (once it has settled)", "bead_mm", first=first)
