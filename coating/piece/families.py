"""Pieces that are counted together: variants of one thing, or the parts of a motif."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from coating.errors import OutOfBounds
from coating.limits import check


def in_variants(count: int, shares: Sequence[int]) -> list[int]:
    """How many of each variant, in proportion to its share, at least one of each and `count` in all.

    By largest remainder (Hamilton's method), the earlier variant first.

    >>> in_variants(24, [1, 1, 1, 1]), in_variants(10, [1, 1, 1]), in_variants(5, [100, 1, 1])
    ([6, 6, 6, 6], [4, 3, 3], [3, 1, 1])

    Raises OutOfBounds for fewer pieces than variants, or a share below one.
    """
    check("count", count)
    if any(share < 1 for share in shares):
        raise OutOfBounds("Each variant needs at least one part.", field="share", low=1)
    if count < len(shares):
        raise OutOfBounds(f"There are {len(shares)} variants, so make at least {len(shares)}.", field="count")
    if not shares:
        return []
    exact = [Fraction(count * share, sum(shares)) for share in shares]
    counts = [max(1, int(e)) for e in exact]
    by_remainder = sorted(range(len(shares)), key=lambda i: (counts[i] - exact[i], i))
    place = 0
    while sum(counts) < count:
        counts[by_remainder[place % len(counts)]] += 1
        place += 1
    while sum(counts) > count:
        most = max((i for i in range(len(counts)) if counts[i] > 1), key=lambda i: (counts[i] - exact[i], i))
        counts[most] -= 1
    return counts


def in_motifs(motifs: int, each: Sequence[int]) -> list[int]:
    """How many of each part for so many motifs.

    >>> in_motifs(8, [1, 3])
    [8, 24]

    Raises OutOfBounds for a count below one.
    """
    check("count", motifs)
    if any(n < 1 for n in each):
        raise OutOfBounds("Each part must be in it at least once.", field="each", low=1)
    return [motifs * n for n in each]


def scaled(counts: Sequence[int], was: int, will_be: int) -> list[int]:
    """Every count of a job for so many, made for so many others; never short.

    >>> scaled([24, 12, 1], 24, 40)
    [40, 20, 2]

    Raises OutOfBounds for a count below one.
    """
    check("count", was)
    check("count", will_be)
    return [-(-count * will_be // was) for count in counts]
