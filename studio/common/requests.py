"""The request as our views see it, for the type checker."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest


class KitchenRequest(HttpRequest):
    """A request with the kitchen of the maker on it (None for nobody), and the cupboard once a view has read it."""

    kitchen: Any
    stock: Any
    shelf: Any
