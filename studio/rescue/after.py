"""It is done. Did it help?"""

from __future__ import annotations

from urllib.parse import urlencode

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from studio.bowls.actions import BowlChanged
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.types import Context
from studio.rescue.actions import undo
from studio.rescue.forms import HelpedForm
from studio.rescue.models import Rescue
from studio.rescue.spoken.causes import CAUSES
from studio.rescue.spoken.moves import MIND, MOVES, THIS_ONE
from studio.rescue.spoken.signs import SIGNS

THANKS = {
    Rescue.YES: "Good. That is kept with the bowl.",
    Rescue.PARTLY: "Kept. Look again in a minute: half of it may still be ahead.",
    Rescue.NO: "Kept. Then it was something else: what do you see now?",
}


@kitchen_required
def after(request: KitchenRequest, pk: int) -> HttpResponse:
    """What was done, and three answers; one of them keeps it and goes back."""
    row: Rescue = Rescue.objects.select_related("bowl", "job").get_for(request.kitchen, pk=pk)
    if request.method == "POST":
        if request.POST.get("what") == "undo":
            return _undone(request, row)
        form = HelpedForm(request.POST)
        if not form.is_valid():
            raise Http404("no such answer")
        said = form.cleaned_data["helped"]
        Rescue.objects.filter(pk=row.pk).update(helped=said)
        messages.success(request, THANKS[said])
        return redirect(_again(row) if said == Rescue.NO else _back(row))
    context: Context = {
        "row": row,
        "words": MOVES[row.move],
        "sign": SIGNS[row.symptom],
        "cause": CAUSES[row.cause],
        "choices": Rescue.HELPED,
        "back": _back(row),
        "mind": MIND.get(row.move, ""),
        "this_one": THIS_ONE.get(row.symptom, ""),
    }
    return render(request, "rescue/after.html", context)


def _undone(request: KitchenRequest, row: Rescue) -> HttpResponse:
    """It was not done after all."""
    try:
        undo(row)
        messages.success(request, "Struck out: nothing of it counts.")
    except BowlChanged:
        messages.error(request, "This bowl was changed since: strike out single lines on its page.")
    return redirect(_back(row))


def _back(row: Rescue) -> str:
    """Where it was said: the bench, the bowl, the job, or all bowls."""
    if row.job_id and row.step:
        return reverse("day:bench", args=[row.job_id])
    if row.bowl_id:
        return reverse("bowls:bowl", args=[row.bowl_id])
    return reverse("pieces:job", args=[row.job_id]) if row.job_id else reverse("bowls:list")


def _again(row: Rescue) -> str:
    """What do you see, of the same thing."""
    named = {"bowl": row.bowl_id, "job": row.job_id if row.step else None, "step": row.step}
    return f"{reverse('rescue:see')}?{urlencode({k: v for k, v in named.items() if v})}"
