"""Signing up, the five taps and the kitchen page. Log-in, log-out and password reset are Django's own."""

from __future__ import annotations

from contextlib import suppress
from copy import copy
from datetime import timedelta
from typing import Any
from urllib.parse import urlencode

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import authenticate, login
from django.contrib.auth.views import LoginView, PasswordResetView
from django.db import IntegrityError
from django.http import HttpResponse, HttpResponseRedirect
from django.shortcuts import redirect, render
from django.urls import reverse, reverse_lazy
from django.utils.http import url_has_allowed_host_and_scheme

from coating.heat.schools import SCHOOLS
from studio.accounts.actions import say_profile, sign_up
from studio.accounts.asks import card_of, sample_of, take_along
from studio.accounts.forms import ForgottenForm, KitchenForm, LogInForm, SignUpForm
from studio.accounts.models import Kitchen, User
from studio.accounts.profile import QUESTIONS, answers_of, next_question, settings_of
from studio.common import clock
from studio.common.forms import changed_meanwhile
from studio.common.live import LiveView
from studio.common.models import ChangedMeanwhile
from studio.common.requests import KitchenRequest
from studio.common.sending import kitchen_required, sent_once
from studio.common.throttle import HOUR_S, address_of, allowed, too_often
from studio.common.types import Context, Fields

SIGN_UPS_AN_HOUR = 60
RESETS_AN_HOUR, LETTERS_AN_HOUR = 60, 5
WRONG_AN_HOUR = {"name": 60, "address": 120}
SENT_TWICE_WITHIN = timedelta(minutes=10)
_SAMPLE = {
    "what": "biscuit",
    "count": 12,
    "size": "ordinary",
    "depth": "half",
    "colour": "dusk-blue",
    "white": "coating",
}


def sign_up_page(request: KitchenRequest) -> HttpResponse:
    """A new kitchen; a quick card waiting in the signed cookie is kept in it."""
    form = SignUpForm(request.POST or None)
    card = card_of(request)
    if request.method == "POST" and form.is_valid():
        if not allowed(f"sign-up:{address_of(request)}", limit=SIGN_UPS_AN_HOUR, window_s=HOUR_S):
            return too_often(request)
        data = form.cleaned_data
        with suppress(IntegrityError):  # the same was sent at the same moment: looked at again below
            user = sign_up(data["email"], data["password"], kitchen_name=data["kitchen_name"], zone=data["zone"])
            login(request, user, backend=settings.AUTHENTICATION_BACKENDS[1])
            return _asked_first(take_along(request, user.kitchen))
        form = SignUpForm(request.POST)
    if form.has_error("email", "taken") and (known := _sent_before(request)):
        login(request, known)
        return redirect("bowls:list")
    return render(
        request, "accounts/sign_up.html", {"form": form, "card": card}, status=200 if not form.errors else 422
    )


def _sent_before(request: KitchenRequest) -> User | None:
    """Whoever signed up with this very address and password a moment ago: the form was sent twice."""
    typed = {"username": request.POST.get("email", "").strip().lower(), "password": request.POST.get("password", "")}
    known = authenticate(request, **typed)
    return known if isinstance(known, User) and clock.now() - known.joined_at < SENT_TWICE_WITHIN else None


class LogIn(LoginView):
    """Wrong passwords are counted for the pair of name and address (axes), and for each alone over an hour."""

    template_name = "accounts/log_in.html"
    authentication_form = LogInForm

    def form_invalid(self, form: Any) -> HttpResponse:
        who = {"name": User.objects.normal(form.data.get("username", "")), "address": address_of(self.request)}
        counts = [allowed(f"wrong:{who[by]}", limit=most, window_s=HOUR_S) for by, most in WRONG_AN_HOUR.items()]
        return super().form_invalid(form) if all(counts) else too_often(self.request)


