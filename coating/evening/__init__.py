"""How an evening went: what was melted and what became of it, which colour came out, what was wasted, which season.

Whoever looks back later, or makes it again, asks here; the same figures stand on every page of a notebook.
"""

from coating.evening.amounts import Came, Taken, came_of
from coating.evening.near import nearest
from coating.evening.off import Off, off_by
from coating.evening.seasons import SEASONS, season_of
from coating.evening.wasted import Wasted, wasted

__all__ = ["SEASONS", "Came", "Off", "Taken", "Wasted", "came_of", "nearest", "off_by", "season_of", "wasted"]
