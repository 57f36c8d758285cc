"""A layer in one line: what it is of, how much of it goes on each, and how it is put on."""

from __future__ import annotations

from typing import Any

from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString

from studio.common.templatetags.kitchen import how_much, mass, millilitres, placed_word, sized
from studio.common.templatetags.page import said
from studio.common.words import lower


def layer_says(line: Any) -> SafeString:
    """The words after the name of what is put on, or the whole line; amounts are marked with what they are."""
    if line["joint"]:
        return _joined(line)
    return _dripped(line) if line["drips"] else _laid(line)


def _one(line: Any, words: str) -> SafeString:
    return said("one", line["layer"].pk, line["one_g"], words)


def _joined(line: Any) -> SafeString:
    layer, joint, one_g = line["layer"], line["joint"], line["one_g"]
    if not (line["told"].takes_coating and one_g):
        return format_html("{}", joint)
    each = _one(line, how_much(one_g, layer.white))
    return format_html("{} with {} · {} each", joint, layer.colour_names, each)


def _dripped(line: Any) -> SafeString:
    layer, drips = line["layer"], line["drips"]
    named = "Drips" if line["told"].drawn else f"{drips['around'].drips} drips"
    top = ", and the top" if layer.parameters.get("flooded") else ""
    white = lower(layer.get_white_display())
    words = f"{named}, about {sized(drips['wanted_mm'])} long, in {layer.colour_names}, {white}{top}"
    return format_html(
        "{} · {} each, {} in all", words, millilitres(drips["volume_ml"]), _one(line, mass(line["one_g"]))
    )


def _laid(line: Any) -> SafeString:
    layer, core_layer, one_g = line["layer"], line["told"], line["one_g"]
    note = layer.parameters.get("note")
    words = (
        line["kind"].title + (f": {note}" if note else "") + (f" of {lower(layer.extra.name)}" if layer.extra else "")
    )
    if core_layer.takes_coating:
        words += f" in {layer.colour_names}, {lower(layer.get_white_display())}"
    parts: list[Any] = [words]
    if one_g:
        parts.append(
            format_html(
                "{} each", _one(line, how_much(one_g, layer.white) if core_layer.takes_coating else mass(one_g))
            )
        )
    if core_layer.placed:
        parts.append(placed_word(core_layer.placed))
    return format_html_join(" · ", "{}", ((part,) for part in parts))
