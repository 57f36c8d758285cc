"""The rooms of a job that has no piece yet: what each will be good for, and the one thing to do."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import render

from studio.common.requests import KitchenRequest
from studio.pieces.models import Job

GOOD_FOR = {
    "shopping": "Once it has a piece, this page says what to buy, how many packs, and what each piece costs.",
    "inside": "Once it has a piece, this page says what is in it, how long it keeps, and prints its labels.",
    "boxes": "Once it has a piece, this page says which box it fits, how many go in, and how high the lid stands.",
    "choices": "Once it has a piece, this page says what you could do another way, and what that costs or saves.",
}


def empty_room(request: KitchenRequest, job: Job, room: str) -> HttpResponse | None:
    """The page of a room of a job without pieces; None where there are some."""
    if job.pieces.all():
        return None
    return render(request, "pieces/empty.html", {"job": job, "room": room, "good_for": GOOD_FOR[room]})
