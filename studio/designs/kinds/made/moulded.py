"""A mould: grams per fill, what is drained, what goes in, whether it stands, how often the moulds go round."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from coating.errors import CoatingError
from coating.figures.section import Section, section
from coating.figures.sheet import sheet_of
from coating.flow.tapping import bubble_mm, taps
from coating.heat.times import set_time
from coating.job.lines import usual_cavities
from coating.piece.cores import Hollow
from coating.shape.curves import ellipse
from coating.shape.moulds.cavity import Cavity, Cone
from coating.shape.moulds.cycles import cycles
from coating.shape.moulds.fills import Insert, Shell, filled, insert_in, layered, shell, solid_g
from coating.shape.moulds.presets import PRESETS, Preset, from_water
from coating.shape.moulds.shaped import Shaped
from coating.shape.moulds.strength import FRAIL, STANDS, TOO_STRONG, Strength, least_wall_mm, strength
from coating.shape.strokes import Drawing
from coating.steps import ALL_MADE, CLEAN, HALF_SET, SET, WET, Step, hands_s
from studio.common.measures import refusal_text
from studio.common.types import Typed
from studio.designs.kinds.base import DesignKind, Worked
from studio.designs.kinds.film.base import COOL
from studio.designs.kinds.made.mould_form import OF_PIECE, MouldForm
from studio.designs.kinds.words import grams, mm
from studio.designs.one import of_outline
from studio.designs.place import Place
from studio.designs.tiles import Tile, mould_tiles

RELEASES = {
    "plastic": "Turn it over and press: it pops out when it is hard at the centre.",
    "silicone": "A wiggle frees it: peel the mould off the piece, touch only where it will not show.",
    "hard": "Look from below: where it is set the plastic has gone cloudy. Turn it over and tap once.",
}
FINE_MM = 1.0  # detail so fine wants a thin coating; common practice, no source
INSIDE = 0.6  # what of a solid sets from the wall, against its depth: assumptions
FILL_S, SHELL_S, DRAIN_S, FILLING_S, LID_S, RELEASE_S, TAP_S, STICK_S = 6.0, 12.0, 8.0, 8.0, 6.0, 4.0, 0.5, 4.0


@dataclass(frozen=True)
class Made:
    """What one cavity takes: g that go on it, its parts in words and g, its picture; how thick what sets is; hands for
    one; a shell with its strength, where there is one."""

    one_g: float
    parts: tuple[tuple[str, float], ...]
    picture: Section
    thick_mm: float
    hands_s: float
    shell: Shell | None = None
    strong: Strength | None = None
    insert: Insert | None = None


class MouldKind(DesignKind):
    """Moulded pieces in the studio."""

    name, title, says, techniques, form = (
        "mould",
        "Mould",
        "Solid, hollow, filled, layered: grams and rounds",
        ("shell", "solid"),
        MouldForm,
    )
    group = "Made"
    pick, pick_word = "preset", "Mould"
    steps_more = "designs/parts/mould_more.html"

    def tiles(self) -> Sequence[Tile]:
        return mould_tiles()

    def suits(self, place: Place) -> bool:
        return True

    def first(self, place: Place) -> Typed:
        shown, core, layer = super().first(place), place.core, place.layer
        if layer is None:
            return shown
        shown |= {"count": min(1000, place.made)}
        shown |= (
            {"way": "solid"}
            if layer.technique == "solid"
            else {"way": "filled" if any(la.technique == "filling" for la in layer.piece.stack) else "hollow"}
        )
        wall = layer.parameters.get("thickness_mm")
        if isinstance(core, Hollow):
            shown |= {"preset": OF_PIECE}
        return shown | ({"wall_mm": wall} if wall and layer.technique == "shell" else {})

    def _cavity(self, values: Typed, place: Place) -> Cavity:
        """From its picture, from what one holds, or from water on a scale. Raises OutOfBounds."""
        known = mould_of(values, place)
        if values.get("water_g"):
            return from_water(known.cavity, values["water_g"], moulds_of(values, place)[1])
        return known.cavity.for_ml(values["each_ml"]) if values.get("each_ml") else known.cavity

    def _made(self, values: Typed, place: Place) -> Made:
        """Raises OutOfBounds."""
        cavity, way, stick = self._cavity(values, place), values["way"], bool(values.get("sticks"))
        full, thick = solid_g(cavity), INSIDE * cavity.deep_mm
        if way == "solid":
            return Made(full, (("to the brim", full),), section(cavity, stick=stick), thick, FILL_S)
        if way == "colours":
            details = values["detail"] * full
            shown = section(cavity, detail_mm=max(1.0, 0.12 * cavity.deep_mm))
            return Made(full, (("details", details), ("the rest", full - details)), shown, thick, 3 * FILL_S)
        if way == "layers":
            cup = layered(cavity, base_mm=values["base_mm"], cap_mm=values["lid_mm"])
            kg = full / cavity.holds_ml
            heights = (values["base_mm"], cavity.deep_mm - values["lid_mm"])
            parts = (("base", cup.base_ml * kg), ("cap", cup.cap_ml * kg), ("filling", cup.filling_ml * 1.1))
            return Made(
                (cup.base_ml + cup.cap_ml) * kg,
                parts,
                section(cavity, layers_mm=heights),
                max(values["base_mm"], values["lid_mm"]),
                FILL_S + FILLING_S + LID_S,
            )
        if way == "insert":
            thing = insert_in(cavity, values["insert_mm"], values["insert_high_mm"])
            one = full * (1 - thing.volume_ml / cavity.holds_ml)
            return Made(one, (("round it", one),), section(cavity, insert=thing), thick, 2 * FILL_S, insert=thing)
        made = shell(cavity, wall_mm=values["wall_mm"], lid_mm=values["lid_mm"])
        strong = strength(cavity, values["wall_mm"], to_break=bool(values.get("smash")))
        with_rim = (("shell", made.shell_g), ("second coat on the rim", made.rim_g))
        if way == "hollow":
            return Made(
                made.shell_g + made.rim_g,
                with_rim,
                section(cavity, shell=made),
                made.wall_mm,
                SHELL_S + DRAIN_S + FILL_S,
                made,
                strong,
            )
        ml = filled(made, values.get("filling_ml"))
        lid_g = made.lid_g
        shown = section(cavity, shell=made, filled_to_mm=_height(made, ml))
        return Made(
            made.shell_g + lid_g,
            (("shell", made.shell_g), ("lid", lid_g), ("filling", ml * 1.1)),
            shown,
            made.wall_mm,
            SHELL_S + DRAIN_S + FILLING_S + LID_S,
            made,
            strong,
        )

    def work(self, values: Typed, place: Place) -> Worked:
        made, count, way = (
            self._less(self._made(values, place), place, values["way"]),
            int(values["count"]),
            values["way"],
        )
        drained = way in ("hollow", "filled")
        technique = "shell" if drained else "solid_mould" if _fine(values, place) else "coarse_mould"
        sets = set_time(
            "cup" if way == "layers" else "mould",
            made.thick_mm,
            values["where"],
            room_c=place.kitchen.room_c,
            white=place.white,
        )
        chills = 2 if way in ("filled", "layers") else 1
        moulds, cavities = moulds_of(values, place)
        turn = cycles(
            count,
            cavities=cavities,
            moulds=moulds,
            fill_s=made.hands_s,
            chill_s=sets.release_min * 60 * chills,
            release_s=RELEASE_S,
            places=values.get("places"),
        )
        tapped, warnings = self._taps(place, technique, mould_of(values, place).detail_mm)
        steps = self._steps(values, made, sets.release_min, tapped, _has_other_lid(place))
        cavity = self._cavity(values, place)
        rings = [
            [
                (float(x), float(y))
                for x, y in ellipse(
                    (i % 6 * 1.2 * cavity.across_mm, i // 6 * 1.2 * cavity.across_mm),
                    cavity.across_mm,
                    cavity.span_mm,
                    points=40,
                )
            ]
            for i in range(min(12, count))
        ]
        sheet = sheet_of(
            Drawing(()),
            "Openings, at their size",
            line_mm=1.0,
            guides=[[*r, r[0]] for r in rings],
            says=["hold the mould to it"],
        )
        lid_g = sum(g for name, g in made.parts if name in ("lid", "cap")) if _is_capped(place) else 0.0
        worked = Worked(
            place,
            self.window_of(technique),
            [sheet],
            1.0,
            (made.one_g - lid_g) * count,
            hands_s(steps),
            0.0,
            0,
            None,
            pieces=count,
            steps=steps,
            warnings=warnings,
            moulds=(moulds, cavities),
            poured_ml=cavity.holds_ml if made.shell else 0.0,
            one=of_outline(cavity.opening) if isinstance(cavity, Shaped) else {},
        )
        if made.strong is not None:
            worked.warnings += self._stands(made.strong, cavity, bool(values.get("smash")))
        numbers = [(grams(made.one_g), "on one"), (str(turn.rounds), "rounds")]
        numbers += [(grams(made.shell.drained_g), "runs back of each")] if made.shell else []
        worked.context = {
            "technique": "shell" if drained else "solid",
            "core_name": "mould",
            "made": made,
            "cavity": cavity,
            "count": count,
            "way": way,
            "turn": turn,
            "sets": sets,
            "taps": tapped,
            "cool": COOL[values["where"]],
            "section": made.picture,
            "drained": drained,
            "bubble": self._bubble(place, technique),
            "poured_g": made.shell.poured_g if made.shell else 0.0,
            "extra_numbers": numbers,
            "least_wall": least_wall_mm(cavity),
            "stands": made.strong is not None and made.strong.word == STANDS,
        }
        return worked

    @staticmethod
    def _less(made: Made, place: Place, way: str) -> Made:
        """A layer that fills its cup or mould only so far takes no more for being planned as one filling."""
        core, layer = place.core, place.layer
        poured_ml = layer.parameters.get("volume_ml") if layer and layer.technique == "solid" else None
        if way != "solid" or poured_ml is None or not isinstance(core, Hollow) or poured_ml >= core.holds_ml:
            return made
        one_g = made.one_g * poured_ml / core.holds_ml
        return replace(made, one_g=one_g, parts=(("so far as said", one_g),))

    @staticmethod
    def _taps(place: Place, technique: str, detail_mm: float) -> tuple[int, list[str]]:
        try:
            return taps(place.flow(technique), detail_mm), []
        except CoatingError as refusal:
            return 0, [refusal_text(refusal)]

    @staticmethod
    def _bubble(place: Place, technique: str) -> tuple[float, float]:
        flow = place.flow(technique)
        return bubble_mm(flow), bubble_mm(flow, tapped=True)

    @staticmethod
    def _stands(strong: Strength, cavity: Cavity, smash: bool) -> list[str]:
        least = mm(least_wall_mm(cavity))
        if strong.word == FRAIL:
            return [f"So thin a wall breaks between two fingers: {least} at least, or a second coat all over."]
        if strong.word == TOO_STRONG:
            return ["A small hammer does not break it: a thinner wall, or score it on the inside."]
        return []

    @staticmethod
    def _steps(values: Typed, made: Made, sets_min: float, tapped: int, other_lid: bool) -> list[Step]:
        count, way, where = int(values["count"]), values["way"], values["where"]
        tap = f"tap {tapped} times" if tapped else "press it in with a brush, and tap"
        board = "Put a board under the mould before it moves. "
        wait = (SET, sets_min, None, where)
        off = Step(RELEASES[values["made_of"]], RELEASE_S * count, *wait, makes=ALL_MADE)
        if way in ("solid", "insert", "colours"):
            steps = []
            if way == "colours":
                steps = [
                    Step(
                        "Details first, with a fine bag or brush, each colour by itself; tap; scrape what lies beside "
                        "them clean.",
                        FILL_S * count,
                        WET,
                    ),
                    Step(f"Fill the rest to the brim; {tap}.", FILL_S * count, HALF_SET, 1.0, warm=True),
                ]
            elif way == "insert":
                steps = [
                    Step(f"Fill each a third; {tap}.", FILL_S * count, WET),
                    Step("Set the thing in the middle, fill up to the brim, tap again.", FILL_S * count, WET),
                ]
            else:
                steps = [Step(f"{board}Fill to the brim, {tap}, top up, tap.", FILL_S * count, WET)]
            if values.get("sticks"):
                steps.append(
                    Step(
                        "Sticks now, pushed in and turned: tapping tips them.",
                        STICK_S * count,
                        WET,
                        warm=False,
                        makes="stick",
                    )
                )
            return [*steps, Step("Scrape it clean.", 2.0 * count, WET, warm=False, looks=CLEAN), off]
        if way == "layers":
            return [
                Step(f"{board}Base: {grams(made.parts[0][1])} each; {tap}.", FILL_S * count, WET),
                Step("Filling, cool and pressed flat, not up to the wall.", FILLING_S * count, *wait, makes="filling"),
                Step(
                    f"Cap: {grams(made.parts[1][1])} each, to the brim; tap once.",
                    LID_S * count,
                    WET,
                    warm=True,
                    makes="cap",
                ),
                off,
            ]
        assert made.shell is not None
        first = Step(
            f"Pour {grams(made.shell.poured_g)} into each, turn until all sides are covered, {tap}.",
            SHELL_S * count,
            WET,
        )
        drain = Step(
            f"Turn it over and let it drain: {grams(made.shell.drained_g)} of each run back. Scrape the rim.",
            DRAIN_S * count,
            WET,
        )
        if way == "hollow":
            coat = Step(
                "A second coat on rim, notch and other weak points with the back of a spoon.",
                FILL_S * count,
                *wait,
                warm=True,
            )
            return [first, drain, coat, off]
        close = "Close" if other_lid else "Melt again what was drained, and close"
        return [
            first,
            drain,
            Step("Filling: cool, and below the rim.", FILLING_S * count, *wait, makes="filling"),
            Step(
                f"{close} each: {grams(made.parts[1][1])}. Scrape it level.",
                LID_S * count,
                SET,
                2.0,
                warm=True,
                makes="cap",
            ),
            off,
        ]


def _fine(values: Mapping[str, Any], place: Place) -> bool:
    """Whether it has grooves that only a thin coating fills."""
    return mould_of(values, place).detail_mm <= FINE_MM


def mould_of(values: Mapping[str, Any], place: Place) -> Preset:
    """The mould that is picked; the piece's own where that is."""
    core = place.core
    if values["preset"] != OF_PIECE or not isinstance(core, Hollow):
        return PRESETS.get(values["preset"], PRESETS["praline"])
    cavity = Cone(core.top_diameter_mm, core.base_diameter_mm, core.depth_mm)
    alike = next((p.cavities for p in PRESETS.values() if p.cavity == cavity), 0)
    return Preset(OF_PIECE, "As large as the piece", "", cavity, alike or usual_cavities(core.across_mm))


def moulds_of(values: Mapping[str, Any], place: Place) -> tuple[int, int]:
    """How many moulds there are, and cavities in one: as said, or as moulds of that picture usually have."""
    return max(1, int(values.get("moulds") or 1)), int(values.get("cavities") or mould_of(values, place).cavities)


def _is_capped(place: Place) -> bool:
    """Whether its lid is a layer of its own."""
    return place.layer is not None and any(la.technique == "cap" for la in place.layer.piece.stack)


def _has_other_lid(place: Place) -> bool:
    """Whether its lid is of another colour."""
    own = place.layer
    return own is not None and any(la.technique == "cap" and la.tone.key != own.tone.key for la in own.piece.stack)


def _height(made: Shell, volume_ml: float) -> float:
    """How high so much stands in a shell, mm."""
    low, high = 0.0, made.inner.deep_mm
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if made.inner.holds_to_ml(middle) < volume_ml else (low, middle)
    return high
