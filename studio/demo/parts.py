"""Made-up values for the page that shows every part of the look."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from coating.figures.ribbon import ribbon_figure
from coating.flow.trade_number import flow_from_number
from coating.flow.windows import window
from studio.common.types import Context
from studio.pieces.forms import JobForm


def sample_parts() -> Context:
    """Context of the parts page."""
    flows = {n: flow_from_number(n) for n in (38, 45, 52, 60, 70)}
    form = JobForm({"name": "", "due_on": "someday"}, fresh=True)
    form.is_valid()
    return {
        "form": form,
        "ribbon": ribbon_figure(
            now=(flows[60], flows[52], flows[70]),
            after=(flows[45], flows[38], flows[52]),
            now_fill="#93b8b7",
            after_fill="#8fb0c8",
            window=window("dip"),
        ),
        "now_lab": (71, -12, -8),
        "after_lab": (69, -9, -16),
        "target_lab": (68, -8, -17),
        "window": window("dip"),
    }


def parts(request: HttpRequest) -> HttpResponse:
    """Every part of the look on one page; development only."""
    return render(request, "parts.html", sample_parts())
