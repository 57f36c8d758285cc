"""How a bowl is melted, wherever it is said."""

from __future__ import annotations

from coating.heat.schools import MeltingWay
from studio.common.templatetags.kitchen import seconds_in_all


def way_says(way: MeltingWay) -> str:
    """How a bowl is melted by the kitchen's own way, in a few sentences.

    >>> from coating.heat.schools import SCHOOLS
    >>> way_says(MeltingWay(SCHOOLS["tapering"], 150, 30, 10))[:62]
    'Microwave, 30 s first, then shorter, 10 s at the end, and stir'
    """
    mixes = way.school.mixes
    ends = f"Stop while some lumps remain: {'kneading' if mixes == 'knead' else 'stirring'} melts them."
    if way.school.heat == "hob":
        off = way.school.name == "boil_and_off"
        over = (
            "Boil a little water in a pan, switch the heat off, set the dry bowl on it and stir"
            if off
            else "Stir it over a finger of water that does not touch the bowl, on the lowest heat"
        )
        dry = "Wipe the bottom dry before you tilt the bowl: a drop of water spoils all of it."
        return f"{over}: {seconds_in_all(way.all_s)}. {dry} {ends}"
    power = " at half power" if way.school.power_fraction < 1 else ""
    if way.school.fixed_burst_s:
        last = f", only {way.last_s:.0f} s at the end: longer would scorch this little" if way.too_long else ""
        bursts = f"{way.first_s:.0f} s at a time{last}"
    elif way.school.name == "tapering":
        bursts = f"{way.first_s:.0f} s first, then shorter, {way.last_s:.0f} s at the end"
    else:
        bursts = f"{way.first_s:.0f} s at a time"
    return f"Microwave{power}, {bursts}, and {mixes} after each; {seconds_in_all(way.all_s)} in all. {ends}"
