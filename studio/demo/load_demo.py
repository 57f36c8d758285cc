"""Comet night: an observatory's open evening on a hill. Invented, with times relative to now."""

from __future__ import annotations

import uuid
from dataclasses import replace
from datetime import timedelta

from django.db import transaction

from coating.piece.kinds import KINDS as CORES
from coating.stack.starts import start_called
from studio.accounts.actions import make_kitchen
from studio.accounts.models import Kitchen, User
from studio.bowls.actions import Line, append, begin_bowl, finish, strike_out
from studio.bowls.adapters import Desk, pins_of
from studio.bowls.kept import keep_recipe
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.common import clock
from studio.common.forms import asked_and_reckoned
from studio.common.templatetags.kitchen import UNIT_WORDS
from studio.cupboard.actions import change_ingredient
from studio.cupboard.models import Extra, Ingredient
from studio.cupboard.tones import PLAIN, Tone
from studio.day.actions import ask
from studio.day.adapters import day_of
from studio.day.forms import DayForm
from studio.day.reckoning import at_once
from studio.demo.evenings import tell_evenings
from studio.designs.actions import keep
from studio.designs.kinds import KINDS
from studio.designs.place import Place
from studio.pieces.adapters import colour_needs
from studio.pieces.models import Job, Layer
from studio.pieces.stacks import (
    VERSION,
    LayerPlan,
    PiecePlan,
    dipped,
    dripped,
    first_extras,
    in_colours,
    keep_piece,
    keep_start,
    keep_together,
    plans_of,
)

KEPT_FOR = timedelta(days=7)

# name, count, spares, diameter mm, thickness mm, depth, white, colour
PIECES = (
    ("Comet biscuits", 24, 2, 62, 8, "0.5", "coating", "Dusk blue"),
    ("Crater plaques", 8, 1, 75, 6, "1.0", "coating", "Storm grey"),
    ("Moon-phase discs", 14, 2, 45, 6, "0.5", "untempered", "First light"),
    ("Red moons", 12, 1, 50, 8, "0.667", "coating", "Red moon"),
    ("Midnight rims", 10, 1, 60, 8, "0.333", "coating", "Midnight"),
)

# start, name, count, colour, and the colours it is made in as well
BUILT = (
    ("slab", "Nebula bark", 1, "Lilac hour", ()),
    ("cups", "Mousse cups", 12, "Midnight", ()),
    ("pops", "Planet balls", 36, "Sea glass", ("Apricot", "Lilac hour")),
)
# Invented, in any money: a pack in g and its price; toppings and picks alike; the mould is used sixty times.
PACKS = {"bright": (340, 5.8), "ivory": (250, 6.4), "palm_flakes": (200, 7.5), "shortening": (450, 3.2)}
EXTRA_PACKS = {
    "Printed transfer sheet": (10, 18.0),
    "Star sprinkles": (80, 3.5),
    "Soft ganache": (300, 5.0),
    "Paper stick": (50, 2.5),
}


def _build_more(job: Job, colours: dict[str, Colour]) -> None:
    """Pieces built as stacks: one alone, one in three colours."""
    extras = first_extras(job.kitchen)
    for begin, name, count, colour, also in BUILT:
        (plan,) = plans_of(start_called(begin), {"": None, "main": colours[colour]}, extras)
        plan = replace(plan, name=name, count=count)
        if also:
            keep_together(job, name, "variants", count, in_colours(plan, [Tone(colours[c]) for c in also]))
        else:
            keep_piece(job, plan)


def _design(job: Job, colours: dict[str, Colour]) -> None:
    """An upper tier with lace and lettering, mousses in printed panels, and designs for them, for the drip, for the
    bark and for comets to lift off."""
    collar, words = (
        LayerPlan(name, "coating", None, parameters={"v": VERSION, "length_mm": 3000.0})
        for name in ("lace", "lettering")
    )
    tier = PiecePlan("Observatory cake, upper tier", 1, CORES["cake_tier"], (150.0, 100.0), (collar, words), 0)
    upper = keep_piece(job, tier)
    print_ = Extra.objects.for_kitchen(job.kitchen).get(kind="sheet")
    panels = LayerPlan("transfer", "coating", colours["Midnight"], print_, {"v": VERSION, "thickness_mm": 1.8})
    mousse = keep_piece(job, PiecePlan("Mousses in orbit panels", 12, CORES["dessert"], (60.0, 50.0), (panels,), 0))
    drip, bark = (Layer.objects.get(piece__job=job, technique=name) for name in ("cake_drip", "marbling"))
    lace_layer, word_layer = upper.layers.order_by("order")
    for kind, name, layer, values in (
        ("run_out", "Comets to lift off", None, {}),
        ("lettering", "Clear skies", word_layer, {"where": "line"}),
        ("bow", "Bow for the stand", None, {}),
        ("house", "Dome shed", None, {"sweet_mm": 12.0}),
        ("paint", "Crater shading", None, {"parts": 5}),
        ("mould", "Half moons", None, {"preset": "half_ball"}),
        ("marbling", "Nebula bark", bark, {"poured": "scattered"}),
        ("transfer", "Orbit panels", mousse.layers.get(), {"width_mm": 30.0}),
        ("drips", "Midnight drip", drip, {"variation": 0.4}),
        ("lace", "Collar of star arcs", lace_layer, {}),
    ):
        place = Place.of(job.kitchen, layer, Tone(colours["Dusk blue"]) if layer is None else PLAIN)
        begun = {n: v for n, v in KINDS[kind].first(place).items() if n in KINDS[kind].asks}
        fields = {"v": 1, **begun, **values}
        keep(place, kind, name, fields, KINDS[kind].work(fields, place))


