"""Photos of makers: read in a process of its own, upright, in two sizes, nothing but pixels; for their maker only."""

from __future__ import annotations

import os
from typing import Any

from django import forms
from django.contrib import messages
from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.http import FileResponse, Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from coating.apart import apart
from coating.errors import CoatingError, Unreadable
from studio.accounts.models import Kitchen
from studio.bowls.models import Bowl
from studio.colours.pictures import LIMITS, MOST_BYTES, TOO_HARD, Picture, pictures_of
from studio.common import clock
from studio.common.forms import WordsField
from studio.common.measures import refusal_text
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.throttle import takes_files
from studio.common.words import many
from studio.notebook.models import KeptPhoto, folder_of
from studio.pieces.models import Job, Piece

LARGE, SMALL = 2000, 480  # px at the longest side
MOST_AT_ONCE = 24


class PhotoWordsForm(forms.Form):
    """What is to be seen on a photo, and of what it is."""

    words = WordsField(label="What is on it", max_length=200, required=False)
    of = forms.ChoiceField(label="Photo of", required=False)

    def __init__(self, *args: Any, choices: list[tuple[str, str]], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["of"].choices = choices  # type: ignore[attr-defined]


def keep_photo(kitchen: Kitchen, file: UploadedFile, **of: Any) -> KeptPhoto:
    """A photo of a job, a piece, a bowl or an ingredient. Raises CoatingError with what to do instead."""
    if KeptPhoto.objects.for_kitchen(kitchen).count() >= KeptPhoto.MOST_A_KITCHEN:
        raise Unreadable(f"There are {KeptPhoto.MOST_A_KITCHEN} photos already: delete some first.", field="photos")
    if (file.size or 0) > MOST_BYTES:
        raise Unreadable("That picture is over 50 MB. Send it smaller.", field="photos")
    file.seek(0)
    large, small = apart(
        pictures_of, file.read(MOST_BYTES), (LARGE, SMALL), limits=LIMITS, too_much=TOO_HARD, field="photos"
    )
    return keep_pictures(kitchen, large, small, **of)


def keep_pictures(kitchen: Kitchen, large: Picture, small: Picture, **of: Any) -> KeptPhoto:
    """Both sizes as files, and their row; neither without the other."""
    values = {"taken_at": clock.now(), "remarks": large.remarks} | of
    photo = KeptPhoto(kitchen=kitchen, width=large.width, height=large.height, **values)
    try:
        keep_files(photo, large, small)
        photo.save(force_insert=True)
    except BaseException:
        remove_files(photo)
        raise
    return photo


def keep_files(photo: KeptPhoto, large: Picture, small: Picture) -> None:
    """Both sizes, for the account of the site alone."""
    folder_of(photo.kitchen_id).mkdir(mode=0o700, parents=True, exist_ok=True)
    for size, picture in (("large", large), ("small", small)):
        with open(photo.path(size), "xb", opener=_own) as out:
            out.write(picture.jpeg)


def _own(path: str, flags: int) -> int:
    return os.open(path, flags, 0o600)


def remove_files(photo: KeptPhoto) -> None:
    """Both files are gone for good."""
    for size in KeptPhoto.SIZES:
        photo.path(size).unlink(missing_ok=True)


def photo_gone(instance: KeptPhoto, **_: Any) -> None:
    """Its row was deleted, by hand or with what it belonged to: once that is certain, its files go."""
    transaction.on_commit(lambda: remove_files(instance))


# -- pages ---------------------------------------------------------------------------------------------------------
@kitchen_required
@takes_files
@require_POST
@sent_once
def photos_add(request: KitchenRequest, pk: int) -> HttpResponse:
    """Photos of a job, several at once. A script sends them one by one and gets JSON."""
    job = Job.objects.get_for(request.kitchen, pk=pk)
    kept, refusals = keep_all(request, job)
    if request.headers.get("Accept", "").startswith("application/json"):
        return JsonResponse({"kept": len(kept), "message": " ".join(refusals)}, status=422 if refusals else 200)
    for refusal in refusals:
        messages.error(request, refusal)
    if kept:
        messages.success(request, f"{many(len(kept), 'photo')} kept.")
    return redirect("notebook:evening", pk=pk)


def keep_all(request: KitchenRequest, job: Job) -> tuple[list[KeptPhoto], list[str]]:
    """Every photo that was sent, and what is said of those that cannot be kept."""
    kept, refusals = list[KeptPhoto](), list[str]()
    files = request.FILES.getlist("photos")
    if len(files) > MOST_AT_ONCE:
        refusals.append(f"{MOST_AT_ONCE} photos at once: send the others after these.")
    for file in files[:MOST_AT_ONCE]:
        try:
            kept.append(keep_photo(request.kitchen, file, job=job))
        except CoatingError as refusal:
            refusals.append(f"{file.name}: {refusal_text(refusal)}")
    return kept, refusals


@kitchen_required
@require_GET
def photo_file(request: KitchenRequest, uid: Any, size: str) -> Any:
    """One of its files, for its maker only."""
    photo: KeptPhoto = KeptPhoto.objects.get_for(request.kitchen, uid=uid)
    try:
        file = open(photo.path(size), "rb")  # noqa: SIM115 (closed by the response)
    except OSError as gone:
        raise Http404("its file is gone") from gone
    response = FileResponse(file, content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=604800, immutable"
    response["Content-Disposition"] = "inline"
    return response


@kitchen_required
def photo_page(request: KitchenRequest, uid: Any) -> HttpResponse:
    """One photo, large: what is on it, and the button that deletes it."""
    rows = KeptPhoto.objects.select_related("job", "piece", "bowl", "ingredient")
    photo: KeptPhoto = rows.get_for(request.kitchen, uid=uid)
    choices = _choices(photo)
    form = PhotoWordsForm(request.POST or None, choices=choices, initial={"words": photo.words, "of": _of(photo)})
    if request.method == "POST" and request.POST.get("what") == "delete":
        photo.delete()
        messages.success(request, "The photo is deleted.")
        return redirect(back_of(photo))
    if request.method == "POST" and form.is_valid():
        _say(photo, form.cleaned_data)
        messages.success(request, "Saved.")
        return redirect("notebook:photo", uid=photo.uid)
    context = {"photo": photo, "form": form, "back": back_of(photo)}
    return render(request, "notebook/photo.html", context, status=422 if form.errors else 200)


def back_of(photo: KeptPhoto) -> str:
    """The page it is on."""
    if photo.job_id:
        return reverse("notebook:evening", args=[photo.job_id])
    if photo.bowl_id:
        return reverse("bowls:bowl", args=[photo.bowl_id])
    return reverse("cupboard:edit", args=[photo.ingredient_id]) if photo.ingredient_id else reverse("notebook:all")


def _choices(photo: KeptPhoto) -> list[tuple[str, str]]:
    """What it can be of: the evening, its pieces, its bowls."""
    if photo.job is None:
        return [("", "as it is")]
    pieces = [(f"piece-{pk}", name) for pk, name in Piece.objects.filter(job=photo.job).values_list("pk", "name")]
    bowls = [(f"bowl-{pk}", f"the bowl {name}") for pk, name in photo.job.bowls.values_list("pk", "name")]
    return [("", "the whole evening"), *pieces, *bowls]


def _of(photo: KeptPhoto) -> str:
    return f"piece-{photo.piece_id}" if photo.piece_id else f"bowl-{photo.bowl_id}" if photo.bowl_id else ""


def _say(photo: KeptPhoto, data: Any) -> None:
    """What is on it, as it was said."""
    what, _, pk = data["of"].partition("-")
    photo.words = data["words"]
    if photo.job is not None:
        photo.piece = Piece.objects.filter(job=photo.job, pk=pk).first() if what == "piece" else None
        photo.bowl = Bowl.objects.filter(job=photo.job, pk=pk).first() if what == "bowl" else None
    photo.save(update_fields=["words", "piece", "bowl"])
