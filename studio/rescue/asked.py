"""An address of Rescue, read: what is at hand, what is seen, what was looked at, and what is believed of it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from django.http import Http404

from coating.care.diagnosis import SYMPTOMS, Case, Diagnosis, Offer, diagnose
from studio.common.requests import KitchenRequest
from studio.rescue.cases import case_of
from studio.rescue.forms import FactsForm, answers_of
from studio.rescue.known import known_of
from studio.rescue.subject import Subject, subject_of


@dataclass(frozen=True)
class Asking:
    """A symptom of a subject with what is believed of it."""

    subject: Subject
    symptom: str
    answers: Mapping[str, str]
    facts: FactsForm
    case: Case
    diagnosis: Diagnosis

    @property
    def kept(self) -> dict[str, str]:
        """What the address has besides the subject: looks and facts."""
        looks = {f"look-{name}": answer for name, answer in self.answers.items()}
        typed = {name: str(value) for name, value in self.facts.data.items() if name in self.facts.fields and value}
        return {**looks, **typed}

    def offer(self, move: str) -> Offer | None:
        """A move that may be made."""
        return next((offer for offer in self.diagnosis.offers if offer.move == move), None)


def answer_of(request: KitchenRequest, symptom: str) -> Asking:
    """What an address asks. Raises Http404."""
    if symptom not in SYMPTOMS:
        raise Http404("no such sign")
    data = request.GET
    subject, answers = subject_of(request, data), answers_of(data)
    known = known_of(subject)
    facts = FactsForm(data if set(data) & set(FactsForm.base_fields) else None, symptom=symptom, known=known)
    facts.is_valid()
    case = case_of(subject, symptom, answers, facts)
    return Asking(subject, symptom, answers, facts, case, diagnose(case))