def _say_prices(kitchen: Kitchen) -> None:
    for code, (grams, price) in PACKS.items():
        row = Ingredient.objects.with_parameters().get_for(kitchen, code=code)
        said = {n: (v, v, v, "label") for n, v in (("bag_g", float(grams)), ("pack_price", price))}
        change_ingredient(row, expected=row.version, name=row.name, stocked=True, values=said)
    for name, (pack, price) in EXTRA_PACKS.items():
        Extra.objects.for_kitchen(kitchen).filter(name=name).update(pack=pack, price=price)
    Extra.objects.for_kitchen(kitchen).filter(kind="mould").update(price=12.0, uses=60, cavities=12)


class _Maker:
    """Writes the demo's bowls: what was put in, at which minute before now."""

    def __init__(self, kitchen: Kitchen, job: Job) -> None:
        self.kitchen, self.job = kitchen, job
        self.now = clock.now()
        self.stock = {r.code: r for r in Ingredient.objects.for_kitchen(kitchen).with_parameters()}
        self.colours = {c.name: c for c in Colour.objects.for_kitchen(kitchen)}

    def added(self, code: str, amount: float) -> Line:
        row = self.stock[code]
        counted = row.kind in UNIT_WORDS
        typed = f"{amount:g} {'drops' if amount != 1 else 'drop'}" if counted else f"{amount:g} g"
        unit = {"units": amount} if counted else {"mass_g": amount}
        return "added", {"ingredient": row.pk, "pins": pins_of(row), "typed": typed, **unit}

    def bowl(self, colour: str, white: str, began_min: float, layer: Layer | None = None) -> Bowl:
        needs = colour_needs(Job.objects.whole(self.kitchen, self.job.pk), self.kitchen) if layer else []
        need = next((n for n in needs if layer in n.layers), None)
        return begin_bowl(
            self.kitchen,
            name=colour,
            white=white,
            colour=self.colours.get(colour),
            job=self.job,
            layers=need.grams() if need else [],
            at=self.now - timedelta(minutes=began_min),
        )

    def did(self, bowl: Bowl, minutes_ago: float, *lines: Line) -> None:
        at = self.now - timedelta(minutes=minutes_ago)
        append(bowl, lines, expected_seq=bowl.last_seq, key=uuid.uuid4(), at=at)


def _melted(white: str) -> Line:
    return "warmed", {"to_c": 43.0 if white == "coating" else 41.0, "typed": "read"}


def _fill_bowls(maker: _Maker, layers: dict[str, Layer]) -> list[Bowl]:
    blue = maker.bowl("Dusk blue", "coating", 9, layers["Comet biscuits"])
    maker.did(blue, 8, maker.added("bright", 310), _melted("coating"))
    maker.did(blue, 6, maker.added("blue", 21), maker.added("red", 3), ("stirred", {}))
    maker.did(blue, 4, maker.added("green", 6), ("stirred", {}))
    strike_out(blue, 6, expected_seq=blue.last_seq, key=uuid.uuid4())
    blue.refresh_from_db()
    plain = maker.bowl("Ivory, plain", "untempered", 5)
    maker.did(plain, 4, maker.added("ivory", 260), _melted("untempered"), maker.added("cocoa_butter", 3))
    red = maker.bowl("Red moon", "coating", 9, layers["Red moons"])
    maker.did(red, 7, maker.added("bright", 180), _melted("coating"))
    maker.did(red, 5, maker.added("red", 14), maker.added("orange", 30), maker.added("palm_flakes", 7), ("stirred", {}))
    light = maker.bowl("First light", "untempered", 26 * 60, layers["Moon-phase discs"])
    maker.did(light, 26 * 60, maker.added("ivory", 190), _melted("untempered"), maker.added("pink", 1), ("stirred", {}))
    grey = maker.bowl("Storm grey", "coating", 30 * 60, layers["Crater plaques"])
    maker.did(grey, 30 * 60, maker.added("bright", 260), ("warmed", {"to_c": 66.0, "typed": "read"}))
    maker.did(grey, 29.6 * 60, maker.added("black", 9), maker.added("teal", 4), ("stirred", {}))
    over = maker.now - timedelta(hours=29)
    for bowl in (grey, light):
        bowl.refresh_from_db()
        assert bowl.colour is not None
        keep_recipe(bowl.colour, Desk.of(bowl, maker.kitchen).now, white=bowl.white)
    finish(grey, used_g=118, expected_seq=grey.last_seq, key=uuid.uuid4(), at=over)
    return [blue, plain, red, light]


