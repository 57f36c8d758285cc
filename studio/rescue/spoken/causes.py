"""What it was, in words: the end of a sentence, a short name, and how to avoid it next time."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from coating.care.diagnosis.history_of_bowls import LOST_C
from studio.common.measures import current
from studio.common.templatetags.kitchen import degrees


@dataclass(frozen=True)
class SaidCause:
    """`was` : ends a sentence after "Probably", its point between stars. `name` : beside its bar. `title` : of its own
    page. `avoid` : a sentence for next time."""

    was: str
    name: str
    title: str
    avoid: str


_SAID = {
    "overheated": ("it was *too hot*", "too hot", "Too much heat",
        "Heat in short bursts and stop while some lumps are left: stirring melts those."),
    "lumps": ("it is *not melted through*", "not melted through", "Not melted through",
        "Stir after every burst, and wait until nothing hard is left before you colour or thin it."),
    "cold": ("it has only *cooled*", "only cooled", "A bowl that has cooled",
        "Keep it over warm water or on a warm pad, and stir now and then."),
    "water": ("*water* got into it", "a drop of water", "Water in the bowl",
        "Dry spoon, dry bowl, dry fruit; keep steam away, and no lid on a warm bowl."),
    "water_colour": ("a *water-based colour* went in", "a water-based colour", "Water-based colour",
        "Use colours made with oil or cocoa butter. Of a gel, no more than a dab."),
    "thick_product": ("this bag is *thicker* than the job wants", "thick as bought", "A bag that is thick as bought",
        "Try a spoonful before you begin, and thin it before you colour it."),
    "thin_product": ("this bag is *thinner* than the job wants", "thin as bought", "A bag that is thin as bought",
        "Try a spoonful before you begin, and take a thicker bag for lines and thick coats."),
    "too_warm": ("it is *too warm*", "too warm", "A bowl that is too warm",
        "Stir until it is as cool as the step wants, then begin."),
    "too_much_fat": ("it was *thinned too far*", "thinned too far", "Too much fat",
        "Stir in half of the fat first, and look before the rest."),
    "fat_unmelted": ("*fat has not melted in*", "fat not melted in", "Fat that has not melted in",
        "Melt flakes or butter before they go in, or stir them into a warm bowl."),
    "overdose": ("*too much colour* went in", "too much colour", "Too much colour",
        "Count the drops, stir, and look before the next one."),
    "underdose": ("there is *too little colour* in it", "too little colour", "Too little colour",
        "Colour deepens a little as it sets: try a dab on paper, then add a drop."),
    "wrong_hue": ("another colour *pulls it off*", "another colour in it", "A tint that is pulled off",
        "A yellowish base turns blue to green: begin with a whiter one, or add a touch of violet first."),
    "undermixed": ("it is *not stirred through*", "not stirred through", "Not stirred through",
        "Stir a full minute after the last drop, down to the bottom and round the edge."),
    "powder": ("the *powder has not spread out*", "powder not spread out", "Powder in specks",
        "Rub powder into a little warm fat first, and stir it into a warm bowl."),
    "edge_set": ("the *edge had set*", "a set edge", "An edge that had set",
        "Scrape the rim down while you work, and stir every few minutes."),
    "lost_temper": ("it *lost its temper*", "temper lost", "Temper that was lost",
        "Never take white above {lost} once it is tempered; warm it two or three seconds at a time."),
    "never_tempered": ("it was *not tempered*", "not tempered", "Chocolate that was not tempered",
        "Temper it, or use a coating, which needs none."),
    "mixed_fats": ("*two kinds of fat* are in it", "two kinds of fat", "Mixed fats",
        "Thin chocolate with cocoa butter and coating with palm fat, and do not mix the two."),
    "liquid_oil": ("*cooking oil* is in it", "cooking oil in it", "Cooking oil",
        "Thin it with a fat that sets, not with oil."),
    "warm_room": ("it is *too warm here* for it to set", "too warm a room", "A room that is too warm",
        "Work early in the day, or let it set in the fridge."),
    "chilled_hard": ("it was *chilled too hard*", "chilled too hard", "Chilled too hard",
        "Let it set in a cool room, or a few minutes in the fridge, not in the freezer."),
    "damp": ("*damp settled* on the cold piece", "damp on a cold piece", "Damp on cold pieces",
        "Leave cold pieces in a closed box until they are as warm as the room."),
    "stick_not_set": ("the *stick had not set* yet", "a stick not set", "A stick that had not set",
        "Dip the stick, push it in, and give it ten minutes before you coat."),
    "cold_core": ("the core was *too cold*", "a cold core", "A cold core",
        "Take cores out of the cold in time, and dry them."),
    "moist_core": ("the core is *damp or greasy*", "a damp or greasy core", "A damp or greasy core",
        "Dry fruit twice, and let cake and dough firm up before they are dipped."),
    "not_shaken": ("it was *not shaken off*", "not shaken off", "Coating that was not shaken off",
        "Tap the fork on the rim until nothing drips any more."),
    "not_scraped": ("its *base was not scraped*", "base not scraped", "A base that was not scraped",
        "Draw the base over the rim before you set it down."),
    "not_tapped": ("it was *not tapped*", "not tapped", "A mould that was not tapped",
        "Tap mould and tray until no more bubbles come up."),
    "thin_wall": ("the *wall is too thin*", "a thin wall", "A wall that is too thin",
        "Give rims and notches a second coat before you take them out."),
    "mould_dirty": ("the mould or film was *not clean and dry*", "mould not clean", "A mould that was not clean",
        "Polish moulds with cotton wool, and do not touch the side that prints."),
    "early_out": ("it came out *too soon*", "out too soon", "Taken out too soon",
        "Wait until the middle has set too; clear moulds look frosted then."),
    "lifted_late": ("it was lifted *too late* to bend", "lifted too late", "Lifted too late",
        "Pipe in panels that you can lay round in time, in a warmer room, with lines that touch well."),
    "lifted_early": ("it was lifted *too soon*", "lifted too soon", "Lifted too soon",
        "Wait until it is dull and lifts without a string."),
    "hole_small": ("the *hole is too small*", "hole too small", "A hole that is too small",
        "Snip a hole as wide as the line you want."),
    "hole_big": ("the *hole is too big*", "hole too big", "A hole that is too big",
        "Begin with a small snip: you can always cut more."),
    "cold_bag": ("the *bag has gone cold*", "a cold bag", "A bag that has gone cold",
        "Keep the bag in your hand or on a warm pad, and fill it with little."),
    "drip_big": ("you *squeezed too much*", "squeezed too much", "Too much squeezed for a drip",
        "Test a drip at the back first."),
    "drip_small": ("you *squeezed too little*", "squeezed too little", "Too little squeezed for a drip",
        "Test a drip at the back first."),
    "wall_warm": ("the *cake is too warm*", "a warm cake", "A cake that is too warm",
        "Chill the cake for twenty minutes before the drips."),
    "wall_cold": ("the *cake is frozen*", "a frozen cake", "A cake that is frozen",
        "Take the cake from the freezer in time: the fridge is cold enough."),
    "print_away": ("the *film lay the wrong way round*", "film the wrong way", "Film the wrong way round",
        "The rough, printed side goes towards the chocolate. Scratch a corner to see which it is."),
    "overworked": ("it was *marbled too far*", "marbled too far", "Marbled too far",
        "Stop while it still looks a little too coarse."),
    "bottle_order": ("the *plain layer comes out first*", "a plain layer at the nozzle", "Layers in a bottle",
        "Layer the bottle so that the accent comes out first."),
    "toppings_late": ("the coat had *already set*", "put on too late", "Toppings put on too late",
        "Sprinkle while it shines: two or three pieces at a time."),
    "toppings_early": ("the coat was *still too wet*", "put on too soon", "Toppings put on too soon",
        "Wait until it is half-set, and lay them on lightly."),
    "thick_paint": ("it is *one thick coat*", "one thick coat", "Paint in one thick coat",
        "Take little on the brush, and paint twice."),
    "bead_set": ("the *glue had set* already", "glue already set", "Glue that had set",
        "Pipe only as much glue as you can join at once."),
}  # fmt: skip
CAUSES: Mapping[str, SaidCause] = MappingProxyType({name: SaidCause(*said) for name, said in _SAID.items()})


def avoid_says(cause: str) -> str:
    """How to avoid it next time, as this kitchen knows how warm something is."""
    if cause == "lost_temper" and not current().has_thermometer:
        return "Once it is tempered, no dab of it may feel warm on the lip: warm it two or three seconds at a time."
    return CAUSES[cause].avoid.format(lost=degrees(LOST_C))


def coming_says(cause: str) -> str:
    """What is said before it happens.

    >>> coming_says("cold_bag")
    'Seen coming: a cold bag. Keep the bag in your hand or on a warm pad, and fill it with little.'
    """
    return f"Seen coming: {CAUSES[cause].name}. {avoid_says(cause)}"


_SURELY = {"almost certain": "Almost certainly", "likely": "Probably"}


def surely(word: str) -> str:
    """How a sentence begins that is so likely.

    >>> surely("almost certain"), surely("possible")
    ('Almost certainly', 'Perhaps')
    """
    return _SURELY.get(word, "Perhaps")
