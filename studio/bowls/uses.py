"""What this bowl is right for, and how it goes with the others."""

from __future__ import annotations

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.figures.ribbon import RibbonFigure, ribbon_figure
from coating.plan.uses import MARBLES_WITHIN, thicker_by, uses
from studio.bowls.adapters import Desk
from studio.bowls.models import Bowl
from studio.bowls.settled import fetch_events
from studio.bowls.views import desk_of
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.templatetags.kitchen import hexed

OTHERS = 12


def _others(desk: Desk) -> list[tuple[Bowl, float]]:
    """Other bowls in use that flow, with how many times as thick as them this one stands; the nearest first."""
    bowls = Bowl.objects.for_kitchen(desk.kitchen).in_use().exclude(pk=desk.bowl.pk).with_colour().order_by("-pk")
    desks = [Desk.of(b, desk.kitchen, stock=desk.stock) for b in bowls[:OTHERS]]
    fetch_events(desks)
    beside = [(d.bowl, thicker_by(desk.now, d.now)) for d in desks if not d.now.empty]
    known = [(bowl, times) for bowl, times in beside if times is not None]
    return sorted(known, key=lambda pair: max(pair[1], 1 / pair[1]))


def _ribbon(desk: Desk) -> RibbonFigure:
    now = desk.now
    low, high = now.flow_range()
    return ribbon_figure(
        now=(now.flow(), low, high), after=None, now_fill=hexed(now.mixture().lab()), after_fill="", window=None
    )


@kitchen_required
def uses_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """Every technique against the bowl as it stands."""
    desk = desk_of(request, pk)
    if not desk.can_be_used:
        messages.error(request, "There is nothing melted in this bowl to use.")
        return redirect("bowls:bowl", pk=pk)
    found = uses(desk.now)
    context = {
        "bowl": desk.bowl, "now": desk.now, "after": desk.now, "uses": found, "others": _others(desk),
        "right": [u for u in found if u.way == "right"], "ribbon": _ribbon(desk), "thinner": desk.cupboard.thinner,
        "marbles": MARBLES_WITHIN, "number": desk.now.stands_at(),
    }  # fmt: skip
    return render(request, "bowls/uses.html", context)
