"""Fields that read their bounds from coating.limits, and a renderer with our own markup.

A measured field takes an amount as a maker types it ("6 oz", "3/4 in", "half") and holds it in g, mm or degC.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from dataclasses import replace
from typing import Any, ClassVar, TypeVar

from django import forms
from django.core.exceptions import ValidationError
from django.core.validators import MaxValueValidator, MinValueValidator
from django.forms.renderers import TemplatesSetting
from django.forms.utils import flatatt
from django.http import HttpRequest, QueryDict
from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString

from coating.errors import Unreadable
from coating.flow.grades import GRADES, from_older_scale
from coating.limits import BOUNDS, Bound
from coating.quantities import PIECES, Measures, length_text, mass_text, temperature_text, typed_mass, volume_text
from coating.typed import read_length, read_mass, read_temperature, read_volume
from studio.common.measures import current, refusal_text
from studio.common.names import plain
from studio.common.types import Context, Json

Form = TypeVar("Form", bound=forms.Form)


class HouseRenderer(TemplatesSetting):
    """Our own markup for fields; what a page has dozens of (one-line inputs, lists to choose from, empty lists of
    errors) is written without a template, which takes a tenth of the time."""

    field_template_name = "forms/field.html"
    form_template_name = "forms/form.html"
    SELECT = "django/forms/widgets/select.html"
    INPUTS = frozenset(f"django/forms/widgets/{kind}.html" for kind in ("input", "text", "number", "hidden", "email"))

    def render(self, template_name: str, context: Context, request: HttpRequest | None = None) -> str:
        if template_name in self.INPUTS:
            return _input(context["widget"])
        if template_name == self.SELECT:
            return _select(context["widget"])
        if template_name == "django/forms/errors/list/default.html" and not context["errors"]:
            return ""
        return super().render(template_name, context, request)


def _input(widget: Json) -> SafeString:
    """One-line input, as Django's own template has it."""
    value, attrs = widget["value"], {n: v for n, v in widget["attrs"].items() if v is not False}
    held = "" if value is None else format_html(' value="{}"', value)
    return format_html('<input type="{}" name="{}"{}{}>', widget["type"], widget["name"], held, flatatt(attrs))


def _select(widget: Json) -> SafeString:
    """A list to choose from, as Django's own templates have it."""
    groups = [
        format_html('<optgroup label="{}">{}</optgroup>', name, _options(options)) if name else _options(options)
        for name, options, _ in widget["optgroups"]
    ]
    attrs = {n: v for n, v in widget["attrs"].items() if v is not False}
    return format_html('<select name="{}"{}>{}</select>', widget["name"], flatatt(attrs), SafeString("".join(groups)))


def _options(options: Iterable[Json]) -> SafeString:
    lines = (
        (o["value"], flatatt({n: v for n, v in o["attrs"].items() if v is not False}), o["label"]) for o in options
    )
    return format_html_join("", '<option value="{}"{}>{}</option>', lines)


class WordsField(forms.CharField):
    """A name or a note: what is not seen in it (control and direction characters) is left out. `lines`: several."""

    def __init__(self, *, lines: bool = False, **kwargs: Any) -> None:
        self.lines = lines
        super().__init__(**kwargs)

    def to_python(self, value: Any) -> str:
        return plain(super().to_python(value) or "", lines=self.lines)


class _Bounded:
    bound: Bound

    def _set_up(self, bound: str, kwargs: Json, *, low: float | None, high: float | None) -> None:
        base = BOUNDS[bound]
        self.bound = Bound(base.low if low is None else low, base.high if high is None else high, base.unit, base.what)
        kwargs.setdefault("error_messages", {}).setdefault("invalid", f"{self.bound.what} must be a number.")
        kwargs["error_messages"].setdefault("required", f"{self.bound.what} is missing.")

    def _finish(self, field: forms.Field) -> None:
        message = self.bound.refusal("").message
        field.validators += [MinValueValidator(self.bound.low, message), MaxValueValidator(self.bound.high, message)]
        field.widget.attrs.update({"inputmode": "decimal", "autocomplete": "off"})


class NumberField(_Bounded, forms.FloatField):
    """A number within a bound of the core. A comma is taken for a decimal point."""

    widget = forms.TextInput

    def __init__(self, bound: str, *, low: float | None = None, high: float | None = None, **kwargs: Any) -> None:
        self._set_up(bound, kwargs, low=low, high=high)
        super().__init__(**kwargs)
        self._finish(self)

    def prepare_value(self, value: Any) -> Any:
        """21.0 is shown as 21."""
        return f"{value:g}" if isinstance(value, float) else value

    def to_python(self, value: Any) -> Any:
        if isinstance(value, str):
            value = value.strip().replace(",", ".")
        return super().to_python(value)


