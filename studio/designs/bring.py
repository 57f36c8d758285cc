"""A maker's own shape: an SVG drawing, or a picture that is traced."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
from django import forms
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST
from numpy.typing import NDArray
from PIL import Image

from coating.errors import CoatingError, Unreadable
from coating.figures.sheet import sheet_of
from coating.shape.areas import Areas
from coating.shape.strokes import Drawing
from coating.shape.svg_import import BYTES, read_svg_apart
from coating.shape.traced import fitted_pixels, traced
from studio.colours.pictures import read_picture
from studio.common.forms import LengthField, NumberField, VersionedForm, WordsField, changed_meanwhile
from studio.common.live import LiveView
from studio.common.measures import refusal_text
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.throttle import takes_files
from studio.common.types import Context, Fields, Typed
from studio.designs.models import Shape
from studio.designs.shapes import areas_from, areas_json

SIDES = [("", "what is dark"), ("yes", "what is light")]


class BringShapeForm(forms.Form):
    """A drawing or picture to bring in."""

    name = WordsField(label="Name", max_length=80, required=False)
    file = forms.FileField(
        label="SVG drawing or picture",
        help_text="A dark shape on a light ground traces best.",
        error_messages={"required": "Choose a file first."},
    )


class ShapeForm(VersionedForm):
    """A shape that was brought in: its name, size and where it is parted."""

    name = WordsField(label="Name", max_length=80)
    width_mm = LengthField("page_mm", label="Width", low=8, high=600)
    threshold = NumberField(
        "reflectance", label="Brightness that parts it", required=False, help_text="0 is black, 1 is white."
    )
    light = forms.ChoiceField(label="Part to use", choices=SIDES, required=False, widget=forms.RadioSelect)
    smooth_px = NumberField("smooth_px", label="Smoothing", initial=1.0, required=False)


@kitchen_required
@takes_files
@sent_once
def bring(request: KitchenRequest) -> HttpResponse:
    """Take a file in: a drawing is read, a picture traced."""
    form = BringShapeForm(request.POST or None, request.FILES or None)
    if request.method == "POST" and form.is_valid():
        try:
            if Shape.objects.for_kitchen(request.kitchen).count() >= Shape.MOST_A_KITCHEN:
                raise Unreadable(f"There are {Shape.MOST_A_KITCHEN} shapes already: forget one first.", field="file")
            shape = _brought(request, form)
            return redirect("designs:shape", pk=shape.pk)
        except CoatingError as refusal:
            form.add_error("file", refusal_text(refusal))
    return render(request, "designs/bring.html", {"form": form}, status=422 if form.errors else 200)


def _brought(request: KitchenRequest, form: BringShapeForm) -> Shape:
    """Raises CoatingError."""
    file = form.cleaned_data["file"]
    name = form.cleaned_data["name"] or (file.name or "").rpartition(".")[0][:80] or "Shape"
    head = file.read(256)
    file.seek(0)
    if b"<" in head[:200] and (b"<svg" in head or b"<?xml" in head or b"<!" in head):
        if (file.size or 0) > BYTES:
            raise Unreadable(f"A drawing may have {BYTES / 1e6:.0f} MB at most.", field="file")
        areas = read_svg_apart(file.read().decode("utf-8", "replace"))
        return Shape.objects.create(
            kitchen=request.kitchen, name=name, areas=areas_json(areas), left_out=list(areas.left_out)
        )
    picture = read_picture(file, file.size or 0)
    grey = _small(picture.jpeg)
    areas = traced(_dots(grey), width_mm=60.0)
    return Shape.objects.create(
        kitchen=request.kitchen,
        name=name,
        areas=areas_json(areas.sized(60.0)),
        picture=grey,
        traced={"v": 1, "threshold": None, "light": False, "smooth_px": 1.0},
    )


def _small(data: bytes) -> bytes:
    """Grey, no larger than is traced, as PNG."""
    image = Image.open(io.BytesIO(data)).convert("L")
    image = image.resize(fitted_pixels(*image.size)) if image.size != fitted_pixels(*image.size) else image
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def _dots(png: bytes) -> NDArray[np.float64]:
    return np.asarray(Image.open(io.BytesIO(png)), dtype=float) / 255


def _areas(shape: Shape, form: ShapeForm) -> Areas:
    """As wide as it is asked for, traced anew where it is a picture. Raises CoatingError."""
    data = form.cleaned_data
    if not shape.picture:
        return areas_from(shape.areas).sized(data["width_mm"])
    smooth = data.get("smooth_px")
    areas = traced(
        _dots(bytes(shape.picture)),
        width_mm=100.0,
        threshold=data.get("threshold"),
        light=bool(data.get("light")),
        smooth_px=1.0 if smooth is None else smooth,
    )
    return areas.sized(data["width_mm"])


def _shown(shape: Shape, areas: Areas) -> Context:
    sheet = sheet_of(Drawing(areas.lines), shape.name, line_mm=0.8, areas=areas.parts)
    wide, high = areas.size_mm
    return {
        "shape": shape,
        "areas": areas,
        "sheet": sheet,
        "wide": wide,
        "high": high,
        "result": {"area_mm2": areas.area_mm2, "parts": len(areas.parts)},
    }


def _first(shape: Shape) -> Typed:
    wide, _ = areas_from(shape.areas).size_mm
    traced = shape.traced or {}
    return {
        "version": shape.version,
        "name": shape.name,
        "width_mm": min(600.0, max(8.0, wide)),
        "threshold": traced.get("threshold"),
        "light": "yes" if traced.get("light") else "",
        "smooth_px": traced.get("smooth_px", 1.0),
    }


@kitchen_required
@sent_once
def shape_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """How it looks, how large, and where a picture is parted."""
    shape: Shape = Shape.objects.get_for(request.kitchen, pk=pk)
    form, status = ShapeForm(request.POST or None, initial=_first(shape)), 200
    areas = areas_from(shape.areas)
    if request.method == "POST" and form.is_valid():
        try:
            data, areas = form.cleaned_data, _areas(shape, form)
            smooth = data.get("smooth_px")
            traced = {
                "v": 1,
                "threshold": data.get("threshold"),
                "light": bool(data.get("light")),
                "smooth_px": 1.0 if smooth is None else smooth,
            }
            shape.name, shape.areas, shape.traced = data["name"], areas_json(areas), traced if shape.picture else {}
            shape.save_over(data["version"])
            messages.success(request, f"{data['name']} is kept: pick it under “yours”.")
            return redirect(reverse("designs:new", args=["run_out"]) + f"?shape=own:{shape.pk}")
        except CoatingError as refusal:
            field = refusal.fields.get("field")
            form.add_error(field if field in form.fields else None, refusal_text(refusal))
        except ChangedMeanwhile:
            shape.refresh_from_db()
            status = changed_meanwhile(form, shape.version)
    status = 422 if form.errors and status == 200 else status
    return render(request, "designs/shape.html", {"form": form, **_shown(shape, areas)}, status=status)


@kitchen_required
@require_POST
def shape_forget(request: KitchenRequest, pk: int) -> HttpResponse:
    """Take a shape off the list; designs keep what was drawn of it."""
    Shape.objects.get_for(request.kitchen, pk=pk).delete()
    return redirect("designs:studio")


class ShapeLive(LiveView):
    """The outline while the threshold moves."""

    part_templates = {"answer": "designs/says/shape.html", "picture": "designs/pictures/shape.html"}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> ShapeForm:
        self.shape: Shape = Shape.objects.get_for(request.kitchen, pk=kwargs["pk"])
        return ShapeForm(fields)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return _shown(self.shape, _areas(self.shape, form))
