"""Tags about a page rather than about amounts: forms that act once, keys that press things."""

from __future__ import annotations

import uuid
from typing import Any

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString

register = template.Library()


@register.simple_tag
def once() -> SafeString:
    """A hidden key: the form that carries it acts once, however often it is sent."""
    return format_html('<input type="hidden" name="key" value="{}">', uuid.uuid4())


@register.simple_tag
def key(letter: str | int, name: str = "") -> SafeString:
    """Attributes of a link or button that one key presses; `name` where its own words do not say what it does."""
    pressed = format_html('data-key="{0}" aria-keyshortcuts="{0}"', letter)
    return format_html('{} data-key-name="{}"', pressed, name) if name else pressed


@register.simple_tag
def said(what: str, of: Any, value: float, words: str) -> SafeString:
    """An amount in words, marked with what it is, of what, and its value: whatever says it can be compared."""
    return format_html('<span data-of="{} {}" data-value="{}">{}</span>', what, of, f"{value or 0.0:.4f}", words)


@register.filter
def counted_here(counting: dict[str, str] | None, row: Any) -> dict[str, str]:
    """The count that was typed for this piece or family and could not be kept, and why not; nothing for another."""
    what = type(row).__name__.lower()
    return counting if counting and counting[what] == str(row.pk) else {}
