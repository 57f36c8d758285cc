"""How quick a job is reckoned: pieces of all sorts, nothing known from before but what a worker knows."""

from __future__ import annotations

from dataclasses import replace

from tools.bench_timing import Report, median, took

RECKONED_MS = {20: 50.0, 200: 400.0}
SHADES = ((66.0, -9.0, -17.0), (80.0, 14.0, 4.0))


def measure_reckoning(report: Report) -> None:
    """Lines, bowls, recipes and steps of a job of so many pieces; counts differ each time, so that nothing is kept."""
    from coating.job import Kitchen, Piece, Shelf, Tone, Wanted, reckon
    from coating.stack.starts import STARTS
    from coating.stock.ingredients import DEMO_INGREDIENTS as known

    colours = tuple(i for i in known.values() if i.kind == "liquid")
    shelf = Shelf(
        (known["bright"], known["ivory"]), colours, {"palm": known["palm_flakes"], "cocoa": known["cocoa_butter"]}
    )
    tones = {name: Tone(lab) for name, lab in zip(("main", "second"), SHADES, strict=True)}
    parts = [part for start in (s for s in STARTS.values() if not s.joined) for part in start.parts]

    def wanted(pieces: int, more: int) -> Wanted:
        made = []
        for i in range(pieces):
            part = parts[i % len(parts)]
            layers = tuple(replace(layer, id=f"{i}.{j}") for j, layer in enumerate(part.layers))
            made.append(Piece(f"{i}", part.kind_name, part.core, 12 + more, layers, name=part.title))
        return Wanted(tuple(made), (), tones)

    reckon(wanted(20, 0), Kitchen(), shelf)
    for pieces, target in RECKONED_MS.items():
        taken = []
        for more in range(1, 8):
            job = wanted(pieces, more)
            taken.append(took(reckon, job, Kitchen(), shelf))
        report.time(f"reckoning_of_{pieces}_median", median(taken), target)
