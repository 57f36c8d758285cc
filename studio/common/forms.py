"""Fields that read their bounds from coating.limits, and a renderer with our own markup."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.validators import MaxValueValidator, MinValueValidator
from django.forms.renderers import TemplatesSetting
from django.http import QueryDict

from coating.limits import BOUNDS, Bound


class HouseRenderer(TemplatesSetting):
    field_template_name = "forms/field.html"
    form_template_name = "forms/form.html"


def _range_message(bound: Bound) -> str:
    unit = f" {bound.unit}" if bound.unit else ""
    return f"{bound.what} must be between {bound.low:g} and {bound.high:g}{unit}."


class _Bounded:
    bound: Bound

    def _set_up(self, bound: str, kwargs: dict[str, Any], *, low: float | None, high: float | None) -> None:
        base = BOUNDS[bound]
        self.bound = Bound(base.low if low is None else low, base.high if high is None else high, base.unit, base.what)
        kwargs.setdefault("error_messages", {}).setdefault("invalid", f"{self.bound.what} must be a number.")
        kwargs["error_messages"].setdefault("required", f"{self.bound.what} is missing.")

    def _finish(self, field: forms.Field) -> None:
        message = _range_message(self.bound)
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


class CountField(_Bounded, forms.IntegerField):
    """A whole number within a bound of the core."""

    widget = forms.TextInput

    def __init__(self, bound: str, *, low: float | None = None, high: float | None = None, **kwargs: Any) -> None:
        self._set_up(bound, kwargs, low=low, high=high)
        kwargs["error_messages"]["invalid"] = f"{self.bound.what} must be a whole number."
        super().__init__(**kwargs)
        self._finish(self)
        self.widget.attrs["inputmode"] = "numeric"


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
