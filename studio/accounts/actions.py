"""Verbs that touch several rows: sign up, make a kitchen, say what it has."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from django.db import transaction

from studio.accounts.asks import kitchen_made, thinner_said
from studio.accounts.models import Kitchen, User


@transaction.atomic
def make_kitchen(
    owner: User, *, name: str, zone: str = "UTC", is_demo: bool = False, goes_at: datetime | None = None
) -> Kitchen:
    """A kitchen with a starter cupboard and a few colours to begin with."""
    kitchen = Kitchen.objects.create(owner=owner, name=name, zone=zone, is_demo=is_demo, goes_at=goes_at)
    kitchen_made(kitchen)
    return kitchen


@transaction.atomic
def sign_up(email: str, password: str, *, kitchen_name: str = "", zone: str = "UTC") -> User:
    """A new maker with a kitchen of their own."""
    user = User.objects.create_user(email, password)
    make_kitchen(user, name=kitchen_name or "My kitchen", zone=zone)
    return user


@transaction.atomic
def say_profile(kitchen: Kitchen, values: Mapping[str, Any], *, expected: int) -> None:
    """Set columns of a kitchen; the thinner that is named is in the cupboard from then on. Raises ChangedMeanwhile."""
    for name, value in values.items():
        setattr(kitchen, name, value)
    kitchen.profile_said = True
    kitchen.save_over(expected)
    if "thinner_school" in values:
        thinner_said(kitchen, values["thinner_school"])
