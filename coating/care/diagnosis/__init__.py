"""What went wrong, and what mends it? The bowl's own history is the best witness.

A cause is believed by how often it is to blame, what the history says, what is seen and what a look would say; a move
is worth what it mends of the causes that may be it, and is never offered where it would make a likely one worse.
"""

from coating.care.diagnosis.belief import in_words
from coating.care.diagnosis.case import Case, Piece
from coating.care.diagnosis.diagnose import Diagnosis, Offer, Suspect, diagnose
from coating.care.diagnosis.symptoms import SYMPTOMS, WHERE
from coating.care.diagnosis.tables import TABLES, Tables

__all__ = [
    "SYMPTOMS",
    "TABLES",
    "WHERE",
    "Case",
    "Diagnosis",
    "Offer",
    "Piece",
    "Suspect",
    "Tables",
    "diagnose",
    "in_words",
]
