"""A colour from a photo: send it, tap the spot, tap a white or grey card if there is one in the picture."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import Any

import numpy as np
from django import forms
from django.contrib import messages
from django.http import HttpResponse, HttpResponseRedirect
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST
from numpy.typing import NDArray

from coating.colour.photo import CARDS, PhotoPatch, Seen, colour_in_photo
from coating.colour.words import shade_words
from coating.errors import CoatingError, Unreadable
from studio.bowls.models import Bowl
from studio.colours.models import Photo
from studio.colours.pictures import pixels_of, read_picture
from studio.common.live import LiveView
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required
from studio.common.throttle import takes_files
from studio.common.types import Context, Fields
from studio.cupboard.models import Ingredient

SIZES = [("0.006", "small"), ("0.015", "middling"), ("0.04", "large")]
MARKS = [("spot", "the colour I want"), ("card", "the card")]


class SpotForm(forms.Form):
    """Where the colour is, and where the card, as shares of the picture."""

    x = forms.FloatField(min_value=0, max_value=1, initial=0.5, widget=forms.HiddenInput)
    y = forms.FloatField(min_value=0, max_value=1, initial=0.5, widget=forms.HiddenInput)
    card_x = forms.FloatField(min_value=0, max_value=1, required=False, widget=forms.HiddenInput)
    card_y = forms.FloatField(min_value=0, max_value=1, required=False, widget=forms.HiddenInput)
    drawn = forms.FloatField(min_value=0.002, max_value=0.25, required=False, widget=forms.HiddenInput)
    half = forms.ChoiceField(label="Size of the patch", choices=SIZES, initial="0.015", widget=forms.RadioSelect)
    bowl = forms.IntegerField(required=False, min_value=1, max_value=2**62, widget=forms.HiddenInput)
    ingredient = forms.IntegerField(required=False, min_value=1, max_value=2**62, widget=forms.HiddenInput)
    what = forms.SlugField(required=False, max_length=20, widget=forms.HiddenInput)
    mark = forms.ChoiceField(label="A tap marks", choices=MARKS, initial="spot", widget=forms.RadioSelect)
    card_kind = forms.ChoiceField(
        label="Kind of card",
        choices=[(k, "white paper" if k == "white" else "a grey card") for k in CARDS],
        initial="white",
        widget=forms.RadioSelect,
    )

    def patches(self) -> tuple[PhotoPatch, PhotoPatch | None]:
        """The spot, and the white card beside it or None."""
        data = self.cleaned_data
        half = data.get("drawn") or float(data["half"])
        card = None
        if data.get("card_x") is not None and data.get("card_y") is not None:
            card = PhotoPatch(data["card_x"], data["card_y"], float(data["half"]))
        return PhotoPatch(data["x"], data["y"], half), card


@lru_cache(maxsize=4)
def _pixels(pk: int, _width: int) -> NDArray[np.uint8]:
    return pixels_of(bytes(Photo.objects.values_list("pixels", flat=True).get(pk=pk)))


def _photo(request: KitchenRequest, pk: int) -> Photo:
    photo: Photo = Photo.objects.defer("pixels").get_for(request.kitchen, pk=pk)
    return photo


def _shown(photo: Photo, form: SpotForm) -> Context:
    """What is seen at the (valid) form's spot. Raises CoatingError."""
    spot, card = form.patches()
    seen: Seen = colour_in_photo(
        _pixels(photo.pk, photo.width), spot, card=card, card_kind=form.cleaned_data["card_kind"]
    )
    marks = [
        {
            "what": what,
            "x": p.x * photo.width,
            "y": p.y * photo.height,
            "r": max(4.0, p.half * max(photo.width, photo.height)),
        }
        for what, p in (("spot", spot), ("card", card))
        if p
    ]
    bowl = form.cleaned_data.get("bowl")
    mine = Bowl.objects.for_kitchen(photo.kitchen_id).filter(pk=bowl).first() if bowl else None
    pk = form.cleaned_data.get("ingredient")
    row = Ingredient.objects.for_kitchen(photo.kitchen_id).filter(pk=pk).first() if pk else None
    return {
        "bowl_read": mine,
        "row_read": row,
        "what_read": form.cleaned_data.get("what"),
        "photo": photo,
        "seen": seen,
        "word": shade_words(seen.lab),
        "card": card,
        "marks": marks,
        "lab_text": ",".join(f"{v:.2f}" for v in seen.lab),
        "result": {"lab": list(seen.lab), "uneven": seen.uneven},
    }


