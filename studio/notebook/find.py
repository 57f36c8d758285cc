"""Find an evening or a bowl again: by words, by technique, season or what went in, and by colour."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

from django import forms
from django.db.models import F, Q
from django.http import HttpResponse
from django.shortcuts import render
from django.utils import timezone

from coating.evening import SEASONS, nearest
from coating.techniques import TECHNIQUES
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.colours.forms import LabField
from studio.colours.models import Colour
from studio.common import clock
from studio.common.forms import WordsField
from studio.common.pages import page_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.types import Context
from studio.common.words import close_says, number_word, stress
from studio.cupboard.models import Ingredient
from studio.cupboard.stock import Stock
from studio.notebook.evenings import A_PAGE, every_evening, on_of, season_in, whole_evenings
from studio.notebook.index import Hit, jobs_with, named, words_in
from studio.notebook.models import BowlSummary
from studio.notebook.record import records_of
from studio.notebook.says import when_says
from studio.notebook.shown import line_of
from studio.notebook.summaries import kept_parts_of, summaries_of
from studio.notebook.where import UsedLine, parts_say
from studio.pieces.models import Job, Layer

WITHIN, MOST_NEAR, AT_ONCE = 8.0, 24, 300
ANY = ("", "any")


class FindForm(forms.Form):
    """What is looked for; all of it together."""

    words = WordsField(label="Words to find", max_length=120, required=False)
    season = forms.ChoiceField(label="Season", choices=[ANY, *((s, s) for s in SEASONS)], required=False)
    technique = forms.ChoiceField(label="Technique", required=False)
    ingredient = forms.ChoiceField(label="Made with", required=False)
    near = LabField(required=False)

    def __init__(self, data: Any = None, *, kitchen: Kitchen) -> None:
        super().__init__(data)
        used = set(Layer.objects.for_kitchen(kitchen).values_list("technique", flat=True).distinct())
        techniques = [(name, TECHNIQUES[name].title) for name in TECHNIQUES if name in used]
        rows = Ingredient.objects.for_kitchen(kitchen).filter(Q(ticked=True) | Q(put_away=True)).order_by("name")
        self.fields["technique"].choices = [ANY, *techniques]  # type: ignore[attr-defined]
        self.fields["ingredient"].choices = [ANY, *((str(pk), n) for pk, n in rows.values_list("pk", "name"))]  # type: ignore[attr-defined]

    @property
    def says_nothing(self) -> bool:
        """Whether nothing is looked for."""
        return not any(self.cleaned_data.values())


@kitchen_required
def find(request: KitchenRequest) -> HttpResponse:
    """What was found."""
    form = FindForm(request.GET, kitchen=request.kitchen)
    context: Context = {"form": form, "swatches": swatches(request.kitchen)}
    if not form.is_valid() or form.says_nothing:
        return render(request, "notebook/find.html", context, status=422 if form.errors else 200)
    data = form.cleaned_data
    if data["near"] is not None:
        context |= _near(request, data["near"])
        return render(request, "notebook/find.html", context)
    words = words_in(data["words"])
    if data["words"] and not words:
        form.add_error("words", "Write a word of two letters or more.")
        return render(request, "notebook/find.html", context, status=422)
    hits = jobs_with(request.kitchen, words) if words else None
    page = page_of(
        request, _kept(request.kitchen, data, None if hits is None else set(hits)), word="found", many=A_PAGE
    )
    jobs = whole_evenings(request.kitchen, page)
    today = timezone.localdate(clock.now())
    lines = [(line_of(record, today), _where(hits, record.job)) for record in records_of(jobs, request.kitchen)]
    colours, rows = named(request.kitchen, words) if words else ([], [])
    says = found_says(page.paginator.count, data["words"])
    context |= {"lines": lines, "page": page, "says": says, "colours": colours, "rows": rows, "query": _query(request)}
    return render(request, "notebook/find.html", context)


def _query(request: KitchenRequest) -> str:
    """What was looked for, for the next page."""
    return "".join(f"{urlencode({name: value})}&" for name, value in request.GET.items() if name != "found")


def _kept(kitchen: Kitchen, data: Any, wanted: set[int] | None) -> list[Any]:
    """The evenings that suit everything, with the words found in those that are `wanted`."""
    rows = every_evening(kitchen)
    of_jobs = [] if wanted is None else [wanted]
    if data["technique"]:
        layers = Layer.objects.for_kitchen(kitchen).filter(technique=data["technique"])
        of_jobs.append(set(layers.values_list("piece__job", flat=True)))
    if data["ingredient"]:
        of = BowlSummary.objects.for_kitchen(kitchen).filter(parts__of__contains=[{"id": int(data["ingredient"])}])
        of_jobs.append(set(of.values_list("bowl__job", flat=True)))
    season = data["season"]
    suiting = (row for row in rows if all(row.pk in jobs for jobs in of_jobs))
    return [row for row in suiting if not season or season_in(kitchen, on_of(row)) == season]


def _where(hits: dict[int, list[Hit]] | None, job: Job) -> str:
    """What was found in an evening that its own line does not say."""
    notes = [hit.text for hit in (hits or {}).get(job.pk, []) if hit.what in ("note", "photo")]
    return notes[0] if notes else ""


def found_says(count: int, words: str) -> str:
    """How many were found.

    >>> found_says(2, "comet"), found_says(0, "comet"), found_says(1, "")
    ('*Two evenings* with “comet”.', 'No evening with “comet”.', '*One evening* found.')
    """
    of = f" with “{words}”." if words else " found."
    if not count:
        return f"No evening{of}"
    return f"{stress(f'{number_word(count).capitalize()} evening' + ('' if count == 1 else 's'))}{of}"


# -- by colour -----------------------------------------------------------------------------------------------------
def swatches(kitchen: Kitchen) -> list[Colour]:
    """The colours to begin from."""
    return list(Colour.objects.for_kitchen(kitchen)[:48])


def _near(request: KitchenRequest, lab: tuple[float, float, float]) -> Context:
    """Bowls near a colour, the nearest first."""
    kitchen, stock = request.kitchen, Stock.of(request.kitchen)
    more = catch_up(kitchen, stock)
    rows = list(
        BowlSummary.objects.for_kitchen(kitchen)
        .filter(melted_g__gt=0, lightness__isnull=False)
        .order_by("-bowl__started_at")
        .values_list("pk", "lightness", "a", "b")
    )
    labs: list[Any] = [row[1:] for row in rows]
    near = nearest(lab, labs, within=WITHIN, most=MOST_NEAR)
    de00 = {rows[place][0]: off for place, off in near}
    found_rows = BowlSummary.objects.filter(pk__in=de00).select_related("bowl__job", "bowl__colour", "bowl__base")
    lines = [_bowl_line(row, de00[row.pk], stock) for row in sorted(found_rows, key=lambda row: de00[row.pk])]
    bowls = stress(f"{number_word(len(lines)).capitalize()} bowl{'' if len(lines) == 1 else 's'}")
    says = f"{bowls} near this one." if lines else "No bowl came near this one yet."
    says += " Older bowls are still being read: look again in a moment." if more else ""
    return {"near": lab, "near_lines": lines, "says": says}


def _bowl_line(row: BowlSummary, de00: float, stock: Stock) -> UsedLine:
    on, today = timezone.localtime(row.bowl.started_at).date(), timezone.localdate(clock.now())
    says = f"{row.bowl.name}: {parts_say(kept_parts_of(row, stock))}"
    return UsedLine(on, when_says(on, today), row.bowl.job, row.bowl, says, close_says(de00), row.lab)


def catch_up(kitchen: Kitchen, stock: Stock) -> bool:
    """Bowls that nobody has looked back at yet are worked out, some at a time. Returns whether there are more."""
    begun = Bowl.objects.for_kitchen(kitchen).exclude(last_seq=0)
    behind = begun.filter(Q(summary=None) | ~Q(summary__seq=F("last_seq"))).with_colour()
    some = list(behind[: AT_ONCE + 1])
    summaries_of(kitchen, some[:AT_ONCE], stock)
    return len(some) > AT_ONCE
