"""Five taps that say what a kitchen has. The rest is ordinary until it is changed on the kitchen's own page."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from coating.heat.schools import ORDINARY_W
from coating.quantities import Measures, length_text, mass_text, pieces_of_base, temperature_text, touch_text
from studio.accounts.forms import ROOMS_C
from studio.common.types import Typed

_SAMPLE_G, _SAMPLE_C, _SAMPLE_MM = 255.0, 38.0, 60.0
_METRIC, _US, _OUNCES = Measures(), Measures("oz", "F", "in"), Measures("oz", "C", "in")


@dataclass(frozen=True)
class Answer:
    """One answer: its word in the address, what it says, how things then read, and what it sets on the kitchen."""

    word: str
    title: str
    then: str
    sets: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class ProfileQuestion:
    """One question about a kitchen, with the answers to choose from."""

    word: str
    asks: str
    choices: tuple[Answer, ...]

    def chosen(self, word: str | None) -> Answer | None:
        """The choice of this word, or None."""
        return next((c for c in self.choices if c.word == word), None)


def _units(mass: str, temperature: str, length: str, region: str) -> dict[str, str]:
    return {"mass_unit": mass, "temperature_unit": temperature, "length_unit": length, "region": region}


def _read(measures: Measures) -> str:
    mass, length = mass_text(_SAMPLE_G, measures.mass), length_text(_SAMPLE_MM, measures.length)
    return f"{mass}, {length}, {temperature_text(_SAMPLE_C, measures.temperature)}"


_BAG = pieces_of_base(_SAMPLE_G)
_LIP, _DEGREES = touch_text(_SAMPLE_C), temperature_text(_SAMPLE_C)
_RULES = ", and its rules on colours."


def _oven(word: str, title: str, power_w: float | None, then: str) -> Answer:
    sets = {"melting_school": "half_power", "power_w": power_w}
    return Answer(word, title, f"Reckoned with {power_w or ORDINARY_W:.0f} W{then}", sets)


def _room(word: str, title: str, then: str) -> Answer:
    sets = {"room_c": ROOMS_C[word]}
    return Answer(word, title, f"{then} Reckoned with {temperature_text(ROOMS_C[word])}.", sets)


QUESTIONS = (
    ProfileQuestion(
        "measure",
        "How do you measure?",
        (
            Answer("scale", "With a scale", f"“Melt {mass_text(_SAMPLE_G)}, {_BAG}.”", {"has_scale": True}),
            Answer("spoons", "With spoons, by counting", f"“Melt {_BAG}.”", {"has_scale": False}),
        ),
    ),
    ProfileQuestion(
        "warmth",
        "How do you tell how warm it is?",
        (
            Answer("lip", "A dab on the lip", f"“Dip while it feels {_LIP}.”", {"has_thermometer": False}),
            Answer("thermometer", "A thermometer", f"“Dip at {_DEGREES}.”", {"has_thermometer": True}),
        ),
    ),
    ProfileQuestion(
        "melt",
        "What do you melt with?",
        (
            _oven("microwave", "An ordinary microwave", None, "."),
            _oven("strong", "A strong microwave", 1000.0, ": shorter bursts."),
            _oven("small", "A small microwave", 600.0, ": longer bursts."),
            Answer("hob", "The hob", "A bowl over warm water.", {"melting_school": "double_boiler"}),
        ),
    ),
    ProfileQuestion(
        "room",
        "How warm is your kitchen today?",
        (
            _room("cool", "Cool", "You want a jumper."),
            _room("ordinary", "Ordinary", "Shirt sleeves are fine."),
            _room("warm", "Warm", "Butter goes soft."),
            _room("hot", "Hot", "Chocolate hardly sets."),
        ),
    ),
    ProfileQuestion(
        "where",
        "Where is your kitchen?",
        (
            Answer("eu", "In the European Union", _read(_METRIC) + _RULES, _units("g", "C", "mm", "eu")),
            Answer("us", "In the United States", _read(_US) + _RULES, _units("oz", "F", "in", "us")),
            Answer("metric", "Elsewhere, in grams", f"{_read(_METRIC)}.", _units("g", "C", "mm", "elsewhere")),
            Answer("ounces", "Elsewhere, in ounces", f"{_read(_OUNCES)}.", _units("oz", "C", "in", "elsewhere")),
        ),
    ),
)


def answers_of(sent: Mapping[str, Any]) -> dict[str, str]:
    """The answers in an address or a form, as far as they are any."""
    return {q.word: str(sent[q.word]) for q in QUESTIONS if q.word in sent and q.chosen(str(sent[q.word]))}


def next_question(answers: Mapping[str, str]) -> tuple[int, ProfileQuestion] | None:
    """The first question without an answer, counted from one; None when all are answered."""
    return next(((i, q) for i, q in enumerate(QUESTIONS, start=1) if q.word not in answers), None)


def settings_of(answers: Mapping[str, str]) -> Typed:
    """What the answers set on a kitchen, by column."""
    settings: Typed = {}
    for question in QUESTIONS:
        choice = question.chosen(answers.get(question.word))
        settings |= choice.sets if choice else {}
    return settings
