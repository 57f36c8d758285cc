"""What decorators do by hand, as ranges, beside what is reckoned. All ranges are common practice, no source."""

from __future__ import annotations

import unittest
from collections.abc import Callable

from coating.colour.mixing import Part, mix
from coating.colour.reach import out_of_reach
from coating.colour.recipe import find_recipe
from coating.flow.casson1959 import Flow
from coating.flow.firmness import firmness
from coating.flow.grades import GRADES, grades_for
from coating.flow.state import Conditions, flow_now
from coating.flow.tapping import taps
from coating.flow.thinning import thin
from coating.flow.windows import window
from coating.heat.melting import melt_to_c
from coating.heat.times import BATH_C, bend_window, melt_time, rewarm_time, set_time, usable_time
from coating.job import Kitchen, Piece, Reckoning, Shelf, Tone, Wanted, reckon
from coating.job.bowls import as_bought, fat_share
from coating.piece.cores import Disc
from coating.piece.kinds import KINDS
from coating.shape.bag import BAG_FULL
from coating.shape.film.bow import bow
from coating.shape.houses.glue import glue
from coating.shape.houses.net import Net, net
from coating.shape.moulds.fills import shell
from coating.shape.moulds.presets import PRESETS
from coating.stack.dipping import STICKS
from coating.stack.layers import Layer, thick_mm
from coating.stack.order import spares_for
from coating.stack.starts import STARTS
from coating.stock.ingredients import DEMO_INGREDIENTS as D
from coating.techniques import technique

COLOURS = tuple(i for i in D.values() if i.kind == "liquid")
SHELF = Shelf((D["bright"], D["ivory"]), COLOURS, {"palm": D["palm_flakes"], "cocoa": D["cocoa_butter"]})
WAFERS, CHOCOLATE = "bright", "ivory"
BERRY = KINDS["berry"].core(*KINDS["berry"].usual)
BISCUIT = Disc(90.0, 7.0)


def fat(name: str, base: str = WAFERS, white: str = "coating") -> float:
    """Fat in g per 100 g that a coating as bought is thinned with for a technique."""
    flow = as_bought(D[base], white)
    assert flow is not None
    if window(name).verdict(flow, white) not in ("thick", "uneven"):
        return 0.0
    return 100 * (fat_share(flow, D[base].fat_fraction, name, white) or 0.0)


def release(shape: str, thick: float, place: str, white: str = "coating") -> float:
    return set_time(shape, thick, place, white=white).release_min


def touch(shape: str, thick: float, place: str) -> float:
    return set_time(shape, thick, place, white="coating").touch_min


def job(
    kind: str,
    *layers: tuple[str, dict[str, object]],
    count: int = 12,
    size: tuple[float, ...] = (),
    spares: int | None = 0,
    kitchen: Kitchen | None = None,
) -> Reckoning:
    core = KINDS[kind].core(*(size or KINDS[kind].usual))
    made = tuple(Layer(name, id=f"{i}.{name}", **data) for i, (name, data) in enumerate(layers))  # type: ignore[arg-type]
    wanted = Wanted((Piece("p", kind, core, count, made, spares),), (), {"c": Tone((66.0, -9.0, -17.0))})
    return reckon(wanted, kitchen or Kitchen(), SHELF)


def waits_for(reckoning: Reckoning, layer: str) -> float:
    """Minutes that the first step of a layer waits for what it lies on."""
    steps = {s.id: s for s in reckoning.steps}
    step = next(s for s in reckoning.steps if s.layer == layer and s.kind not in ("thin", "bag"))
    return max([step.from_min, *(steps[n].from_min for n in step.after if steps[n].kind == "wait")])


def follows(reckoning: Reckoning, layer: str, below: str) -> bool:
    """Whether a layer is made only after another is."""
    steps, seen = {s.id: s for s in reckoning.steps}, set[str]()
    todo = [s.id for s in reckoning.steps if s.layer == layer and s.kind not in ("thin", "bag")][:1]
    while todo:
        name = todo.pop()
        if name not in seen:
            seen.add(name)
            todo += [*steps[name].after, *steps[name].needs]
    return any(steps[n].layer == below and steps[n].kind not in ("thin", "bag") for n in seen)


