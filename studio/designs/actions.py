"""Verbs of designs: keep one, draw it anew when what it is for was changed."""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import suppress
from typing import Any

from django.db import transaction

from coating.errors import CoatingError
from coating.techniques import technique as technique_called
from coating.techniques.base import LINE
from studio.common.measures import refusal_text
from studio.common.types import Json, Typed
from studio.cupboard.tones import Tone, tones_in
from studio.designs.kinds import KINDS
from studio.designs.kinds.base import DesignForm, DesignKind, Worked
from studio.designs.models import Design
from studio.designs.place import Place
from studio.pieces.models import Layer, Piece

_OF_THE_PIECE = ("diameter_mm", "height_mm", "width_mm")


@transaction.atomic
def keep(place: Place, kind: str, name: str, values: Typed, worked: Worked) -> Design:
    """Keep a new design with its drawn numbers; its layer, which has one at most, takes the amounts from it."""
    if place.layer is not None:
        Layer.objects.select_for_update().filter(pk=place.layer.pk).first()  # two windows, one after the other
        Design.objects.filter(layer=place.layer).update(layer=None)
    design = Design(kitchen=place.kitchen, kind=kind)
    _fill(design, place, name, values, worked)
    design.save()
    if place.layer is not None:
        feed(place.layer, design.drawn)
    return design


@transaction.atomic
def keep_over(design: Design, expected: int, place: Place, name: str, values: Typed, worked: Worked) -> None:
    """Keep a design that was changed. Raises ChangedMeanwhile."""
    _fill(design, place, name, values, worked)
    design.save_over(expected)
    if place.layer is not None:
        feed(place.layer, design.drawn)


def _fill(design: Design, place: Place, name: str, values: Typed, worked: Worked) -> None:
    design.name, design.layer, design.white = name, place.layer, place.white
    design.colour, design.base = place.tone.colour, place.tone.base
    fits = KINDS[design.kind].fits(place) if place.layer else {}
    design.asked, design.drawn, design.stale = values, {**worked.drawn(), "of_piece": fits}, ""
    design.one = dict(worked.one)


def feed(layer: Layer, drawn: Json) -> None:
    """A layer keeps what its design drew of one piece: how much, how long and wide, and how much film it takes. What
    that weighs is reckoned."""
    pieces = drawn["pieces"]
    parameters = {**layer.parameters, **drawn["of_layer"]}
    parameters.pop("goes_on_g", None)
    if technique_called(layer.technique).measured == LINE and drawn["length_mm"] > 0:
        parameters |= {"length_mm": round(drawn["length_mm"] / pieces, 1), "width_mm": round(drawn["line_mm"], 2)}
    if drawn.get("also") or "also" in parameters:
        parameters["also"] = drawn.get("also", [])
    parameters.pop("others", None)
    if others := _others(layer, drawn, tones_in(layer.kitchen)):
        parameters["others"] = others
    if drawn.get("films"):
        parameters["sheets"] = drawn["films"] / pieces
    Layer.objects.filter(pk=layer.pk).update(parameters=parameters)


def _others(layer: Layer, drawn: Json, tones: Mapping[str, Tone]) -> list[Json]:
    """Further colours, each once, with their share; what is of the layer's own colour is no other."""
    others: dict[str, Json] = {}
    for other in drawn.get("others", []):
        key = other["of"] if "of" in other else str(other["colour"] or "")
        share = other["g"] / drawn["goes_on_g"] if drawn["goes_on_g"] else 0.0
        tone = tones.get(key)
        if tone is None or key == layer.tone.key or share <= 0:
            continue
        pks = {"colour": tone.colour.pk if tone.colour else None, "base": tone.base.pk if tone.base else None}
        one = others.setdefault(key, {**pks, "share": 0.0, "depth_g": 0.0})
        one["share"], one["depth_g"] = one["share"] + share, max(one["depth_g"], other["depth_g"])
    return list(others.values())


def drawn_anew(piece: Piece) -> None:
    """Draw the designs of a piece that was kept again, for its size of now; what cannot be says why and stays."""
    for design in Design.objects.filter(layer__piece=piece).select_related("layer__piece", "colour", "base"):
        assert design.layer is not None
        kind = KINDS[design.kind]
        place = Place.of(piece.kitchen, design.layer)
        values = _followed(design, kind, place)
        try:
            worked = kind.work(values, place)
        except CoatingError as refusal:
            Design.objects.filter(pk=design.pk).update(stale=refusal_text(refusal)[:300])
            continue
        drawn = {**worked.drawn(), "of_piece": kind.fits(place)}
        feed(design.layer, drawn)
        Design.objects.filter(pk=design.pk).update(
            asked=values, drawn=drawn, one=dict(worked.one), stale="", version=design.version + 1
        )


def _followed(design: Design, kind: DesignKind, place: Place) -> Typed:
    """What was asked, with the sizes that were those of its piece as they are now; what was said otherwise stays. Of
    one that was kept before that was known the sizes of a piece follow where they are of that by nature."""
    now, values = kind.fits(place), design.asked
    was = design.drawn.get("of_piece")
    if was is None:
        was = {n: values.get(n) for n in _OF_THE_PIECE if not kind.lifts_off}
    follows = {n: mm for n, mm in now.items() if n in values and n in was and values[n] == was[n]}
    return {**values, **follows}


def brought(layer: Layer, design: Mapping[str, Any]) -> None:
    """Draw a design that came in a file; one that cannot be drawn here is left out, its layer keeps its amounts."""
    kind = KINDS.get(design["kind"])
    if kind is None or layer.technique not in kind.techniques:
        return
    place = Place.of(layer.kitchen, layer)
    form = form_of(place, kind, design)
    if form.is_valid():
        with suppress(CoatingError):
            keep(place, kind.name, form.cleaned_data["name"], form.asked(), kind.work(form.asked(), place))


def form_of(place: Place, kind: DesignKind, design: Mapping[str, Any]) -> DesignForm:
    """The form of a design that is told: what is not asked of it is as it begins."""
    known = {n: v for n, v in design["asked"].items() if n in kind.asks and n not in kind.colours}
    known |= {n: tone.key for n, tone in design["tones"].items() if n in kind.colours}
    begun = {n: v for n, v in kind.first(place).items() if v is not None}
    values = {**begun, **known, "name": design["name"], "layer": place.layer.pk if place.layer else "", "version": 0}
    return kind.form(values, place=place, colours=colours_of(place))


def colours_of(place: Place) -> list[tuple[str, str]]:
    """What a design can be of besides plain: keys and names."""
    return [(key, tone.base.as_bought if tone.base else tone.name) for key, tone in place.tones.items() if key]
