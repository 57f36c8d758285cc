"""Signing up and saying what the kitchen has."""

from __future__ import annotations

from zoneinfo import available_timezones

from django import forms
from django.contrib.auth.forms import AuthenticationForm
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError

from studio.accounts.models import User
from studio.common.forms import NumberField, VersionedForm

ZONES = frozenset(available_timezones())


class SignUpForm(forms.Form):
    email = forms.EmailField(label="E-mail", max_length=254)
    password = forms.CharField(
        label="Password",
        max_length=200,
        strip=False,
        widget=forms.PasswordInput(attrs={"autocomplete": "new-password"}),
        help_text="Ten characters or more.",
    )
    kitchen_name = forms.CharField(label="What shall we call your kitchen?", max_length=80, required=False)
    zone = forms.CharField(max_length=64, required=False, widget=forms.HiddenInput(attrs={"data-zone-here": ""}))

    def clean_zone(self) -> str:
        """What the browser says, if we know it."""
        return self.cleaned_data["zone"] if self.cleaned_data["zone"] in ZONES else "UTC"

    def clean_email(self) -> str:
        email = User.objects.normal(self.cleaned_data["email"])
        if User.objects.filter(email=email).exists():
            raise ValidationError("There is a kitchen for this address already. Log in instead.", code="taken")
        return email

    def clean_password(self) -> str:
        validate_password(self.cleaned_data["password"])
        return self.cleaned_data["password"]


class LogInForm(AuthenticationForm):
    error_messages = {
        "invalid_login": "This address and password do not go together.",
        "inactive": "This kitchen is closed.",
    }


class KitchenForm(VersionedForm):
    name = forms.CharField(label="Name of the kitchen", max_length=80)
    room_c = NumberField("room_c", label="Room temperature, °C", help_text="Cool 18, ordinary 21, warm 25.")
    has_thermometer = forms.BooleanField(label="I have a thermometer for chocolate", required=False)
    has_scale = forms.BooleanField(label="I have a kitchen scale", required=False)
    zone = forms.CharField(
        label="Time zone", max_length=64, help_text="Region and city, such as Europe/Lisbon; UTC if you do not mind.",
        widget=forms.TextInput(attrs={"list": "zones", "autocomplete": "off"}),
    )  # fmt: skip

    def clean_zone(self) -> str:
        zone = self.cleaned_data["zone"].replace(" ", "_")
        if zone not in ZONES:
            raise ValidationError("We do not know that time zone. Write it as Region/City.", code="unknown")
        return zone
