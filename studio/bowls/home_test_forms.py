"""The tests at home as forms: what is measured, and the one number it gives."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from coating.errors import CoatingError
from coating.flow.casson1959 import Flow
from coating.flow.home_tests import spread
from coating.flow.home_tests.bag_drain import FULL_G, LEFT_G
from coating.flow.home_tests.reading import (
    TestReading,
    hole_from_drain,
    read_card,
    read_drain,
    read_drip,
    read_spread,
)
from coating.limits import BOUNDS
from studio.bowls.adapters import Desk
from studio.bowls.sends import SendForm
from studio.common.forms import FlowNumberField, LengthField, MassField, NumberField, VolumeField
from studio.common.measures import refusal_text
from studio.common.types import Typed
from studio.pieces.forms import WALLS

SAME_HOLE_MM = 0.06  # shown to a tenth
TABLESPOON_ML, SPREAD_WAIT_S, CARD_WAIT_S = 15.0, 60.0, 30.0


class TestForm(SendForm):
    """Abstract: one home test. `reading` is set once the form is valid."""

    title, asks, wait_s, wait_says = "", "", 0.0, ""
    reading: TestReading | None = None

    def __init__(self, data: Any = None, *, desk: Desk, **kwargs: Any) -> None:
        super().__init__(data, **kwargs)
        self.flow, self.kitchen = flow_of(desk), desk.kitchen
        self.temperature_c = warmth_c(desk)
        del self.fields["used_g"]
        self.fields["keep"] = forms.BooleanField(required=False)
        for name in ("seq", "key"):
            self.fields[name].required = False  # a live question sends nothing

    def read(self, data: Typed, flow: Flow) -> TestReading:
        """What the measurement says of the flow."""
        raise NotImplementedError

    def clean(self) -> Typed:
        data = super().clean() or {}
        if not self.errors and self.flow is not None:
            try:
                self.reading = self.read(data, self.flow)
            except CoatingError as refusal:
                raise ValidationError(refusal_text(refusal), code=refusal.code) from refusal
        return data


class SpreadTestForm(TestForm):
    """A spoonful on a plate."""

    title = "Spread"
    asks = "Pour a tablespoon on a warm plate, wait a minute, and measure how wide it is."
    steps = (
        "Warm a flat plate to the touch, and stand it level.",
        "Level a tablespoon (15 ml), and pour it out in one go from a finger's height.",
        "Start the minute. Do not nudge it.",
        "Measure across, twice, and take the middle.",
    )
    wait_s, wait_says = SPREAD_WAIT_S, "measure the spread"
    diameter_mm = LengthField("spread_mm", label="Width of the puddle")
    volume_ml = VolumeField("spread_ml", label="Amount poured", initial=TABLESPOON_ML)

    def read(self, data: Typed, flow: Flow) -> TestReading:
        reading = spread(volume_ml=data["volume_ml"], diameter_mm=data["diameter_mm"], wait_s=SPREAD_WAIT_S)
        return read_spread(reading, flow)


class BagTestForm(TestForm):
    """A bag that runs out."""

    title = "Bag"
    asks = "Hang up a bag with a small hole, and time how long it takes to run out."
    steps = (
        "Fill a bag with as much as you weigh in below, and fold it shut.",
        "Hang it over the bowl on a scale and cut the hole, or open the tip.",
        "Start a stopwatch at once; stop it when the scale shows what is left.",
        "The hole decides most: measure it, or use a tip whose width you know.",
    )
    seconds = NumberField("duration_s", label="Seconds it took", low=1)
    hole_mm = LengthField("hole_mm", label="Hole diameter", initial=4.0)
    from_g = MassField("mass_g", label="In the bag at the start", initial=FULL_G)
    to_g = MassField("mass_g", label="Left in the bag at the end", initial=LEFT_G)

    def __init__(self, data: Any = None, *, desk: Desk, **kwargs: Any) -> None:
        super().__init__(data, desk=desk, **kwargs)
        if desk.kitchen.drain_hole_mm:
            self.fields["hole_mm"].initial = round(desk.kitchen.drain_hole_mm, 1)
            self.fields["hole_mm"].help_text = "As you calibrated it."

    def read(self, data: Typed, flow: Flow) -> TestReading:
        _runs_down(data)
        given = {name: data[name] for name in ("hole_mm", "from_g", "to_g")}
        known = self.kitchen.drain_hole_mm
        calibrated = known is not None and abs(data["hole_mm"] - known) < SAME_HOLE_MM
        return read_drain(data["seconds"], flow, calibrated=calibrated, **given)


def _runs_down(data: Typed) -> None:
    if data["from_g"] <= data["to_g"] or data["to_g"] <= 0:
        raise ValidationError({"to_g": "It must end with less than it began with, and with something left."})


class HoleForm(forms.Form):
    """The other way round: a bowl whose number is known says how wide the hole is."""

    seconds = NumberField("duration_s", label="Seconds it took", low=1)
    number = FlowNumberField("number", label="Flow number of the coating")
    from_g = MassField("mass_g", label="In the bag at the start", initial=FULL_G)
    to_g = MassField("mass_g", label="Left in the bag at the end", initial=LEFT_G)
    hole_mm: float

    def __init__(self, data: Any = None, *, desk: Desk) -> None:
        stands = desk.now.stands_at()
        super().__init__(data, prefix="hole", initial={"number": round(stands, 1) if stands else None})
        self.flow = flow_of(desk)

    def clean(self) -> Typed:
        data = super().clean() or {}
        if self.errors or self.flow is None:
            return data
        _runs_down(data)
        try:
            self.hole_mm = hole_from_drain(
                data["seconds"], self.flow, data["number"], from_g=data["from_g"], to_g=data["to_g"]
            )
        except CoatingError as refusal:
            raise ValidationError({"seconds": refusal_text(refusal)}) from refusal
        return data


class CardTestForm(TestForm):
    """A card that is dipped and weighed."""

    title = "Dipped card"
    asks = "Dip a stiff card, hold it upright for half a minute, and weigh what stays on."
    steps = (
        "Weigh a stiff card, and mark how deep you will dip it.",
        "Dip it to the mark, lift it straight out, and start the half minute.",
        "Hold it upright over the bowl; touch off the last drop at the end.",
        "Weigh it again: what it gained is the number.",
    )
    wait_s, wait_says = CARD_WAIT_S, "weigh the card"
    mass_g = MassField("mass_g", label="Weight the card gained")
    width_mm = LengthField("card_mm", label="Card width", initial=60.0)
    dipped_mm = LengthField("card_mm", label="Depth of the dip", initial=80.0)

    def read(self, data: Typed, flow: Flow) -> TestReading:
        given = {name: data[name] for name in ("width_mm", "dipped_mm")}
        return read_card(data["mass_g"], flow, wait_s=CARD_WAIT_S, **given)


class DripTestForm(TestForm):
    """A drip that runs down a cake."""

    title = "Drip"
    asks = "Squeeze one drip at the back of the cake, and measure how far it runs."
    steps = (
        "Fill a small bag or a bottle, and know how much one squeeze gives: count what a spoon takes.",
        "Squeeze one drip over the rim at the back, in a second or two.",
        "Wait until it stands: half a minute at most.",
        "Measure from the rim to its end.",
    )
    wait_s, wait_says = 30.0, "measure the drip"
    length_mm = LengthField("drip_mm", label="Length of the drip")
    volume_ml = VolumeField("drip_ml", label="Amount squeezed", initial=0.5)
    width_mm = LengthField("drip_width_mm", label="Width of the drip", initial=9.0)
    wall = forms.ChoiceField(
        label="Temperature of the cake", choices=WALLS, initial="chilled", widget=forms.RadioSelect
    )

    def read(self, data: Typed, flow: Flow) -> TestReading:
        given = {name: data[name] for name in ("volume_ml", "width_mm", "wall")}
        return read_drip(data["length_mm"], flow, temperature_c=self.temperature_c, **given)


FORMS: dict[str, type[TestForm]] = {
    "spread": SpreadTestForm,
    "bag": BagTestForm,
    "card": CardTestForm,
    "drip": DripTestForm,
}


def warmth_c(desk: Desk) -> float:
    """How warm the bowl is, degC, within what a drip is reckoned for."""
    bound = BOUNDS["drip_c"]
    return min(bound.high, max(bound.low, desk.now.temperature_c))


def flow_of(desk: Desk) -> Flow | None:
    """The flow of a bowl that can be tested, or None."""
    return None if desk.now.empty or desk.now.is_set else desk.now.flow()
