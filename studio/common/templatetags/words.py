"""Sentences on a page: what is to be seen first in them, and what they list."""

from __future__ import annotations

import re
from collections.abc import Iterable

from django import template
from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString

from coating.colour.mixing import Part
from studio.common.melting_says import way_says
from studio.common.templatetags.kitchen import colour_word, measured
from studio.common.words import listed, stress

register = template.Library()

_STRESSED = re.compile(r"(?<![\w*])\*(?=\S)([^*]+?)(?<=\S)\*(?![\w*])")


@register.filter
def times_said(count: int) -> str:
    """How often.

    >>> times_said(1), times_said(2), times_said(5)
    ('once', 'twice', '5 times')
    """
    return {1: "once", 2: "twice"}.get(count, f"{count} times")


@register.filter
def stressed(sentence: str) -> SafeString:
    """Markup of a sentence: *these words* are to be seen first."""
    parts = _STRESSED.split(sentence)  # every other one is stressed
    return format_html_join("", "{}", ((format_html("<em>{}</em>", p) if i % 2 else p,) for i, p in enumerate(parts)))


@register.filter
def parts_listed(parts: Iterable[Part]) -> str:
    """What is stirred in, without the coating it goes into: "*4 drops* blue and *2 drops* red"."""
    return every_part_listed(p for p in parts if not p.ingredient.is_base)


@register.filter
def every_part_listed(parts: Iterable[Part]) -> str:
    """What goes in, coating too: "*20 g* bright white coating and *2 drops* red"."""
    return listed([f"{stress(measured(p))} {colour_word(p.ingredient.title)}" for p in parts])


@register.filter(name="listed")
def listed_words(words: Iterable[str]) -> str:
    """Words as a sentence has them."""
    return listed(list(words))


register.filter(way_says)
