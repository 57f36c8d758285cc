"""Why a bowl or a piece says so: what its history tells of a cause, in its own figures."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from types import MappingProxyType

from coating.care.diagnosis.evidence import Evidence
from coating.care.diagnosis.log import HARMS_C
from studio.common.measures import current
from studio.common.templatetags.clocks import clock_text
from studio.common.templatetags.kitchen import about_minutes, degrees, mass, percent, roughly, warmth

Figures = Mapping[str, float | str]
LITTLE_K = 4.0


@dataclass(frozen=True)
class Teller:
    """Says the figures of a cause; `begun_at` : when its bowl was begun, for clock times; None without one."""

    begun_at: datetime | None = None

    def at(self, figures: Figures, name: str) -> str:
        """ " at 14:10", or nothing."""
        if self.begun_at is None or name not in figures:
            return ""
        return f" at {clock_text(self.begun_at + timedelta(seconds=float(figures[name])))}"

    def hot(self, figures: Figures) -> str:
        """How long it was too hot, and when."""
        lasted, when = _min(figures, "hot_min"), self.at(figures, "hot_from_s")
        if not current().has_thermometer:
            return f"By what you noted it was hot for {lasted}{when}."
        return f"It was above {degrees(HARMS_C)} for {lasted}{when}."

    def because(self, cause: str, evidence: Evidence) -> str:
        """A sentence, or "" where the history says nothing."""
        says = _REASONS.get(cause)
        if evidence.says is None or says is None:
            return ""
        return says(self, evidence.figures)


def _min(figures: Figures, name: str) -> str:
    return about_minutes(float(figures[name])).removeprefix("about ")


def _overheated(teller: Teller, figures: Figures) -> str:
    if "hot_now_c" in figures:
        if not current().has_thermometer:
            return "It feels hot now, and so hot it goes thick for good."
        return f"It is {degrees(float(figures['hot_now_c']))} now, and above {degrees(HARMS_C)} it goes thick for good."
    return teller.hot(figures) if "hot_min" in figures else "Nothing you noted was too hot."


def _lumps(teller: Teller, figures: Figures) -> str:
    solid = float(figures["solid_fraction"])
    if solid <= 0.0:
        return "It was melted through when you last heated it."
    return f"By what you noted, {percent(solid)} of its fat was still hard{teller.at(figures, 'heated_at_s')}."


def _cold(_: Teller, figures: Figures) -> str:
    under_k, now = float(figures["under_k"]), _now(figures)
    return f"{now}, {_off(under_k)} below where it is worked." if under_k > 0 else f"{now}: not too cold."


def _too_warm(_: Teller, figures: Figures) -> str:
    over_k, now = float(figures["over_k"]), _now(figures)
    return f"{now}, {_off(over_k)} above where it is worked." if over_k > 0 else f"{now}: not too warm."


def _now(figures: Figures) -> str:
    """How warm it is now, as this kitchen knows it."""
    if current().has_thermometer:
        return f"It is about {degrees(float(figures['temperature_c']))} now"
    return f"By now it is {warmth(float(figures['temperature_c']))}"


def _off(difference_k: float) -> str:
    """How far that is; without a thermometer no degrees are said."""
    if not current().has_thermometer:
        return "a little" if difference_k < LITTLE_K else "well"
    fahrenheit = current().temperature == "F"
    return f"{difference_k * (1.8 if fahrenheit else 1):.0f} °{'F' if fahrenheit else 'C'}"


def _water(_: Teller, figures: Figures) -> str:
    if "water_g_per_100g" in figures:
        return f"There are {mass(float(figures['water_g_per_100g']))} of water in every {mass(100.0)} of it."
    if figures["wet"] == "yes":
        return "It stood over water, or wet fruit went through it."
    return "Nothing wet came near it that you noted."


def _number(says: str) -> Callable[[Teller, Figures], str]:
    def reason(_: Teller, figures: Figures) -> str:
        ends = {name: f"{float(figures[name]):.0f}" for name in ("number", "most", "least") if name in figures}
        return says.format(**ends)

    return reason


def _fat_unmelted(teller: Teller, figures: Figures) -> str:
    if "melted_min" not in figures:
        return "No flakes or butter went in."
    melts_c, minutes = float(figures["melts_c"]), float(figures["melted_min"])
    since = f"since the fat went in{teller.at(figures, 'went_in_s')}"
    if minutes < 0.1:
        return f"It has not been warm enough to melt it{f' ({degrees(melts_c)})' * current().has_thermometer} {since}."
    return f"It was warm enough to melt it for {_min(figures, 'melted_min')} {since}."


def _too_much_fat(_: Teller, figures: Figures) -> str:
    grams = float(figures["added_fat_g"])
    return f"{mass(grams)} of fat went in." if grams else "No fat went in."


def _way(_: Teller, figures: Figures) -> str:
    if "of_the_way" not in figures:
        return "No colour went in."
    return f"It has gone {percent(float(figures['of_the_way']))} of the way from plain to the colour you want."


def _undermixed(teller: Teller, figures: Figures) -> str:
    if "stirred_min" not in figures:
        return "No colour went in."
    minutes = float(figures["stirred_min"])
    how = f"It was stirred for {_min(figures, 'stirred_min')}" if minutes >= 0.1 else "It was not stirred"
    return f"{how} since the last colour went in{teller.at(figures, 'coloured_at_s')}."


def _place(says: str) -> Callable[[Teller, Figures], str]:
    def reason(_: Teller, figures: Figures) -> str:
        words = {"room": "room", "fridge": "fridge", "freezer": "freezer"}
        place = words.get(str(figures.get("place", "room")), "room")
        return says.format(place=place, dew=degrees(float(figures.get("dew_point_c", 0.0))))

    return reason


def _times(says: str, end: str) -> Callable[[Teller, Figures], str]:
    def reason(_: Teller, figures: Figures) -> str:
        return says.format(since=_min(figures, "since_min"), end=_min(figures, end))

    return reason


def _lost_temper(teller: Teller, figures: Figures) -> str:
    if "warmest_c" not in figures:
        return ""
    return f"It was {warmth(float(figures['warmest_c']))}{teller.at(figures, 'warmest_at_s')}."


def _white(_: Teller, figures: Figures) -> str:
    return {"untempered": "It is real chocolate, and nobody tempered it.", "tempered": "It was tempered."}.get(
        str(figures["white"]), "It is a coating, which needs no temper."
    )


def _hole(_: Teller, figures: Figures) -> str:
    hole, line = (roughly(float(figures[name])) for name in ("hole_mm", "line_mm"))
    return f"The hole is {hole} for a line of {line}."


def _drip(_: Teller, figures: Figures) -> str:
    runs, wanted = (roughly(float(figures[name])) for name in ("runs_mm", "wanted_mm"))
    return f"So much squeezed runs about {runs}, and you want {wanted}."


def _done(what: str) -> Callable[[Teller, Figures], str]:
    return lambda _, figures: f"You said it was {what}." if figures.get(what) == "yes" else f"It was not {what}."


_REASONS: Mapping[str, Callable[[Teller, Figures], str]] = MappingProxyType(
    {
        "overheated": _overheated,
        "lumps": _lumps,
        "cold": _cold,
        "too_warm": _too_warm,
        "water": _water,
        "water_colour": lambda _, f: (
            f"{mass(float(f['gel_g']))} of a water-based colour went in."
            if f["gel_g"]
            else "No water-based colour went in."
        ),
        "thick_product": _number("By its label it stands at {number}; {most} is the most for this."),
        "thin_product": _number("By its label it stands at {number}; {least} is the least for this."),
        "too_much_fat": _too_much_fat,
        "fat_unmelted": _fat_unmelted,
        "overdose": _way,
        "underdose": _way,
        "wrong_hue": lambda _, f: "It leans another way than the colour you want." if "hue_difference" in f else "",
        "undermixed": _undermixed,
        "powder": lambda _, f: "" if "at_c" not in f else f"The powder went in when it was {warmth(float(f['at_c']))}.",
        "edge_set": lambda _, f: f"Since you last stirred it, it came down to {warmth(float(f['coldest_c']))}.",
        "lost_temper": _lost_temper,
        "never_tempered": _white,
        "mixed_fats": lambda _, f: f"{percent(float(f['other_fat_share']))} of its fat is of the other kind.",
        "liquid_oil": lambda _, f: f"{percent(float(f['oil_share']))} of its fat is oil.",
        "warm_room": lambda _, f: (
            f"Your room has {degrees(float(f['room_c']))}, and it sets below {degrees(float(f['sets_c']))}."
        ),
        "chilled_hard": _place("It stood in the {place}."),
        "damp": _place("It came from the {place}, and below {dew} this room's damp settles on things."),
        "stick_not_set": lambda _, f: f"Its stick had set for {_min(f, 'stick_min')}.",
        "cold_core": lambda _, f: f"The core had {degrees(float(f['core_c']))}.",
        "moist_core": lambda _, f: f"The core is {f['core']}.",
        "not_shaken": _done("shaken"),
        "not_scraped": _done("scraped"),
        "not_tapped": _done("tapped"),
        "thin_wall": lambda _, f: f"The wall is {roughly(float(f['thickness_mm']))} thick.",
        "early_out": _times("It stood for {since}, and needs {end}.", "release_min"),
        "lifted_late": _times("It was {since} old; it bends until {end} after piping.", "until_min"),
        "lifted_early": _times("It was {since} old; it lifts from {end} on.", "from_min"),
        "hole_small": _hole,
        "hole_big": _hole,
        "cold_bag": lambda _, f: f"The bag has lain for {_min(f, 'bag_min')}.",
        "drip_big": _drip,
        "drip_small": _drip,
        "wall_warm": lambda _, f: "The cake is as warm as the room." if f["wall"] == "room" else "The cake is chilled.",
        "wall_cold": lambda _, f: "The cake is frozen." if f["wall"] == "frozen" else "The cake is not frozen.",
        "print_away": lambda _, f: (
            "The printed side lay away from the chocolate." if f["printed_side"] == "away" else ""
        ),
        "toppings_late": _times("The coat was {since} old, and it sets in {end}.", "touch_min"),
        "toppings_early": _times("The coat was {since} old, and it sets in {end}.", "touch_min"),
        "thick_paint": lambda _, f: (
            "It was painted once." if float(f["coats"]) < 2 else "It was painted more than once."
        ),
        "bead_set": _times("The glue was {since} old, and it sets in {end}.", "touch_min"),
    }
)
