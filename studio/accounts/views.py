"""Signing up and the kitchen page. Log-in, log-out and password reset are Django's own."""

from __future__ import annotations

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_required
from django.http import HttpResponse
from django.shortcuts import redirect, render

from studio.accounts.actions import sign_up
from studio.accounts.forms import KitchenForm, SignUpForm
from studio.accounts.models import Kitchen
from studio.common.forms import changed_meanwhile
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.throttle import allowed
from studio.quick.actions import keep_card, kept_card

SIGN_UPS_AN_HOUR = 60


def sign_up_page(request: KitchenRequest) -> HttpResponse:
    """A new kitchen; a quick card waiting in the signed cookie is kept in it."""
    form = SignUpForm(request.POST or None)
    card = kept_card(request)
    if request.method == "POST" and form.is_valid():
        if not allowed(f"sign-up:{request.META.get('REMOTE_ADDR')}", limit=SIGN_UPS_AN_HOUR, window_s=3600):
            return render(request, "429.html", status=429)
        data = form.cleaned_data
        user = sign_up(data["email"], data["password"], kitchen_name=data["kitchen_name"], zone=data["zone"])
        login(request, user, backend=settings.AUTHENTICATION_BACKENDS[1])
        return keep_card(request, user.kitchen)
    return render(
        request, "accounts/sign_up.html", {"form": form, "card": card}, status=200 if not form.errors else 422
    )


@login_required
def kitchen_page(request: KitchenRequest) -> HttpResponse:
    """What this kitchen has."""
    kitchen, status = request.kitchen, 200
    names = [n for n in KitchenForm.base_fields if n != "version"]
    form = KitchenForm(request.POST or None, initial={n: getattr(kitchen, n) for n in (*names, "version")})
    if request.method == "POST" and form.is_valid():
        for name in names:
            setattr(kitchen, name, form.cleaned_data[name])
        try:
            kitchen.save_over(form.cleaned_data["version"])
            messages.success(request, "Saved. Amounts, tests and times follow it from now on.")
            return redirect("accounts:kitchen")
        except ChangedMeanwhile:
            status = changed_meanwhile(form, Kitchen.objects.get(pk=kitchen.pk).version)
    status = 422 if form.errors and status == 200 else status
    return render(request, "accounts/kitchen.html", {"form": form}, status=status)
