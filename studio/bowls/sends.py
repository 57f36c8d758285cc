"""What every write to a bowl carries, and the short ones of a single tap."""

from __future__ import annotations

from django import forms

from coating.flow.home_tests import number_from_word
from coating.flow.ribbon import WORDS
from studio.bowls.actions import Line

MISJUDGED = 0.1  # eyes take one spoon for the next; an estimate


class SendForm(forms.Form):
    """The last event the page knew, and the name of this send."""

    seq = forms.IntegerField(min_value=0, max_value=2**31 - 1)
    key = forms.UUIDField()
    used_g = forms.FloatField(required=False, min_value=0, max_value=20000)


class SpoonForm(SendForm):
    """Which of the six spoons fits."""

    word = forms.ChoiceField(choices=[(w, w) for w in WORDS])

    def line(self) -> Line:
        """The event it is: a number as it stands, with how far off it may be."""
        word = self.cleaned_data["word"]
        number = number_from_word(word)
        off = (number.high - number.low) / 2 / number.number + MISJUDGED
        line = {"value": round(number.number, 1), "off": round(off, 3), "how": "spoon", "word": word}
        return "tested", {"test": "stands", **line}
