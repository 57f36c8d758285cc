"""The one live endpoint: JSON in, the page's own form, the core, pieces of the page out. It never writes."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.http import HttpResponse, JsonResponse
from django.template.loader import render_to_string
from django.views import View

from coating.errors import CoatingError, Unreadable
from studio.common.brought import strict_json
from studio.common.forms import coded_errors
from studio.common.measures import current, read_in, refusal_text
from studio.common.requests import KitchenRequest
from studio.common.throttle import address_of, allowed
from studio.common.types import Context, Fields


def _refusal(status: int, message: str, **more: Any) -> JsonResponse:
    return JsonResponse({"message": message, **more}, status=status)


MOST_NUMBER = 2**53  # what a browser counts to


class LiveView(View):
    """Subclasses say which form, what it means, and which templates draw it.

    The request is {"request": n, "fields": {...}}; the answer repeats n so that a late one can be dropped. Parts are
    rendered templates by role; `result` is the typed answer.
    """

    http_method_names = ["post"]
    part_templates: dict[str, str] = {}
    needs_kitchen = True

    def make_form(self, request: KitchenRequest, fields: Fields, **kwargs: Any) -> Any:
        """The form with what the page has at this moment."""
        raise NotImplementedError

    def make_context(self, request: KitchenRequest, form: Any, **kwargs: Any) -> Context:
        """What the templates need; `result` in it is sent as it is."""
        raise NotImplementedError

    def more_parts(self, context: Context) -> dict[str, str]:
        """Rendered parts of which there are as many as there are things."""
        return {}

    def post(self, request: KitchenRequest, **kwargs: Any) -> HttpResponse:
        """The parts of the page with what is typed, or the refusal at its field."""
        if self.needs_kitchen and not request.kitchen:
            return _refusal(401, "You were logged out. Log in in another window; what you typed stays here.")
        who = str(request.user.pk or address_of(request))
        if not allowed(f"live:{who}", limit=settings.LIVE_PER_SECOND):
            return _refusal(429, "One moment: too many changes at once.")
        if len(request.body) > settings.LIVE_BYTES:
            return _refusal(413, "That is too much at once.")
        try:
            sent = strict_json(request.body)
            number, fields = sent["request"], dict(sent["fields"])
            if not isinstance(number, int) or isinstance(number, bool) or abs(number) >= MOST_NUMBER:
                raise TypeError
        except (Unreadable, ValueError, KeyError, TypeError):
            return _refusal(400, "This page sent something unreadable. Load it again.")
        fields = {str(k): v if isinstance(v, str) else "" for k, v in fields.items()}
        form = self.make_form(request, fields, **kwargs)
        if not form.is_valid():
            return _refusal(422, "Look at the marked field.", request=number, errors=coded_errors(form))
        try:
            context = {"measures": current(), **self.make_context(request, form, **kwargs)}
        except CoatingError as refusal:
            return _refusal(422, refusal_text(refusal), request=number, errors={}, code=refusal.code)
        with read_in(lambda: context["measures"]):
            parts: dict[str, str] = {
                role: render_to_string(template, context) for role, template in self.part_templates.items()
            }
            parts |= self.more_parts(context)
        return JsonResponse({"request": number, "result": context.get("result", {}), "parts": parts})
