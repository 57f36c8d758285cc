"""The quick card: one page, four taps, no account."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from studio.common.live import LiveView
from studio.common.requests import KitchenRequest
from studio.common.sending import sent_once
from studio.common.types import Context, Fields, Typed
from studio.quick.actions import job_from_card, put_by
from studio.quick.adapters import bags_for, card_context
from studio.quick.forms import QuickForm


def card(request: KitchenRequest) -> HttpResponse:
    """The card for the choices in the address; without any, for twelve."""
    chosen = {**QuickForm.plain(), **{k: v for k, v in request.GET.items() if k in QuickForm.base_fields}}
    form = QuickForm(chosen, bags=bags_for(request.kitchen))
    data = form.cleaned_data if form.is_valid() else _plain_data()
    context = {"form": form, **card_context(data, request.kitchen)}
    return render(request, "quick/card.html", context, status=422 if form.errors else 200)


class CardLive(LiveView):
    """The card while it is tapped."""

    needs_kitchen = False
    part_templates = {
        "answer": "quick/parts/answer.html",
        "picture": "quick/parts/picture.html",
        "steps": "quick/parts/steps.html",
    }

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> QuickForm:
        return QuickForm(fields, bags=bags_for(request.kitchen))

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return card_context(form.cleaned_data, request.kitchen)


@require_POST
@sent_once
def keep(request: KitchenRequest) -> HttpResponse:
    """ "Save this card": into the kitchen, or into the cookie and on to signing up."""
    form = QuickForm(request.POST, bags=bags_for(request.kitchen))
    if not form.is_valid():
        return render(
            request, "quick/card.html", {"form": form, **card_context(_plain_data(), request.kitchen)}, status=422
        )
    if request.kitchen:
        return redirect("bowls:bowl", pk=job_from_card(request.kitchen, form.cleaned_data).pk)
    response = redirect("accounts:sign-up")
    put_by(response, form.cleaned_data)
    return response


def _plain_data() -> Typed:
    form = QuickForm(QuickForm.plain(), bags={})
    form.is_valid()
    return form.cleaned_data
