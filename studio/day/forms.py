"""What is asked of a day: when, what there is, who helps with what."""

from __future__ import annotations

from datetime import date, datetime, time, timedelta
from typing import Any

from django import forms
from django.utils import timezone

from coating.errors import Infeasible
from studio.accounts.models import Kitchen
from studio.common import clock
from studio.common.forms import CountField, TemperatureField, WordsField
from studio.common.templatetags.clocks import clock_text
from studio.common.types import Typed
from studio.day.adapters import Asked
from studio.day.helping import CALM, MOST, WORK, helpers_of

NIGHTS = 6  # a week at most
LEAST_MIN = 30
READ_AS = ["%H:%M", "%H:%M:%S", "%I:%M %p", "%I:%M%p", "%I %p", "%I%p", "%H.%M"]


def today() -> date:
    """The date in the zone of the kitchen."""
    return timezone.localdate(clock.now())


class ClockInput(forms.TimeInput):
    """A time as the clock of this kitchen says it."""

    def format_value(self, value: Any) -> str | None:
        return clock_text(value) if isinstance(value, time) else value


def _time(label: str, *, wrong: str, **more: Any) -> forms.TimeField:
    return forms.TimeField(
        label=label, widget=ClockInput(), error_messages={"invalid": wrong}, input_formats=READ_AS, **more
    )


def _date(label: str, **more: Any) -> forms.DateField:
    return forms.DateField(
        label=label, widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"), required=False, **more
    )


class DayForm(forms.Form):
    """`main` is shown first, the rest under "more"."""

    begin = _time("Start at", initial=time(9, 0), wrong="A time like 9:00.")
    ready = _time("Ready by", required=False, wrong="A time like 17:30.")
    hands = CountField("helpers", label="Helpers, you included", initial=1)
    fridge = CountField("places", label="Shelf space in the fridge", initial=4, low=0, high=40)
    freezer = CountField("places", label="Shelf space in the freezer", initial=2, low=0, high=40)
    on = _date("Date", initial=today)
    until = _time("Each day until", required=False, wrong="A time like 18:00.")
    ready_on = _date("Ready on")
    stand = CountField("places", label="Places to stand dipped pieces", required=False, low=0, high=400)
    room = CountField("places", label="Trays at room temperature", required=False, low=0, high=40)
    heat = CountField("places", label="Microwaves and hobs", required=False, low=1, high=6)
    room_c = TemperatureField("room_c", label="Room temperature that day", required=False)

    main = ("begin", "ready", "hands", "fridge", "freezer")
    more = ("on", "until", "ready_on", "stand", "room", "heat", "room_c")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for i in range(1, MOST + 1):
            self.fields[f"helper{i}_name"] = WordsField(label=f"Helper {i}", max_length=20, required=False)
            for key, words in (*WORK, CALM):
                self.fields[f"helper{i}_{key}"] = forms.BooleanField(label=words, required=False)

    def clean(self) -> Typed:
        data = super().clean() or {}
        for i in range(1, MOST + 1):
            if data.get(f"helper{i}_name") and not any(data.get(f"helper{i}_{key}") for key, _ in WORK):
                self.add_error(f"helper{i}_name", f"What may {data[f'helper{i}_name']} do? Tick it beside the name.")
        begin, until = data.get("begin"), data.get("until")
        if begin and until and _minutes(begin, until) < LEAST_MIN:
            self.add_error("until", f"Choose a time at least {LEAST_MIN} minutes after you begin.")
        return data

    def helper_rows(self) -> list[tuple[Any, list[Any]]]:
        """Each helper's name, and what to tick."""
        keys = [key for key, _ in (*WORK, CALM)]
        return [(self[f"helper{i}_name"], [self[f"helper{i}_{k}"] for k in keys]) for i in range(1, MOST + 1)]

    def more_said(self) -> bool:
        """Whether anything is said (or wrong) under "more"."""
        if not self.is_bound:
            return False
        names = [name for name in self.fields if name not in self.main]
        said = [n for n in names if n != "on" and self.data.get(n) not in (None, "", "0")]
        other_day = self.data.get("on") not in (None, "", f"{today():%Y-%m-%d}")
        return bool(said) or other_day or any(name in self.errors for name in names)

    @property
    def begins(self) -> datetime:
        """Of a valid form, by the clock of the kitchen."""
        data = self.cleaned_data
        return datetime.combine(data["on"] or today(), data["begin"])

    def deadline_s(self) -> int | None:
        """From when it begins until it has to be ready. Raises Infeasible."""
        data, begin = self.cleaned_data, self.begins
        if not data.get("ready"):
            return None
        ready = datetime.combine(data.get("ready_on") or begin.date(), data["ready"])
        if ready <= begin:
            refusal = "That is before it begins: begin earlier, or be ready later."
            raise Infeasible(refusal, field="ready_on" if data.get("ready_on") else "ready", steps=[])
        return int((ready - begin).total_seconds())

    def check_ahead(self) -> None:
        """Nobody plans for a day that is over. Raises Infeasible."""
        now = timezone.localtime(clock.now()).replace(tzinfo=None)
        if self.begins.date() < now.date():
            raise Infeasible("That day is over: choose today or later.", field="on", steps=[])
        deadline = self.deadline_s()
        if deadline is not None and self.begins + timedelta(seconds=deadline) <= now:
            raise Infeasible(f"It is {clock_text(now)} already: that is past.", field="ready", steps=[])

    def asked(self, kitchen: Kitchen) -> Asked:
        """What there is on the day."""
        data = self.cleaned_data
        return Asked(
            data["hands"],
            data["fridge"] if kitchen.has_fridge else 0,
            data["freezer"] if kitchen.has_freezer else 0,
            data.get("stand") or 0,
            helpers_of(data),
            self._closed(),
            data.get("room") or 0,
            data.get("heat") or 1,
            data.get("room_c"),
        )

    def _closed(self) -> tuple[tuple[int, int], ...]:
        """Nights, s from when it begins."""
        until = self.cleaned_data.get("until")
        if not until:
            return ()
        stops, day = 60 * _minutes(self.cleaned_data["begin"], until), 24 * 3600
        return tuple((stops + i * day, (i + 1) * day) for i in range(NIGHTS))


def nights_from(form: DayForm, now: datetime) -> tuple[tuple[int, int], ...]:
    """Nights to come, s from a moment by the clock of the kitchen: at the bench a day begins when it begins."""
    until, begin = form.cleaned_data.get("until"), form.cleaned_data["begin"]
    if not until:
        return ()
    first = datetime.combine(now.date(), until)
    nights = [
        (first + timedelta(days=i), datetime.combine(first.date() + timedelta(days=i + 1), begin))
        for i in range(NIGHTS)
    ]
    return tuple((int((a - now).total_seconds()), int((b - now).total_seconds())) for a, b in nights)


def _minutes(begin: time, end: time) -> int:
    return (end.hour - begin.hour) * 60 + end.minute - begin.minute
