"""What the page of an answer shows."""

from __future__ import annotations

import uuid

from django.urls import reverse

from coating.care.diagnosis import TABLES, WHERE, Case, Diagnosis, Offer
from coating.care.diagnosis.history_of_pieces import LAID_ON
from coating.care.diagnosis.log import HARMS_C
from coating.care.diagnosis.looks import CANNOT_TELL
from coating.figures.warmth import WarmthFigure, WindowFigure, warmth_figure, window_figure
from coating.heat.melting import CEILING_C
from studio.common.types import Context
from studio.pieces.adapters import colour_needs
from studio.rescue.anew import anew_g
from studio.rescue.asked import Asking
from studio.rescue.at_bench import ends_at
from studio.rescue.says import (
    after_says,
    besides,
    costs_say,
    day_says,
    head_says,
    looks_first,
    move_says,
    notes_say,
    reasons_say,
    this_one_says,
    uses_say,
)
from studio.rescue.spoken.causes import avoid_says
from studio.rescue.spoken.looks import LOOKS, UNSURE
from studio.rescue.spoken.moves import MIND, MOVES, THROWN_AWAY
from studio.rescue.spoken.reasons import Teller
from studio.rescue.spoken.signs import SIGNS
from studio.rescue.subject import Subject

BY_WARMTH = {"overheated", "lumps", "cold", "too_warm", "fat_unmelted", "edge_set", "lost_temper", "thick_product"}
OTHERS = 3
DRAWN = (71.0, -18.0, -20.0)  # a blue that stands out, where nothing has a colour of its own
LIGHT = 86.0


def page_of_answer(that: Asking) -> Context:
    """What the page of an answer shows."""
    subject, case, diagnosis, symptom = that.subject, that.case, that.diagnosis, that.symptom
    teller = Teller(subject.desk.bowl.started_at if subject.desk else None)
    offer, look = diagnosis.move, diagnosis.look
    afresh = that.offer("swap")
    ends = ends_at(subject, offer) if offer else None
    beyond = case.is_burnt or (diagnosis.hopeless and look is None)
    context: Context = {
        "subject": subject,
        "sign": SIGNS[symptom],
        "head": head_says(subject, case, diagnosis),
        "reasons": reasons_say(case, diagnosis, teller),
        "notes": notes_say(subject, case, offer),
        "besides": besides(case, diagnosis, teller),
        "figure": _figure(case, diagnosis),
        "coat": coat_of(subject),
        "offer": offer,
        "offer_words": MOVES[offer.move] if offer else None,
        "move_says": move_says(subject, case, offer) if offer else "",
        "after": after_says(subject, offer, symptom) if offer else "",
        "costs": costs_say(subject, offer, ends) if offer else "",
        "this_one": this_one_says(offer, symptom),
        "mind": MIND.get(offer.move, "") if offer else "",
        "others": [
            (o, MOVES[o.move], move_says(subject, case, o))
            for o in diagnosis.offers[1 : OTHERS + 1]
            if o.utility > 0 and not beyond
        ],
        "avoid": avoid_says(diagnosis.first.cause),
        "why": reverse("rescue:fault", args=[symptom]),
        "only_look": looks_first(diagnosis),
        "look": _look_context(that, look.name) if look else None,
        "spoonfuls": _spoonfuls(that),
        "elsewhere": subject.to("see"),
        "melt_url": _melt_url(subject, offer),
        "beyond": beyond,
        "kept": that.kept,
        "facts": that.facts,
        "key": uuid.uuid4(),
        "can_do": subject.bowl is None or subject.bowl.finished_at is None,
        "do_url": subject.to("do", symptom, **that.kept),
        "self_url": reverse("rescue:answer", args=[symptom]),
        "looked": [(LOOKS[name].says, LOOKS[name].answers.get(said, UNSURE)) for name, said in that.answers.items()],
        "afresh": afresh,
    }
    if beyond and subject.desk is not None:
        context["anew_g"] = anew_g(subject)
        context["day"] = day_says(ends) if ends else ""
        context["uses"] = THROWN_AWAY if case.is_burnt else uses_say(diagnosis.good_for, _darker(subject))
    elif case.is_burnt:
        context["uses"] = THROWN_AWAY
    elif beyond:
        context["uses"] = uses_say(diagnosis.good_for, [])
    return context


def _melt_url(subject: Subject, offer: Offer | None) -> str:
    """Where a bowl is warmed step by step."""
    if offer is None or offer.move != "warm" or subject.bowl is None or subject.bowl.white == "tempered":
        return ""
    return reverse("bowls:melt", args=[subject.bowl.pk])


def _look_context(that: Asking, name: str) -> Context:
    look, words = TABLES.by_look[name], LOOKS[name]

    def to(said: str) -> str:
        return that.subject.to("answer", that.symptom, **{**that.kept, f"look-{name}": said})

    return {
        "says": words.says,
        "minutes": look.minutes,
        "answers": [(words.answers[said], to(said)) for said in look.answers],
        "unsure": to(CANNOT_TELL),
        "unsure_says": UNSURE,
    }


def _spoonfuls(that: Asking) -> Context | None:
    """ "Try it on two spoonfuls", as a look, where that says something and was not tried."""
    look = TABLES.by_look["spoonful_warmed"]
    next_look = that.diagnosis.look
    if that.symptom not in look.asked_for or "spoonful_warmed" in that.answers or that.subject.desk is None:
        return None
    if (next_look is not None and next_look.name == "spoonful_warmed") or that.diagnosis.hopeless:
        return None
    return _look_context(that, "spoonful_warmed")


def _darker(subject: Subject) -> list[str]:
    """Colours of the same job and white that are darker than what is in the bowl, the nearest first."""
    desk, job = subject.desk, subject.job
    if desk is None or job is None or desk.now.empty:
        return []
    lightness = desk.now.mixture().lab()[0]
    needs = [n for n in colour_needs(job, subject.kitchen) if n.white == desk.bowl.white and n.tone.lab]
    darker = [(n.tone.lab[0], n.name) for n in needs if n.tone.lab and n.tone.lab[0] < lightness - 3]
    return [name for _, name in sorted(darker, reverse=True)]


def _figure(case: Case, diagnosis: Diagnosis) -> WarmthFigure | WindowFigure | None:
    """What the history looks like, where its cause is one of warmth or of time."""
    first = diagnosis.first
    figures = first.evidence.figures
    if "since_min" in figures:
        ends = {"release_min": (1.0, None), "touch_min": (LAID_ON, 1.0)}
        since = float(figures["since_min"])
        for name, (begins, until) in ends.items():
            if name in figures:
                end = float(figures[name])
                return window_figure(since, begins * end, None if until is None else until * end)
        bends = case.bends()
        return window_figure(since, bends.from_min, bends.until_min) if bends else None
    if case.symptom not in WHERE["bowl"] or first.cause not in BY_WARMTH or not case.log.was_heated:
        return None
    warmth = case.log.now.warmth
    harms = HARMS_C + warmth.ceiling_c - CEILING_C
    return warmth_figure(case.log.curve(), good_c=(warmth.floor_c, warmth.work_at_c + 2), harms_c=harms)


def coat_of(subject: Subject) -> tuple[float, ...]:
    """The colour its pictures are drawn in: its own, where that stands out beside white."""
    desk, lab = subject.desk, None
    if desk is not None and not desk.now.empty:
        lab = tuple(desk.now.mixture().lab())
    elif subject.layer is not None and subject.layer.colour is not None:
        lab = subject.layer.colour.lab
    return DRAWN if lab is None or lab[0] > LIGHT else lab