class FlowNumberField(NumberField):
    """A label number: typed, or what is known of the label ("wafers", "bar", "chips"), or a reading on the older scale
    ("130 old")."""

    def to_python(self, value: Any) -> Any:
        text = str(value or "").strip().lower()
        named = next((g.number for g in GRADES if g.name == text), None)
        if named is not None:
            return named
        older = re.fullmatch(r"(.+?)\s*(?:old|older|older scale)", text)
        read = super().to_python(older.group(1) if older else value)
        return from_older_scale(read) if older and read is not None else read


class CountField(_Bounded, forms.IntegerField):
    """A whole number within a bound of the core."""

    widget = forms.TextInput

    def __init__(self, bound: str, *, low: float | None = None, high: float | None = None, **kwargs: Any) -> None:
        self._set_up(bound, kwargs, low=low, high=high)
        kwargs["error_messages"]["invalid"] = f"{self.bound.what} must be a whole number."
        super().__init__(**kwargs)
        self._finish(self)
        self.widget.attrs["inputmode"] = "numeric"

    def to_python(self, value: Any) -> Any:
        """5, or "5 drops"."""
        if isinstance(value, str):
            value = re.sub(r"(?<=\d)\s*(drops?|pinch|pinches|pieces?)$", "", value.strip(), flags=re.IGNORECASE)
        return super().to_python(value)


class _MeasuredBound(forms.BoundField):
    """Asks for a keypad of numbers where these are all that is typed."""

    field: MeasuredField

    def build_widget_attrs(self, attrs: Any, widget: Any = None) -> Any:
        built = super().build_widget_attrs(attrs, widget)
        return {**built, "inputmode": "decimal"} if self.field.bare(current()) else built


class MeasuredField(forms.Field):
    """Abstract: an amount typed with its unit, or without and then in the kitchen's.

    `stored` is what is kept so far: a field that still shows it keeps it to the last digit, whatever unit it reads in.
    """

    widget = forms.TextInput
    units: ClassVar[tuple[Measures, ...]] = (Measures(),)
    stored: float | None = None

    def __init__(self, bound: str, *, low: float | None = None, high: float | None = None, **kwargs: Any) -> None:
        base = BOUNDS[bound]
        self.bound = Bound(base.low if low is None else low, base.high if high is None else high, base.unit, base.what)
        kwargs.setdefault("error_messages", {}).setdefault("required", f"{self.bound.what} is missing.")
        super().__init__(**kwargs)
        self.widget.attrs.update({"autocomplete": "off", "autocapitalize": "off"})

    def get_bound_field(self, form: forms.BaseForm, field_name: str) -> forms.BoundField:
        return _MeasuredBound(form, self, field_name)

    def bare(self, measures: Measures) -> bool:
        """Whether a bare number is all that a kitchen need type, no fraction, unit or word."""
        return False

    def read(self, text: str, measures: Measures) -> float:
        """The typed text in SI units or grams; raises a refusal."""
        raise NotImplementedError

    def text(self, value: float, measures: Measures) -> str:
        """The value as this kitchen would type it."""
        raise NotImplementedError

    def prepare_value(self, value: Any) -> Any:
        return self.text(float(value), current()) if isinstance(value, int | float) else value

    def to_python(self, value: Any) -> float | None:
        if value in self.empty_values:
            return None
        if isinstance(value, int | float):
            return float(value)
        text = str(value).strip()
        if self.stored is not None and text in {self.text(self.stored, m) for m in (current(), *self.units)}:
            return self.stored
        try:
            return self.read(text, current())
        except Unreadable as problem:
            raise ValidationError(refusal_text(problem), code="invalid") from problem

    def validate(self, value: Any) -> None:
        super().validate(value)
        if value is not None and not self.bound.low <= value <= self.bound.high:
            low, high = (self.text(v, replace(current(), has_scale=True)) for v in (self.bound.low, self.bound.high))
            code = "min_value" if value < self.bound.low else "max_value"
            raise ValidationError(f"{self.bound.what} must be between {low} and {high}.", code=code)


