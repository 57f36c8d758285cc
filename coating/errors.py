"""One family of refusals. Each names the outcome and carries fields a page can use."""

from __future__ import annotations

import re
from typing import Any

from coating.quantities import Measures, quantity_text

_QUANTITY = re.compile(r"{(\w+_(?:mm|ml|g|c))}")


class CoatingError(Exception):
    """Root of every refusal of the core.

    Parameters
    ----------
    says : what happened, in a maker's words; a quantity is named in braces by its field, as in "{high_mm} high".
    fields : whatever a page or a script needs to act on it.
    """

    code = "refused"

    def __init__(self, says: str, **fields: Any) -> None:
        self.says, self.fields = says, fields
        super().__init__(self.message)

    @property
    def message(self) -> str:
        """What happened, with its quantities in g, degC, mm and ml."""
        return self.read(Measures())

    def read(self, measures: Measures) -> str:
        """What happened, with its quantities as a kitchen reads them.

        >>> OutOfBounds("It is {high_mm} high.", high_mm=38.1).read(Measures(length="in"))
        'It is 1 1/2 in high.'
        """
        return _QUANTITY.sub(
            lambda match: (
                quantity_text(match[1], self.fields[match[1]], measures) if match[1] in self.fields else match[0]
            ),
            self.says,
        )

    def __reduce__(self) -> tuple[Any, ...]:
        return _again, (type(self), self.says, self.fields)

    def as_dict(self) -> dict[str, Any]:
        """The refusal as a JSON-ready object: code, message and its fields."""
        return {"code": self.code, "message": self.message, **self.fields}


def _again(kind: type[CoatingError], says: str, fields: dict[str, Any]) -> CoatingError:
    return kind(says, **fields)


class OutOfBounds(CoatingError):
    """A value lies outside what the models are good for."""

    code = "out_of_bounds"


class NotANumber(OutOfBounds):
    """A value is NaN, infinite or no number at all."""

    code = "not_a_number"


class Unreadable(CoatingError):
    """An amount was typed in a way that says no amount."""

    code = "unreadable"


class WrongShape(CoatingError):
    """A value has the wrong type or the wrong length."""

    code = "wrong_shape"


class UnknownField(CoatingError):
    """A field nobody asked for."""

    code = "unknown_field"


class MissingField(CoatingError):
    """A field that is needed is not there."""

    code = "missing_field"


class UnknownName(CoatingError):
    """An ingredient, a technique or an entry that does not exist."""

    code = "unknown_name"


class NoSuchColour(CoatingError):
    """No coating looks like that: too light, or more vivid than a surface can be."""

    code = "no_such_colour"


class TooFewDrops(OutOfBounds):
    """Fewer whole drops than shades to tell apart."""

    code = "too_few_drops"


class EmptyBowl(CoatingError):
    """There is nothing in the bowl to mix."""

    code = "empty_bowl"


class EmptyDrawing(CoatingError):
    """There is nothing in it to draw."""

    code = "empty_drawing"


class Infeasible(CoatingError):
    """It cannot be done; `steps` names the fewest that stand in each other's way."""

    code = "infeasible"


class InUse(CoatingError):
    """Something else is made of it, so that it cannot be taken away."""

    code = "in_use"


class WillNotFlow(CoatingError):
    """So many solids for so little fat that nothing moves."""

    code = "will_not_flow"


class TestsDisagree(CoatingError):
    """Two measurements that cannot both be right."""

    code = "tests_disagree"


class WouldScorch(CoatingError):
    """So little in so strong an oven that the shortest burst overheats it."""

    code = "would_scorch"


class TakesTooMuch(CoatingError):
    """Reading it took more time or memory than anything ordinary does."""

    code = "takes_too_much"