def hands(name: str, **values: object) -> float:
    """Seconds for one."""
    kind = technique(name)
    return kind.hands(Layer(name, **values), 1)  # type: ignore[arg-type]


def drops(lab: tuple[float, float, float], colour: str) -> float:
    """Drops per 100 g of wafers for a pale shade."""
    parts = find_recipe(lab, (D[WAFERS],), (D[colour],), 500.0).parts
    return sum(p.units for p in parts if p.ingredient.is_colourant) / 5


def tint(chroma: float, colour: str) -> tuple[float, float, float]:
    """The shade of so much chroma on the way from plain to a colour."""
    for n in range(1, 400):
        lab = mix([Part(D[WAFERS], 500.0), Part(D[colour], D[colour].unit_g * n / 4)]).lab()
        if (lab[1] ** 2 + lab[2] ** 2) ** 0.5 >= chroma and n > 1:
            return lab
    raise AssertionError("no such shade")


def viscosity(**conditions: object) -> float:
    flow: Flow = flow_now(Conditions(45.0, **conditions))  # type: ignore[arg-type]
    return flow.viscosity_pa_s


def plain() -> Flow:
    flow = as_bought(D[WAFERS], "coating")
    assert flow is not None
    return flow


def house() -> Net:
    return net("house", long_mm=120, wide_mm=90, wall_mm=60, thick_mm=5)


def dose_of(name: str) -> float:
    return thin(100.0, 58.0, 30.0, fat_fraction=0.35, base="coating", thinner=D[name].title.lower()).thinner_g


def thinned_after_melting() -> bool:
    reckoning = job("cake_tier", ("cake_drip", {}), count=1)
    kinds = [s.kind for s in reckoning.steps]
    return kinds.index("melt") < kinds.index("thin") < kinds.index("make")


