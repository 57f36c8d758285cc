"""What a technique may be called in the scriptable core: by itself, or by a window of flow that belongs to one."""

from __future__ import annotations

from coating.techniques import TECHNIQUES
from coating.techniques.base import Technique

# A window that is no layer of its own is the layer it belongs to.
OF_WINDOW = {
    "dip_fruit": "dip",
    "balls": "dip",
    "solid_mould": "solid",
    "outline": "flood",
    "sheet": "transfer",
    "coarse_mould": "solid",
    "small_face": "flood",
    "slab": "spread",
}
NAMES = tuple(dict.fromkeys((*TECHNIQUES, *OF_WINDOW)))


def technique_of(name: str) -> Technique:
    """The technique of a name, or the one that a window belongs to."""
    return TECHNIQUES[OF_WINDOW.get(name, name)]
