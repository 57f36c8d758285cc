"""Makers and their kitchens for tests."""

from __future__ import annotations

import json
import uuid
from typing import Any

from django.test import Client

from coating.techniques.measures import DENSITY
from studio.accounts.actions import sign_up
from studio.accounts.models import Kitchen, User
from studio.bowls.actions import begin_bowl
from studio.bowls.models import Bowl
from studio.colours.models import Colour
from studio.cupboard.models import Ingredient
from studio.pieces.adapters import colour_needs
from studio.pieces.models import Job, Layer, Piece
from studio.pieces.stacks import dipped, dripped, keep_piece

PASSWORD = "a long enough password"


def maker(email: str = "maker@example.org") -> tuple[User, Kitchen, Client]:
    """A signed-up maker with a kitchen and a logged-in client."""
    user = sign_up(email, PASSWORD)
    client = Client()
    client.force_login(user, backend="django.contrib.auth.backends.ModelBackend")
    return user, user.kitchen, client


def half_dip(kitchen: Kitchen, *, colour: str = "Dusk blue", white: str = "coating", count: int = 24) -> Piece:
    """A job with one piece, half dipped."""
    job = Job.objects.create(kitchen=kitchen, name="Comet night")
    shade = Colour.objects.get(kitchen=kitchen, name=colour)
    return keep_piece(
        job,
        dipped(
            "Comet biscuits", count, diameter_mm=60.0, thickness_mm=8.0, share=0.5, white=white, colour=shade, spares=2
        ),
    )


def cake_drip(kitchen: Kitchen, *, job: Job | None = None) -> Piece:
    """A job with one cake, drips of 40 mm down its side."""
    job = job or Job.objects.create(kitchen=kitchen, name="Comet night")
    colour = Colour.objects.get(kitchen=kitchen, name="Dusk blue")
    drips = {"wall": "chilled", "length_mm": 40.0, "width_mm": 9.0, "spacing_mm": 28.0}
    return keep_piece(
        job, dripped("Observatory cake", 1, diameter_mm=150.0, height_mm=100.0, white="coating", colour=colour, **drips)
    )


def bowl_for(piece: Piece) -> Bowl:
    """An empty bowl for the piece."""
    need = colour_needs(Job.objects.whole(piece.kitchen, piece.job_id), piece.kitchen)[0]
    return begin_bowl(
        piece.kitchen,
        name=need.name,
        technique=need.technique,
        white=need.white,
        colour=need.colour,
        job=piece.job,
        layers=need.grams(),
    )


def drawn_g(layer: Layer) -> float:
    """What a layer puts on one piece by its design, g."""
    return float(layer.parameters["drawn"]["ml"]) * DENSITY / 1000


def add(kitchen: Kitchen, **amounts: float) -> dict[str, str]:
    """Form fields that add ingredients by code."""
    rows = {r.code: r.pk for r in Ingredient.objects.filter(kitchen=kitchen)}
    return {f"add-{rows[code]}": str(value) for code, value in amounts.items()}


def step(bowl: Bowl, **fields: Any) -> dict[str, Any]:
    """What "I did this" sends."""
    bowl.refresh_from_db()
    return {"seq": bowl.last_seq, "key": str(uuid.uuid4()), **fields}


def live(client: Client, url: str, fields: dict[str, Any], number: int = 1) -> Any:
    """A live question."""
    body = json.dumps({"request": number, "fields": {k: str(v) for k, v in fields.items()}})
    return client.post(url, body, content_type="application/json")


def topped(piece: Piece) -> None:
    """Toppings on what is dipped, while it is wet."""
    layer = piece.layers.get()
    layer.pk, layer.technique, layer.colour, layer.order = None, "topping", None, 2
    layer.parameters = {"v": 2, "placed": "wet", "count": 2}
    layer.save()
