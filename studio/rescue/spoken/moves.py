"""What to do, in words: the second half of the headline, its button, and what it is called beside others."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType


@dataclass(frozen=True)
class SaidMove:
    """`do` : a sentence, with {parts}, {until}, {over}, {heating}, {wait}, {where} where they are known. `plain` : the
    same without them. `did` : its button. `name` : in a list."""

    do: str
    plain: str
    did: str
    name: str


_SAID = {
    "stir": ("Stir for *two minutes*, down to the bottom and round the rim.", "",
        "I stirred it", "stir two minutes more"),
    "warm": ("Warm it{over} until *{until}*{heating}, and stir.", "", "I warmed it", "warm it again"),
    "cool": ("Stir it off the heat until *{until}*, {wait}.", "Stir it off the heat until it is cool enough.",
        "It has cooled", "let it cool"),
    "thin": ("Take it off the heat and stir in *{parts}*.", "Take it off the heat and stir in a little fat.",
        "I stirred that in", "thin it a little"),
    "add_base": ("Melt in *{parts}*.", "Melt in a little more of the same bag.", "I melted that in", "add more base"),
    "correct": ("Stir in *{parts}*.", "Bring the colour back drop by drop.", "I stirred that in",
        "bring the colour back"),
    "temper": ("Melt it once more and *temper it*.", "", "Temper it", "temper it"),
    "keep": ("Put it aside: *use it for something else*.", "", "I put it aside", "use it for something else"),
    "swap": ("*Melt afresh*.", "", "Begin a fresh bowl", "melt afresh"),
    "warm_bag": ("Lay the bag on something warm for *two minutes*, then knead it.", "", "The bag is warm",
        "warm the bag"),
    "cut_hole": ("Snip the hole *a little wider*.", "", "I cut it wider", "cut the hole wider"),
    "new_bag": ("Fill a *new bag* through a strainer, and snip a smaller hole.", "", "I filled a new bag",
        "fill a new bag"),
    "squeeze_less": ("*Squeeze less* for the next drip, and look.", "", "I squeezed less", "squeeze less"),
    "squeeze_more": ("*Squeeze more* for the next drip, and look.", "", "I squeezed more", "squeeze more"),
    "chill_wall": ("Chill the cake for *twenty minutes*.", "", "The cake is chilled", "chill the cake"),
    "warm_wall": ("Let the cake stand in the room for *a quarter of an hour*.", "", "The cake has stood",
        "let the cake stand"),
    "cold_place": ("Put it in the *{where}* for {wait}.", "Put it in the *{where}* for a quarter of an hour.",
        "It is in the cold", "put it in the cold"),
    "wait": ("Leave it alone for *{wait}*.", "Leave it alone for *ten minutes more*.", "I am waiting", "wait"),
    "boxed": ("Put it in a *closed box* until it is as warm as the room.", "", "It is in a box", "leave it in a box"),
    "dry_core": ("*Dry* the next ones well, and let greasy ones firm up first.", "", "They are dry", "dry the cores"),
    "shake": ("*Shake* the next ones off until nothing drips.", "", "I shake them off", "shake them off"),
    "scrape": ("*Scrape* the base of the next ones on the rim.", "", "I scrape them", "scrape the base"),
    "tap": ("*Tap* the next ones on the table until no bubble comes up.", "", "I tap them", "tap them"),
    "ease": ("*Flex the mould* a little all round, turn it over and tap it once.", "", "I eased it out",
        "flex the mould"),
    "second_coat": ("Give it a *second coat*, rim and thin parts first.", "", "It has a second coat",
        "a second coat"),
    "panels": ("Pipe it again in *shorter panels*, and lay each round in time.", "", "I pipe panels", "shorter panels"),
    "turn_film": ("*Turn the film over* for the next ones.", "", "I turned it", "turn the film over"),
    "stop_sooner": ("Pour the next one, and *stop sooner*.", "", "I stop sooner", "stop sooner"),
    "order": ("Layer it so that the *accent comes out first* next time.", "", "I will", "layer it the other way"),
    "sooner": ("Do it *sooner* with the next ones.", "", "I do it sooner", "do it sooner"),
    "thin_coats": ("Let it dry, and paint a *second thin coat*.", "", "I painted again", "a second thin coat"),
    "short_runs": ("Scrape the old glue off, and pipe only as much as you *join at once*.", "", "I piped less",
        "less glue at a time"),
}  # fmt: skip
MOVES: Mapping[str, SaidMove] = MappingProxyType({name: SaidMove(*said) for name, said in _SAID.items()})

# What helps the piece at hand, where the move only helps the next one.
THIS_ONE: Mapping[str, str] = MappingProxyType(
    {
        "foot": "Trim the puddle off this one with a warm knife once it has set.",
        "corners": "Fill the empty corner of this one with a toothpick of coating.",
        "cracks": "Pipe a drizzle over the crack of this one.",
        "grey": "Cover the grey on this one with a drizzle or with dust. Never temper a dipped piece again.",
        "soft": "Put the soft ones where it is cooler, and eat those first that stay soft.",
        "bubbles": "Close the holes in this one with a dab of coating.",
        "coat_thick": "Let this one drain upside down on the fork while it is still wet.",
        "coat_thin": "Give this one a second coat once the first has set.",
        "slides": "Lift this one out with a fork, and set it down upright.",
        "no_print": "Use these plain, or paint over the place.",
        "muddy": "Break this one up for the inside, where nobody sees it.",
        "first_plain": "Use the plain ones where they do not show.",
        "drip_far": "Lift this drip's pool off with a knife once it has set.",
        "drip_short": "Pipe a second drip over this one.",
        "lace_breaks": "Glue the bits of this one on as a border.",
        "lace_tears": "Leave what is still on the film alone; patch the tear once it is firm.",
        "breaks_out": "Glue the broken part back from behind.",
        "stuck": "Put the mould back in the cold before you try again.",
        "toppings_fall": "Stick those that fell with a dot of coating each.",
        "toppings_sink": "Leave these as they are; the next ones wait longer.",
        "joint_slips": "Hold this one until the glue has set.",
        "paint_streaky": "A second thin coat covers the strokes of this one too.",
        "runs_together": "Let this one set as it is: stirring it now only blends it more.",
        "line_spreads": "Lift this line off once it has set, and pipe it again.",
        "line_breaks": "Close the gaps of this line with a toothpick.",
    }
)

# What to mind while doing it.
MIND: Mapping[str, str] = MappingProxyType(
    {
        "warm": "The rim of a bowl can be hotter than what is in it: use a cloth, and lift it away from the steam.",
        "warm_bag": "Warm, not hot: a bag from the microwave burns hands.",
        "second_coat": "No more heat than it takes to flow: the first coat is thin.",
        "ease": "No knife and no hammer: clear moulds splinter.",
        "temper": "A water bath burns: lift the bowl away from you.",
    }
)

USES: Mapping[str, str] = MappingProxyType(
    {
        "filling": "a filling",
        "bark": "bark, broken into pieces",
        "darker shade": "a darker colour",
        "glue": "glue",
        "outline": "outlines",
        "flood": "flooding a shape",
        "drizzle": "a drizzle",
    }
)
THROWN_AWAY = "Throw it away: what tastes of scorching stays so, and it is good for nothing."
