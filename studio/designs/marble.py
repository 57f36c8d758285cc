"""The picture of a marbled slab, from numbers alone."""

from __future__ import annotations

import io
from typing import Any

from django import forms
from django.http import HttpResponse
from PIL import Image

from coating.errors import CoatingError
from coating.limits import BOUNDS
from coating.quantities import Measures
from studio.common.measures import read_in
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.throttle import allowed
from studio.common.types import Typed
from studio.designs.kinds import KINDS
from studio.designs.kinds.base import DesignKind
from studio.designs.kinds.marbling import SHOWN, painted

FINER = 2
A_SECOND = 12


class PictureForm(forms.Form):
    """The same fields as a kind of design has, without what the picture does not show."""

    def __init__(self, *args: Any, kind: DesignKind, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields.update({name: kind.form.base_fields[name] for name in kind.pictured})

    def asked(self) -> Typed:
        """What was asked, as the kind takes it."""
        return dict(self.cleaned_data)


def _lab(text: str) -> tuple[float, float, float]:
    names = ("lab_lightness", "lab_chroma", "lab_chroma")
    values = [float(v) for v in text.split(",")]
    if len(values) != 3:
        raise ValueError("a colour has three numbers")
    light, a, b = (BOUNDS[name].check(v, "lab") for name, v in zip(names, values, strict=True))
    return light, a, b


@kitchen_required
def marble_png(request: KitchenRequest) -> HttpResponse:
    """The slab or the bowl in both colours; 422 for what cannot be drawn."""
    if not allowed(f"marble:{request.user.pk}", limit=A_SECOND):
        return HttpResponse(status=429)
    kind = KINDS.get(request.GET.get("kind", ""))
    if kind is None or not kind.pictured:
        return HttpResponse(status=422)
    form = PictureForm(request.GET, kind=kind)
    try:
        labs = [_lab(request.GET.get(name, "")) for name in ("g", "l")]
        with read_in(Measures):  # a picture is asked for in mm, whatever its kitchen reads in
            if not form.is_valid():
                return HttpResponse(status=422)
            values = form.asked()
        surface = kind.surface(values, SHOWN, FINER)
    except (CoatingError, ValueError):
        return HttpResponse(status=422)
    out = io.BytesIO()
    Image.fromarray(painted(surface, labs, FINER)).save(out, "PNG", compress_level=1)
    response = HttpResponse(out.getvalue(), content_type="image/png")
    response["Cache-Control"] = "private, max-age=600"
    return response
