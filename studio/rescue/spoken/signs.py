"""What is seen, in words: the caption of its picture, a sentence, and the title of its own page."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from coating.care.diagnosis import WHERE

PLACES = {
    "bowl": "In the bowl",
    "piece": "On the piece",
    "bag": "From the bag",
    "film": "On film and in moulds",
    "end": "At the end",
}


@dataclass(frozen=True)
class Sign:
    """`label` : under its picture. `says` : a sentence. `why` : the title of its page. `where` : its group."""

    name: str
    label: str
    says: str
    why: str
    where: str


_SAID = {
    "clumpy": ("Lumps in it", "It is lumpy, or all of it has clumped together.", "Why a bowl goes lumpy"),
    "thick": ("Too thick", "It falls from the spoon in heaps, or drags.", "Why a bowl is too thick"),
    "thin": ("Too runny", "It runs off the spoon like water.", "Why a bowl is too runny"),
    "stiffening": ("Getting stiffer", "It gets stiffer while you stir or colour it.", "Why a bowl stiffens"),
    "grainy": ("Grainy", "It feels sandy, though it is melted.", "Why a bowl is grainy"),
    "specks": ("Specks", "There are small dots of colour or fat in it.", "Why there are specks"),
    "streaks": ("Streaks", "There are streaks, or a pale ring at the edge.", "Why there are streaks"),
    "too_dark": ("Too dark", "The colour is deeper than you want it.", "Why a colour is too dark"),
    "too_pale": ("Too pale", "The colour is weaker than you want it.", "Why a colour is too pale"),
    "wrong_tint": ("Wrong tint", "It leans to green, grey or another colour.", "Why a tint is wrong"),
    "burnt_smell": ("Smells burnt", "It smells of caramel, or burnt.", "Why a bowl smells burnt"),
    "coat_thick": ("Coat too thick", "The coat is heavy and does not run off.", "Why a coat is too thick"),
    "coat_thin": ("Coat too thin", "What is under it shows through.", "Why a coat is too thin"),
    "slides": ("Slides off", "The coat or the piece slides down its stick.", "Why a piece slides off its stick"),
    "cracks": ("Cracks", "The coat has a crack in it.", "Why a coat cracks"),
    "foot": ("Puddle at the base", "A foot of coating stands round the base.", "Why a puddle sets at the base"),
    "bubbles": ("Bubbles", "There are bubbles or small holes in it.", "Why there are bubbles"),
    "soft": ("Stays soft", "It has not set, or it smears at a touch.", "Why it stays soft"),
    "grey": ("Grey or dull", "It has a grey film, pale patches, or no shine.", "Why a coat turns grey"),
    "wet": ("Wet and sticky", "Drops stand on it, or it is sticky.", "Why a piece gets wet"),
    "runs_together": ("Colours run", "Two colours have run into each other.", "Why colours run together"),
    "line_stops": ("Nothing comes out", "The tip is blocked.", "Why a tip blocks"),
    "line_breaks": ("Line breaks", "The line comes in bits.", "Why a line breaks"),
    "line_spreads": ("Line spreads", "The line gets wider than you piped it.", "Why a line spreads"),
    "drip_far": ("Drips run too far", "A drip reaches the board, or pools there.", "Why drips run too far"),
    "drip_short": ("Drips too short", "A drip stops as a stub.", "Why drips stay short"),
    "lace_breaks": ("Lace breaks", "It snaps when you bend it round.", "Why lace breaks"),
    "lace_tears": ("Lace tears", "It sags or tears when you lift it.", "Why lace tears"),
    "stuck": (
        "Stuck in the mould",
        "It does not come out of its mould or off its film.",
        "Why a mould will not let go",
    ),
    "breaks_out": ("Breaks coming out", "A rim or a notch breaks when you take it out.", "Why it breaks coming out"),
    "corners": ("Empty corners", "Corners or fine parts were not filled.", "Why corners stay empty"),
    "no_print": ("No print", "The print stayed on its sheet.", "Why a print stays behind"),
    "muddy": ("Muddy pattern", "The colours blended into one.", "Why marbling goes muddy"),
    "first_plain": ("First ones plain", "The first pieces have hardly any pattern.", "Why the first pieces are plain"),
    "joint_slips": ("Joint slips", "What you put on slides or falls off.", "Why a joint slips"),
    "paint_streaky": ("Streaky paint", "Brush strokes show in the paint.", "Why paint is streaky"),
    "toppings_fall": ("Toppings fall off", "They do not stick.", "Why toppings fall off"),
    "toppings_sink": ("Toppings sink in", "They sink, or plough through the coat.", "Why toppings sink in"),
}
# What has a page and a picture, and no diagnosis: it is a matter of taste.
TOO_BUSY = Sign("too_busy", "Too busy", "There is too much pattern on it.", "Why it looks too busy", "end")
SIGNS: Mapping[str, Sign] = MappingProxyType(
    {name: Sign(name, *_SAID[name], where) for where, names in WHERE.items() for name in names}
)
