"""A whole kitchen as one file: what is in it, how it is written, read and checked, and put into another kitchen.

A zip with `kitchen.json` (what it is, of which kitchen, how much), `rows/<table>-0001.json` and so on (lists of rows,
by the schemas in `schemas/`), `photos/`, and `events.csv` for spreadsheets. A row is known by the kitchen it comes
from and its number there, so that the same one is never taken twice.
"""
