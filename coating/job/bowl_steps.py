"""What is done to a bowl before it is used, and after: melt, tint, temper, thin, test, fill bags, wash up."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from coating.errors import CoatingError
from coating.heat.times import melt_time
from coating.job.kitchen import Kitchen
from coating.job.looking import OF_BOWLS
from coating.job.reckoning import Bowl, JobStep
from coating.steps import HOT_AGE

# Hands, s; assumptions.
REWARM_STIR_S = 20
STIR_S, TINT_S, TEMPER_S, THIN_S, TEST_S, BAG_S, WASH_S = 15.0, 70.0, 300.0, 60.0, 30.0, 30.0, 60.0
HOT = ("melt", "temper", "rewarm")
BOWL_KINDS = ("melt", "tint", "temper", "thin", "test", "bag", "wash", "rewarm")


@dataclass(frozen=True)
class BeforeUse:
    """Its steps in order, and the last of them for each of its layers."""

    steps: tuple[JobStep, ...]
    of_layer: Mapping[str, str]

    def for_layer(self, layer: str) -> str:
        """What has to be done before a layer is made from it; of what is no layer of its own, as unthinned."""
        return self.of_layer.get(layer, self.last)

    @property
    def last(self) -> str:
        """What has to be done before it is used unthinned."""
        return next((s.id for s in reversed(self.steps) if s.kind in ("melt", "tint", "temper", "test")), "")


def before_use(bowl: Bowl, kitchen: Kitchen) -> BeforeUse:
    """From the shelf to the first piece."""
    key, steps = bowl.key, list[JobStep]()

    def add(
        kind: str,
        says: str,
        hands_s: float,
        heat_s: float = 0.0,
        *,
        layer: str = "",
        name: str = "",
        after: str | None = None,
    ) -> str:
        last = steps[-1].id if steps and after is None else after
        steps.append(
            JobStep(
                f"{key}.{name or kind}",
                kind,
                layer=layer,
                bowl=key,
                hands_s=hands_s,
                heat_s=heat_s,
                after=(last,) if last else (),
                says=says,
                looks=OF_BOWLS.get(kind, ""),
                from_age=HOT_AGE if kind in HOT else 0,
            )
        )
        return steps[-1].id

    chocolate = bowl.made_of.chocolate if bowl.made_of else "white"
    heat_s, bursts = 120.0, 4
    try:
        way = melt_time(
            max(20.0, bowl.melt_g),
            white=bowl.white,
            chocolate=chocolate,
            room_c=kitchen.room_c,
            school=kitchen.school,
            power_w=kitchen.oven_w,
        )
        heat_s, bursts = way.all_s, max(2, round(way.all_s / way.first_s)) if way.first_s else 4
    except CoatingError:
        pass
    add("melt", "Melt it, and stop while a few lumps are left: stirring melts them.", STIR_S * bursts, heat_s)
    if bowl.recipe:
        add("tint", "Stir the colour in until no streak is left.", TINT_S)
    if bowl.tempered:
        add("temper", "Seed it bit by bit until it is at its working warmth, and test a smear.", TEMPER_S)
    ready = steps[-1].id
    if not any(portion.whole for portion in bowl.portions):
        ready = add("test", "Try it on one piece, and look before you go on.", TEST_S, after=ready)
    of_layer = dict.fromkeys(bowl.layers, ready)
    for i, portion in enumerate(bowl.portions):
        if portion.whole:
            ready = add(
                "thin", "Stir the fat in until it is gone, and try one piece.", THIN_S, name="thin", after=ready
            )
            of_layer = dict.fromkeys(bowl.layers, ready)
            continue
        says = "Take a portion out and stir the fat in until it is gone."
        done = add("thin", says, THIN_S, layer=portion.layers[0], name=f"thin{i}", after=ready)
        of_layer |= dict.fromkeys(portion.layers, done)
    for line in bowl.lines:
        if line.bags and line.layer in of_layer:
            many = "a bag" if line.bags == 1 else f"{line.bags} bags"
            says, name = f"Fill {many}, fold shut, cut small.", f"bag.{line.layer}"
            after = of_layer[line.layer]
            of_layer[line.layer] = add("bag", says, BAG_S * line.bags, layer=line.layer, name=name, after=after)
    return BeforeUse(tuple(steps), of_layer)


def washed(bowl: Bowl, used: Sequence[str]) -> JobStep:
    """Pour what is left on paper, wash up."""
    return JobStep(
        f"{bowl.key}.wash",
        "wash",
        bowl=bowl.key,
        hands_s=WASH_S,
        after=tuple(used),
        says="Pour what is left on paper, and wash up.",
    )
