"""Tags about a page rather than about amounts: forms that act once, keys that press things."""

from __future__ import annotations

import uuid

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
