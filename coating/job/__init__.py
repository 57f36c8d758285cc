"""A job, worked out once: what is wanted, in a kitchen, from a shelf, comes to one reckoning that all pages read."""

from coating.job.kitchen import Kitchen, Mould
from coating.job.reckon import reckon
from coating.job.reckoning import Bowl, JobStep, Line, Portion, Reckoning
from coating.job.shelf import Shelf
from coating.job.wanted import Joint, Piece, Tone, Wanted

__all__ = [
    "Bowl",
    "JobStep",
    "Joint",
    "Kitchen",
    "Line",
    "Mould",
    "Piece",
    "Portion",
    "Reckoning",
    "Shelf",
    "Tone",
    "Wanted",
    "reckon",
]
