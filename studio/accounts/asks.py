"""What an account asks of the rooms: a kitchen is furnished, a card is taken along."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponseRedirect

from studio.common.slot import Hook, Slot
from studio.common.types import Json

kitchen_made: Hook[[Any]] = Hook("a kitchen is new")
thinner_said: Hook[[Any, str]] = Hook("a kitchen thins with the ingredient of this code from now on")
card_of: Slot[[HttpRequest], Json | None] = Slot("the quick card that a visitor has put by")
take_along: Slot[[HttpRequest, Any], HttpResponseRedirect] = Slot("put that card into a kitchen, and where to go then")
sample_of: Slot[[Json, Any], Json] = Slot("what a card says in a kitchen")
