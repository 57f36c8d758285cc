"""How long a kitchen's hands take over one of a technique: what is assumed, until its maker says otherwise."""

from __future__ import annotations

from typing import Any

from django import forms
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render

from coating.techniques import TECHNIQUES
from studio.accounts.models import Kitchen
from studio.common.forms import NumberField, VersionedForm, changed_meanwhile
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required


class HandsForm(VersionedForm):
    """Seconds for one, by technique; empty: as assumed."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name, kind in TECHNIQUES.items():
            self.fields[name] = NumberField("hands_s", label=kind.title, required=False)
            self.fields[name].widget.attrs["placeholder"] = f"{kind.hands_s:g}"

    def paces(self) -> dict[str, float]:
        """What was said."""
        return {name: self.cleaned_data[name] for name in TECHNIQUES if self.cleaned_data.get(name) is not None}

    def rows(self) -> list[forms.BoundField]:
        """A field for each technique, by its name."""
        return sorted((self[name] for name in TECHNIQUES), key=lambda field: str(field.label))


@kitchen_required
def hands_page(request: KitchenRequest) -> HttpResponse:
    """The day is planned with these seconds."""
    kitchen, status = request.kitchen, 200
    form = HandsForm(request.POST or None, initial={**kitchen.paces, "version": kitchen.version})
    if request.method == "POST" and form.is_valid():
        try:
            kitchen.paces = form.paces()
            kitchen.save_over(form.cleaned_data["version"])
            messages.success(request, "Saved. Days are planned with these from now on.")
            return redirect("accounts:hands")
        except ChangedMeanwhile:
            status = changed_meanwhile(form, Kitchen.objects.get(pk=kitchen.pk).version)
    status = 422 if form.errors and status == 200 else status
    return render(request, "accounts/hands.html", {"form": form, "said": len(kitchen.paces)}, status=status)