class MassField(MeasuredField):
    """A mass, held in g. `of` says what is in a spoon of it ("pieces" or "fat"), `bag_g` what a bag holds; `family`
    whose fat it is and `piece_g` what a wafer or a square weighs.

    `as_measured`: shown as this kitchen measures, spoons, wafers and squares where there is no scale.
    """

    units = (Measures("g"), Measures("oz"))

    def __init__(
        self,
        bound: str,
        *,
        of: str = "pieces",
        bag_g: float | None = None,
        as_measured: bool = False,
        family: str = "palm",
        piece_g: float = 0.0,
        **kwargs: Any,
    ) -> None:
        self.of, self.bag_g, self.as_measured = of, bag_g, as_measured
        self.family, self.piece_g = family, piece_g
        super().__init__(bound, **kwargs)

    def read(self, text: str, measures: Measures) -> float:
        bare = measures.mass
        if self.as_measured and not measures.has_scale:
            bare = "tsp" if self.of == "fat" else "piece" if self.bag_g else bare
        piece_g = (self.piece_g or PIECES[self.family][1]) if self.bag_g else None
        return read_mass(text, bare=bare, of=self.of, bag_g=self.bag_g, piece_g=piece_g)

    def text(self, value: float, measures: Measures) -> str:
        if self.as_measured:
            return typed_mass(value, measures, of=self.of, bag_g=self.bag_g, family=self.family, piece_g=self.piece_g)
        return mass_text(value, measures.mass)


class VolumeField(MeasuredField):
    """A volume, held in ml: "15 ml", "1 tbsp", "2 fl oz", "1/4 cup"."""

    units = (Measures(), Measures("oz", length="in"))

    def bare(self, measures: Measures) -> bool:
        return measures.volume == "ml"

    def read(self, text: str, measures: Measures) -> float:
        return read_volume(text, bare="tsp" if measures.volume == "us" else "ml")

    def text(self, value: float, measures: Measures) -> str:
        return volume_text(value, measures.volume, typed=True)


class LengthField(MeasuredField):
    """A length, held in mm."""

    units = (Measures(length="mm"), Measures(length="in"))

    def bare(self, measures: Measures) -> bool:
        return measures.length == "mm"

    def read(self, text: str, measures: Measures) -> float:
        return read_length(text, bare=measures.length)

    def text(self, value: float, measures: Measures) -> str:
        return length_text(value, measures.length)


class TemperatureField(MeasuredField):
    """A temperature, held in degC. `spoken`: words that stand for one, such as "cool"."""

    units = (Measures(temperature="C"), Measures(temperature="F"))

    def __init__(self, bound: str, *, spoken: dict[str, float] | None = None, **kwargs: Any) -> None:
        self.spoken = spoken or {}
        super().__init__(bound, **kwargs)

    def bare(self, measures: Measures) -> bool:
        return not self.spoken

    def read(self, text: str, measures: Measures) -> float:
        said = self.spoken.get(text.lower())
        return read_temperature(text, bare=measures.temperature) if said is None else said

    def text(self, value: float, measures: Measures) -> str:
        return temperature_text(value, measures.temperature)


class ShareField(MeasuredField):
    """A share, held as 0 to 1 and typed as g in 100 g: "33 g", "33", "33 %", or .33."""

    def bare(self, measures: Measures) -> bool:
        return True

    def read(self, text: str, measures: Measures) -> float:
        value = read_mass(text.removesuffix("%").strip() or text, bare="g")
        return value / 100 if value > 1 else value

    def text(self, value: float, measures: Measures) -> str:
        return f"{value * 100:.3g} g"


class KeepsMeasures(forms.BaseForm):
    """Mixin: measured fields know what is kept so far (see `MeasuredField.stored`)."""

    def full_clean(self) -> None:
        for name, field in self.fields.items():
            if isinstance(field, MeasuredField):
                kept = self.initial.get(name)
                field.stored = float(kept) if isinstance(kept, int | float) else None
        super().full_clean()


class VersionedForm(forms.Form):
    """Abstract: carries the version of the row that was opened."""

    version = forms.IntegerField(widget=forms.HiddenInput, min_value=1, max_value=2**31 - 1)

    CHANGED = (
        "Somebody changed this in another window. What you typed is still here: look at the other, then save again."
    )


def sent_again(form: forms.BaseForm, **changed: Any) -> None:
    """Keep what was typed on a bound form, but with other hidden values for the next send."""
    typed = form.data.dict() if isinstance(form.data, QueryDict) else dict(form.data)
    form.data = {**typed, **changed}


def changed_meanwhile(form: forms.BaseForm, version: int) -> int:
    """Say on the form that its row changed, and let the next send go over the new version. Returns 409."""
    form.add_error(None, VersionedForm.CHANGED)
    sent_again(form, version=version)
    return 409


def coded_errors(form: forms.BaseForm) -> dict[str, list[dict[str, str]]]:
    """Errors by field as message and code, for a live answer."""
    return form.errors.get_json_data()


def asked_and_reckoned(make: Callable[[Any], Form], data: Any) -> tuple[Form, Form]:
    """The form as it was asked (with what is wrong in it), and a valid one to reckon with: the same, or as it begins.

    `make` takes data or None. The second is not valid either when nothing can be reckoned at all.
    """
    form = make(data)
    if form.is_valid():
        return form, form
    first = make({name: form.get_initial_for_field(field, name) for name, field in form.fields.items()})
    first.is_valid()
    return form, first