class Forgotten(PasswordResetView):
    """A link for a new password. Whoever asks too often for one address is told the same and nothing is sent."""

    form_class = ForgottenForm
    template_name = "accounts/forgotten.html"
    success_url = reverse_lazy("accounts:sent")
    email_template_name = "accounts/reset_mail.txt"
    subject_template_name = "accounts/reset_subject.txt"

    def form_valid(self, form: Any) -> HttpResponse:
        if not allowed(f"reset:{address_of(self.request)}", limit=RESETS_AN_HOUR, window_s=HOUR_S):
            return too_often(self.request)
        if not allowed(
            f"reset:{User.objects.normal(form.cleaned_data['email'])}", limit=LETTERS_AN_HOUR, window_s=HOUR_S
        ):
            return redirect(self.success_url)
        return super().form_valid(form)


def _asked_first(kept: HttpResponseRedirect) -> HttpResponse:
    """The five taps, and then where the maker was going; cookies stay as they were set."""
    kept["Location"] = f"{reverse('accounts:five-taps')}?{urlencode({'onward': kept.url})}"
    return kept


@kitchen_required
def five_taps(request: KitchenRequest) -> HttpResponse:
    """What the kitchen has, a question a tap; the fifth saves, "later" keeps it ordinary."""
    onward = _onward(request)
    answers = answers_of(request.POST if request.method == "POST" else request.GET)
    ahead = next_question(answers)
    if request.method == "POST" and (ahead is None or "later" in request.POST):
        say_profile(request.kitchen, settings_of(answers) if ahead is None else {}, expected=request.kitchen.version)
        if ahead is None:
            messages.success(request, "That is your kitchen. Every amount follows it; change it under its name above.")
        return redirect(onward)
    number, question = ahead or (len(QUESTIONS), QUESTIONS[-1])
    context = {
        "number": number,
        "question": question,
        "of": len(QUESTIONS),
        "answers": answers,
        "onward": onward,
        "last": number == len(QUESTIONS),
        "carried": urlencode({**answers, "onward": onward}),
    }
    return render(request, "accounts/five_taps.html", context)


def _onward(request: KitchenRequest) -> str:
    """Where to go after the five taps: an address of ours that was asked for, or the bowls."""
    address = request.POST.get("onward") or request.GET.get("onward") or ""
    ours = url_has_allowed_host_and_scheme(address, allowed_hosts=None) and address.startswith("/")
    return address if ours else reverse("bowls:list")


def _kitchen_context(kitchen: Kitchen) -> Context:
    """A card for this kitchen: how everything reads in it."""
    return {
        "kitchen": kitchen,
        "school": SCHOOLS[kitchen.melting_school],
        "measures": kitchen.measures,
        **sample_of(_SAMPLE, kitchen),
    }


@kitchen_required
@sent_once
def kitchen_page(request: KitchenRequest) -> HttpResponse:
    """What this kitchen has and how things are done in it."""
    kitchen, status = request.kitchen, 200
    form = KitchenForm(request.POST or None, initial=KitchenForm.initial_of(kitchen))
    if request.method == "POST" and form.is_valid():
        data = dict(form.cleaned_data)
        try:
            say_profile(kitchen, data, expected=data.pop("version"))
            messages.success(request, "Saved. Amounts, tests and times follow it from now on.")
            return redirect("accounts:kitchen")
        except ChangedMeanwhile:
            kitchen = Kitchen.objects.get(pk=kitchen.pk)
            status = changed_meanwhile(form, kitchen.version)
    status = 422 if form.errors and status == 200 else status
    return render(request, "accounts/kitchen.html", {"form": form, **_kitchen_context(kitchen)}, status=status)


class KitchenLive(LiveView):
    """How things would read with what is ticked."""

    part_templates = {
        "answer": "accounts/parts/answer.html",
        "follows": "accounts/parts/follows.html",
        "counter": "accounts/parts/counter.html",
    }

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> KitchenForm:
        return KitchenForm(fields, initial=KitchenForm.initial_of(request.kitchen))

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        draft = copy(request.kitchen)
        for name, value in form.cleaned_data.items():
            setattr(draft, name, value)
        return _kitchen_context(draft)
