"""Bowls become records: readings, looks, spreads, two temperatures one after the other, and what was left over."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import datetime

from django.db.models import Q
from django.urls import reverse

from coating.colour.mixing import Part, main_base
from coating.flow.trade_number import number_from_flow
from coating.learning import Observation
from coating.learning.names import LOSS
from coating.learning.observations import offset_of
from coating.simulate.bowl import BowlContext, BowlState
from coating.simulate.fold import fold
from studio.accounts.models import Kitchen
from studio.bowls.adapters import core_events
from studio.bowls.history import read_says
from studio.bowls.home_test_forms import SPREAD_WAIT_S
from studio.bowls.models import Bowl, BowlEvent
from studio.common.templatetags.kitchen import degrees, mass, sized
from studio.common.types import Json, Typed
from studio.learned.records.noted import Known, Noted, day_of

LEAST_G = 1e-6
READ_BOWLS = 120  # with a thermometer: the newest; there are readings in each
LEAST_MIN, MOST_MIN, LEAST_ABOVE_K = 3.0, 90.0, 4.0  # between two temperatures, and how warm the second still is
NO_FLOW_C = 40.0  # where a number is told
STILL = ("tested", "read", "stirred", "remeasured", "struck")  # what leaves a bowl to cool


def of_bowls(kitchen: Kitchen, known: Known) -> Iterable[Noted]:
    """Every record that bowls hold."""
    live = BowlEvent.objects.for_kitchen(kitchen).filter(struck_by=None)
    telling = live.filter(
        Q(kind="read") | Q(kind="tested", payload__how="spread") | Q(kind="used", payload__has_key="made")
    )
    wanted = set(telling.values_list("bowl", flat=True))
    if known.has_thermometer:
        warm = live.filter(kind__in=("warmed", "cooled"), payload__read=True)
        wanted |= set(warm.order_by("-bowl").values_list("bowl", flat=True).distinct()[:READ_BOWLS])
    if not wanted:
        return
    bowls = Bowl.objects.for_kitchen(kitchen).filter(pk__in=wanted)
    for bowl in bowls.prefetch_related(Bowl.objects.events_in_order()).order_by("pk"):
        yield from _Walk(bowl, known).records()


@dataclass
class _Walk:
    """A bowl, event by event: what was counted into it so far, g by ingredient, and when its warmth was read last."""

    bowl: Bowl
    known: Known
    grams: dict[int, float] = field(default_factory=dict)
    warm: tuple[datetime, float] | None = None
    done: list[BowlEvent] = field(default_factory=list)

    def records(self) -> Iterable[Noted]:
        """What it says, in the order it was done."""
        for event in self.bowl.events.all():
            if event.struck_by_id is not None:
                continue
            record = self._record(event)
            if record is not None:
                page = reverse("bowls:bowl", args=[self.bowl.pk])
                yield Noted(record[0], str(event.pk), record[1], self.bowl.name, page, event.happened_at)
            self._follow(event)
            self.done.append(event)

    @property
    def mass_g(self) -> float:
        """All that is in it."""
        return sum(self.grams.values())

    def _record(self, event: BowlEvent) -> tuple[Observation, str] | None:
        """What one event says, with its words."""
        data: Typed = event.payload
        if self.mass_g <= LEAST_G:
            return None
        if event.kind == "read":
            return self._colour(event, data)
        if event.kind == "tested" and data.get("how") == "spread" and data.get("raw"):
            return self._spread(event, data["raw"])
        if event.kind == "used" and data.get("made"):
            return self._used(event, data)
        if self._is_a_reading(event):
            return self._warmth(event, data)
        return None

    def _follow(self, event: BowlEvent) -> None:
        """What was counted, at what a drop weighs today."""
        data: Typed = event.payload
        if event.kind in ("added", "received"):
            core = self.known.stock.cores.get(data["ingredient"])
            if core is not None:
                poured_g = data["mass_g"] if "mass_g" in data else data["units"] * core.unit_g
                self.grams[data["ingredient"]] = self.grams.get(data["ingredient"], 0.0) + poured_g
        elif event.kind in ("used", "split"):
            left = max(0.0, 1 - data["mass_g"] / self.mass_g) if self.mass_g > LEAST_G else 0.0
            self.grams = {pk: g * left for pk, g in self.grams.items()}
        if self._is_a_reading(event):
            self.warm = event.happened_at, data["to_c"]
        elif event.kind not in STILL:
            self.warm = None

    def _is_a_reading(self, event: BowlEvent) -> bool:
        read = event.kind in ("warmed", "cooled") and event.payload.get("read") and "to_c" in event.payload
        return bool(read) and self.known.has_thermometer

    def _observed(self, event: BowlEvent, kind: str, **of: object) -> Observation:
        """A record of the bowl; of its job, where that is what counts."""
        whose = f"job-{self.bowl.job_id}" if kind == "used" else str(self.bowl.pk)
        return Observation(f"{event.pk:012d}", kind, whose, day_of(event.happened_at), **of)  # type: ignore[arg-type]

    # -- each kind ---------------------------------------------------------------------------------------------------
    def _colour(self, event: BowlEvent, data: Typed) -> tuple[Observation, str] | None:
        """A reading or a look; None without a colour in it, or where one was read anew since, or is to be forgotten."""
        parts, bottles, at = list[Part](), list[str](), event.happened_at
        for pk, mass_g in self.grams.items():
            core, row = self.known.stock.cores[pk], self.known.stock.by_id[pk]
            newer = row.read_last() if core.is_colourant else None
            if newer is not None and newer.since > at:
                return None
            if core.is_colourant and self.known.words.is_forgotten(f"strength.{core.name}", at):
                return None
            bottles.append(self.known.words.bottle_of(core.name, at) if core.is_colourant else "")
            parts.append(Part(core, mass_g))
        if not any(bottles):
            return None
        lab, eyes = data["lab"], data.get("how") == "eyes"
        if eyes:
            off = offset_of(data["word"], much=bool(data.get("much")))
            lab = data.get("beside") or [v - o for v, o in zip(lab, off, strict=True)]
        record = self._observed(
            event,
            "look" if eyes else "read",
            parts=tuple(parts),
            bottles=tuple(bottles),
            lab=(float(lab[0]), float(lab[1]), float(lab[2])),
            word=data["word"] if eyes else "",
            much=bool(data.get("much")),
            weighed=self.known.weighed,
        )
        return record, read_says(data)

    def _before(self, event: BowlEvent) -> BowlState:
        """How it stood by its label, before an event."""
        said = [e for e in self.done if e.kind != "tested" or e.payload.get("test") == "lumps"]
        context = BowlContext(room_c=self.known.room_c, white=self.bowl.white)
        events = core_events(self.bowl, said, self.known.stock)
        return fold(events, context, at_s=(event.happened_at - self.bowl.started_at).total_seconds())

    def _flowing(self, event: BowlEvent) -> Json | None:
        """Its base, and how it flows by that one's label; None where nothing can be said."""
        state = self._before(event)
        base, flow = main_base(state.parts), None if state.empty else state.flow(temperature_c=NO_FLOW_C)
        if base is None or flow is None or state.white == "tempered":
            return None
        return {
            "base": base.name,
            "number": number_from_flow(flow),
            "kind": state.conditions().kind,
            "temperature_c": state.temperature_c,
            "k_per_s": flow.yield_stress_pa / flow.viscosity_pa_s,
        }

    def _spread(self, event: BowlEvent, raw: Typed) -> tuple[Observation, str] | None:
        """A spoonful that spread so wide."""
        flowing = self._flowing(event)
        if flowing is None or not self.known.counts(f"flow.{flowing['base']}", event.happened_at):
            return None
        given = {**flowing, "volume_ml": raw["volume_ml"], "wait_s": SPREAD_WAIT_S}
        record = self._observed(event, "spread", value=float(raw["diameter_mm"]), given=given)
        return record, f"a spoonful spread to {sized(raw['diameter_mm'])}"

    def _used(self, event: BowlEvent, data: Typed) -> tuple[Observation, str] | None:
        """What went on so many pieces, by what was left."""
        made, went_g = data["made"], data["mass_g"] - data["made"]["lost_g"]
        given = {"technique": made["technique"], "expected_g": made["expected_g"], "line": made["how"] == "line"}
        names = ["hole"] if given["line"] else [f"coat.{made['technique']}"]
        if made["how"] == "film":
            flowing = self._flowing(event)
            if flowing is None:
                return None
            given |= {**flowing, "film": True, "below_mm": made["below_mm"]}
            names.append(f"flow.{flowing['base']}")
        if went_g <= 0 or not all(self.known.counts(name, event.happened_at) for name in names):
            return None
        record = self._observed(event, "used", value=went_g, given=given, off=made.get("off", 0.0))
        return record, f"{mass(went_g)} went on {made['count']}"

    def _warmth(self, event: BowlEvent, data: Typed) -> tuple[Observation, str] | None:
        """It was so warm, and so long after that, left alone, so warm."""
        if self.warm is None or not self.known.counts(LOSS, event.happened_at):
            return None
        minutes = (event.happened_at - self.warm[0]).total_seconds() / 60
        start_c, end_c, room_c = self.warm[1], data["to_c"], self.known.room_c
        if not LEAST_MIN <= minutes <= MOST_MIN or end_c < room_c + LEAST_ABOVE_K or start_c <= end_c:
            return None
        given = {"mass_g": self.mass_g, "room_c": room_c, "start_c": start_c, "minutes": minutes}
        record = self._observed(event, "warmth", value=end_c, given=given)
        return record, f"{degrees(start_c)}, and {minutes:.0f} min later {degrees(end_c)}"
