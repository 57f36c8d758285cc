"""What differs from last time, line by line, and why."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from coating.colour.mixing import Part
from coating.job import Bowl as ReckonedBowl
from coating.learning.factors import Factor, Factors
from studio.accounts.models import Kitchen
from studio.bowls.left import is_a_rest
from studio.common.templatetags.kitchen import colour_word, how_much, measured
from studio.common.words import listed, lower, many, stress
from studio.cupboard.models import Parameter
from studio.cupboard.stock import Stock
from studio.notebook.copying import layer_pairs
from studio.notebook.record import BowlCame, Evening
from studio.notebook.says import COATS
from studio.pieces.adapters import ColourNeed, colour_needs
from studio.pieces.known import concerning, known_to, otherwise
from studio.pieces.known_says import known_as
from studio.pieces.models import Job, Piece

CHANGED = 0.04  # a share from which a difference is worth a line
RATE_CHANGED = 0.08  # of drops to the gram, which are whole ones


@dataclass(frozen=True)
class DiffersLine:
    """One thing: how it was, how it is, and why; `lab` where it is a colour. `value`: what it is now, g."""

    what: str
    then: str
    now: str
    why: str
    lab: tuple[float, float, float] | None = None
    key: str = ""
    value: float = 0.0


@dataclass(frozen=True)
class Differs:
    """All that is melted this time and what differs about it, with what was said last time."""

    needs: list[ColourNeed]
    lines: list[DiffersLine]
    remarks: list[str]

    @property
    def melt_says(self) -> str:
        """What to melt, in words."""
        return listed([f"{stress(how_much(n.melt_g, n.white))} of {lower(n.name)}" for n in self.needs])


def differs_from(record: Evening, new: Job, kitchen: Kitchen) -> Differs:
    """A whole job beside the one that it is made after. Raises CoatingError."""
    needs = colour_needs(new, kitchen)
    before = {la.pk: need for need in colour_needs(record.job, kitchen) for la in need.layers}
    pairs, lines = layer_pairs(record.job, new), _counts(record.job, new)
    for need in needs:
        old = next((before[pairs[la.pk]] for la in need.layers if pairs.get(la.pk) in before), None)
        lines += _bowl_lines(need, old, record, kitchen)
    return Differs(needs, lines, remarks_of(record))


def _counts(old: Job, new: Job) -> list[DiffersLine]:
    """Counts and sizes that are otherwise."""
    by_name, lines = {p.name: p for p in old.pieces.all()}, []
    for piece in new.pieces.all():
        before = by_name.get(piece.name)
        if before is None:
            continue
        if before.count != piece.count:
            lines.append(DiffersLine(piece.name, str(before.count), str(piece.count), "as you asked"))
        if (ratio := _size_ratio(before, piece)) != 1.0:
            lines.append(DiffersLine(f"{piece.name}, size", "100 %", f"{100 * ratio:.0f} %", "as you asked"))
    gone = [p.name for name, p in by_name.items() if name not in {q.name for q in new.pieces.all()} and p.count]
    return [*lines, *(DiffersLine(name, "made", "left out", "as you asked") for name in gone)]


def _size_ratio(before: Piece, piece: Piece) -> float:
    first = before.size["mm"][0]
    return round(float(piece.size["mm"][0] / first), 3) if first else 1.0


def _bowl_lines(need: ColourNeed, old: ColourNeed | None, record: Evening, kitchen: Kitchen) -> list[DiffersLine]:
    """What is melted and stirred in, beside what really was."""
    lab = need.tone.lab
    if old is None:
        return [DiffersLine(need.name, "", how_much(need.melt_g, need.white), "new", lab, need.key, need.melt_g)]
    came = _came_of(old, record)
    then_g = came.summary.melted_g if came else old.melt_g
    lines, reasons = [], _reasons(need, old, came, record, kitchen)
    if old.tone.name != need.tone.name:
        lines.append(DiffersLine("Colour", old.tone.name, need.tone.name, "as you asked", lab))
    if abs(need.melt_g - then_g) > CHANGED * then_g:
        then = how_much(then_g, old.white)
        now = how_much(need.melt_g, need.white)
        lines.append(DiffersLine(f"Melt {lower(need.name)}", then, now, reasons, lab, need.key, need.melt_g))
    recipe = _recipe_line(need, old, came, record, kitchen)
    return [*lines, *([recipe] if recipe else [])]


def _came_of(old: ColourNeed, record: Evening) -> BowlCame | None:
    """The last bowl that was really made for it."""
    mine = {la.pk for la in old.layers}
    made = [
        one
        for one in record.bowls
        if one.summary.melted_g > 0
        and one.bowl.is_of(old.tone)
        and (not one.desk or mine & {use.layer_id for use in one.bowl.uses.all()})
    ]
    return made[-1] if made else None


def _reasons(need: ColourNeed, old: ColourNeed, came: BowlCame | None, record: Evening, kitchen: Kitchen) -> str:
    """Why so much is melted."""
    reasons, was, now = [], _pieces(old.reckoned), _pieces(need.reckoned)
    if was != now:
        reasons.append(f"for {many(now, 'piece')} instead of {was}")
    each = [made.made_g / count if (count := _pieces(made)) else 0.0 for made in (old.reckoned, need.reckoned)]
    learned = learned_reasons([need.reckoned], record.job, kitchen)
    reasons += learned
    if not learned and each[0] and abs(each[1] / each[0] - 1) > CHANGED:
        reasons.append(f"each takes {'more' if each[1] > each[0] else 'less'}")
    if came and abs(came.summary.melted_g - old.melt_g) > CHANGED * old.melt_g:
        reasons.append(f"{how_much(old.melt_g, old.white)} were planned last time")
    return "; ".join(reasons) or "worked out anew"


def _pieces(bowl: ReckonedBowl) -> int:
    return max((line.pieces for line in bowl.lines), default=0)


def learned_reasons(bowls: list[ReckonedBowl], old: Job, kitchen: Kitchen, *, only: tuple[str, ...] = ()) -> list[str]:
    """What is known otherwise now than it was then, of what has a part in some bowls."""
    now, then = Stock.of(kitchen).factors(kitchen), known_to(old, kitchen)
    since = otherwise(then, now)
    mine, titles = concerning(bowls), Stock.of(kitchen).titles
    named = [name for name in since if name in mine and (not only or name.partition(".")[0] in only)]
    words = [known_as(name, since[name], titles) for name in named]
    return [f"since then your {word}" for word in words if word]


def _recipe_line(
    need: ColourNeed, old: ColourNeed, came: BowlCame | None, record: Evening, kitchen: Kitchen
) -> DiffersLine | None:
    """What is stirred in, where there is otherwise so much of it to the gram."""
    now = list(need.reckoned.parts)
    then = came.parts if came else list(old.reckoned.parts)
    if old.tone.name != need.tone.name:
        return None
    why = learned_reasons([need.reckoned], record.job, kitchen, only=("strength", "drop"))
    why += _measured_since(now, record.on, kitchen) + _rests_in(then)
    return recipe_differs(need.name, then, now, [*why, *_came_out(came)], need.tone.lab)


def recipe_differs(
    name: str, then: list[Part], now: list[Part], why: list[str], lab: tuple[float, float, float] | None
) -> DiffersLine | None:
    """What is stirred in then and now; None where it is as much to the gram."""
    if not now or not then or not _other_rates(then, now):
        return None
    words = [listed([f"{measured(p)} {colour_word(p.ingredient.title)}" for p in _stirred(ps)]) for ps in (then, now)]
    says = "; ".join(why) or "worked out anew"
    return DiffersLine(f"Into {lower(name)}", words[0] or "nothing", words[1] or "nothing", says, lab)


def since_bowl(was: BowlCame, on: date, kitchen: Kitchen) -> list[str]:
    """What is known otherwise now than when a bowl was begun, and how it came out."""
    stock = Stock.of(kitchen)
    names = {f"strength.{p.ingredient.name}" for p in was.parts}
    since = otherwise(Factors({n: Factor(v) for n, v in was.bowl.taught.items()}), stock.factors(kitchen))
    words = [known_as(n, times, stock.titles) for n, times in since.items() if n in names]
    why = [f"since then your {word}" for word in words if word]
    return [*why, *_measured_since(was.parts, on, kitchen), *_came_out(was)]


def _rests_in(then: list[Part]) -> list[str]:
    """What was left of other bowls and went in last time."""
    return [f"{lower(p.ingredient.title)}, went in last time" for p in then if is_a_rest(p.ingredient.name)]


def _came_out(came: BowlCame | None) -> list[str]:
    if came is None or came.off is None or came.off.word == "right":
        return []
    return [f"it came out {'much too' if came.off.much else 'a little'} {came.off.word} last time"]


def _stirred(parts: list[Part]) -> list[Part]:
    return [p for p in parts if p.ingredient.is_colourant]


def _other_rates(then: list[Part], now: list[Part]) -> bool:
    """Whether there is otherwise so much of a colour to the gram of coating."""
    rates = []
    for parts in (then, now):
        base_g = sum(p.mass_g for p in parts if p.ingredient.is_base) or 1.0
        rates.append({p.ingredient.name: p.mass_g / base_g for p in _stirred(parts)})
    names = {*rates[0], *rates[1]}
    return any(
        abs(rates[1].get(n, 0.0) - rates[0].get(n, 0.0))
        > RATE_CHANGED * max(rates[0].get(n, 0.0), rates[1].get(n, 0.0))
        for n in names
    )


def _measured_since(parts: list[Part], on: date, kitchen: Kitchen) -> list[str]:
    """What its maker measured since."""
    codes = {p.ingredient.name for p in parts}
    rows = Parameter.objects.for_kitchen(kitchen).filter(ingredient__code__in=codes, provenance="measured")
    names = rows.filter(since__date__gt=on).values_list("ingredient__name", flat=True).distinct()
    return [f"you have measured {lower(name)} since" for name in names]


def remarks_of(record: Evening) -> list[str]:
    """What was said last time that no figure follows."""
    remarks = []
    for one in record.bowls:
        if one.off and one.off.word == "dark":
            remarks.append(f"{one.bowl.name} came out dark last time: hold the last drops back, and look.")
    for piece in record.pieces:
        said = piece.outcome
        if said and said.coat in ("thin", "thick"):
            remarks.append(f"The coat of the {lower(piece.piece.name)} was {COATS[said.coat]}: try one piece first.")
        if said and said.bowl == "short":
            remarks.append(f"There was too little for the {lower(piece.piece.name)}: melt the next amount up.")
    return list(dict.fromkeys(remarks))