@transaction.atomic
def open_demo_kitchen() -> Kitchen:
    """A private throwaway kitchen with Comet night; `bowls_to_show` lists its bowls in use."""
    clear_old_demos()
    owner = User.objects.create_user(f"{uuid.uuid4().hex}@demo.invalid")
    kitchen = make_kitchen(owner, name="Comet night kitchen", is_demo=True, goes_at=clock.now() + KEPT_FOR)
    Ingredient.objects.filter(kitchen=kitchen, stocked=True).update(ticked=True)
    kitchen.has_thermometer = kitchen.profile_said = True
    kitchen.save(update_fields=["has_thermometer", "profile_said"])
    blue = Ingredient.objects.with_parameters().get_for(kitchen, code="blue")
    measured = {"drop_g": (0.046, 0.044, 0.048, "measured")}
    change_ingredient(blue, expected=blue.version, name=blue.name, stocked=True, values=measured)
    kitchen.refresh_from_db()
    tell_evenings(kitchen)
    launch = Job.objects.create(
        kitchen=kitchen,
        name="Launch day",
        due_on=(clock.now() + timedelta(days=9)).date(),
        note="Rockets for the children's hour: fins and portholes are made first, and put on.",
    )
    keep_start(launch, start_called("rockets"))
    job = Job.objects.create(
        kitchen=kitchen,
        name="Comet night",
        due_on=(clock.now() + timedelta(days=2)).date(),
        note="Open evening at the observatory on the hill. One maker, two days.",
    )
    colours = {c.name: c for c in Colour.objects.for_kitchen(kitchen)}
    layers = {}
    for name, count, spares, across, thick, depth, white, colour in PIECES:
        plan = dipped(
            name,
            count,
            diameter_mm=across,
            thickness_mm=thick,
            share=float(depth),
            white=white,
            colour=colours[colour],
            spares=spares,
        )
        piece = keep_piece(job, plan)
        layers[name] = piece.layers.get()
        layers[name].piece = piece
    drips = {"wall": "chilled", "length_mm": 45.0, "width_mm": 10.0, "spacing_mm": 32.0}
    cake = dripped(
        "Observatory cake, lower tier",
        1,
        diameter_mm=200.0,
        height_mm=110.0,
        white="coating",
        colour=colours["Midnight"],
        **drips,
    )
    keep_piece(job, cake)
    _build_more(job, colours)
    _design(job, colours)
    _say_prices(kitchen)
    kitchen.refresh_from_db()
    _plan(job, kitchen)
    kitchen.bowls_to_show = _fill_bowls(_Maker(kitchen, job), layers)  # type: ignore[attr-defined]
    return kitchen


def _plan(job: Job, kitchen: Kitchen) -> None:
    """Its day is planned by the time somebody looks."""
    _, form = asked_and_reckoned(DayForm, None)
    planned = day_of(Job.objects.whole(kitchen, job.pk), kitchen, form.asked(kitchen))
    if planned is not None:
        said = {name: f"{value}" for name, value in form.data.items() if value}
        ask(job, {**said, "begin": f"{form.begins:%H:%M}"}, planned, at_once(planned), expected=None)


def clear_old_demos() -> int:
    """Delete demo kitchens whose week is over. Returns how many."""
    old = User.objects.filter(kitchen__is_demo=True, kitchen__goes_at__lt=clock.now())
    count = len(old)
    for owner in old:
        delete_kitchen(owner)
    return count


def delete_kitchen(owner: User) -> None:
    """Delete a maker with everything of theirs, dependent rows first."""
    kitchen = owner.kitchen
    bowls = Bowl.objects.filter(kitchen=kitchen)
    for bowl in bowls:
        bowl.events.update(struck_by=None)
    bowls.delete()
    Job.objects.filter(kitchen=kitchen).delete()
    owner.delete()
