"""Every fault has a page of its own: what it looks like, why it happens, what to do and how to avoid it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import reverse

from coating.care.diagnosis import TABLES, WHERE
from coating.care.diagnosis.cause import Cause
from studio.common.names import plain
from studio.rescue.spoken.causes import CAUSES, avoid_says
from studio.rescue.spoken.moves import MIND, MOVES, THIS_ONE, THROWN_AWAY, USES
from studio.rescue.spoken.signs import PLACES, SIGNS, TOO_BUSY, Sign

SHOWN = 6
MENDS_HALF = 0.5
_DEFAULTS = {
    "parts": "a little fat",
    "until": "it is as warm as you work it",
    "over": "",
    "heating": "",
    "wait": "some minutes",
    "where": "fridge",
}


@dataclass(frozen=True)
class Fault:
    """A page: of something that is seen, or of what was to blame."""

    name: str
    title: str
    url: str
    words: str


@dataclass(frozen=True)
class Blamed:
    """A cause on the page of a sign: what it is called, what mends it, and how to avoid it."""

    name: str
    title: str
    mends: str
    avoid: str
    url: str


def _mends(cause: Cause, symptom: str) -> str:
    """The move that mends most of it where that is seen, in general words."""
    if symptom == "burnt_smell":
        return THROWN_AWAY
    moves = [m for m in TABLES.moves if m.is_for(symptom) and m.mends.get(cause.name)]
    best = max(
        moves, key=lambda m: (m.mends[cause.name] >= MENDS_HALF, m.mends[cause.name] - m.cost, -m.minutes), default=None
    )
    if best is None:
        return ""
    said = MOVES[best.name]
    return (said.plain or said.do).format(**_DEFAULTS).replace("*", "")


def blamed(symptom: str) -> list[Blamed]:
    """The causes of a sign, those that are most often to blame first."""
    causes = sorted(TABLES.showing(symptom), key=lambda c: -c.base * c.symptoms[symptom])
    return [
        Blamed(
            c.name,
            CAUSES[c.name].title,
            _mends(c, symptom),
            avoid_says(c.name),
            reverse("rescue:cause", args=[c.name]),
        )
        for c in causes[:SHOWN]
    ]


BUSY = Blamed(
    "too_busy",
    "Too much pattern",
    "Leave the next ones plain, and put them between.",
    "Pattern on a small share of the surface, and plain panels beside it.",
    "",
)


def all_faults() -> list[Fault]:
    """Every page there is, with the words it is found by."""
    signs = [
        Fault(s.name, s.why, reverse("rescue:fault", args=[s.name]), f"{s.why} {s.label} {s.says}")
        for s in (*SIGNS.values(), TOO_BUSY)
    ]
    causes = [
        Fault(name, c.title, reverse("rescue:cause", args=[name]), f"{c.title} {c.name} {c.avoid}")
        for name, c in CAUSES.items()
    ]
    return [*signs, *causes]


def searched(words: str) -> list[Fault]:
    """The pages that have all of some words, whatever their endings."""
    wanted = [w.lower().rstrip("s") for w in plain(words).split()[:8]]
    return [f for f in all_faults() if all(w in f.words.lower() for w in wanted)] if wanted else []


def pages_of(symptoms: Iterable[str]) -> list[tuple[str, str]]:
    """Title and address of the page of each, once."""
    names = [name for name in dict.fromkeys(symptoms) if name in SIGNS]
    return [(SIGNS[name].why, reverse("rescue:fault", args=[name])) for name in names]


def faults(request: HttpRequest) -> HttpResponse:
    """All of them by where they are seen, or those that were looked for."""
    words = request.GET.get("q", "")[:80]
    groups = [(PLACES[where], [SIGNS[name] for name in names]) for where, names in WHERE.items()]
    groups[-1][1].append(TOO_BUSY)
    causes = [(CAUSES[c.name].title, reverse("rescue:cause", args=[c.name])) for c in TABLES.causes]
    context = {"groups": groups, "causes": causes, "q": words, "hits": searched(words)}
    return render(request, "rescue/faults.html", context)


def fault(request: HttpRequest, symptom: str) -> HttpResponse:
    """Why lace breaks."""
    sign = TOO_BUSY if symptom == TOO_BUSY.name else SIGNS.get(symptom)
    if sign is None:
        raise Http404("no such fault")
    beside = [SIGNS[name] for name in WHERE[sign.where] if name != symptom]
    rows = [BUSY] if sign is TOO_BUSY else blamed(symptom)
    context = {
        "sign": sign,
        "asked_now": sign is not TOO_BUSY,
        "blamed": rows,
        "this_one": THIS_ONE.get(symptom, ""),
        "beside": beside,
    }
    return render(request, "rescue/fault.html", context)


def cause(request: HttpRequest, name: str) -> HttpResponse:
    """One thing that was to blame."""
    if name not in CAUSES:
        raise Http404("no such cause")
    row = TABLES.by_cause[name]
    signs = [SIGNS[s] for s in sorted(row.symptoms, key=lambda s: -row.symptoms[s])]
    moves = sorted((m for m in TABLES.moves if m.mends.get(name)), key=lambda m: -m.mends[name])
    mends = [((MOVES[m.name].plain or MOVES[m.name].do).format(**_DEFAULTS).replace("*", ""), MIND.get(m.name, ""))
             for m in moves if m.mends[name] >= MENDS_FROM]  # fmt: skip
    harms = [MOVES[m.name].name for m in TABLES.moves if name in m.worse_for]
    context = {
        "said": CAUSES[name],
        "avoid": avoid_says(name),
        "signs": signs,
        "mends": mends,
        "harms": harms,
        "uses": [USES[use] for use in row.good_for],
    }
    return render(request, "rescue/cause.html", context)


def sheet(request: HttpRequest) -> HttpResponse:
    """One sheet for the kitchen wall."""
    groups: list[tuple[str, list[tuple[Sign, list[Blamed]]]]] = [
        (PLACES[where], [(SIGNS[name], blamed(name)[:3]) for name in names]) for where, names in WHERE.items()
    ]
    return render(request, "rescue/sheet.html", {"groups": groups})


MENDS_FROM = 0.4
