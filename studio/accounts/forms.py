"""Signing up and saying what the kitchen has."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit
from zoneinfo import available_timezones

from django import forms
from django.conf import settings
from django.contrib.auth.forms import AuthenticationForm, PasswordResetForm
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError

from coating.care import REGIONS
from coating.heat.schools import SCHOOLS
from studio.accounts.models import Kitchen, User
from studio.common.forms import KeepsMeasures, NumberField, TemperatureField, VersionedForm, WordsField
from studio.common.types import Typed

ZONES = frozenset(available_timezones())
ROOMS_C = {"cool": 18.0, "ordinary": 21.0, "warm": 25.0, "hot": 29.0}  # common practice, no source


class SignUpForm(forms.Form):
    """A new maker: address, password and the name of the kitchen."""

    email = forms.EmailField(label="E-mail", max_length=254)
    password = forms.CharField(
        label="Password",
        max_length=200,
        strip=False,
        widget=forms.PasswordInput(attrs={"autocomplete": "new-password"}),
        help_text="Ten characters or more.",
    )
    kitchen_name = WordsField(label="What shall we call your kitchen?", max_length=80, required=False)
    zone = WordsField(max_length=64, required=False, widget=forms.HiddenInput(attrs={"data-zone-here": ""}))

    def clean_zone(self) -> str:
        """What the browser says, if we know it."""
        return self.cleaned_data["zone"] if self.cleaned_data["zone"] in ZONES else "UTC"

    def clean_email(self) -> str:
        """The address as it is kept; refused when there is a kitchen for it."""
        email = User.objects.normal(self.cleaned_data["email"])
        if User.objects.filter(email=email).exists():
            raise ValidationError("There is a kitchen for this address already. Log in instead.", code="taken")
        return email

    def clean_password(self) -> str:
        """The password, if it is good enough."""
        validate_password(self.cleaned_data["password"])
        return self.cleaned_data["password"]


class ForgottenForm(PasswordResetForm):
    """The link in the letter begins with the origin that is configured, not with what the request says of itself."""

    email = forms.EmailField(label="E-mail", max_length=254, widget=forms.EmailInput(attrs={"autocomplete": "email"}))

    def save(self, *args: Any, **words: Any) -> None:
        origin = urlsplit(settings.ORIGIN)
        super().save(*args, **{**words, "domain_override": origin.netloc, "use_https": origin.scheme == "https"})


class LogInForm(AuthenticationForm):
    """Address and password of a maker."""

    error_messages = {
        "invalid_login": "This address and password do not go together.",
        "inactive": "This kitchen is closed.",
    }

    def clean_username(self) -> str:
        """Its length is checked nowhere else before the attempt is noted in a column of that length."""
        if len(self.cleaned_data["username"]) > (self.username_field.max_length or 0):
            raise ValidationError("That address is too long.", code="too_long")
        return self.cleaned_data["username"]


def _yes_no(label: str, yes: str, no: str) -> forms.TypedChoiceField:
    return forms.TypedChoiceField(
        label=label, choices=[("yes", yes), ("no", no)], coerce=lambda v: v == "yes", widget=forms.RadioSelect
    )


def _pick(label: str, choices: Any, help_text: str = "") -> forms.ChoiceField:
    return forms.ChoiceField(label=label, choices=choices, help_text=help_text, widget=forms.RadioSelect)


class KitchenForm(KeepsMeasures, VersionedForm):
    """Everything a kitchen says once; every field has the name of its column."""

    has_scale = _yes_no("You measure with", "a scale", "spoons and by counting")
    has_thermometer = _yes_no("You tell warmth by", "a thermometer", "a dab on the lip")
    power_w = NumberField(
        "oven_w",
        label="Microwave power (watts)",
        required=False,
        help_text="It says so inside its door. Leave blank for an ordinary one.",
    )
    room_c = TemperatureField(
        "room_c",
        label="Room temperature of your kitchen",
        spoken=ROOMS_C,
        help_text="A temperature, or cool, ordinary, warm or hot.",
    )
    has_fridge = _yes_no("A fridge", "there is room in one", "none")
    has_freezer = _yes_no("A freezer", "there is room in one", "none")
    mass_unit = _pick("Weights in", Kitchen.MASSES)
    temperature_unit = _pick("Warmth in", Kitchen.TEMPERATURES)
    length_unit = _pick("Sizes in", Kitchen.LENGTHS)
    melting_school = _pick("You melt", Kitchen.MELTING)
    thinner_school = _pick("You thin a coating with", Kitchen.THINNERS, "Real chocolate takes cocoa butter only.")
    setting_school = _pick("Pieces set", Kitchen.SETTING)
    region = _pick("Rules on colours of", list(REGIONS.items()))
    name = WordsField(label="Kitchen name", max_length=80)
    zone = WordsField(
        label="Time zone",
        max_length=64,
        help_text="Region and city, such as Europe/Lisbon; UTC if you do not mind.",
        widget=forms.TextInput(attrs={"list": "zones", "autocomplete": "off"}),
    )

    def clean_zone(self) -> str:
        """A time zone that is known."""
        zone = self.cleaned_data["zone"].replace(" ", "_")
        if zone not in ZONES:
            raise ValidationError("We do not know that time zone. Write it as Region/City.", code="unknown")
        return zone

    def clean(self) -> Typed:
        data = super().clean() or {}
        setting = data.get("setting_school")
        if setting in ("fridge", "freezer") and data.get(f"has_{setting}") is False:
            self.add_error("setting_school", ValidationError(f"You said there is no {setting}.", code="no_such_place"))
        return data

    def melting_ways(self) -> list[tuple[str, list[Any]]]:
        """The ways of melting, by what they need."""
        picks = list(self["melting_school"])
        on = {"microwave": "Melting in a microwave", "hob": "Melting on the hob"}
        return [(says, [p for p in picks if SCHOOLS[p.data["value"]].heat == heat]) for heat, says in on.items()]

    @staticmethod
    def initial_of(kitchen: Kitchen) -> Typed:
        """What the form shows for a kitchen."""
        values = {n: getattr(kitchen, n) for n in KitchenForm.base_fields}
        return {n: ("yes" if v else "no") if isinstance(v, bool) else v for n, v in values.items()}
