"""Verbs that touch several rows: sign up, make a kitchen."""

from __future__ import annotations

from datetime import datetime

from django.db import transaction

from studio.accounts.models import Kitchen, User
from studio.cupboard.actions import fill_cupboard
from studio.pieces.actions import lay_out_colours


@transaction.atomic
def make_kitchen(
    owner: User, *, name: str, zone: str = "UTC", is_demo: bool = False, goes_at: datetime | None = None
) -> Kitchen:
    """A kitchen with a starter cupboard and a few colours to begin with."""
    kitchen = Kitchen.objects.create(owner=owner, name=name, zone=zone, is_demo=is_demo, goes_at=goes_at)
    fill_cupboard(kitchen)
    lay_out_colours(kitchen)
    return kitchen


@transaction.atomic
def sign_up(email: str, password: str, *, kitchen_name: str = "", zone: str = "UTC") -> User:
    """A new maker with a kitchen of their own."""
    user = User.objects.create_user(email, password)
    make_kitchen(user, name=kitchen_name or "My kitchen", zone=zone)
    return user
