"""Words looked for over everything that was written: the database's full-text index finds them."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django.db.models import F, FloatField, Func, Q, QuerySet, Value
from django.db.models.lookups import GreaterThan

from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.cupboard.models import Ingredient
from studio.notebook.models import KeptPhoto, Note
from studio.pieces.models import Job, Piece
from studio.rescue.models import Rescue
from studio.rescue.spoken.causes import CAUSES
from studio.rescue.spoken.signs import SIGNS

MOST_WORDS, MOST_ROWS, LEAST_LETTERS = 6, 2000, 2


class MatchScore(Func):
    """How well columns of one full-text index match any of some words, or what begins with them; 0 where they do
    not."""

    output_field = FloatField()

    def __init__(self, *columns: str, words: Iterable[str]) -> None:
        query = " ".join(f"{word}*" for word in words)
        super().__init__(*(F(c) for c in columns), Value(query))

    def as_sql(self, compiler: Any, connection: Any, *_: Any, **__: Any) -> Any:
        """MATCH ... AGAINST, as MariaDB has it."""
        parts = [compiler.compile(source) for source in self.source_expressions]
        columns, (query, values) = ", ".join(sql for sql, _ in parts[:-1]), parts[-1]
        return f"MATCH ({columns}) AGAINST ({query} IN BOOLEAN MODE)", list(values)


def matches(*columns: str, words: Iterable[str]) -> GreaterThan:
    """Whether they match at all, as the index is asked for it."""
    return GreaterThan(MatchScore(*columns, words=words), 0.0)


def words_in(text: str) -> list[str]:
    """What is looked for: words of two letters and more, a few of them.

    >>> words_in("the Blue-green  drip, x"), words_in("+-*")
    (['the', 'blue', 'green', 'drip'], [])
    """
    return list(dict.fromkeys(w for w in re.findall(r"\w+", plain_of(text)) if len(w) >= LEAST_LETTERS))[:MOST_WORDS]


def plain_of(text: str) -> str:
    """Letters as the index compares them: small, each with its accent."""
    return unicodedata.normalize("NFC", text.casefold())


@dataclass(frozen=True)
class Hit:
    """Where a word was found in a job: what that is, and its text."""

    job: int
    what: str
    text: str


def _rows(kitchen: Kitchen, rows: QuerySet[Any], columns: tuple[str, ...], words: list[str], *fields: str) -> Any:
    mine = rows.filter(kitchen=kitchen).filter(matches(*columns, words=words))
    return mine.values_list(*fields)[:MOST_ROWS]


def hits_in_jobs(kitchen: Kitchen, words: list[str]) -> list[Hit]:
    """Everything of jobs in which one of some words stands: a query a kind."""
    hits = [
        Hit(pk, "job", f"{name} {note}")
        for pk, name, note in _rows(kitchen, Job.objects.all(), ("name", "note"), words, "pk", "name", "note")
    ]
    hits += [Hit(job, "piece", n) for job, n in _rows(kitchen, Piece.objects.all(), ("name",), words, "job", "name")]
    hits += [
        Hit(job, "bowl", n) for job, n in _rows(kitchen, Bowl.objects.all(), ("name",), words, "job", "name") if job
    ]
    notes = Note.objects.filter(gone=False, put_otherwise=None)
    fields = ("job", "bowl__job", "piece__job", "text")
    for job, of_bowl, of_piece, text in _rows(kitchen, notes, ("text",), words, *fields):
        hits += [Hit(pk, "note", text) for pk in [job or of_bowl or of_piece] if pk]
    hits += _troubles(kitchen, words)
    photos = _rows(kitchen, KeptPhoto.objects.all(), ("words",), words, "job", "words")
    return hits + [Hit(job, "photo", text) for job, text in photos if job]


def _troubles(kitchen: Kitchen, words: list[str]) -> list[Hit]:
    """What went wrong, by the words that its sign and its cause are spoken of with."""
    signs = {name: f"{s.label} {s.says}" for name, s in SIGNS.items()}
    causes = {name: f"{c.name} {c.title}" for name, c in CAUSES.items()}
    named_so = [{n for n, text in of.items() if any(_has(text, w) for w in words)} for of in (signs, causes)]
    rows = Rescue.objects.for_kitchen(kitchen).filter(undone=False)
    rows = rows.filter(Q(symptom__in=named_so[0]) | Q(cause__in=named_so[1]))
    fields = rows.values_list("job", "bowl__job", "symptom", "cause")[:MOST_ROWS]
    return [
        Hit(pk, "trouble", f"{signs[sign]} {causes[cause]}")
        for job, of_bowl, sign, cause in fields
        for pk in [job or of_bowl]
        if pk
    ]


def jobs_with(kitchen: Kitchen, words: list[str]) -> dict[int, list[Hit]]:
    """The jobs in which every one of some words stands somewhere, with where."""
    by_job: dict[int, list[Hit]] = {}
    for hit in hits_in_jobs(kitchen, words):
        by_job.setdefault(hit.job, []).append(hit)
    return {pk: hits for pk, hits in by_job.items() if all(any(_has(h.text, w) for h in hits) for w in words)}


def _has(text: str, word: str) -> bool:
    return any(part.startswith(word) for part in re.findall(r"\w+", plain_of(text)))


def named(kitchen: Kitchen, words: list[str]) -> tuple[list[Colour], list[Ingredient]]:
    """Colours and things of the cupboard whose names have every one of some words."""
    colours = Colour.objects.filter(kitchen=kitchen).filter(matches("name", "note", words=words))[:MOST_ROWS]
    rows = Ingredient.objects.filter(kitchen=kitchen, put_away=False).filter(matches("name", words=words))[:MOST_ROWS]
    return (
        [c for c in colours if all(_has(f"{c.name} {c.note}", w) for w in words)],
        [r for r in rows if all(_has(r.name, w) for w in words)],
    )