Row = tuple[str, float, float, Callable[[], float]]
AMOUNTS: list[Row] = [
    (
        "berries and a bag for lines: four and one bowl, g",
        60,
        300,
        lambda: job("berry", ("dip", {"share": 0.9}), ("drizzle", {"length_mm": 300.0}), count=4).melt_g,
    ),
    ("a bag is filled so far", 0.65, 0.8, lambda: BAG_FULL),
    (
        "coat over the rim and weak spots of a large shell, of the shell",
        0.03,
        0.15,
        lambda: (made := shell(PRESETS["big_dome"].cavity, wall_mm=4.0)).rim_g / made.shell_g,
    ),
    (
        "large flat biscuit half dipped, coat in mm",
        0.8,
        2.5,
        lambda: thick_mm(BISCUIT, Layer("dip", share=0.5), flow=as_bought(D[WAFERS], "coating")),
    ),
    (
        "three large biscuits half dipped, melted in g",
        150,
        350,
        lambda: job("round_biscuit", ("dip", {"share": 0.5}), count=3, size=(120.0, 8.0)).melt_g,
    ),
    ("coating on film, mm", 1.2, 2.5, lambda: technique("film").thickness_mm),
]
FLOWS: list[Row] = [
    ("solid moulds of ordinary size from wafers, fat per 100 g", 0, 1, lambda: fat("coarse_mould")),
    ("marbled slab of white chocolate, fat per 100 g", 0, 1, lambda: fat("slab", CHOCOLATE, "untempered")),
    ("strips spread from wafers, fat per 100 g", 0, 1, lambda: fat("sheet")),
    ("sheets on printed film of chocolate, fat per 100 g", 0, 1, lambda: fat("sheet", CHOCOLATE, "untempered")),
    ("half dipped in wafers, fat per 100 g", 0, 1, lambda: fat("dip")),
    ("outline of small faces, fat per 100 g", 0, 1, lambda: fat("outline")),
    ("filling of small faces from the same bowl, fat per 100 g", 0, 1, lambda: fat("small_face")),
    (
        "dip and drizzle from one bowl",
        1,
        1,
        lambda: len(job("round_biscuit", ("dip", {}), ("drizzle", {"length_mm": 300.0})).bowls),
    ),
    ("flakes against white fat, gram for gram", 0.9, 1.1, lambda: dose_of("palm_flakes") / dose_of("shortening")),
    ("liquid oil is refused", 1, 1, lambda: firmness("coating", {"liquid_oil": 3.0}, 35.0, 21.0).verdict == "refused"),
    *(
        (
            f"loosened with 3 % of {name} it still sets",
            1,
            1,
            lambda name=name: firmness("coating", {name: 3.0}, 35.0, 21.0).verdict != "refused",
        )
        for name in ("coconut_oil", "palm_flakes", "shortening")
    ),
    (
        "in temper against melted, at the label's warmth",
        1.7,
        2.3,
        lambda: (
            viscosity(kind="chocolate", temperature_c=28.5, tempered=True)
            / viscosity(kind="chocolate", temperature_c=40.0)
        ),
    ),
    *(
        (f"number of the {name} grade", low, high, lambda name=name: next(g.number for g in GRADES if g.name == name))
        for name, low, high in (("thin", 25, 29), ("middle", 35, 39))
    ),
    (
        "the grade for hollow shells in temper is the thin one",
        1,
        1,
        lambda: grades_for(window("shell"), "tempered")[0].name == "thin",
    ),
    ("letters in a mould from wafers, taps", 4, 25, lambda: taps(plain(), 0.8)),
]
MELTING: list[Row] = [
    (
        "wafers, twenty seconds at a time: all heating, s",
        50,
        75,
        lambda: melt_time(300, white="coating", school="bursts_20").all_s,
    ),
    (
        "white chocolate, thirty at a time: all heating, s",
        60,
        120,
        lambda: melt_time(300, white="tempered", school="bursts_30").all_s,
    ),
    ("a little that has gone stiff, s", 4, 12, lambda: rewarm_time(100, white="coating", school="bursts_20")),
    ("a dipping bowl that begins to set, s at half power", 14, 25, lambda: rewarm_time(250, white="coating")),
    ("boiled, flame off: min", 1.5, 5, lambda: melt_time(300, white="coating", school="boil_and_off").all_s / 60),
    ("water below the bowl, degC", 45, 90, lambda: BATH_C["double_boiler"]),
    ("white chocolate melted for seeding, degC", 44, 46, lambda: melt_to_c("tempered")),
    ("a bowl of 300 g stays usable, min", 8, 30, lambda: usable_time(300, white="coating") / 60),
]
SETTING: list[Row] = [
    ("solid lollies in a thin mould, freezer", 6, 12, lambda: release("mould", 8, "freezer")),
    ("thin flat casts, freezer", 3, 7, lambda: release("mould", 5, "freezer")),
    ("panels cast in silicone, fridge", 16, 26, lambda: release("silicone", 6, "fridge")),
    ("cups in layers, fridge", 12, 23, lambda: release("cup", 5, "fridge")),
    ("outlined and filled faces on paper, fridge", 6, 12, lambda: release("line", 2, "fridge")),
    ("tiny ovals and buttons, fridge", 2, 3.6, lambda: release("bits", 2, "fridge")),
    ("loops hurried in the freezer", 1.5, 6, lambda: release("strip", 1.5, "freezer")),
    ("coat on berries, fridge", 3, 10, lambda: release("coat", 1.3, "fridge")),
    ("coat on berries, freezer", 1.5, 6, lambda: release("coat", 1.3, "freezer")),
    ("second coat on a rim, fridge", 2, 6, lambda: release("coat", 1.0, "fridge")),
    ("a post set into a bead is held, s", 1, 10, lambda: glue(10, 4).hold_s),
    ("bead piped before the first sweet is set in, mm", 40, 150, lambda: glue(300, 3).run_mm),
    ("a seated stick waits before the dip, min", 10, 15, lambda: STICKS["seated"].wait_min),
    (
        "coating against chocolate out of temper",
        0.2,
        0.8,
        lambda: release("coat", 2, "room") / release("coat", 2, "room", "untempered"),
    ),
    (
        "a strip is joined at its ends from, min",
        0,
        1,
        lambda: bend_window("film", 1.5, "room", white="coating", carried=True).from_min,
    ),
    (
        "a strip on film is laid wet over a dessert from, min",
        0,
        2,
        lambda: bend_window("film", 1.8, "room", white="coating", carried=True).from_min,
    ),
    (
        "the same strip bends still after, min",
        6,
        25,
        lambda: bend_window("film", 1.8, "room", white="coating", carried=True).until_min,
    ),
]
COLOUR: list[Row] = [
    ("very light yellow, drops per 100 g", 0.3, 1.0, lambda: drops(tint(15, "yellow"), "yellow")),
    ("soft baby blue, drops per 100 g", 0.8, 2.5, lambda: drops(tint(18, "blue"), "blue")),
    (
        "full red out of reach from white",
        1,
        1,
        lambda: out_of_reach((40.0, 58.0, 38.0), (D[WAFERS],), COLOURS, 200, []) is not None,
    ),
]
COUNTS: list[Row] = [
    ("loops for one full bow, spares in it", 15, 20, lambda: (b := bow(200, 25, thickness_mm=1.5)).loops + b.spares),
    ("twists for each rod", 3, 3, lambda: next(p.each for p in STARTS["sprays"].parts if "twist" in p.kind_name)),
    ("cast parts of a house", 6, 6, lambda: sum(p.count for p in house().panels if p.name != "Base")),
    ("spares for four small piped parts", 1, 2, lambda: spares_for(4, 0.0, (Layer("flood"),))),
    ("spares for two small piped parts", 1, 1, lambda: spares_for(2, 0.0, (Layer("flood"),))),
]
ORDERS: list[Row] = [
    (
        "lines wait for the coat, min",
        1,
        20,
        lambda: waits_for(job("round_biscuit", ("dip", {}), ("drizzle", {"length_mm": 300.0})), "1.drizzle"),
    ),
    (
        "lid after filling",
        1,
        1,
        lambda: follows(job("mould", ("shell", {}), ("filling", {}), ("cap", {})), "2.cap", "1.filling"),
    ),
    (
        "second dip once the first has dried, min",
        1,
        20,
        lambda: waits_for(job("round_biscuit", ("dip", {}), ("second_dip", {})), "1.second_dip"),
    ),
    (
        "cast pieces are dusted out of their mould",
        1,
        1,
        lambda: (
            any(s.kind == "release" for s in job("mould", ("solid", {}), ("dust", {})).steps)
            and follows(job("mould", ("solid", {}), ("dust", {})), "1.dust", "0.solid")
        ),
    ),
    (
        "ground before the blobs: wait in min",
        0,
        2,
        lambda: waits_for(job("slab", ("pour", {}), ("marbling", {"colour": "c"})), "1.marbling"),
    ),
    ("sticks wait before the dip, min", 10, 15, lambda: waits_for(job("ball", ("stick", {}), ("dip", {})), "1.dip")),
    ("fat is stirred in once it is melted", 1, 1, thinned_after_melting),
]
PACE: list[Row] = [
    ("dip one large flat biscuit, s", 12, 40, lambda: hands("dip")),
    ("dip one berry on a pick, s", 14, 35, lambda: hands("dip", share=0.9)),
    ("a stick into one filled cavity, s", 6, 14, lambda: hands("stick")),
    ("spread one strip and join its ends, s", 20, 45, lambda: hands("film")),
    ("a part glued on against one set on wet", 1.5, 4, lambda: hands("glue") / hands("topping")),
    ("border and loops over one large biscuit, s", 15, 60, lambda: hands("lines", length_mm=700.0)),
]


class Practice(unittest.TestCase):
    """Every range of what makers do holds what is reckoned."""

    def holds(self, rows: list[Row]) -> None:
        for what, low, high, reckoned in rows:
            with self.subTest(what):
                value = float(reckoned())
                self.assertTrue(low <= value <= high, f"{what}: {value:.4g} is not in {low} to {high}")

    def test_amounts(self) -> None:
        self.holds(AMOUNTS)

    def test_flow_and_fat(self) -> None:
        self.holds(FLOWS)

    def test_melting(self) -> None:
        self.holds(MELTING)

    def test_setting_and_bending(self) -> None:
        self.holds(SETTING)

    def test_colour(self) -> None:
        self.holds(COLOUR)

    def test_counts(self) -> None:
        self.holds(COUNTS)

    def test_orders_and_their_waits(self) -> None:
        self.holds(ORDERS)

    def test_pace(self) -> None:
        self.holds(PACE)
