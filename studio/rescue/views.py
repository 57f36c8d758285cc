"""Something is wrong: what do you see, what it is, and what to do."""

from __future__ import annotations

from django.contrib import messages
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from coating.care.diagnosis import WHERE
from studio.bowls.actions import BowlChanged
from studio.bowls.models import Bowl
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.rescue.actions import rescue
from studio.rescue.asked import answer_of
from studio.rescue.at_bench import at_the_bench
from studio.rescue.beforehand import was_too_hot
from studio.rescue.forms import DoForm
from studio.rescue.models import Rescue
from studio.rescue.shown import coat_of, page_of_answer
from studio.rescue.spoken.signs import PLACES, SIGNS
from studio.rescue.subject import subject_of

BOWLS_ASKED = 12
CHANGED = "Something changed meanwhile: this is what it comes to now."


@kitchen_required
def see(request: KitchenRequest) -> HttpResponse:
    """What do you see? Pictures, those first that can be for what is at hand."""
    subject = subject_of(request, request.GET)
    likely = [SIGNS[name] for name in subject.likely] if subject.called else []
    groups = []
    for where, names in WHERE.items():
        rest = [SIGNS[name] for name in names if not likely or name not in subject.likely]
        if rest:
            groups.append((PLACES[where], rest))
    bowls = []
    if subject.desk is None:
        mine = Bowl.objects.for_kitchen(request.kitchen).in_use().with_colour().order_by("-pk")
        mine = (mine.filter(job=subject.job) if subject.job else mine)[:BOWLS_ASKED]
        bowls = [(bowl, f"{reverse('rescue:see')}?bowl={bowl.pk}") for bowl in mine]
    context = {
        "subject": subject,
        "likely": [(sign, subject.to("answer", sign.name)) for sign in likely],
        "groups": [(title, [(sign, subject.to("answer", sign.name)) for sign in signs]) for title, signs in groups],
        "coat": coat_of(subject),
        "bowls": bowls,
        "bench": at_the_bench(subject),
        "coming": was_too_hot(subject.desk) if subject.desk else "",
    }
    return render(request, "rescue/see.html", context)


@kitchen_required
def answer(request: KitchenRequest, symptom: str) -> HttpResponse:
    """The likeliest cause and why, one move, what comes of it, the other causes, and the one look that decides."""
    asked_for = answer_of(request, symptom)
    status = 422 if asked_for.facts.is_bound and asked_for.facts.errors else 200
    return render(request, "rescue/answer.html", page_of_answer(asked_for), status=status)


@kitchen_required
@require_POST
@transaction.atomic
def do(request: KitchenRequest, symptom: str) -> HttpResponse:
    """A move was made: it is written down as by hand."""
    that, form = answer_of(request, symptom), DoForm(request.POST)
    if not form.is_valid():
        raise Http404("no such move")
    data, subject = form.cleaned_data, that.subject
    row = Rescue.objects.for_kitchen(request.kitchen).filter(key=data["key"]).first()
    if row is not None:
        return redirect("rescue:after", pk=row.pk)
    offer = that.offer(data["move"])
    if offer is None:
        messages.error(request, CHANGED)
        return redirect(subject.to("answer", symptom, **that.kept))
    seq = data["seq"] if data["seq"] is not None else 0
    try:
        with transaction.atomic():
            row, fresh = rescue(subject, that.case, that.diagnosis, offer, key=data["key"], expected_seq=seq)
    except BowlChanged:
        messages.error(request, CHANGED)
        return redirect(subject.to("answer", symptom, **that.kept))
    if offer.move == "temper" and subject.bowl is not None:
        return redirect("bowls:temper", pk=subject.bowl.pk)
    if fresh is not None:
        messages.success(request, "This bowl takes its place. What was made from the other one counts.")
        return redirect("bowls:bowl", pk=fresh.pk)
    return redirect("rescue:after", pk=row.pk)