@kitchen_required
@takes_files
@require_POST
def send(request: KitchenRequest) -> HttpResponse:
    """Take a picture in: small, upright, for an hour."""
    file = request.FILES.get("picture")
    try:
        if file is None:
            raise Unreadable("Choose a picture first.", field="picture")
        picture = read_picture(file, file.size or 0)
    except CoatingError as refusal:
        from studio.swatches.new import new_page

        return new_page(request, "photo", picture_error=refusal_text(refusal), status=422)
    Photo.forget_old()
    mine = Photo.objects.for_kitchen(request.kitchen).filter(colour=None).order_by("-pk")
    Photo.objects.filter(pk__in=list(mine.values_list("pk", flat=True)[Photo.MOST_A_KITCHEN - 1 :])).delete()
    photo = Photo.objects.create(
        kitchen=request.kitchen,
        pixels=picture.jpeg,
        width=picture.width,
        height=picture.height,
        remarks=picture.remarks,
    )
    given = ((name, request.POST.get(name, "")) for name in ("bowl", "ingredient"))
    query = "".join(f"?{name}={pk}" for name, pk in given if pk.isdecimal() and len(pk) < 19)
    what = request.POST.get("what", "")
    query = query or (f"?what={what}" if re.fullmatch(r"[a-z-]{1,20}", what) else "")
    return redirect(reverse("colours:photo", args=[photo.pk]) + query)


@kitchen_required
def photo_page(request: KitchenRequest, pk: int) -> HttpResponse:
    """The picture to tap on. Without scripts a tap sends the form with where it was."""
    photo = _photo(request, pk)
    form = SpotForm(request.GET if "half" in request.GET else None)
    moved = _moved(request, photo)
    if moved is not None:
        return moved
    shown = form
    if not form.is_valid():
        query = {name: request.GET.get(name, "") for name in ("bowl", "ingredient", "what")}
        shown = SpotForm({"x": 0.5, "y": 0.5, "half": "0.015", "card_kind": "white", "mark": "spot", **query})
        shown.is_valid()
    try:
        context = _shown(photo, shown)
    except CoatingError as refusal:
        context = {"photo": photo, "refusal": refusal_text(refusal)}
    return render(request, "colours/photo.html", {**context, "form": form if form.is_bound else shown})


def _moved(request: KitchenRequest, photo: Photo) -> HttpResponseRedirect | None:
    """A tap without scripts comes as at.x and at.y, in points of the picture."""
    try:
        x, y = (int(request.GET[f"at.{axis}"]) for axis in "xy")
    except (KeyError, ValueError):
        return None
    query = request.GET.copy()
    prefix = "card_" if query.get("mark") == "card" else ""
    query[f"{prefix}x"] = f"{min(max(x / photo.width, 0), 1):.4f}"
    query[f"{prefix}y"] = f"{min(max(y / photo.height, 0), 1):.4f}"
    for name in ("at.x", "at.y"):
        query.pop(name)
    return HttpResponseRedirect(f"{reverse('colours:photo', args=[photo.pk])}?{query.urlencode()}")


@kitchen_required
@require_GET
def picture(request: KitchenRequest, pk: int) -> HttpResponse:
    """The picture itself, for its owner only."""
    photo = Photo.objects.get_for(request.kitchen, pk=pk)
    response = HttpResponse(bytes(photo.pixels), content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=3600"
    response["Content-Disposition"] = "inline"
    return response


class PhotoLive(LiveView):
    """The colour under the tap."""

    part_templates = {role: f"colours/parts/photo_{role}.html" for role in ("answer", "marks", "onward")}

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> SpotForm:
        self.photo = _photo(request, kwargs["pk"])
        return SpotForm(fields)

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        return _shown(self.photo, form)


@kitchen_required
@require_POST
def forget(request: KitchenRequest, pk: int) -> HttpResponse:
    """Delete the picture at once."""
    _photo(request, pk).delete()
    messages.success(request, "The picture is deleted.")
    return redirect("colours:new")
