"""The scriptable core: names, schemas and answers of `python -m coating`.

An entry reads one JSON object and gives one back. Bad input is refused with a code and the field; what merely cannot
be reached is an answer that says so.
"""

from coating.facade.registry import answer, entries, schema

__all__ = ["answer", "entries", "schema"]
